//! What commands touch: all that they change, and commands that touch different things can come in any order.

use crate::common::{every_command, full_scene};
use rookery_core::scene::patch::{apply_patch, diff_documents};
use rookery_core::scene::*;
use serde_json::{Value, json};
use std::collections::BTreeSet;

/// The names that a tagged enum knows, as its reader lists them.
fn names_of<T: serde::de::DeserializeOwned>(tag: &str) -> BTreeSet<String> {
    let told = serde_json::from_value::<T>(json!({tag: "?"})).err().unwrap().to_string();
    told.split('`').skip(3).step_by(2).map(str::to_owned).collect()
}

#[test]
fn the_list_of_commands_is_whole() {
    let scene = full_scene();
    let all = to_json(&every_command(&scene));
    let all = all.as_array().unwrap();
    let used = |tag: &str, of: &dyn Fn(&Value) -> Value| -> BTreeSet<String> {
        all.iter().filter_map(|c| of(c)[tag].as_str().map(str::to_owned)).collect()
    };
    let edits =
        |of: &'static str| move |c: &Value| if c["do"] == of { c["edit"].clone() } else { Value::Null };
    assert_eq!(used("do", &Value::clone), names_of::<Command>("do"));
    assert_eq!(used("set", &edits("edit_layer")), names_of::<LayerEdit>("set"));
    assert_eq!(used("set", &edits("edit_ground")), names_of::<GroundEdit>("set"));
    assert_eq!(used("set", &edits("edit_shot")), names_of::<ShotEdit>("set"));
    assert_eq!(used("set", &edits("edit_motion")), names_of::<MotionEdit>("set"));
    assert_eq!(used("of", &|c| c["what"].clone()), names_of::<Thing>("of"));
}

#[test]
fn every_command_is_accepted_taken_back_and_done_again() {
    let scene = full_scene();
    for command in every_command(&scene) {
        let done = apply(&scene, &command).unwrap_or_else(|e| panic!("{command:?}: {e}"));
        assert_ne!(done.document, scene, "{command:?} changes nothing");
        check_document(&done.document).unwrap();
        let back = apply(&done.document, &done.inverse).unwrap();
        assert_eq!(back.document, scene, "{command:?}");
        let again = apply(&back.document, &back.inverse).unwrap();
        assert_eq!(again.document, done.document, "{command:?}");
        assert_eq!(apply(&again.document, &again.inverse).unwrap().document, scene, "{command:?}");
    }
}

/// Lists the paths at which two documents differ; items of lists are matched by their ids.
fn changed(path: &str, a: &Value, b: &Value, out: &mut Vec<String>) {
    let join = |step: &str| if path.is_empty() { step.to_owned() } else { format!("{path}/{step}") };
    match (a, b) {
        (a, b) if a == b => {}
        (Value::Object(x), Value::Object(y)) => {
            for field in x.keys().chain(y.keys().filter(|f| !x.contains_key(*f))) {
                changed(&join(field), &a[field], &b[field], out);
            }
        }
        // A list that is empty is not written.
        (Value::Array(_) | Value::Null, Value::Array(_) | Value::Null) => {
            let items = |v: &Value| v.as_array().cloned().unwrap_or_default();
            let (x, y) = (items(a), items(b));
            let name = |v: &Value| match (&v["id"], &v["to"]) {
                (Value::String(id), _) => Some(id.clone()),
                (Value::Number(id), _) => Some(id.to_string()),
                (_, Value::Number(to)) => Some(format!("{}-{to}", v["layer"])),
                _ => None,
            };
            if x.iter().chain(&y).any(|v| name(v).is_none()) {
                return out.push(path.to_owned());
            }
            let none = Value::Null;
            let find = |list: &[Value], id: &Value| list.iter().find(|v| name(v) == name(id)).cloned();
            for item in &x {
                let other = find(&y, item);
                changed(&join(&name(item).unwrap()), item, other.as_ref().unwrap_or(&none), out);
            }
            for item in y.iter().filter(|item| find(&x, item).is_none()) {
                changed(&join(&name(item).unwrap()), &none, item, out);
            }
        }
        _ => out.push(path.to_owned()),
    }
}

