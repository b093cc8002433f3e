//! What is written out for the view is what core has now.

use std::path::Path;

/// The bending of plants in the view's shaders. `ROOKERY_WRITE_SAMPLES=1` writes it anew.
#[test]
fn the_shader_that_bends_plants_is_written_from_the_same_numbers() {
    let text = format!(
        "// Written from rookery-core/src/motion/glsl.rs: change it there, then run the core tests with ROOKERY_WRITE_SAMPLES=1.\nexport const SWAY_GLSL = /* glsl */ `\n{}`\n",
        rookery_core::motion::glsl()
    );
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web/src/view/stage/sway/glsl.ts");
    if std::env::var_os("ROOKERY_WRITE_SAMPLES").is_some() {
        std::fs::write(&path, &text).unwrap();
    }
    assert_eq!(std::fs::read_to_string(&path).unwrap(), text, "{} is out of date", path.display());
}

/// What grounds and built things are made of. `ROOKERY_WRITE_SAMPLES=1` writes it anew.
#[test]
fn the_shader_that_lays_textures_is_written_from_the_same_numbers() {
    let head = "// Written from rookery-core/src/textures/glsl.rs: change it there, then run the core tests with ROOKERY_WRITE_SAMPLES=1.\n";
    let parts = rookery_core::textures::glsl();
    let parts = parts.map(|(name, text)| format!("export const {name} = /* glsl */ `\n{text}`\n"));
    let text = format!("{head}{}", parts.join("\n"));
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web/src/view/stage/textures/glsl.ts");
    if std::env::var_os("ROOKERY_WRITE_SAMPLES").is_some() {
        std::fs::write(&path, &text).unwrap();
    }
    assert_eq!(std::fs::read_to_string(&path).unwrap(), text, "{} is out of date", path.display());
}

/// What the nap of the ground leaves of the light. `ROOKERY_WRITE_SAMPLES=1` writes it anew.
#[test]
fn the_shader_of_the_naps_shade_is_written_from_the_same_numbers() {
    let text = format!(
        "// Written from rookery-core/src/nap/shade.rs: change it there, then run the core tests with ROOKERY_WRITE_SAMPLES=1.\nexport const NAP_GLSL = /* glsl */ `\n{}`\n",
        rookery_core::nap::glsl()
    );
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web/src/view/stage/nap/glsl.ts");
    if std::env::var_os("ROOKERY_WRITE_SAMPLES").is_some() {
        std::fs::write(&path, &text).unwrap();
    }
    assert_eq!(std::fs::read_to_string(&path).unwrap(), text, "{} is out of date", path.display());
}
