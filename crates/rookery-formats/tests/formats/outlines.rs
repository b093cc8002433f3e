//! Outlines in files: what was written is read back, and bad files are refused in words.

use proptest::prelude::*;
use rookery_core::ground::outline::OutlineLine;
use rookery_core::scene::{Earth, Outline, OutlineId, OutlineKind, kittiwake_head};
use rookery_formats::outlines::{read_outlines, write_geojson};

const ORIGIN: [f64; 2] = [0.0; 2];

#[test]
fn the_demos_outlines_come_back_as_they_were() {
    let outlines = kittiwake_head().outlines;
    let back = read_outlines(&write_geojson(&outlines, ORIGIN), ORIGIN).unwrap();
    assert_eq!(back.len(), outlines.len());
    for (a, b) in outlines.iter().zip(&back) {
        assert_eq!(
            (&a.name, a.kind, a.smooth, a.soft_m, a.width_m),
            (&b.name, b.kind, b.smooth, b.soft_m, b.width_m)
        );
        // A ring may be written the other way round; its line is the same.
        let (x, y) = (OutlineLine::new(a), OutlineLine::new(b));
        assert!((x.area_m2() - y.area_m2()).abs() < 0.01 * x.area_m2());
        assert!((x.length_m() - y.length_m()).abs() < 0.01);
    }
}

/// The example polygon with a hole of RFC 7946, section 1.5 and appendix A.3, its degrees taken as metres.
#[test]
fn a_polygon_with_a_hole_becomes_a_bed_and_a_clearing() {
    let file = br#"{"type": "Polygon", "coordinates": [
        [[100.0, 0.0], [101.0, 0.0], [101.0, 1.0], [100.0, 1.0], [100.0, 0.0]],
        [[100.8, 0.8], [100.8, 0.2], [100.2, 0.2], [100.2, 0.8], [100.8, 0.8]]]}"#;
    let read = read_outlines(file, ORIGIN).unwrap();
    assert_eq!(read.iter().map(|o| o.kind).collect::<Vec<_>>(), [OutlineKind::Bed, OutlineKind::Clearing]);
    assert_eq!(read[0].nodes[2], [101.0, -1.0], "north is -Z");
    assert!((OutlineLine::new(&read[1]).area_m2() - 0.36).abs() < 1e-4);
}

#[test]
fn the_shapes_of_a_drawing_become_outlines_about_its_middle() {
    let file = br#"<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100">
        <rect id="field" x="100" y="50" width="40" height="20" fill="green"/>
        <g transform="translate(10 0)"><path id="way" d="M 0 50 L 30 50 l 0 -10" fill="none" stroke="black"/></g>
        <circle id="pond" cx="100" cy="50" r="10" fill="blue"/>
    </svg>"#;
    let read = read_outlines(file, ORIGIN).unwrap();
    let named = |name: &str| read.iter().find(|o| o.name == name).unwrap();
    let field = named("field");
    assert_eq!((field.kind, field.nodes.len()), (OutlineKind::Bed, 4));
    assert!(field.nodes.contains(&[40.0, 20.0]) && field.nodes.contains(&[0.0, 0.0]));
    let way = named("way");
    assert_eq!(
        (way.kind, way.nodes.clone()),
        (OutlineKind::Track, vec![[-90.0, 0.0], [-60.0, 0.0], [-60.0, -10.0]])
    );
    let area = OutlineLine::new(named("pond")).area_m2();
    assert!((area - std::f32::consts::PI * 100.0).abs() < 4.0, "{area}");
}