#[test]
fn a_command_changes_nothing_that_it_does_not_touch() {
    let scene = full_scene();
    for command in every_command(&scene) {
        let after = apply(&scene, &command).unwrap().document;
        let touched = touches(&scene, &command);
        let mut paths = Vec::new();
        changed("", &to_json(&scene), &to_json(&after), &mut paths);
        for path in &paths {
            assert!(touched.iter().any(|t| overlap(t, path)), "{command:?} changes {path}, says {touched:?}");
        }
        // Nor does it say much more than it changes: of two settings set together one may stay what it was.
        let idle = |path: &&String| value_at(&scene, path) == value_at(&after, path);
        let together = matches!(command, Command::ReplaceLayer { .. } | Command::PutShare { .. });
        assert!(together || touched.iter().filter(idle).count() == 0, "{command:?} says {touched:?}");
    }
}

/// Lists sorted by id: where something new lies among others depends on which came first.
fn unordered(value: &mut Value) {
    match value {
        Value::Object(fields) => fields.values_mut().for_each(unordered),
        Value::Array(items) => {
            items.iter_mut().for_each(unordered);
            if items.iter().all(|v| v.get("id").is_some()) {
                items.sort_by_key(|v| v["id"].to_string());
            }
        }
        _ => {}
    }
}

/// The ground of rebasing: what one sender wishes holds, whatever others did elsewhere meanwhile. Over all pairs of commands.
#[test]
fn commands_that_touch_different_things_come_in_any_order() {
    let scene = full_scene();
    let all = every_command(&scene);
    let made: Vec<_> = all.iter().map(|c| (touches(&scene, c), apply(&scene, c).unwrap().document)).collect();
    let mut pairs = 0;
    for (i, a) in all.iter().enumerate() {
        for (j, b) in all.iter().enumerate().skip(i + 1) {
            // A copy has what there is at the time, and who has settings in common is asked at the time too.
            let copies = |c: &Command| {
                use Command::{DuplicateLayer, PutShare, RemoveShare};
                matches!(c, DuplicateLayer { .. } | PutShare { .. } | RemoveShare { .. })
            };
            if copies(a) || copies(b) {
                continue;
            }
            if made[i].0.iter().any(|x| made[j].0.iter().any(|y| overlap(x, y))) {
                continue;
            }
            let (ab, ba) = (apply(&made[i].1, b), apply(&made[j].1, a));
            // A layer that another locks or takes away refuses; then it is told so.
            let (Ok(ab), Ok(ba)) = (ab, ba) else { continue };
            let [mut x, mut y] = [to_json(&ab.document), to_json(&ba.document)];
            unordered(&mut x);
            unordered(&mut y);
            assert_eq!(x, y, "{a:?} and {b:?}");
            pairs += 1;
        }
    }
    assert!(pairs > 3000, "only {pairs} pairs were looked at");
}

#[test]
fn a_patch_leads_from_any_document_to_the_next() {
    let scene = full_scene();
    let before = to_json(&scene);
    for command in every_command(&scene) {
        let document = apply(&scene, &command).unwrap().document;
        let after = to_json(&document);
        let (mut patch, mut back) = (Vec::new(), Vec::new());
        diff_documents("", &scene, &document, &mut patch);
        let mut now = before.clone();
        apply_patch(&mut now, &patch).unwrap();
        assert_eq!(now, after, "{command:?}");
        diff_documents("", &document, &scene, &mut back);
        apply_patch(&mut now, &back).unwrap();
        assert_eq!(now, before, "{command:?} and back");
        let (small, whole) = (to_json(&patch).to_string().len(), after.to_string().len());
        assert!(small * 3 < whole, "{command:?}: {small} of {whole} bytes");
    }
}

