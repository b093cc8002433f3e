//! Files made to harm: each was answered by a reader that hung, read what it must not, or took all memory.

use rookery_formats::mesh::{MOST_TRIANGLES, read_mesh};
use rookery_formats::outlines::read_outlines;
use serde_json::json;
use std::time::{Duration, Instant};

/// Longer than any of these takes in a debug build on a slow machine, far shorter than they took.
const SOON: Duration = Duration::from_secs(5);

fn glb(json: &serde_json::Value, numbers: &[u8]) -> Vec<u8> {
    let mut text = json.to_string().into_bytes();
    text.resize(text.len().next_multiple_of(4), b' ');
    let mut out = b"glTF\x02\0\0\0".to_vec();
    let total = 12 + 8 + text.len() + 8 + numbers.len();
    out.extend((total as u32).to_le_bytes());
    for (kind, part) in [(b"JSON", &text[..]), (b"BIN\0", numbers)] {
        out.extend((part.len() as u32).to_le_bytes());
        out.extend(kind);
        out.extend(part);
    }
    out
}

/// Broke: a file of 1 KB whose nodes list one another ten ways each, twelve levels deep, held a thread for good.
#[test]
fn nodes_that_list_one_another_end_at_once() {
    let level = |i: usize| json!({"children": vec![i + 1; 10]});
    let mut nodes: Vec<_> = (0..12).map(level).collect();
    nodes.push(json!({"mesh": 0}));
    let triangle: Vec<u8> =
        [0.0_f32, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0].iter().flat_map(|v| v.to_le_bytes()).collect();
    let file = json!({
        "asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": [0]}], "nodes": nodes,
        "meshes": [{"primitives": [{"attributes": {"POSITION": 0}}]}],
        "accessors": [{"bufferView": 0, "componentType": 5126, "count": 3, "type": "VEC3", "min": [0, 0, 0], "max": [1, 1, 0]}],
        "bufferViews": [{"buffer": 0, "byteLength": 36}], "buffers": [{"byteLength": 36}],
    });
    let start = Instant::now();
    let told = read_mesh(&glb(&file, &triangle)).unwrap_err().to_string();
    assert!(told.contains("hangs below more than one other"), "{told}");
    assert!(start.elapsed() < SOON);
}

/// Many nodes may show one mesh, and each is looked at once: many times many is too much.
#[test]
fn many_nodes_of_a_mesh_of_many_primitives_are_too_much() {
    let nodes: Vec<_> = (0..2000).map(|_| json!({"mesh": 0})).collect();
    let primitives = vec![json!({"attributes": {}, "mode": 0}); 2000];
    let file = json!({
        "asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": (0..2000).collect::<Vec<_>>()}], "nodes": nodes,
        "meshes": [{"primitives": primitives}],
    });
    let start = Instant::now();
    let told = read_mesh(&glb(&file, &[])).unwrap_err().to_string();
    assert!(told.contains("primitives"), "{told}");
    assert!(start.elapsed() < SOON);
}

/// Broke: 40 million words in one line took 2.5 GB.
#[test]
fn a_name_of_millions_of_words_is_cut_short() {
    let mut obj = b"v 0 0 0\nv 1 0 0\nv 0 1 0\ng".to_vec();
    obj.extend(b" a".repeat(4_000_000));
    obj.extend(b"\nf 1 2 3\n");
    let start = Instant::now();
    let mesh = read_mesh(&obj).unwrap();
    assert!(mesh.parts[0].name.len() <= 80);
    assert!(start.elapsed() < SOON, "{:?}", start.elapsed());
}

