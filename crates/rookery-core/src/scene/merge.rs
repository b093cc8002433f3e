//! Changing some fields of a thing and leaving the others: JSON merge patches.
//!
//! Source: RFC 7396, "JSON Merge Patch". A field that is named takes the value given, one given as `null` is taken out, objects
//! are gone into, lists are replaced whole.

use serde_json::{Map, Value};

/// Merges `patch` into `target` and gives the patch that takes it back.
pub fn merge(target: &mut Map<String, Value>, patch: &Map<String, Value>) -> Map<String, Value> {
    let mut back = Map::new();
    for (field, value) in patch {
        let before = target.get_mut(field);
        let was = match (before, value) {
            (Some(Value::Object(inner)), Value::Object(part)) => Value::Object(merge(inner, part)),
            (before, Value::Null) => {
                let was = before.map(std::mem::take);
                target.remove(field);
                was.unwrap_or_default()
            }
            (before, value) => {
                let was = before.map(std::mem::take);
                let mut fresh = value.clone();
                strip(&mut fresh);
                target.insert(field.clone(), fresh);
                was.unwrap_or_default()
            }
        };
        back.insert(field.clone(), was);
    }
    back
}

/// In a new object `null` means that a field is not there.
fn strip(value: &mut Value) {
    if let Value::Object(fields) = value {
        fields.retain(|_, v| !v.is_null());
        fields.values_mut().for_each(strip);
    }
}

/// The patch that leads from one object to another. Fields that are the same are not named.
pub fn merge_between(from: &Map<String, Value>, to: &Map<String, Value>) -> Map<String, Value> {
    let mut patch = Map::new();
    for (field, value) in to {
        match (from.get(field), value) {
            (Some(was), now) if was == now => {}
            (Some(Value::Object(was)), Value::Object(now)) => {
                patch.insert(field.clone(), Value::Object(merge_between(was, now)));
            }
            (None, Value::Null) => {}
            (_, now) => {
                patch.insert(field.clone(), now.clone());
            }
        }
    }
    for field in from.keys().filter(|f| !to.contains_key(*f)) {
        patch.insert(field.clone(), Value::Null);
    }
    patch
}

/// The paths of all fields that a patch sets, each its steps with slashes between, below `at`.
pub(super) fn set_by(patch: &Map<String, Value>, at: &str, out: &mut Vec<String>) {
    for (field, value) in patch {
        let path = format!("{at}/{field}");
        match value {
            Value::Object(inner) if !inner.is_empty() => set_by(inner, &path, out),
            _ => out.push(path),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::json;

    fn object(value: Value) -> Map<String, Value> {
        match value {
            Value::Object(fields) => fields,
            other => panic!("{other} is no object"),
        }
    }

    /// The examples of RFC 7396, appendix A, whose target and patch are both objects.
    #[test]
    fn the_examples_of_the_standard() {
        let cases = [
            (json!({"a": "b"}), json!({"a": "c"}), json!({"a": "c"})),
            (json!({"a": "b"}), json!({"b": "c"}), json!({"a": "b", "b": "c"})),
            (json!({"a": "b"}), json!({"a": null}), json!({})),
            (json!({"a": "b", "b": "c"}), json!({"a": null}), json!({"b": "c"})),
            (json!({"a": ["b"]}), json!({"a": "c"}), json!({"a": "c"})),
            (json!({"a": "c"}), json!({"a": ["b"]}), json!({"a": ["b"]})),
            (json!({"a": {"b": "c"}}), json!({"a": {"b": "d", "c": null}}), json!({"a": {"b": "d"}})),
            (json!({"a": [{"b": "c"}]}), json!({"a": [1]}), json!({"a": [1]})),
            (json!({"e": null}), json!({"a": 1}), json!({"e": null, "a": 1})),
            (json!({}), json!({"a": {"bb": {"ccc": null}}}), json!({"a": {"bb": {}}})),
        ];
        for (target, patch, wanted) in cases {
            let before = object(target);
            let mut after = before.clone();
            let back = merge(&mut after, &object(patch));
            assert_eq!(Value::Object(after.clone()), wanted);
            merge(&mut after, &back);
            assert_eq!(after, before, "taken back");
        }
    }

    #[test]
    fn a_patch_between_two_leads_from_one_to_the_other() {
        let from = object(json!({"a": 1, "kind": {"tag": "x", "old": 2}, "gone": [1]}));
        let to = object(json!({"a": 1, "kind": {"tag": "y", "fresh": {"deep": 3}}, "list": [2]}));
        let patch = merge_between(&from, &to);
        assert_eq!(
            Value::Object(patch.clone()),
            json!({"kind": {"tag": "y", "old": null, "fresh": {"deep": 3}}, "gone": null, "list": [2]})
        );
        let mut out = from.clone();
        let back = merge(&mut out, &patch);
        assert_eq!(out, to);
        merge(&mut out, &back);
        assert_eq!(out, from);
        let mut paths = Vec::new();
        set_by(&patch, "thing", &mut paths);
        paths.sort();
        assert_eq!(
            paths,
            ["thing/gone", "thing/kind/fresh/deep", "thing/kind/old", "thing/kind/tag", "thing/list"]
        );
    }
}
