//! What changed between two states of a view, as a list of operations.
//!
//! Source: RFC 6902, "JavaScript Object Notation (JSON) Patch", with `add`, `remove` and `replace` only; RFC 6901 for paths. Items
//! of lists that have an `id` are matched by it.

use crate::document::{Document, Ground};
use crate::names::to_json;
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// One operation of a JSON Patch.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "op", rename_all = "snake_case")]
pub enum PatchOp {
    /// Puts a field into an object, or an item into a list before what stands at that place.
    Add {
        /// JSON Pointer.
        path: String,
        /// What.
        value: Value,
    },
    /// Takes a field or an item out.
    Remove {
        /// JSON Pointer.
        path: String,
    },
    /// Puts another value in the place of one.
    Replace {
        /// JSON Pointer.
        path: String,
        /// What.
        value: Value,
    },
}

/// Adds the operations that lead from one value to the other, both below `path`.
pub fn diff(path: &str, from: &Value, to: &Value, out: &mut Vec<PatchOp>) {
    match (from, to) {
        (a, b) if a == b => {}
        (Value::Object(a), Value::Object(b)) => {
            for field in a.keys().filter(|f| !b.contains_key(*f)) {
                out.push(PatchOp::Remove { path: below(path, field) });
            }
            for (field, value) in b {
                match a.get(field) {
                    Some(was) => diff(&below(path, field), was, value, out),
                    None => out.push(PatchOp::Add { path: below(path, field), value: value.clone() }),
                }
            }
        }
        (Value::Array(a), Value::Array(b)) if listed(a) && listed(b) => {
            let id = |v: &Value| v["id"].clone();
            diff_list(path, a, b, id, diff, Value::clone, out);
        }
        (_, value) => out.push(PatchOp::Replace { path: path.to_owned(), value: value.clone() }),
    }
}

/// Adds the operations that lead from one list to the other. Items are matched by what `id` says; `each` tells two of the same id
/// apart, `whole` writes a new one.
pub fn diff_list<T: PartialEq, I: PartialEq>(
    path: &str,
    from: &[T],
    to: &[T],
    id: impl Fn(&T) -> I,
    each: impl Fn(&str, &T, &T, &mut Vec<PatchOp>),
    whole: impl Fn(&T) -> Value,
    out: &mut Vec<PatchOp>,
) {
    // Most changes leave all but a few items where they are: only what lies between equal ends is matched.
    let equal = |(a, b): &(&T, &T)| id(a) == id(b);
    let head = from.iter().zip(to).take_while(equal).count();
    let tail = from[head..].iter().rev().zip(to[head..].iter().rev()).take_while(equal).count();
    let mut now: Vec<&T> = from.iter().collect();
    let wanted = &to[head..to.len() - tail];
    for place in (head..now.len() - tail).rev() {
        if !wanted.iter().any(|t| id(t) == id(now[place])) {
            now.remove(place);
            out.push(PatchOp::Remove { path: format!("{path}/{place}") });
        }
    }
    for (place, item) in (head..).zip(wanted) {
        if now.get(place).is_some_and(|n| id(n) == id(item)) {
            continue;
        }
        if let Some(old) = now.iter().skip(place).position(|n| id(n) == id(item)) {
            now.remove(place + old);
            out.push(PatchOp::Remove { path: format!("{path}/{}", place + old) });
        }
        now.insert(place, item);
        out.push(PatchOp::Add { path: format!("{path}/{place}"), value: whole(item) });
    }
    for (place, (was, item)) in now.into_iter().zip(to).enumerate() {
        if was != item {
            each(&format!("{path}/{place}"), was, item, out);
        }
    }
}

/// Adds the operations that lead from one document to another, both as JSON below `path`. Only what differs is written out.
pub fn diff_documents(path: &str, from: &Document, to: &Document, out: &mut Vec<PatchOp>) {
    let at = |field: &str| format!("{path}/{field}");
    fn tell<T: Serialize>(at: &str, x: &T, y: &T, out: &mut Vec<PatchOp>) {
        diff(at, &to_json(x), &to_json(y), out);
    }
    macro_rules! list {
        ($field:ident, $always:expr, $id:expr) => {
            let (a, b) = (&from.$field, &to.$field);
            let path = at(stringify!($field));
            if a != b {
                match (a.is_empty(), b.is_empty()) {
                    (true, false) if !$always => out.push(PatchOp::Add { path, value: to_json(b) }),
                    (false, true) if !$always => out.push(PatchOp::Remove { path }),
                    _ => diff_list(&path, a, b, $id, tell, to_json, out),
                }
            }
        };
    }
    // Everything but the lists is small.
    let small = |d: &Document| {
        let ground = Ground { strokes: Vec::new(), ..d.ground.clone() };
        let season = (!d.season.is_summer()).then_some(d.season);
        let mut all = json!({"name": d.name, "schema": d.schema, "ground": to_json(&ground)});
        if d.edition != 1 {
            all["edition"] = d.edition.into();
        }
        if d.epoch != 0 {
            all["epoch"] = d.epoch.into();
        }
        if let Some(cap) = d.cap {
            all["cap"] = cap.into();
        }
        if let Some(season) = season {
            all["season"] = to_json(&season);
        }
        if !d.motion.is_still() {
            all["motion"] = to_json(&d.motion);
        }
        all
    };
    let told = |d: &Document| (d.schema, d.edition, d.epoch, d.cap, d.season, d.motion);
    let small_differs = from.name != to.name || told(from) != told(to);
    if small_differs || from.ground != to.ground {
        diff(path, &small(from), &small(to), out);
        let (a, b) = (&from.ground.strokes, &to.ground.strokes);
        let path = at("ground/strokes");
        match (a.is_empty(), b.is_empty()) {
            (true, true) => {}
            (true, false) => out.push(PatchOp::Add { path, value: to_json(b) }),
            (false, true) => out.push(PatchOp::Remove { path }),
            _ => diff_list(&path, a, b, |s| s.id, tell, to_json, out),
        }
    }
    list!(grounds, false, |g| g.id);
    list!(waters, false, |w| w.id);
    list!(zones, false, |z| z.id);
    list!(paints, false, |p| p.id);
    list!(pictures, false, |p| p.id);
    list!(earth_pictures, false, |p| p.id);
    list!(outlines, false, |o| o.id);
    list!(species, false, |s| s.id.clone());
    list!(obstacles, false, |o| o.id);
    list!(blowers, false, |b| b.id);
    list!(bodies, false, |b| b.id);
    list!(layers, true, |l| l.id);
    list!(shares, false, |s| s.id);
    list!(yields, false, |y| (y.layer, y.to));
    list!(shots, true, |s| s.id);
}

