//! A scene with one of everything, and one command of every kind for it.

use rookery_core::scene::*;
use serde_json::{Value, json};

/// Kittiwake Head with a planet, a sculpted terrain beside the land, a sheet of water, a painting, a picture, a species of its own, a share and an exception.
pub fn full_scene() -> Document {
    let blob = "ab".repeat(32);
    let species = to_json(kittiwake_head().species(&SpeciesId("marram".to_owned())).unwrap());
    let commands = json!([
        {"do": "put_ground", "value": {"id": 1, "name": "Pebble", "source": {"kind": "planet", "radius_m": 9.0, "relief": 0.1,
            "seed": 1, "faces": 24}, "x_m": 150.0, "y_m": 9.0, "z_m": 0.0, "turn_deg": 0.0, "scale": 1.0}},
        {"do": "put_ground", "value": {"id": 3, "name": "Shelf", "source": {"kind": "noise", "size_m": 12.0, "samples": 33,
            "relief_m": 3.0, "feature_m": 6.0, "ruggedness": 0.4,
            "ridges": 0.0, "valleys": 0.0, "terraces": 0.0, "terrace_m": 2.0, "coast": 0.0, "seed": 2}, "x_m": -150.0, "y_m": 4.0, "z_m": 9.0, "turn_deg": 30.0, "scale": 0.5}},
        {"do": "put_ground_stroke", "ground": 3, "value": {"id": 1, "tool": "raise", "radius_m": 3.0, "strength": 1.0, "falloff": 0.5,
            "points": [[0.0, 0.0], [2.0, 1.0]]}},
        {"do": "put_water", "value": {"id": 1, "name": "Pool", "x_m": 0.0, "z_m": 0.0, "width_m": 8.0, "depth_m": 8.0,
            "height_m": 12.0, "turn_deg": 0.0, "round": false}},
        {"do": "put_blower", "value": {"id": 1, "name": "Wash", "course": {"kind": "path", "nodes": [
            {"time_s": 0.0, "x_m": -20.0, "z_m": 0.0, "over_m": 4.0}, {"time_s": 5.0, "x_m": 20.0, "z_m": 6.0, "over_m": 4.0}]},
            "blows": {"kind": "outwards"}, "speed_m_per_s": 12.0, "reach_m": 9.0, "falloff": 1.0, "enabled": true}},
        {"do": "put_body", "value": {"id": 1, "name": "Buoy", "form": {"kind": "buoy", "radius_m": 0.5},
            "course": {"kind": "still", "at": {"x_m": 3.0, "z_m": 4.0, "over_m": 1.0}}, "loose": {"at_s": 1.0,
            "velocity_m_per_s": [2.0, 0.0, 0.0], "spin_rad_per_s": [0.0, 0.0, 0.0], "density_kg_per_m3": 300.0, "bounce": 0.3,
            "friction": 0.6, "wind_share": 1.0}, "felt": true, "hidden": false}},
        {"do": "put_paint", "value": {"id": 1, "name": "Here", "bare": 0.0, "strokes": [
            {"id": 1, "tool": "add", "radius_m": 4.0, "strength": 1.0, "falloff": 0.5, "points": [[0.0, 5.0, 0.0]]}]}},
        {"do": "put_earth_pictures", "value": {"id": "sand", "name": "Strand", "colour": {"blob": blob, "file": "strand.png"},
            "height": {"blob": blob, "file": "strand_height.png"}, "size_m": 1.5, "relief_m": 0.05}},
        {"do": "put_picture", "value": {"id": 1, "name": "Map", "blob": blob, "file": "map.png", "x_m": 0.0, "z_m": 0.0,
            "width_m": 50.0, "depth_m": 50.0, "turn_deg": 0.0, "repeats": false}},
        {"do": "put_species", "value": species},
        {"do": "edit_layer", "id": 1, "edit": {"set": "put_mask", "value": {"id": 70, "quantity": "openness", "enabled": true,
            "response": {"start": 0.0, "full_from": 0.1, "full_to": 1.0, "end": 1.0, "inverted": false}}}},
        {"do": "put_share", "value": {"id": 1, "settings": "stance", "layers": [2, 3]}},
        {"do": "put_yield", "value": {"layer": 1, "to": 2, "yields": false}},
        {"do": "edit_layer", "id": 1, "edit": {"set": "tend", "put": [{"id": 1, "at_m": [1.0, 2.0, 3.0], "room_m": 0.5}]}},
        {"do": "edit_layer", "id": 1, "edit": {"set": "drifts", "put": [{"id": 1, "points": [[0.0, 5.0, 0.0], [9.0, 5.0, 0.0]],
            "per_m2": 2.0, "spread_m": 1.0, "size": {"min": 0.8, "max": 1.2}, "turn_deg": {"min": 0.0, "max": 360.0}, "seed": 1}]}},
    ]);
    let Value::Array(commands) = commands else { unreachable!("written as a list") };
    commands.into_iter().fold(kittiwake_head(), |document, command| {
        let read = serde_json::from_value(command.clone()).unwrap_or_else(|e| panic!("{command}: {e}"));
        apply(&document, &read).unwrap_or_else(|e| panic!("{command}: {e}")).document
    })
}

