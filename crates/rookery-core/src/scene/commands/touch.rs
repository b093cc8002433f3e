//! What of a document a command touches, so that commands that touch different things can be made at the same time.
//!
//! A path is the steps to a field with slashes between; an item of a list is named by its id: `layers/3/masks/7/response/start`.

use super::{Command, land, layer_edit, lists, motion, shots, strokes};
use crate::document::*;
use crate::names::to_json;
use crate::nursery::Species;
use crate::scene::change::with_sharers;
use crate::scene::diff::{named_setting, words};
use serde_json::Value;

/// The paths of all that a command sets. Applied to a document of which none of these has changed, it does what its sender meant.
pub fn touches(document: &Document, command: &Command) -> Vec<String> {
    let mut out = Vec::new();
    touch(document, command, &mut out);
    out.sort();
    out.dedup();
    out
}

/// Whether two paths name the same thing, or one a part of the other.
pub fn overlap(a: &str, b: &str) -> bool {
    let (short, long) = if a.len() <= b.len() { (a, b) } else { (b, a) };
    long.strip_prefix(short).is_some_and(|rest| rest.is_empty() || rest.starts_with('/'))
}

fn touch(document: &Document, command: &Command, out: &mut Vec<String>) {
    use Command as C;
    let one = match command {
        C::RenameScene { .. } => "name".to_owned(),
        C::CapScene { .. } => "cap".to_owned(),
        C::UseEdition { .. } => "edition".to_owned(),
        C::KnowChanges { .. } => "epoch".to_owned(),
        C::SetSeason { .. } => "season".to_owned(),
        C::EditMotion { edit } => format!("motion/{}", motion::field(edit)),
        C::EditGround { edit } => format!("ground/{}", land::field(edit)),
        C::Change { what, fields } => {
            for (what, fields) in with_sharers(document, what, fields) {
                out.extend(fields.paths(&what.path()));
            }
            return;
        }
        C::AddLayer { layer, .. } => format!("layers/{}", layer.id.0),
        C::RemoveLayer { id } => format!("layers/{}", id.0),
        C::MoveLayer { id, .. } => format!("layers/{}/place", id.0),
        C::DuplicateLayer { copy, .. } => format!("layers/{}", copy.0),
        C::ReplaceLayer { layer } => {
            for settings in SharedSettings::ALL {
                taken_over(&document.sharing(layer.id, settings), settings, out);
            }
            format!("layers/{}", layer.id.0)
        }
        C::RestoreLayer { layer } => format!("layers/{}", layer.id.0),
        C::PutShare { value, .. } => {
            taken_over(value.layers.get(1..).unwrap_or_default(), value.settings, out);
            format!("shares/{}", value.id.0)
        }
        C::RemoveShare { id } => format!("shares/{}", id.0),
        C::PutYield { value } => pair(value.layer, value.to),
        C::RemoveYield { layer, to } => pair(*layer, *to),
        C::EditLayer { id, edit } => {
            let others = SharedSettings::set_by(edit).map(|s| document.sharing(*id, s)).unwrap_or_default();
            for id in std::iter::once(*id).chain(others) {
                out.extend(
                    layer_edit::fields(edit).into_iter().map(|field| format!("layers/{}/{field}", id.0)),
                );
            }
            return;
        }
        C::PutGround { value, .. } => lists::path::<PlacedGround>(&value.id),
        C::RemoveGround { id } => lists::path::<PlacedGround>(id),
        C::PutGroundStroke { ground, value, .. } => strokes::path(*ground, value.id),
        C::RemoveGroundStroke { ground, id } => strokes::path(*ground, *id),
        C::PutSpecies { value, .. } => lists::path::<Species>(&value.id),
        C::RemoveSpecies { id } => lists::path::<Species>(id),
        C::PutPaint { value, .. } => lists::path::<Paint>(&value.id),
        C::RemovePaint { id } => lists::path::<Paint>(id),
        C::PutPaintStroke { paint, value, .. } => format!("paints/{}/strokes/{}", paint.0, value.id.0),
        C::RemovePaintStroke { paint, id } => format!("paints/{}/strokes/{}", paint.0, id.0),
        C::PutPicture { value, .. } => lists::path::<GroundPicture>(&value.id),
        C::RemovePicture { id } => lists::path::<GroundPicture>(id),
        C::PutEarthPictures { value, .. } => lists::path::<EarthPictures>(&value.id),
        C::RemoveEarthPictures { id } => lists::path::<EarthPictures>(id),
        C::PutWater { value, .. } => lists::path::<WaterPlane>(&value.id),
        C::RemoveWater { id } => lists::path::<WaterPlane>(id),
        C::PutZone { value, .. } => lists::path::<Zone>(&value.id),
        C::RemoveZone { id } => lists::path::<Zone>(id),
        C::PutOutline { value, .. } => lists::path::<Outline>(&value.id),
        C::RemoveOutline { id } => lists::path::<Outline>(id),
        C::PutObstacle { value, .. } => lists::path::<Obstacle>(&value.id),
        C::RemoveObstacle { id } => lists::path::<Obstacle>(id),
        C::PutBlower { value, .. } => lists::path::<Blower>(&value.id),
        C::RemoveBlower { id } => lists::path::<Blower>(id),
        C::PutBody { value, .. } => lists::path::<Body>(&value.id),
        C::RemoveBody { id } => lists::path::<Body>(id),
        C::AddShot { shot, .. } => format!("shots/{}", shot.id.0),
        C::RemoveShot { id } => format!("shots/{}", id.0),
        C::EditShot { id, edit } => {
            out.extend(shots::fields(edit).iter().map(|field| format!("shots/{}/{field}", id.0)));
            return;
        }
        C::EachAlone { commands } => {
            for command in commands {
                match command {
                    C::EditLayer { id, edit } => {
                        out.extend(
                            layer_edit::fields(edit)
                                .into_iter()
                                .map(|field| format!("layers/{}/{field}", id.0)),
                        );
                    }
                    C::Change { what, fields } => out.extend(fields.paths(&what.path())),
                    other => touch(document, other, out),
                }
            }
            return;
        }
        C::All { commands } => {
            commands.iter().for_each(|c| touch(document, c, out));
            return;
        }
    };
    out.push(one);
}

