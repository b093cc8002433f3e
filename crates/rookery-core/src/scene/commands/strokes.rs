//! Strokes: of the sculpting tools on a ground, and of a brush in a painting.

use super::Command;
use super::lists::{put_in, take_out};
use crate::document::*;
use crate::scene::check::{self, Refusal};

pub(super) fn put(
    document: &mut Document,
    ground: GroundId,
    value: &Stroke,
    place: Option<u32>,
) -> Result<Command, Refusal> {
    check::stroke(value)?;
    let id = value.id;
    let old = put_in(sculpted(document, ground)?, value, place, |s| s.id == id);
    check::strokes(document.strokes_on(ground))?;
    Ok(match old {
        Some(old) => Command::PutGroundStroke { ground, value: old, place },
        None => Command::RemoveGroundStroke { ground, id },
    })
}

pub(super) fn remove(document: &mut Document, ground: GroundId, id: StrokeId) -> Result<Command, Refusal> {
    let strokes = sculpted(document, ground)?;
    let (value, place) = take_out(strokes, "stroke", || id.0.to_string(), |s| s.id == id)?;
    Ok(Command::PutGroundStroke { ground, value, place: Some(place) })
}

/// The strokes of a ground that can be sculpted.
fn sculpted(document: &mut Document, id: GroundId) -> Result<&mut Vec<Stroke>, Refusal> {
    if id == GroundId::LAND {
        return Ok(&mut document.ground.strokes);
    }
    let ground = document.grounds.iter_mut().find(|g| g.id == id);
    let ground = ground.ok_or_else(|| Refusal::Missing { what: "ground", id: id.0.to_string() })?;
    if !ground.source.has_plan() {
        return Err(Refusal::NotSculpted { name: ground.name.clone() });
    }
    Ok(&mut ground.strokes)
}

pub(super) fn put_paint(
    document: &mut Document,
    paint: PaintId,
    value: &PaintStroke,
    place: Option<u32>,
) -> Result<Command, Refusal> {
    check::paint_stroke(value)?;
    let own = painting(document, paint)?;
    let id = value.id;
    let old = put_in(&mut own.strokes, value, place, |s| s.id == id);
    check::paint_strokes(own)?;
    Ok(match old {
        Some(old) => Command::PutPaintStroke { paint, value: old, place },
        None => Command::RemovePaintStroke { paint, id },
    })
}

pub(super) fn remove_paint(
    document: &mut Document,
    paint: PaintId,
    id: PaintStrokeId,
) -> Result<Command, Refusal> {
    let own = painting(document, paint)?;
    let (value, place) = take_out(&mut own.strokes, "stroke", || id.0.to_string(), |s| s.id == id)?;
    Ok(Command::PutPaintStroke { paint, value, place: Some(place) })
}

fn painting(document: &mut Document, id: PaintId) -> Result<&mut Paint, Refusal> {
    let found = document.paints.iter_mut().find(|p| p.id == id);
    found.ok_or_else(|| Refusal::Missing { what: "painting", id: id.0.to_string() })
}

/// Where a stroke of a ground stands in the document.
pub(super) fn path(ground: GroundId, id: StrokeId) -> String {
    match ground {
        GroundId::LAND => format!("ground/strokes/{}", id.0),
        other => format!("grounds/{}/strokes/{}", other.0, id.0),
    }
}
