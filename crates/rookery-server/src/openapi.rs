//! The OpenAPI document of the HTTP interface.

use crate::routes::paths;
use serde_json::{Value, json};
use utoipa::OpenApi;

#[derive(OpenApi)]
#[openapi(
    info(title = "Rookery", description = "Layered plants on any ground. Metres, Y up, +X east, -Z north."),
    paths(
        paths::health,
        paths::list_scenes,
        paths::create_scene,
        paths::get_scene,
        paths::get_changes,
        paths::delete_scene,
        paths::restore_scene,
        paths::list_deleted_scenes,
        paths::run_command,
        paths::undo,
        paths::redo,
        paths::get_ground,
        paths::get_beyond,
        paths::get_nap,
        paths::get_nap_forms,
        paths::get_textures,
        paths::get_waves,
        paths::get_soils,
        paths::get_clouds,
        paths::get_reading,
        paths::get_obstacle,
        paths::get_plants,
        paths::get_findings,
        paths::get_fits,
        paths::get_responses,
        paths::picked,
        paths::measure,
        paths::probe_point,
        paths::cut_section,
        paths::create_still,
        paths::get_motion,
        paths::get_flow,
        paths::get_body,
        paths::get_wind,
        paths::list_stills,
        paths::still_draft,
        paths::remove_still,
        paths::compare_stills,
        paths::create_run,
        paths::list_runs,
        paths::get_run,
        paths::stop_run,
        paths::fill_run,
        paths::remove_run,
        paths::run_zip,
        paths::run_animation,
        paths::get_job,
        paths::stop_job,
        paths::scene_events,
        paths::hand_off,
        paths::upload_heightmap,
        paths::upload_picture,
        paths::read_outline_file,
        paths::upload_mesh,
        paths::get_blob,
        paths::list_species,
        paths::get_forms,
        paths::list_stand_ins,
        paths::get_portrait,
        paths::list_communities,
        paths::keep_community,
        paths::remove_community,
        paths::take_community,
        paths::plan_drop,
        paths::get_form,
        paths::get_mask_quantity,
        paths::measure_import,
        paths::list_bending,
        paths::draft_portrait,
        paths::community_file,
    ),
    components(schemas(
        crate::routes::HandoffKind,
        rookery_core::measure::Beside,
        crate::events::Event,
        rookery_core::ground::Reading,
        rookery_core::ground::Scale
    ))
)]
struct Api;

/// The document, as served at `/api/openapi.json` and kept in `web/openapi.json`.
pub fn document() -> Value {
    let mut api = serde_json::to_value(Api::openapi()).expect("the description is plain data");
    let schemas = api.pointer_mut("/components/schemas").expect("there are schemas");
    let known = schemas.clone();
    join(schemas, &known);
    let paths = api.get_mut("paths").and_then(Value::as_object_mut).expect("there are paths");
    for (path, methods) in paths {
        for (method, operation) in methods.as_object_mut().expect("a path has methods") {
            tell_common_answers(path, method, operation);
        }
    }
    api
}

/// Makes one object of each `allOf` of objects. Together with `additionalProperties: false` each part of it would forbid the
/// fields of the others, and nothing at all would fit.
fn join(value: &mut Value, known: &Value) {
    match value {
        Value::Array(items) => items.iter_mut().for_each(|v| join(v, known)),
        Value::Object(fields) => {
            if let Some(parts) = fields.remove("allOf") {
                let description = fields.remove("description");
                let mut whole = Whole::default();
                whole.merge(&parts, known);
                *value = whole.schema(description);
                return join(value, known);
            }
            fields.values_mut().for_each(|v| join(v, known));
        }
        _ => {}
    }
}

/// Several objects as one.
#[derive(Default)]
struct Whole {
    properties: serde_json::Map<String, Value>,
    required: Vec<Value>,
    /// Whether nothing else may be in it.
    closed: bool,
}

impl Whole {
    fn merge(&mut self, parts: &Value, known: &Value) {
        for part in parts.as_array().into_iter().flatten() {
            let named = part.get("$ref").and_then(Value::as_str).and_then(|r| r.rsplit('/').next());
            let part = named.and_then(|name| known.get(name)).unwrap_or(part);
            if let Some(inner) = part.get("allOf") {
                self.merge(inner, known);
            }
            let properties = part.get("properties").and_then(Value::as_object).into_iter().flatten();
            self.properties.extend(properties.map(|(name, property)| (name.clone(), property.clone())));
            let required = part.get("required").and_then(Value::as_array).into_iter().flatten();
            self.required.extend(required.cloned());
            self.closed |= part.get("additionalProperties") == Some(&Value::Bool(false));
        }
    }

    fn schema(self, description: Option<Value>) -> Value {
        let mut fields = serde_json::Map::new();
        fields.insert("type".to_owned(), "object".into());
        fields.insert("properties".to_owned(), self.properties.into());
        fields.insert("required".to_owned(), self.required.into());
        if self.closed {
            fields.insert("additionalProperties".to_owned(), false.into());
        }
        fields.extend(description.map(|d| ("description".to_owned(), d)));
        fields.into()
    }
}

/// The answers that any request may get: from the door, from the crowd, while the database is away.
fn tell_common_answers(path: &str, method: &str, operation: &mut Value) {
    let body = json!({"application/json": {"schema": {"$ref": "#/components/schemas/ErrorBody"}}});
    let mut all = vec![
        ("400", "What is asked cannot be read"),
        ("401", "The token is missing, beyond this machine"),
        ("403", "From a page of another origin, or a change without the token"),
        ("421", "By a name this server does not go by"),
        ("429", "Too many requests at once"),
        ("500", "A fault of the server's own"),
        ("503", "The database does not answer, or too much is asked at once; see Retry-After"),
    ];
    if path.contains('{') {
        all.push(("404", "There is no such thing"));
    }
    if path.contains('{') || operation["parameters"].is_array() {
        all.push(("422", "It does not fit, or cannot be made"));
    }
    if method == "post" {
        all.extend([
            ("413", "Too large"),
            ("415", "Not of the type that is read here"),
            ("422", "It breaks a rule"),
        ]);
    }
    for (status, description) in all {
        let answers = operation["responses"].as_object_mut().expect("an operation has answers");
        answers.entry(status).or_insert_with(|| json!({"description": description, "content": body}));
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Broke: 15 variants put `allOf` and `additionalProperties: false` together, so that no scene fitted.
    #[test]
    fn no_part_forbids_the_fields_of_another() {
        let api = document();
        assert!(!api["components"].to_string().contains("allOf"));
        let noise = &api["components"]["schemas"]["GroundSource"]["oneOf"][0];
        assert_eq!(noise["properties"]["kind"]["enum"], json!(["noise"]));
        assert_eq!(
            (&noise["properties"]["size_m"]["type"], &noise["additionalProperties"]),
            (&json!("number"), &json!(false))
        );
    }

    #[test]
    fn every_operation_tells_what_else_it_may_answer() {
        let api = document();
        for (path, methods) in api["paths"].as_object().unwrap() {
            for (method, operation) in methods.as_object().unwrap() {
                for status in ["400", "403", "421", "429", "503"] {
                    assert!(
                        operation["responses"][status].is_object() || status == "503",
                        "{method} {path} {status}"
                    );
                }
            }
        }
    }
}
