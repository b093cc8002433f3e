//! What plants keep clear of, and who yields to whom.

use super::{MAX_LAYERS, Refusal, count, order, within};
use crate::scene::{Clearance, Document, Keep, TooClose};

pub(super) fn clearance(c: &Clearance) -> Result<(), Refusal> {
    for (what, keep) in [
        ("the margin between plants of the layer", &c.own),
        ("the margin to plants of other layers", &c.others),
        ("the margin to obstacles", &c.obstacles),
        ("the margin to edges", &c.edges),
        ("the margin to tracks", &c.tracks),
    ] {
        within(what, keep.margin_m, -10.0, 100.0, " m")?;
    }
    let cannot = |what, to, keep: &Keep, wrong: &[TooClose]| {
        if wrong.contains(&keep.response) { Err(Refusal::CannotKeepSo { what, to }) } else { Ok(()) }
    };
    let fitted = [TooClose::Bend, TooClose::Trim];
    cannot("plants of the layer itself", "remove", &c.own, &fitted)?;
    cannot("plants of other layers", "remove", &c.others, &fitted)?;
    cannot("obstacles", "remove, shrink or bend", &c.obstacles, &[TooClose::Trim])?;
    cannot("edges", "remove, shrink or trim", &c.edges, &[TooClose::Bend])?;
    cannot("tracks", "remove, shrink or trim", &c.tracks, &[TooClose::Bend])?;
    within("the least size that shrinking leaves", c.least, 0.05, 1.0, "")
}

/// Checks who yields to whom: a layer cannot yield to itself, nor to one that waits for it.
pub(in crate::scene) fn yields(document: &Document) -> Result<(), Refusal> {
    let yields = &document.yields;
    count("exceptions between layers", yields.len(), MAX_LAYERS * MAX_LAYERS / 2)?;
    for (i, y) in yields.iter().enumerate() {
        if y.layer == y.to {
            return Err(Refusal::YieldsToItself { id: y.layer.0 });
        }
        if yields[..i].iter().any(|other| other.is_of(y.layer, y.to)) {
            return Err(Refusal::Taken { what: "exception for layers", id: y.layer.0 });
        }
    }
    order::no_cycle(document)
}