/// Broke: cycling through 4,090 names of groups took 37 seconds.
#[test]
fn groups_that_come_again_and_again_are_found_at_once() {
    let mut obj = String::from("v 0 0 0\nv 1 0 0\nv 0 1 0\n");
    let names: Vec<String> = (0..4090).map(|i| format!("a_rather_long_name_of_a_group_{i:>30}")).collect();
    for _ in 0..25 {
        for name in &names {
            obj += &format!("g {name}\nf 1 2 3\n");
        }
    }
    let start = Instant::now();
    let mesh = read_mesh(obj.as_bytes()).unwrap();
    assert_eq!(mesh.parts.len(), 4090);
    assert!(mesh.parts.iter().all(|p| p.indices.len() == 75), "each goes on where it was");
    assert!(start.elapsed() < SOON, "{:?}", start.elapsed());
    assert!(mesh.parts.len() * 25 < MOST_TRIANGLES);
}

fn svg(inside: &str) -> String {
    format!(
        r#"<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="9" height="9">{inside}<path d="M0 0H9"/></svg>"#
    )
}

/// Broke: a picture in a drawing read files of the server, `/dev/zero` until memory ended.
#[test]
fn a_drawing_reads_no_files() {
    let start = Instant::now();
    for href in ["/dev/zero", "file:///dev/zero", "/dev/urandom"] {
        let image = format!(r#"<image href="{href}" xlink:href="{href}" width="9" height="9"/>"#);
        assert_eq!(read_outlines(svg(&image).as_bytes(), [0.0; 2]).unwrap().len(), 1);
    }
    // A drawing in a drawing is not looked into, so its lines would show that a file was read.
    let folder = std::env::temp_dir().join(format!("rookery-svg-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    let inner = folder.join("inner.svg");
    std::fs::write(&inner, svg("<path d='M0 1H9'/>")).unwrap();
    let image = format!(r#"<image href="{}" width="9" height="9"/>"#, inner.display());
    assert_eq!(read_outlines(svg(&image).as_bytes(), [0.0; 2]).unwrap().len(), 1);
    std::fs::remove_dir_all(&folder).unwrap();
    assert!(start.elapsed() < SOON);
}

/// Broke: an entity used two thousand times ended the process.
#[test]
fn entities_are_refused_in_words() {
    let uses = "&a;".repeat(2000);
    let text = format!(
        r#"<!DOCTYPE svg [<!ENTITY a "<g><path d='M0 0H9'/></g>">]><svg xmlns="http://www.w3.org/2000/svg" width="9" height="9">{uses}</svg>"#
    );
    let told = read_outlines(text.as_bytes(), [0.0; 2]).unwrap_err().to_string();
    assert!(told.contains("entities"), "{told}");
    // A document type alone does no harm: many programs write one.
    let typed = format!("<!DOCTYPE svg PUBLIC \"-//W3C//DTD SVG 1.1//EN\" \"x.dtd\">{}", svg(""));
    let read = read_outlines(typed.as_bytes(), [0.0; 2]);
    assert!(read.is_ok(), "{read:?}");
}

#[test]
fn elements_deep_in_one_another_and_uses_of_uses_are_refused_in_words() {
    let start = Instant::now();
    for count in [5_000, 200_000] {
        let deep = format!("{}{}", "<g>".repeat(count), "</g>".repeat(count));
        let told = read_outlines(svg(&deep).as_bytes(), [0.0; 2]).unwrap_err().to_string();
        assert!(told.contains("deep in one another"), "{told}");
    }
    let mut uses = String::from("<defs><path id='u0' d='M0 0H9'/>");
    for i in 1..12 {
        let ten = format!("<use href='#u{}' xlink:href='#u{}'/>", i - 1, i - 1).repeat(10);
        uses += &format!("<g id='u{i}'>{ten}</g>");
    }
    uses += "</defs><use xlink:href='#u11' href='#u11'/>";
    let told = read_outlines(svg(&uses).as_bytes(), [0.0; 2]).unwrap_err().to_string();
    assert!(told.contains("comes to more than"), "{told}");
    let own = "<g id='a'><use xlink:href='#a' href='#a'/></g>";
    let _ = read_outlines(svg(own).as_bytes(), [0.0; 2]);
    assert!(start.elapsed() < SOON, "{:?}", start.elapsed());
}