#[test]
fn two_fields_of_one_mask_changed_by_two_people_both_hold() {
    let scene = full_scene();
    let id = scene.layers[0].masks[0].id;
    let change = |fields: Value| -> Command {
        serde_json::from_value(
            json!({"do": "change", "what": {"of": "mask", "layer": 1, "id": id}, "fields": fields}),
        )
        .unwrap()
    };
    let (a, b) = (change(json!({"strength": 0.5})), change(json!({"response": {"inverted": true}})));
    assert!(touches(&scene, &a).iter().all(|x| touches(&scene, &b).iter().all(|y| !overlap(x, y))));
    let after = apply(&apply(&scene, &a).unwrap().document, &b).unwrap().document;
    let mask = after.layers[0].masks[0];
    assert_eq!((mask.strength, mask.response.inverted), (0.5, true));
}

#[test]
fn fields_that_do_not_fit_are_refused_in_words() {
    let scene = full_scene();
    let told = |what: Value, fields: Value| {
        let command = json!({"do": "change", "what": what, "fields": fields});
        apply(&scene, &serde_json::from_value(command).unwrap()).unwrap_err().to_string()
    };
    let layer = json!({"of": "layer", "id": 1});
    assert_eq!(
        told(layer.clone(), json!({"id": 4})),
        "the layer cannot be changed so: \u{201c}id\u{201d} is changed in another way"
    );
    assert!(told(layer.clone(), json!({"colour": 4})).contains("unknown field `colour`"));
    assert!(told(layer, json!({"seed": null})).contains("missing field `seed`"));
    assert_eq!(told(json!({"of": "shot", "id": 99}), json!({})), "there is no shot 99 in this scene");
}

#[test]
fn settings_are_named_in_words() {
    let scene = full_scene();
    assert_eq!(setting_at(&scene, "layers/1/amount"), "Marram / amount");
    assert_eq!(setting_at(&scene, "layers/1/stance/sink_m"), "Marram / stance / sink, m");
    assert_eq!(setting_at(&scene, "name"), "name");
    assert_eq!(value_at(&scene, "shots/99"), Value::Null);
}

#[test]
fn documents_and_commands_of_every_layout_can_be_read() {
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/data/layout-1");
    for file in ["kittiwake-head", "tarn-moraine", "needle-arch", "full"] {
        let text = std::fs::read_to_string(format!("{folder}/{file}.json")).unwrap();
        let document = read_document(serde_json::from_str(&text).unwrap()).unwrap();
        check_document(&document).unwrap();
        assert_eq!(document.schema, SCHEMA);
        assert!(!document.layers.is_empty());
    }
    let text = std::fs::read_to_string(format!("{folder}/commands.json")).unwrap();
    let commands: Vec<Value> = serde_json::from_str(&text).unwrap();
    assert!(commands.len() > 90);
    for command in commands {
        read_command(1, command).unwrap();
    }
    let later = read_document(json!({"schema": 99})).unwrap_err().to_string();
    assert!(later.contains("later version of Rookery (layout 99"), "{later}");
    assert!(read_document(json!({"name": "x"})).unwrap_err().to_string().contains("it is no scene"));
    assert!(read_command(99, json!({})).is_err());
}

/// Steps that were logged before are still done and taken back.
#[test]
fn commands_of_before_are_carried_out_and_taken_back() {
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/data/layout-1");
    let read = |file: &str| -> Value {
        serde_json::from_str(&std::fs::read_to_string(format!("{folder}/{file}.json")).unwrap()).unwrap()
    };
    let scene = read_document(read("full")).unwrap();
    let commands = read("commands");
    let mut done = 0;
    for command in commands.as_array().unwrap() {
        let Ok(applied) = apply(&scene, &read_command(1, command.clone()).unwrap()) else { continue };
        assert_eq!(apply(&applied.document, &applied.inverse).unwrap().document, scene, "{command}");
        done += 1;
    }
    assert!(done > 80, "{done} of them can be done on the scene that was kept with them");
}
