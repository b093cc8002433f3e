//! The order layers grow in: one that looks at another's plants grows after it.

use super::Refusal;
use crate::document::{Document, Layer, LayerId, looks_at};

/// Refuses layers that wait for one another, with all their names.
pub(in crate::scene) fn no_cycle(document: &Document) -> Result<(), Refusal> {
    let mut done: Vec<LayerId> = Vec::new();
    for layer in &document.layers {
        visit(document, layer, &mut vec![layer.id], &mut done)?;
    }
    Ok(())
}

fn visit(
    document: &Document,
    layer: &Layer,
    path: &mut Vec<LayerId>,
    done: &mut Vec<LayerId>,
) -> Result<(), Refusal> {
    if done.contains(&layer.id) {
        return Ok(());
    }
    for other in looks_at(document, layer) {
        let name = |id: LayerId| document.layer(id).map_or_else(|| "?".to_owned(), |l| l.name.clone());
        if let Some(from) = path.iter().position(|id| *id == other) {
            let chain = path[from..].iter().chain([&other]).map(|id| name(*id)).collect();
            return Err(Refusal::Cycle { layer: layer.name.clone(), other: name(other), chain });
        }
        if let Some(next) = document.layer(other) {
            path.push(other);
            visit(document, next, path, done)?;
            path.pop();
        }
    }
    done.push(layer.id);
    Ok(())
}
