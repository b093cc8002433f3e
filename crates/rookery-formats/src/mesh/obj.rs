//! Wavefront OBJ: vertices, faces, groups, objects and material names.

use super::{Builder, MOST_CORNERS, MeshError, MeshFile};
use glam::Vec3;

/// Whether the first lines have the words of an OBJ.
pub(super) fn looks_like(bytes: &[u8]) -> bool {
    let start = &bytes[..bytes.len().min(4096)];
    let Ok(text) = std::str::from_utf8(start).or_else(|e| std::str::from_utf8(&start[..e.valid_up_to()]))
    else {
        return false;
    };
    let words = ["v", "vn", "vt", "f", "g", "o", "mtllib", "usemtl", "s"];
    let mut lines = text.lines().map(str::trim).filter(|l| !l.is_empty() && !l.starts_with('#'));
    lines.next().is_some_and(|l| l.split_ascii_whitespace().next().is_some_and(|w| words.contains(&w)))
}

pub(super) fn read(bytes: &[u8]) -> Result<MeshFile, MeshError> {
    let mut builder = Builder::default();
    let (mut object, mut group, mut material) = (String::new(), String::new(), String::new());
    let mut fresh = true;
    let mut corners: Vec<u32> = Vec::new();
    for (number, line) in bytes.split(|b| *b == b'\n').enumerate() {
        let bad = |problem: String| MeshError::BadLine { line: number + 1, problem };
        // Names may be in any encoding; what counts is plain.
        let mut words = line.split(u8::is_ascii_whitespace).filter(|w| !w.is_empty());
        match words.next() {
            Some(b"v") => {
                let mut axis = |name: &str| {
                    let word = words.next().ok_or_else(|| bad(format!("a vertex has no {name}")))?;
                    number_of(word)
                        .ok_or_else(|| bad(format!("{name} is \u{201c}{}\u{201d}, not a number", text(word))))
                };
                builder.vertex(Vec3::new(axis("x")?, axis("y")?, axis("z")?))?;
            }
            Some(b"f") => {
                if fresh {
                    let name = if group.is_empty() { &object } else { &group };
                    builder.part(name, &material)?;
                    fresh = false;
                }
                corners.clear();
                let count = builder.mesh.positions.len();
                for word in words {
                    if corners.len() >= MOST_CORNERS {
                        return Err(bad(format!("a face has more than {MOST_CORNERS} corners")));
                    }
                    corners.push(corner(word, count).map_err(bad)?);
                }
                if corners.len() < 3 {
                    return Err(bad(format!("a face has {} corners; it needs three", corners.len())));
                }
                builder.face(&corners)?;
            }
            Some(b"g") => (group, fresh) = (rest(words), true),
            Some(b"o") => (object, group, fresh) = (rest(words), String::new(), true),
            Some(b"usemtl") => (material, fresh) = (rest(words), true),
            // Normals, texture places, smoothing, lines and comments are not needed.
            _ => {}
        }
    }
    Ok(builder.mesh)
}

/// The vertex of a corner such as `7`, `7/1/3` or `-1`; counted from 1, or back from the last.
fn corner(word: &[u8], count: usize) -> Result<u32, String> {
    let vertex = word.split(|b| *b == b'/').next().unwrap_or_default();
    let bad = || format!("a corner is \u{201c}{}\u{201d}, not the number of a vertex", text(word));
    let number: i64 = std::str::from_utf8(vertex).ok().and_then(|t| t.parse().ok()).ok_or_else(bad)?;
    let index = if number < 0 { count as i64 + number } else { number - 1 };
    if (0..count as i64).contains(&index) {
        return Ok(index as u32);
    }
    Err(format!("a corner names vertex {number}, but there are {count} so far"))
}

fn number_of(word: &[u8]) -> Option<f32> {
    std::str::from_utf8(word).ok()?.parse::<f32>().ok().filter(|v| v.is_finite())
}

fn rest<'a>(words: impl Iterator<Item = &'a [u8]>) -> String {
    words.map(text).collect::<Vec<_>>().join(" ")
}

fn text(word: &[u8]) -> String {
    String::from_utf8_lossy(word).chars().take(40).collect()
}
