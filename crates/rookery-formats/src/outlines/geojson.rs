//! GeoJSON, RFC 7946, but for its coordinates, which are metres.

use super::{OutlineFileError, outline};
use geojson::{Feature, FeatureCollection, Geometry, GeometryValue, JsonObject, JsonValue, Position};
use rookery_core::scene::{Outline, OutlineKind};
use serde_json::json;

/// Polygons become beds (their holes clearings), lines become tracks, unless a `kind` says otherwise. Features are read one by one, so
/// that a bad one can be named.
pub(super) fn read(bytes: &[u8], middle: [f64; 2]) -> Result<Vec<Outline>, OutlineFileError> {
    let root: JsonValue =
        serde_json::from_slice(bytes).map_err(|e| OutlineFileError::BadJson(e.to_string()))?;
    let features = match root["type"].as_str() {
        Some("FeatureCollection") => root["features"].as_array().cloned().unwrap_or_default(),
        Some("Feature") => vec![root],
        Some(_) => vec![json!({"type": "Feature", "geometry": root, "properties": {}})],
        None => return Err(OutlineFileError::BadJson("it has no \u{201c}type\u{201d}".to_owned())),
    };
    let mut out = Vec::new();
    for (i, feature) in features.into_iter().enumerate() {
        let bad = |problem: String| OutlineFileError::BadFeature { feature: i + 1, problem };
        let feature: Feature =
            serde_json::from_value(feature).map_err(|e| bad(format!("it is not as GeoJSON has it: {e}")))?;
        let mut lines = Vec::new();
        if let Some(geometry) = &feature.geometry {
            lines_of(geometry, middle, 0, &mut lines).map_err(bad)?;
        }
        let properties = feature.properties.unwrap_or_default();
        for line in lines {
            out.push(made(&properties, line, out.len() + 1).map_err(bad)?);
        }
    }
    Ok(out)
}

/// A line of a file on the plan.
struct Line {
    nodes: Vec<[f32; 2]>,
    closed: bool,
    hole: bool,
}

fn lines_of(geometry: &Geometry, middle: [f64; 2], depth: usize, out: &mut Vec<Line>) -> Result<(), String> {
    if depth > 4 {
        return Err("its geometry is nested too deeply".to_owned());
    }
    let open =
        |line: &[Position]| places(line, middle).map(|nodes| Line { nodes, closed: false, hole: false });
    let polygon = |rings: &[Vec<Position>], out: &mut Vec<Line>| -> Result<(), String> {
        for (i, ring) in rings.iter().enumerate() {
            let mut nodes = places(ring, middle)?;
            if nodes.len() > 1 && nodes.first() == nodes.last() {
                nodes.pop();
            }
            out.push(Line { nodes, closed: true, hole: i > 0 });
        }
        Ok(())
    };
    match &geometry.value {
        GeometryValue::LineString { coordinates } => out.push(open(coordinates)?),
        GeometryValue::MultiLineString { coordinates } => {
            for line in coordinates {
                out.push(open(line)?);
            }
        }
        GeometryValue::Polygon { coordinates } => polygon(coordinates, out)?,
        GeometryValue::MultiPolygon { coordinates } => {
            coordinates.iter().try_for_each(|p| polygon(p, out))?;
        }
        GeometryValue::GeometryCollection { geometries } => {
            geometries.iter().try_for_each(|g| lines_of(g, middle, depth + 1, out))?;
        }
        GeometryValue::Point { .. } | GeometryValue::MultiPoint { .. } => {}
    }
    Ok(())
}

/// East and north on the map become x and z.
fn places(line: &[Position], middle: [f64; 2]) -> Result<Vec<[f32; 2]>, String> {
    line.iter()
        .map(|p| match p.as_slice() {
            [east, north, ..] => Ok([(east - middle[0]) as f32, (middle[1] - north) as f32]),
            _ => Err("a position is not two numbers".to_owned()),
        })
        .collect()
}