#[test]
fn bad_files_are_refused_with_the_place_and_the_reason() {
    let error = |text: &str| read_outlines(text.as_bytes(), ORIGIN).unwrap_err().to_string();
    assert_eq!(error("hello"), "this is neither a GeoJSON file nor an SVG drawing");
    assert!(error("{\"type\": ").starts_with("the GeoJSON cannot be read"));
    assert!(error("<svg").starts_with("the SVG drawing cannot be read"));
    assert_eq!(
        error(r#"{"type": "FeatureCollection", "features": []}"#),
        "the file holds no line that an outline could be made of"
    );
    let feature = |geometry: &str, properties: &str| {
        error(&format!(r#"{{"type": "Feature", "geometry": {geometry}, "properties": {properties}}}"#))
    };
    assert_eq!(
        feature(r#"{"type": "LineString", "coordinates": [[0, 0], [1, "a"]]}"#, "{}"),
        "feature 1: it is not as GeoJSON has it: invalid type: string \"a\", expected f64"
    );
    assert_eq!(
        feature(r#"{"type": "LineString", "coordinates": [[0, 0], [1]]}"#, "{}"),
        "feature 1: a position is not two numbers"
    );
    assert_eq!(
        feature(r#"{"type": "LineString", "coordinates": [[0, 0], [1, 1]]}"#, r#"{"kind": "river"}"#),
        "feature 1: its kind is \u{201c}river\u{201d}; it must be bed, clearing or track"
    );
    assert_eq!(
        feature(r#"{"type": "LineString", "coordinates": [[0, 0], [1, 1]]}"#, r#"{"earth": "snow"}"#),
        "feature 1: its earth is \u{201c}snow\u{201d}; it must be turf, peat, sand, shingle or rock"
    );
    assert_eq!(
        feature(r#"{"type": "LineString", "coordinates": [[0, 0], [1e30, 1]]}"#, "{}"),
        "line 1: a node of an outline is 1000000000000000000000000000000 m; it must be from -30000 to 30000 m"
    );
    assert_eq!(
        feature(r#"{"type": "LineString", "coordinates": [[0, 0]]}"#, "{}"),
        "line 1: the number of nodes of an outline is 1; it must be from 2 to 1000"
    );
}

#[test]
fn a_line_of_very_many_nodes_is_thinned() {
    let nodes: Vec<String> = (0..5000).map(|i| format!("[{}, {}]", i as f32 * 0.1, (i % 7) as f32)).collect();
    let file = format!(r#"{{"type": "LineString", "coordinates": [{}]}}"#, nodes.join(","));
    let read = read_outlines(file.as_bytes(), ORIGIN).unwrap();
    assert!((500..=1000).contains(&read[0].nodes.len()));
    assert_eq!(read[0].id, OutlineId(1));
}

proptest! {
    #[test]
    fn any_bytes_are_read_or_refused(text in "[<{][ -~]{0,200}") {
        let _ = read_outlines(text.as_bytes(), ORIGIN);
    }

    #[test]
    fn any_json_of_the_right_shape_is_read_or_refused(
        kind in prop_oneof![Just("Polygon"), Just("LineString"), Just("MultiPolygon"), Just("GeometryCollection")],
        coordinates in "[\\[\\]0-9,. -]{0,60}",
    ) {
        let _ = read_outlines(format!(r#"{{"type": "{kind}", "coordinates": {coordinates}}}"#).as_bytes(), ORIGIN);
    }

    #[test]
    fn tracks_are_written_and_read_without_loss(nodes in proptest::collection::vec(proptest::array::uniform2(-9999.0_f32..9999.0), 2..40), soft_m in 0.0_f32..50.0) {
        let track = Outline { id: OutlineId(1), name: "Way".into(), kind: OutlineKind::Track, nodes, smooth: true, soft_m, width_m: 2.5, earth: Some(Earth::Shingle) };
        prop_assert_eq!(read_outlines(&write_geojson(std::slice::from_ref(&track), ORIGIN), ORIGIN).unwrap(), vec![track]);
    }
}

#[test]
fn on_a_map_far_from_its_origin_lines_lie_where_the_land_is() {
    let text = r#"{"type": "LineString", "coordinates": [[640010.25, 4099990.5], [640020.0, 4100004.125]]}"#;
    let map = [640_000.0, 4_100_000.0];
    let read = read_outlines(text.as_bytes(), map).unwrap();
    assert_eq!(read[0].nodes, [[10.25, 9.5], [20.0, -4.125]]);
    let written = write_geojson(&read, map);
    assert!(String::from_utf8_lossy(&written).contains("4099990.5"));
    assert_eq!(read_outlines(&written, map).unwrap(), read);
    // Without its map the same line lies far beyond any scene.
    let far = read_outlines(text.as_bytes(), ORIGIN).unwrap_err().to_string();
    assert!(far.contains("a node of an outline"), "{far}");
}
