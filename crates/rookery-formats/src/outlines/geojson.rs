//! GeoJSON, RFC 7946, but for its coordinates, which are metres.

use super::{OutlineFileError, outline};
use rookery_core::scene::{Outline, OutlineKind, to_json};
use serde_json::{Value, json};

/// Polygons become beds (their holes clearings), lines become tracks, unless a `kind` says otherwise.
pub(super) fn read(bytes: &[u8], middle: [f64; 2]) -> Result<Vec<Outline>, OutlineFileError> {
    let root: Value = serde_json::from_slice(bytes).map_err(|e| OutlineFileError::BadJson(e.to_string()))?;
    let features = match root["type"].as_str() {
        Some("FeatureCollection") => root["features"].as_array().cloned().unwrap_or_default(),
        Some("Feature") => vec![root],
        Some(_) => vec![json!({"type": "Feature", "geometry": root, "properties": {}})],
        None => return Err(OutlineFileError::BadJson("it has no \u{201c}type\u{201d}".to_owned())),
    };
    let mut out = Vec::new();
    for (i, feature) in features.iter().enumerate() {
        let bad = |problem: String| OutlineFileError::BadFeature { feature: i + 1, problem };
        let mut lines = Vec::new();
        lines_of(&feature["geometry"], middle, 0, &mut lines).map_err(bad)?;
        for (nodes, closed, hole) in lines {
            out.push(made(&feature["properties"], nodes, closed, hole, out.len() + 1).map_err(bad)?);
        }
    }
    Ok(out)
}

type Line = (Vec<[f32; 2]>, bool, bool);

fn lines_of(geometry: &Value, middle: [f64; 2], depth: usize, out: &mut Vec<Line>) -> Result<(), String> {
    if depth > 4 {
        return Err("its geometry is nested too deeply".to_owned());
    }
    let parts = || geometry["coordinates"].as_array().ok_or("it has no coordinates".to_owned());
    let polygon = |rings: &Value, out: &mut Vec<Line>| -> Result<(), String> {
        for (i, ring) in rings.as_array().ok_or("a polygon is not a list of rings")?.iter().enumerate() {
            let mut nodes = places(ring, middle)?;
            if nodes.len() > 1 && nodes.first() == nodes.last() {
                nodes.pop();
            }
            out.push((nodes, true, i > 0));
        }
        Ok(())
    };
    match geometry["type"].as_str() {
        Some("LineString") => out.push((places(&geometry["coordinates"], middle)?, false, false)),
        Some("MultiLineString") => {
            for line in parts()? {
                out.push((places(line, middle)?, false, false));
            }
        }
        Some("Polygon") => polygon(&geometry["coordinates"], out)?,
        Some("MultiPolygon") => parts()?.iter().try_for_each(|p| polygon(p, out))?,
        Some("GeometryCollection") => {
            let inner = geometry["geometries"].as_array().ok_or("a collection has no geometries")?;
            inner.iter().try_for_each(|g| lines_of(g, middle, depth + 1, out))?;
        }
        Some("Point" | "MultiPoint") => {}
        other => return Err(format!("its geometry is {}", other.unwrap_or("missing"))),
    }
    Ok(())
}

/// East and north on the map become x and z.
fn places(list: &Value, middle: [f64; 2]) -> Result<Vec<[f32; 2]>, String> {
    let list = list.as_array().ok_or("a line is not a list of positions")?;
    list.iter()
        .map(|p| match (p[0].as_f64(), p[1].as_f64()) {
            (Some(east), Some(north)) => Ok([(east - middle[0]) as f32, (middle[1] - north) as f32]),
            _ => Err("a position is not two numbers".to_owned()),
        })
        .collect()
}

fn made(
    properties: &Value,
    nodes: Vec<[f32; 2]>,
    closed: bool,
    hole: bool,
    number: usize,
) -> Result<Outline, String> {
    let usual = match (closed, hole) {
        (false, _) => OutlineKind::Track,
        (true, false) => OutlineKind::Bed,
        (true, true) => OutlineKind::Clearing,
    };
    let kind = match properties["kind"].as_str() {
        Some(kind) if !hole => serde_json::from_value(json!(kind)).map_err(|_| {
            format!("its kind is \u{201c}{}\u{201d}; it must be bed, clearing or track", short(kind))
        })?,
        _ => usual,
    };
    let name = properties["name"].as_str().filter(|n| !n.trim().is_empty());
    let name = name.map_or_else(|| format!("Line {number}"), short);
    let mut made =
        outline(if hole { format!("Hole in {name}").chars().take(80).collect() } else { name }, kind, nodes);
    let number = |key: &str, usual: f32| properties[key].as_f64().map_or(usual, |v| v as f32);
    (made.soft_m, made.width_m) = (number("soft_m", made.soft_m), number("width_m", made.width_m));
    made.smooth = properties["smooth"].as_bool().unwrap_or(made.smooth);
    Ok(made)
}

fn short(text: &str) -> String {
    text.chars().filter(|c| !c.is_control()).take(80).collect()
}

/// Writes outlines with all their settings; [`read`] gives the same ones back.
pub fn write_geojson(outlines: &[Outline], map_middle_m: [f64; 2]) -> Vec<u8> {
    let [east, north] = map_middle_m;
    // On a map far from its origin single numbers are too coarse; a millimetre is kept.
    let mapped = |line: &[[f32; 2]]| -> Value {
        if map_middle_m == [0.0; 2] {
            return to_json(&line);
        }
        let round = |v: f64| (v * 1000.0).round() / 1000.0;
        line.iter().map(|[x, y]| json!([round(f64::from(*x) + east), round(f64::from(*y) + north)])).collect()
    };
    let features: Vec<Value> = outlines
        .iter()
        .map(|o| {
            let mut line: Vec<[f32; 2]> = o.nodes.iter().map(|[x, z]| [*x, 0.0 - z]).collect();
            let geometry = if o.kind == OutlineKind::Track {
                json!({"type": "LineString", "coordinates": mapped(&line)})
            } else {
                // Exterior rings run against the clock and end where they begin (RFC 7946, 3.1.6).
                let turned: f32 = line
                    .iter()
                    .zip(line.iter().cycle().skip(1))
                    .map(|(a, b)| a[0] * b[1] - b[0] * a[1])
                    .sum();
                if turned < 0.0 {
                    line.reverse();
                }
                line.push(line[0]);
                json!({"type": "Polygon", "coordinates": [mapped(&line)]})
            };
            let properties = json!({"name": o.name, "kind": o.kind, "smooth": o.smooth,
                "soft_m": to_json(&o.soft_m), "width_m": to_json(&o.width_m)});
            json!({"type": "Feature", "geometry": geometry, "properties": properties})
        })
        .collect();
    serde_json::to_vec_pretty(&json!({"type": "FeatureCollection", "features": features}))
        .expect("plain data")
}
