//! What of a document a command touches, so that commands that touch different things can be made at the same time.
//!
//! A path is the steps to a field with slashes between; an item of a list is named by its id: `layers/3/masks/7/response/start`.

use super::change::with_sharers;
use super::diff::{named_setting, words};
use super::document::*;
use super::keyed::to_json;
use super::{Command, GroundEdit, LayerEdit, ShotEdit};
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
        C::EditGround { edit } => format!("ground/{}", land_field(edit)),
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
                out.extend(layer_fields(edit).into_iter().map(|field| format!("layers/{}/{field}", id.0)));
            }
            return;
        }
        C::PutGround { value, .. } => format!("grounds/{}", value.id.0),
        C::RemoveGround { id } => format!("grounds/{}", id.0),
        C::PutSpecies { value, .. } => format!("species/{}", value.id.0),
        C::RemoveSpecies { id } => format!("species/{}", id.0),
        C::PutPaint { value, .. } => format!("paints/{}", value.id.0),
        C::RemovePaint { id } => format!("paints/{}", id.0),
        C::PutPaintStroke { paint, value, .. } => format!("paints/{}/strokes/{}", paint.0, value.id.0),
        C::RemovePaintStroke { paint, id } => format!("paints/{}/strokes/{}", paint.0, id.0),
        C::PutPicture { value, .. } => format!("pictures/{}", value.id.0),
        C::RemovePicture { id } => format!("pictures/{}", id.0),
        C::PutWater { value, .. } => format!("waters/{}", value.id.0),
        C::RemoveWater { id } => format!("waters/{}", id.0),
        C::PutZone { value, .. } => format!("zones/{}", value.id.0),
        C::RemoveZone { id } => format!("zones/{}", id.0),
        C::PutOutline { value, .. } => format!("outlines/{}", value.id.0),
        C::RemoveOutline { id } => format!("outlines/{}", id.0),
        C::PutObstacle { value, .. } => format!("obstacles/{}", value.id.0),
        C::RemoveObstacle { id } => format!("obstacles/{}", id.0),
        C::AddShot { shot, .. } => format!("shots/{}", shot.id.0),
        C::RemoveShot { id } => format!("shots/{}", id.0),
        C::EditShot { id, edit } => {
            out.extend(shot_fields(edit).iter().map(|field| format!("shots/{}/{field}", id.0)));
            return;
        }
        C::EachAlone { commands } => {
            for command in commands {
                match command {
                    C::EditLayer { id, edit } => {
                        out.extend(
                            layer_fields(edit).into_iter().map(|field| format!("layers/{}/{field}", id.0)),
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

fn land_field(edit: &GroundEdit) -> String {
    match edit {
        GroundEdit::Source { .. } => "source".to_owned(),
        GroundEdit::Earths { .. } => "earths".to_owned(),
        GroundEdit::Absent { .. } => "absent".to_owned(),
        GroundEdit::Water { .. } => "water_m".to_owned(),
        GroundEdit::PutStroke { value, .. } => format!("strokes/{}", value.id.0),
        GroundEdit::RemoveStroke { id } => format!("strokes/{}", id.0),
    }
}

fn layer_fields(edit: &LayerEdit) -> Vec<String> {
    use LayerEdit as E;
    let one = match edit {
        E::Name { .. } => "name",
        E::Species { .. } | E::Mix { .. } => "mix",
        E::Tint { .. } => "tint",
        E::Rows { .. } => "rows",
        E::Grounds { .. } => "grounds",
        E::OnPlants { .. } => "on_plants",
        E::ShowAs { .. } => "show_as",
        E::Visible { .. } => "visible",
        E::Locked { .. } => "locked",
        E::Seed { .. } => "seed",
        E::KeptSeeds { .. } => "kept_seeds",
        E::Pattern { .. } => "pattern",
        E::Clumps { .. } => "clumps",
        E::Amount { .. } => "amount",
        E::Clearance { .. } => "clearance",
        E::Cap { .. } => "cap",
        E::Masks { .. } => "masks",
        E::Mask { value } => return vec![format!("masks/{}", value.id.0)],
        E::PutMask { value, .. } => return vec![format!("masks/{}", value.id.0)],
        E::RemoveMask { id } => return vec![format!("masks/{}", id.0)],
        E::MoveMask { id, .. } => return vec![format!("masks/{}/place", id.0)],
        E::Tend { put, let_go } => {
            let ids = put.iter().map(|t| t.id).chain(let_go.iter().copied());
            return ids.map(|id| format!("tended/{}", id.0)).collect();
        }
        E::Drifts { put, take_out } => {
            let ids = put.iter().map(|d| d.id).chain(take_out.iter().copied());
            return ids.map(|id| format!("drifts/{}", id.0)).collect();
        }
        E::Lean { .. } => return vec!["stance/lean".to_owned(), "stance/lean_deg".to_owned()],
        E::Size { .. } => "stance/size",
        E::Turn { .. } => "stance/turn_deg",
        E::Tilt { .. } => "stance/tilt_deg",
        E::Upright { .. } => "stance/upright",
        E::Sink { .. } => "stance/sink_m",
        E::Sizes { .. } => "stance/sizes",
        E::Tall { .. } => "stance/tall",
        E::Deep { .. } => "stance/deep",
        E::Tumble { .. } => "stance/tumble",
        E::Lift { .. } => "stance/lift_m",
        E::Shift { .. } => "stance/shift_m",
        E::Beyond { .. } => "stance/beyond",
    };
    vec![one.to_owned()]
}

fn shot_fields(edit: &ShotEdit) -> &'static [&'static str] {
    match edit {
        ShotEdit::Name { .. } => &["name"],
        ShotEdit::Camera { .. } => &["eye_m", "target_m"],
        ShotEdit::View { .. } => &["view_deg"],
        ShotEdit::Sun { .. } => &["sun_azimuth_deg", "sun_elevation_deg"],
        ShotEdit::Overcast { .. } => &["overcast"],
        ShotEdit::Picture { .. } => &["width_px", "height_px"],
        ShotEdit::Samples { .. } => &["samples"],
    }
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
