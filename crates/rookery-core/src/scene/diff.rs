//! What differs between two documents, setting by setting.

use super::{Document, to_json};
use serde::Serialize;
use serde_json::Value;

/// One setting that differs.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Difference {
    /// Where the setting is, for example `Marram / amount / value`.
    pub setting: String,
    /// Its value in the first document; none when it is only in the second.
    pub before: Option<String>,
    /// Its value in the second document; none when it is only in the first.
    pub after: Option<String>,
}

/// Lists the settings that differ, in document order. Layers and shots are matched by id, not by place.
pub fn differences(before: &Document, after: &Document) -> Vec<Difference> {
    let mut out = Vec::new();
    compare("", Some(&to_json(before)), Some(&to_json(after)), &mut out);
    out
}

fn compare(path: &str, a: Option<&Value>, b: Option<&Value>, out: &mut Vec<Difference>) {
    if a == b {
        return;
    }
    match (a, b) {
        (Some(Value::Object(x)), Some(Value::Object(y))) => {
            for key in x.keys().chain(y.keys().filter(|k| !x.contains_key(*k))) {
                compare(&join(path, key), x.get(key), y.get(key), out);
            }
        }
        (Some(Value::Array(x)), Some(Value::Array(y))) if named(x) && named(y) => {
            for item in x {
                let other = y.iter().find(|o| o["id"] == item["id"]);
                compare(&join(path, &title(other.unwrap_or(item))), Some(item), other, out);
            }
            for item in y.iter().filter(|item| !x.iter().any(|o| o["id"] == item["id"])) {
                compare(&join(path, &title(item)), None, Some(item), out);
            }
        }
        _ => out.push(Difference { setting: path.to_owned(), before: a.map(words), after: b.map(words) }),
    }
}

fn named(list: &[Value]) -> bool {
    list.iter().all(|v| v.get("id").is_some())
}

fn title(item: &Value) -> String {
    let text = |key: &str| item.get(key).and_then(Value::as_str).map(str::to_owned);
    text("name").or_else(|| text("quantity")).unwrap_or_else(|| item["id"].to_string())
}

/// A path of ids and fields as the name of a setting, for example `Marram / amount`.
pub(super) fn named_setting(document: &Value, path: &str) -> String {
    let (mut at, mut name) = (document, String::new());
    for step in path.split('/') {
        let called = |i: &&Value| match &i["id"] {
            Value::String(id) => id == step,
            id => step.parse::<u64>().is_ok_and(|step| id.as_u64() == Some(step)),
        };
        let item = at.as_array().and_then(|items| items.iter().find(called));
        match (at, item) {
            (_, Some(item)) => {
                name = join(&name, &title(item));
                at = item;
            }
            (Value::Array(_), None) => name = join(&name, step),
            _ => {
                name = join(&name, step);
                at = &at[step];
            }
        }
    }
    name
}

fn join(path: &str, key: &str) -> String {
    let unit = [("_deg", "\u{b0}"), ("_m", "m"), ("_px", "px")]
        .into_iter()
        .find(|(ending, _)| key.ends_with(ending));
    let key = match unit {
        Some((ending, unit)) => format!("{}, {unit}", key.trim_end_matches(ending).replace('_', " ")),
        None => key.replace('_', " "),
    };
    match path {
        "" => key,
        "layers" | "shots" => key,
        _ => format!("{} / {}", path.trim_end_matches(" / masks"), key),
    }
}

pub(super) fn words(value: &Value) -> String {
    match value {
        Value::String(s) => s.clone(),
        Value::Number(n) => n.as_f64().map_or_else(|| n.to_string(), |v| v.to_string()),
        Value::Object(o) if o.contains_key("id") => "present".to_owned(),
        other => other.to_string(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::scene::{Amount, Command, LayerEdit, apply, kittiwake_head};

    #[test]
    fn one_changed_setting_is_the_only_difference() {
        let before = kittiwake_head();
        assert_eq!(differences(&before, &before), []);
        let id = before.layers[0].id;
        let edit = LayerEdit::Amount { value: Amount::PerM2 { value: 3.5 } };
        let after = apply(&before, &Command::EditLayer { id, edit }).unwrap().document;
        let found = differences(&before, &after);
        assert_eq!(found.len(), 1, "{found:?}");
        assert_eq!(
            (found[0].setting.as_str(), found[0].after.as_deref()),
            ("Marram / amount / value", Some("3.5"))
        );
    }

    #[test]
    fn settings_are_named_with_their_unit_and_numbers_are_short() {
        let before = kittiwake_head();
        let mut after = before.clone();
        after.shots[0].sun_elevation_deg = 9.0;
        after.layers[0].stance.sink_m = 0.05;
        let found: Vec<_> = differences(&before, &after).into_iter().map(|d| (d.setting, d.after)).collect();
        let expected = [
            ("Marram / stance / sink, m".to_owned(), Some("0.05".to_owned())),
            ("Through the marram / sun elevation, \u{b0}".to_owned(), Some("9".to_owned())),
        ];
        assert_eq!(found, expected);
    }

    #[test]
    fn a_moved_layer_keeps_its_settings_and_a_removed_one_is_named() {
        let before = kittiwake_head();
        let id = before.layers[0].id;
        let moved = apply(&before, &Command::MoveLayer { id, place: 1 }).unwrap().document;
        assert_eq!(differences(&before, &moved), []);
        let removed = apply(&before, &Command::RemoveLayer { id }).unwrap().document;
        let found = differences(&before, &removed);
        assert_eq!((found[0].setting.as_str(), found[0].after.as_deref()), ("Marram", None));
    }
}
