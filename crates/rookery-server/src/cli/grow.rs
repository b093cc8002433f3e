//! Growing a scene file.

use super::failure::{Failure, print_json, write};
use super::handoff::bytes;
use super::scene_file::{document, grounds, grown, rules_on, with_species};
use crate::routes::HandoffKind;
use rookery_core::ground::GroundRef;
use rookery_core::measure::{Findings, crossings, findings};
use rookery_core::planting::{Tally, grown_on, host_model};
use rookery_core::scene::{GroundId, LayerId};
use serde::Serialize;
use std::path::Path;

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

fn account(
    grown: &[(rookery_core::scene::Layer, std::sync::Arc<rookery_core::planting::Growth>)],
) -> Vec<Line> {
    grown.iter().map(|(l, g)| Line { id: l.id, name: l.name.clone(), tally: g.tally.clone() }).collect()
}

pub(super) fn grow(path: &Path, out: &Path, report: Option<&Path>) -> Result<(), Failure> {
    let scene = document(path)?;
    let grounds = grounds(path, &scene)?;
    let grown = grown(path, &scene, &grounds, |l| l.visible)?;
    write(out, &bytes(HandoffKind::Csv, &scene, Vec::new(), Vec::new(), &grown)?)?;
    if let Some(report) = report {
        write(report, &serde_json::to_vec_pretty(&account(&grown)).map_err(Failure::other)?)?;
    }
    let plants: usize = grown.iter().map(|(_, g)| g.plants.len()).sum();
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