fn pair(a: LayerId, b: LayerId) -> String {
    format!("yields/{}-{}", a.0.min(b.0), a.0.max(b.0))
}

fn taken_over(layers: &[LayerId], settings: SharedSettings, out: &mut Vec<String>) {
    let fields: &[&str] = match settings {
        SharedSettings::Mix => &["mix", "tint"],
        SharedSettings::Amount => &["amount", "pattern", "clumps", "rows"],
        SharedSettings::Masks => &["masks"],
        SharedSettings::Stance => &["stance"],
        SharedSettings::Clearance => &["clearance"],
    };
    out.extend(layers.iter().flat_map(|id| fields.iter().map(move |f| format!("layers/{}/{f}", id.0))));
}

/// What a document holds at a path; null where there is nothing.
pub fn value_at(document: &Document, path: &str) -> Value {
    let all = to_json(document);
    let mut at = &all;
    let mut steps = path.split('/').peekable();
    while let Some(step) = steps.next() {
        match at {
            Value::Object(fields) => match fields.get(step) {
                Some(next) => at = next,
                None => return Value::Null,
            },
            Value::Array(items) => {
                let Some(place) = items.iter().position(|item| is(item, step)) else { return Value::Null };
                if steps.peek() == Some(&"place") {
                    return Value::from(place);
                }
                at = &items[place];
            }
            _ => return Value::Null,
        }
    }
    at.clone()
}

/// Whether an item of a list goes by a name.
fn is(item: &Value, name: &str) -> bool {
    match &item["id"] {
        Value::String(id) => id == name,
        Value::Number(id) => id.to_string() == name,
        // Who yields to whom is named by the two layers.
        _ => name.split_once('-').is_some_and(|(a, b)| {
            let of = |id: &str| {
                let id = id.parse::<u64>().ok();
                id.is_some() && (item["layer"].as_u64() == id || item["to"].as_u64() == id)
            };
            of(a) && of(b)
        }),
    }
}

/// A path in words, for example `Marram / amount`. Things are named as the document has them.
pub fn setting_at(document: &Document, path: &str) -> String {
    named_setting(&to_json(document), path)
}

/// A value in words; none for nothing.
pub fn value_in_words(value: &Value) -> Option<String> {
    (!value.is_null()).then(|| words(value))
}