/// One command of every kind, with every edit of layers, shots and the land, that [`full_scene`] accepts.
pub fn every_command(scene: &Document) -> Vec<Command> {
    let item = |list: &str, place: usize| to_json(scene)[list][place].clone();
    let with = |mut value: Value, field: &str, to: Value| {
        value[field] = to;
        value
    };
    let layer = |edit: Value| json!({"do": "edit_layer", "id": 1, "edit": edit});
    let set = |what: &str, value: Value| layer(json!({"set": what, "value": value}));
    let land = |edit: Value| json!({"do": "edit_ground", "edit": edit});
    let shot = |edit: Value| json!({"do": "edit_shot", "id": 1, "edit": edit});
    let change = |what: Value, fields: Value| json!({"do": "change", "what": what, "fields": fields});
    let range = json!({"min": 0.6, "max": 0.9});
    let first = item("layers", 0);
    let mask = first["masks"][0].clone();
    let stroke = item("ground", 0);
    assert!(stroke.is_null(), "the land is no list");
    let sculpted = to_json(scene)["ground"]["strokes"][0].clone();
    let brushed = item("paints", 0)["strokes"][0].clone();
    let free_layer = with(with(first.clone(), "id", json!(900)), "name", json!("Fresh"));
    let all = json!([
        {"do": "rename_scene", "name": "Another"},
        {"do": "cap_scene", "value": 5000},
        {"do": "use_edition", "value": 1},
        {"do": "know_changes", "value": 9},
        {"do": "set_season", "value": 2.0},
        {"do": "edit_motion", "edit": {"set": "speed", "value": 11.0}},
        {"do": "edit_motion", "edit": {"set": "from", "value": 90.0}},
        {"do": "edit_motion", "edit": {"set": "strength", "value": 0.4}},
        {"do": "edit_motion", "edit": {"set": "size", "value": 9.0}},
        {"do": "edit_motion", "edit": {"set": "change", "value": 0.5}},
        {"do": "edit_motion", "edit": {"set": "seed", "value": 77}},
        {"do": "edit_motion", "edit": {"set": "length", "value": 4.0}},
        {"do": "edit_motion", "edit": {"set": "frame_rate", "value": 30.0}},
        land(json!({"set": "source", "value": with(to_json(scene)["ground"]["source"].clone(), "seed", json!(5))})),
        land(json!({"set": "put_stroke", "value": with(sculpted.clone(), "id", json!(77))})),
        land(json!({"set": "remove_stroke", "id": sculpted["id"]})),
        land(json!({"set": "earths", "value": with(to_json(&Earths::default()), "patches", json!(0.9))})),
        land(json!({"set": "absent", "value": true})),
        land(json!({"set": "ends", "value": true})),
        land(json!({"set": "bare", "value": ["turf", "sand"]})),
        land(json!({"set": "water", "value": 1.5})),
        {"do": "add_layer", "layer": free_layer, "place": 1},
        {"do": "remove_layer", "id": 4},
        {"do": "move_layer", "id": 5, "place": 0},
        {"do": "duplicate_layer", "id": 1, "copy": 901},
        {"do": "duplicate_layer", "id": 1, "copy": 902, "seed": 5},
        {"do": "replace_layer", "layer": with(item("layers", 1), "seed", json!(4321))},
        {"do": "restore_layer", "layer": with(item("layers", 5), "seed", json!(4321))},
        {"do": "put_share", "value": {"id": 2, "settings": "mix", "layers": [6, 7]}},
        {"do": "remove_share", "id": 1},
        {"do": "put_yield", "value": {"layer": 2, "to": 3, "yields": false}},
        {"do": "remove_yield", "layer": 1, "to": 2},
        change(json!({"of": "land"}), json!({"source": {"relief_m": 20.0}})),
        change(json!({"of": "layer", "id": 1}), json!({"clearance": {"least": 0.5}, "tint": {"strength": 0.5}})),
        change(json!({"of": "layer", "id": 2}), json!({"stance": {"size": {"max": 1.75}}})),
        change(json!({"of": "mask", "layer": 1, "id": mask["id"]}), json!({"response": {"inverted": true}})),
        change(json!({"of": "ground", "id": 1}), json!({"x_m": 170.0})),
        change(json!({"of": "ground", "id": 1}), json!({"moves": {"keys": [
            {"time_s": 0.0, "x_m": 0.0, "y_m": 0.0, "z_m": 0.0, "turn_deg": 0.0},
            {"time_s": 4.0, "x_m": 2.0, "y_m": 0.5, "z_m": -1.0, "turn_deg": 30.0}]}})),
        change(json!({"of": "water", "id": 1}), json!({"height_m": 13.0})),
        change(json!({"of": "zone", "id": item("zones", 0)["id"]}), json!({"name": "Elsewhere"})),
        change(json!({"of": "species", "id": "marram"}), json!({"forms": 3})),
        change(json!({"of": "paint", "id": 1}), json!({"bare": 0.5})),
        change(json!({"of": "picture", "id": 1}), json!({"repeats": true})),
        change(json!({"of": "outline", "id": item("outlines", 0)["id"]}), json!({"soft_m": 2.5})),
        change(json!({"of": "outline", "id": item("outlines", 1)["id"]}), json!({"earth": "sand"})),
        change(json!({"of": "obstacle", "id": item("obstacles", 0)["id"]}), json!({"turn_deg": 33.0})),
        change(json!({"of": "shot", "id": 1}), json!({"overcast": 0.75})),
        {"do": "put_ground", "value": with(item("grounds", 0), "scale", json!(1.5))},
        {"do": "remove_ground", "id": 1},
        {"do": "put_ground_stroke", "ground": 3, "value": with(sculpted.clone(), "id", json!(78))},
        {"do": "remove_ground_stroke", "ground": 3, "id": 1},
        {"do": "put_ground_stroke", "ground": 0, "value": with(sculpted.clone(), "id", json!(79))},
        {"do": "put_species", "value": with(item("species", 0), "seed", json!(99))},
        {"do": "remove_species", "id": "marram"},
        {"do": "put_paint", "value": {"id": 2, "name": "There", "bare": 1.0}},
        {"do": "remove_paint", "id": 1},
        {"do": "put_paint_stroke", "paint": 1, "value": with(brushed.clone(), "id", json!(2))},
        {"do": "remove_paint_stroke", "paint": 1, "id": 1},
        {"do": "put_picture", "value": with(item("pictures", 0), "width_m", json!(75.0))},
        {"do": "remove_picture", "id": 1},
        {"do": "put_earth_pictures", "value": with(item("earth_pictures", 0), "size_m", json!(3.0))},
        {"do": "put_earth_pictures", "value": with(item("earth_pictures", 0), "id", json!("rock"))},
        change(json!({"of": "earth_pictures", "id": "sand"}), json!({"relief_m": 0.2})),
        {"do": "remove_earth_pictures", "id": "sand"},
        {"do": "put_water", "value": with(item("waters", 0), "width_m", json!(6.0))},
        {"do": "put_blower", "value": with(item("blowers", 0), "reach_m", json!(6.0))},
        change(json!({"of": "blower", "id": 1}), json!({"speed_m_per_s": 9.0})),
        {"do": "remove_blower", "id": 1},
        {"do": "put_body", "value": with(item("bodies", 0), "felt", json!(false))},
        change(json!({"of": "body", "id": 1}), json!({"loose": {"bounce": 0.7}})),
        {"do": "remove_body", "id": 1},
        {"do": "remove_water", "id": 1},
        {"do": "put_zone", "value": with(item("zones", 0), "id", json!(50))},
        {"do": "remove_zone", "id": item("zones", 0)["id"]},
        {"do": "put_outline", "value": with(item("outlines", 0), "name", json!("Renamed"))},
        {"do": "remove_outline", "id": item("outlines", 1)["id"]},
        {"do": "put_obstacle", "value": with(item("obstacles", 0), "hidden", json!(true))},
        {"do": "remove_obstacle", "id": item("obstacles", 1)["id"]},
        {"do": "add_shot", "shot": with(item("shots", 0), "id", json!(80)), "place": 0},
        {"do": "remove_shot", "id": 2},
        shot(json!({"set": "name", "value": "Another"})),
        shot(json!({"set": "camera", "eye_m": [1.0, 2.0, 3.0], "target_m": [4.0, 5.0, 6.0]})),
        shot(json!({"set": "view", "value": 33.0})),
        shot(json!({"set": "sun", "azimuth_deg": 10.0, "elevation_deg": 20.0})),
        shot(json!({"set": "overcast", "value": 0.25})),
        shot(json!({"set": "clouds", "value": 0.5})),
        shot(json!({"set": "picture", "width_px": 320, "height_px": 200})),
        shot(json!({"set": "samples", "value": 3})),
        {"do": "each_alone", "commands": [{"do": "edit_layer", "id": 2, "edit": {"set": "sink", "value": 0.11}}]},
        {"do": "all", "commands": [{"do": "rename_scene", "name": "One"}, {"do": "cap_scene", "value": 1}]},
        set("name", json!("Renamed")),
        set("species", json!("boulder")),
        set("mix", json!([{"species": "marram", "share": 0.5}, {"species": "boulder", "share": 0.5}])),
        set("tint", json!({"colour": [0.1, 0.2, 0.3], "strength": 0.4, "spread": 0.1})),
        set("rows", with(to_json(&Rows::default()), "between_m", json!(2.0))),
        set("grounds", json!([0])),
        set("on_plants", json!(2)),
        set("show_as", json!("card")),
        set("wind_share", json!(0.5)),
        set("visible", json!(false)),
        set("locked", json!(true)),
        set("seed", json!(31)),
        set("kept_seeds", json!([3, 4])),
        set("group", json!("Turf")),
        set("pattern", json!("clumped")),
        set("clumps", json!({"radius_m": 3.0, "plants": 8.0})),
        set("amount", json!({"unit": "total", "value": 40})),
        layer(json!({"set": "tend", "let_go": [1]})),
        layer(json!({"set": "drifts", "take_out": [1]})),
        set("clearance", with(to_json(&Clearance::default()), "least", json!(0.25))),
        set("cap", json!(77)),
        set("masks", json!([mask])),
        set("mask", with(mask.clone(), "strength", json!(0.5))),
        layer(json!({"set": "put_mask", "value": with(mask.clone(), "id", json!(60)), "place": 0})),
        layer(json!({"set": "remove_mask", "id": 70})),
        layer(json!({"set": "move_mask", "id": 70, "place": 0})),
        set("size", range.clone()),
        set("turn", json!({"min": 5.0, "max": 90.0})),
        set("tilt", json!(3.0)),
        set("upright", json!(0.5)),
        set("sink", json!(0.04)),
        set("sizes", json!("small")),
        set("tall", range.clone()),
        set("deep", range.clone()),
        set("tumble", json!(0.2)),
        layer(json!({"set": "lean", "deg": 4.0, "value": {"to": "bearing", "deg": 90.0}})),
        set("lift", json!({"min": 0.0, "max": 0.5})),
        set("shift", json!(0.2)),
        set("beyond", json!(true)),
    ]);
    let Value::Array(all) = all else { unreachable!("written as a list") };
    all.into_iter()
        .map(|c| serde_json::from_value(c.clone()).unwrap_or_else(|e| panic!("{c}: {e}")))
        .collect()
}