fn made(properties: &JsonObject, line: Line, number: usize) -> Result<Outline, String> {
    let Line { nodes, closed, hole } = line;
    let property = |key: &str| properties.get(key).unwrap_or(&JsonValue::Null);
    let usual = match (closed, hole) {
        (false, _) => OutlineKind::Track,
        (true, false) => OutlineKind::Bed,
        (true, true) => OutlineKind::Clearing,
    };
    let kind = match property("kind").as_str() {
        Some(kind) if !hole => serde_json::from_value(json!(kind)).map_err(|_| {
            format!("its kind is \u{201c}{}\u{201d}; it must be bed, clearing or track", short(kind))
        })?,
        _ => usual,
    };
    let name = property("name").as_str().filter(|n| !n.trim().is_empty());
    let name = name.map_or_else(|| format!("Line {number}"), short);
    let mut made =
        outline(if hole { format!("Hole in {name}").chars().take(80).collect() } else { name }, kind, nodes);
    let number = |key: &str, usual: f32| property(key).as_f64().map_or(usual, |v| v as f32);
    (made.soft_m, made.width_m) = (number("soft_m", made.soft_m), number("width_m", made.width_m));
    if let Some(earth) = property("earth").as_str() {
        made.earth = Some(serde_json::from_value(json!(earth)).map_err(|_| {
            format!(
                "its earth is \u{201c}{}\u{201d}; it must be turf, peat, sand, shingle or rock",
                short(earth)
            )
        })?);
    }
    made.smooth = property("smooth").as_bool().unwrap_or(made.smooth);
    Ok(made)
}

fn short(text: &str) -> String {
    text.chars().filter(|c| !c.is_control()).take(80).collect()
}

/// Writes outlines with all their settings; [`read`] gives the same ones back.
pub fn write_geojson(outlines: &[Outline], map_middle_m: [f64; 2]) -> Vec<u8> {
    let [east, north] = map_middle_m;
    let mapped = |[x, y]: [f32; 2]| -> Position {
        if map_middle_m == [0.0; 2] {
            return [short_f64(x), short_f64(y)].into();
        }
        // On a map far from its origin single numbers are too coarse; a millimetre is kept.
        let round = |v: f64| (v * 1000.0).round() / 1000.0;
        [round(f64::from(x) + east), round(f64::from(y) + north)].into()
    };
    let feature = |o: &Outline| {
        let mut line: Vec<[f32; 2]> = o.nodes.iter().map(|[x, z]| [*x, 0.0 - z]).collect();
        let value = if o.kind == OutlineKind::Track {
            GeometryValue::LineString { coordinates: line.into_iter().map(mapped).collect() }
        } else {
            // Exterior rings run against the clock and end where they begin (RFC 7946, 3.1.6).
            let turned: f32 =
                line.iter().zip(line.iter().cycle().skip(1)).map(|(a, b)| a[0] * b[1] - b[0] * a[1]).sum();
            if turned < 0.0 {
                line.reverse();
            }
            line.push(line[0]);
            GeometryValue::Polygon { coordinates: vec![line.into_iter().map(mapped).collect()] }
        };
        let properties = [
            ("name", json!(o.name)),
            ("kind", json!(o.kind)),
            ("smooth", json!(o.smooth)),
            ("soft_m", json!(short_f64(o.soft_m))),
            ("width_m", json!(short_f64(o.width_m))),
        ];
        let earth = o.earth.map(|earth| ("earth", json!(earth)));
        Feature {
            geometry: Some(Geometry::new(value)),
            properties: Some(
                properties.into_iter().chain(earth).map(|(key, v)| (key.to_owned(), v)).collect(),
            ),
            ..Feature::default()
        }
    };
    let all = FeatureCollection {
        bbox: None,
        features: outlines.iter().map(feature).collect(),
        foreign_members: None,
    };
    serde_json::to_vec_pretty(&all).expect("plain data")
}

/// The number with the fewest digits that is this one in single precision.
fn short_f64(value: f32) -> f64 {
    value.to_string().parse().unwrap_or_else(|_| f64::from(value))
}
