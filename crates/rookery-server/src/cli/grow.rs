//! Growing a scene file.

use super::failure::{Failure, print_json, write};
use super::handoff::bytes;
use super::scene_file::{document, grounds, grown, rules_on, whole, with_species};
use crate::routes::HandoffKind;
use crate::routes::handoff::Standing;
use rookery_core::ground::GroundRef;
use rookery_core::measure::{Beside, Findings, crossings, findings, response_count, with_responses};
use rookery_core::planting::{Tally, grown_on, host_model};
use rookery_core::scene::{GroundId, LayerId};
use serde::Serialize;
use std::path::Path;
use std::sync::Arc;

#[derive(Serialize)]
struct Line {
    id: LayerId,
    name: String,
    tally: Tally,
}

#[derive(Serialize)]
struct Measured {
    #[serde(flatten)]
    line: Line,
    findings: Findings,
}

fn account(grown: &[(rookery_core::scene::Layer, Arc<rookery_core::planting::Growth>)]) -> Vec<Line> {
    grown.iter().map(|(l, g)| Line { id: l.id, name: l.name.clone(), tally: g.tally.clone() }).collect()
}

pub(super) fn grow(path: &Path, out: &Path, report: Option<&Path>) -> Result<(), Failure> {
    let scene = document(path)?;
    let grounds = grounds(path, &scene)?;
    let grown = grown(path, &scene, &grounds, |l| l.visible)?;
    if let Some(report) = report {
        write(report, &serde_json::to_vec_pretty(&account(&grown)).map_err(Failure::other)?)?;
    }
    let plants: usize = grown.iter().map(|(_, g)| g.plants.len()).sum();
    // The table names plants; their forms are not in it.
    let grown: Vec<_> = grown.into_iter().map(|(layer, growth)| (layer, growth, Arc::default())).collect();
    write(out, &bytes(HandoffKind::Csv, &scene, Standing::default(), &grown, 0)?)?;
    eprintln!("{plants} plants of {} layers written to {}", grown.len(), out.display());
    Ok(())
}

/// Accounts for every layer, with what was measured of its plants.
pub(super) fn measure(path: &Path) -> Result<(), Failure> {
    let scene = with_species(path, document(path)?)?;
    let grounds = grounds(path, &scene)?;
    let grown = grown(path, &scene, &grounds, |_| true)?;
    let mut lines = Vec::new();
    for (line, (layer, growth)) in account(&grown).into_iter().zip(&grown) {
        // What grows on plants is measured on them.
        let on_plants = layer.on_plants.and_then(|id| grown.iter().find(|(l, _)| l.id == id));
        let host =
            on_plants.map(|(l, g)| host_model(&scene, l, &g.plants)).transpose().map_err(Failure::bad)?;
        let host = host.flatten();
        let mut on = Vec::new();
        for id in grown_on(&scene, layer) {
            let own = host.as_ref().filter(|_| id == GroundId::PLANTS).map(GroundRef::Mesh);
            let Some(ground) = own.or_else(|| grounds.get(&scene, id)) else { continue };
            on.push((id, ground, rules_on(path, &scene, &grounds, layer, id, ground)?));
        }
        let on: Vec<_> = on.iter().map(|(id, ground, rules)| (*id, *ground, rules)).collect();
        let others = scene.claims();
        let others = grown.iter().filter(|(l, _)| others.over(layer.id).contains(&l.id));
        let others: Vec<_> = others.map(|(l, g)| (l, g.plants.as_slice())).collect();
        let crossing = crossings(&scene, layer, &growth.plants, &others);
        let findings = Findings { crossing, ..findings(&scene, layer, &on, &growth.plants) };
        lines.push(Measured { line, findings });
    }
    print_json(&lines)
}

/// Says what each response to what is too near would come to.
pub(super) fn responses(path: &Path, layer: u32, beside: &str) -> Result<(), Failure> {
    let beside = match beside {
        "obstacles" => Beside::Obstacles,
        "edges" => Beside::Edges,
        other => {
            let why = format!(
                "\u{201c}{other}\u{201d} is neither \u{201c}obstacles\u{201d} nor \u{201c}edges\u{201d}"
            );
            return Err(Failure::bad(why));
        }
    };
    let scene = with_species(path, document(path)?)?;
    let id = LayerId(layer);
    scene.layer(id).ok_or_else(|| Failure::bad(format!("this scene has no layer {layer}")))?;
    let mut grown = Vec::new();
    for (response, other) in with_responses(&scene, id, beside) {
        let (_, growth, fits) = whole(path, &other, &grounds(path, &other)?, |l| l.id == id)?.remove(0);
        grown.push((response, growth, fits));
    }
    // The first is that of keeping no distance.
    let Some((_, free, _)) = grown.first() else {
        return Err(Failure::bad("there is no response to compare".to_owned()));
    };
    let counts: Vec<_> = grown.iter().map(|(r, g, fits)| response_count(beside, *r, free, g, fits)).collect();
    print_json(&counts)
}