/// Carries out a patch; the client does the same.
///
/// # Errors
/// The path of the first operation that names nothing.
pub fn apply_patch(target: &mut Value, patch: &[PatchOp]) -> Result<(), String> {
    for op in patch {
        let (PatchOp::Add { path, .. } | PatchOp::Remove { path } | PatchOp::Replace { path, .. }) = op;
        let lost = || path.clone();
        let Some((parent, last)) = path.rsplit_once('/') else { return Err(lost()) };
        let last = last.replace("~1", "/").replace("~0", "~");
        match (target.pointer_mut(parent).ok_or_else(lost)?, op) {
            (Value::Object(fields), PatchOp::Remove { .. }) => {
                fields.remove(&last).ok_or_else(lost)?;
            }
            (Value::Object(fields), PatchOp::Add { value, .. } | PatchOp::Replace { value, .. }) => {
                fields.insert(last, value.clone());
            }
            (Value::Array(items), op) => {
                let place: usize = last.parse().map_err(|_| lost())?;
                match op {
                    PatchOp::Add { value, .. } if place <= items.len() => items.insert(place, value.clone()),
                    PatchOp::Remove { .. } if place < items.len() => drop(items.remove(place)),
                    PatchOp::Replace { value, .. } if place < items.len() => items[place] = value.clone(),
                    _ => return Err(lost()),
                }
            }
            _ => return Err(lost()),
        }
    }
    Ok(())
}

fn listed(items: &[Value]) -> bool {
    items.iter().all(|v| v.get("id").is_some())
}

/// The pointer to a field.
fn below(path: &str, field: &str) -> String {
    format!("{path}/{}", field.replace('~', "~0").replace('/', "~1"))
}

#[cfg(test)]
mod tests {
    use super::*;

    /// RFC 6902, appendix A: adding and taking out of objects and lists, replacing.
    #[test]
    fn the_examples_of_the_standard() {
        let cases = [
            (
                json!({"foo": "bar"}),
                json!([{"op": "add", "path": "/baz", "value": "qux"}]),
                json!({"baz": "qux", "foo": "bar"}),
            ),
            (
                json!({"foo": ["bar", "baz"]}),
                json!([{"op": "add", "path": "/foo/1", "value": "qux"}]),
                json!({"foo": ["bar", "qux", "baz"]}),
            ),
            (
                json!({"baz": "qux", "foo": "bar"}),
                json!([{"op": "remove", "path": "/baz"}]),
                json!({"foo": "bar"}),
            ),
            (
                json!({"foo": ["bar", "qux", "baz"]}),
                json!([{"op": "remove", "path": "/foo/1"}]),
                json!({"foo": ["bar", "baz"]}),
            ),
            (
                json!({"baz": "qux", "foo": "bar"}),
                json!([{"op": "replace", "path": "/baz", "value": "boo"}]),
                json!({"baz": "boo", "foo": "bar"}),
            ),
        ];
        for (mut target, patch, wanted) in cases {
            let patch: Vec<PatchOp> = serde_json::from_value(patch).unwrap();
            apply_patch(&mut target, &patch).unwrap();
            assert_eq!(target, wanted);
        }
    }

    #[test]
    fn items_that_move_come_and_go_are_matched_by_their_ids() {
        let from = json!({"l": [{"id": 1, "a": 1}, {"id": 2}, {"id": 3, "deep": {"x/y": 1}}], "n": [1, 2]});
        let to = json!({"l": [{"id": 3, "deep": {"x/y": 2}}, {"id": 4}, {"id": 1, "a": 1}], "n": [2], "new": null});
        let mut patch = Vec::new();
        diff("", &from, &to, &mut patch);
        let mut now = from.clone();
        apply_patch(&mut now, &patch).unwrap();
        assert_eq!(now, to);
        let mut one = Vec::new();
        diff("", &from["l"][2], &to["l"][0], &mut one);
        assert_eq!(one, [PatchOp::Replace { path: "/deep/x~1y".to_owned(), value: json!(2) }]);
    }
}
