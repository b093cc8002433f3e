//! The description of the interface against what is really written.

use serde_json::{Value, json};

/// Broke: the names of choices were described as they are in the program, not as they are written.
#[test]
fn choices_are_described_by_the_names_they_are_written_with() {
    let api = rookery_server::openapi::document();
    let schemas = &api["components"]["schemas"];
    assert_eq!(schemas["Head"]["enum"], json!(["spike", "panicle", "wisp", "down", "tassel"]));
    for (name, schema) in schemas.as_object().unwrap() {
        let capital = |v: &Value| v.as_str().is_some_and(|v| v.starts_with(|c: char| c.is_uppercase()));
        let named = schema["enum"].as_array().into_iter().flatten().find(|v| capital(v));
        assert!(named.is_none(), "{name} has {named:?}");
    }
}
