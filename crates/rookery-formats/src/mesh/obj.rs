//! Wavefront OBJ: vertices, faces, groups, objects and material names.

use super::{Builder, MOST_CORNERS, MOST_VERTICES, MeshError, MeshFile};
use glam::{Vec2, Vec3};
use rookery_core::nursery::srgb_to_linear;
use std::collections::BTreeMap;

/// Characters of a name that are read.
const LONGEST_NAME: usize = 80;
/// Numbers of a line that are read beside the first three.
const MOST_NUMBERS: usize = 4;

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

pub(super) fn read(bytes: &[u8], mut builder: Builder) -> Result<MeshFile, MeshError> {
    let mut file = Numbers::default();
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
                let place = Vec3::new(axis("x")?, axis("y")?, axis("z")?);
                // A common extension: three more numbers are its colour, sRGB.
                let more = numbers(words).filter(|c| c.len() == 3 && builder.looks);
                file.vertex(&mut builder, place, more.map(|c| Vec3::new(c[0], c[1], c[2])))?;
            }
            Some(b"vn") if builder.looks => {
                let n = numbers(words).filter(|n| n.len() == 3);
                file.normals.push(n.map_or(Vec3::ZERO, |n| Vec3::new(n[0], n[1], n[2])));
            }
            Some(b"vt") if builder.looks => {
                // Its pictures begin at the lower left corner.
                let t = numbers(words).filter(|t| t.len() >= 2);
                file.uvs.push(t.map_or(Vec2::ZERO, |t| Vec2::new(t[0], 1.0 - t[1])));
            }
            Some(b"mtllib") => {
                builder.left_out("materials (they lie in another file; a GLB has them inside)");
            }
            Some(b"f") => {
                if fresh {
                    let name = if group.is_empty() { &object } else { &group };
                    builder.part(name, &material)?;
                    fresh = false;
                }
                corners.clear();
                for word in words {
                    if corners.len() >= MOST_CORNERS {
                        return Err(bad(format!("a face has more than {MOST_CORNERS} corners")));
                    }
                    corners.push(file.corner(&mut builder, word).map_err(|e| e.unwrap_or_else(bad))?);
                }
                if corners.len() < 3 {
                    return Err(bad(format!("a face has {} corners; it needs three", corners.len())));
                }
                builder.face(&corners)?;
            }
            Some(b"g") => (group, fresh) = (rest(words), true),
            Some(b"o") => (object, group, fresh) = (rest(words), String::new(), true),
            Some(b"usemtl") => (material, fresh) = (rest(words), true),
            // Smoothing, lines and comments are not needed.
            _ => {}
        }
    }
    Ok(builder.mesh)
}

/// The numbers of a file and the vertices they have become.
#[derive(Default)]
struct Numbers {
    places: Vec<(Vec3, Option<Vec3>)>,
    uvs: Vec<Vec2>,
    normals: Vec<Vec3>,
    /// Vertices by their three numbers, where looks are read.
    known: BTreeMap<[u32; 3], u32>,
}

impl Numbers {
    fn vertex(&mut self, builder: &mut Builder, place: Vec3, colour: Option<Vec3>) -> Result<(), MeshError> {
        if !builder.looks {
            self.places.push((place, None));
            return builder.vertex(place);
        }
        if self.places.len() >= MOST_VERTICES {
            return Err(MeshError::TooMuch { what: "vertices", limit: MOST_VERTICES });
        }
        let linear = |c: f32| srgb_to_linear((c.clamp(0.0, 1.0) * 255.0).round() as u8);
        self.places.push((place, colour.map(|c| Vec3::new(linear(c.x), linear(c.y), linear(c.z)))));
        Ok(())
    }

    /// The vertex of a corner such as `7`, `7/1/3` or `-1`; counted from 1, or back from the last.
    fn corner(&mut self, builder: &mut Builder, word: &[u8]) -> Result<u32, Result<MeshError, String>> {
        let mut fields = word.split(|b| *b == b'/');
        let vertex = index(fields.next().unwrap_or_default(), self.places.len(), word).map_err(Err)?;
        if !builder.looks {
            return Ok(vertex);
        }
        let mut field = |count: usize| {
            fields
                .next()
                .filter(|f| !f.is_empty())
                .and_then(|f| index(f, count, word).ok())
                .unwrap_or(u32::MAX)
        };
        let key = [vertex, field(self.uvs.len()), field(self.normals.len())];
        if let Some(known) = self.known.get(&key) {
            return Ok(*known);
        }
        let (place, colour) = self.places[vertex as usize];
        builder.vertex(place).map_err(Ok)?;
        let normal = self.normals.get(key[2] as usize).copied();
        builder.dress(normal, colour, self.uvs.get(key[1] as usize).copied());
        let number = builder.mesh.positions.len() as u32 - 1;
        self.known.insert(key, number);
        Ok(number)
    }
}

/// The place of a number in its list of `count`.
fn index(field: &[u8], count: usize, word: &[u8]) -> Result<u32, String> {
    let bad = || format!("a corner is \u{201c}{}\u{201d}, not the number of a vertex", text(word));
    let number: i64 = std::str::from_utf8(field).ok().and_then(|t| t.parse().ok()).ok_or_else(bad)?;
    let index = if number < 0 { count as i64 + number } else { number - 1 };
    if (0..count as i64).contains(&index) {
        return Ok(index as u32);
    }
    Err(format!("a corner names vertex {number}, but there are {count} so far"))
}

/// All that is left of a line as numbers, a few at most; none when one of them is not.
fn numbers<'a>(words: impl Iterator<Item = &'a [u8]>) -> Option<Vec<f32>> {
    words.take(MOST_NUMBERS).map(number_of).collect()
}

fn number_of(word: &[u8]) -> Option<f32> {
    std::str::from_utf8(word).ok()?.parse::<f32>().ok().filter(|v| v.is_finite())
}

/// What is left of a line as a name; no more of it than names are long.
fn rest<'a>(words: impl Iterator<Item = &'a [u8]>) -> String {
    words.take(LONGEST_NAME).map(text).collect::<Vec<_>>().join(" ").chars().take(LONGEST_NAME).collect()
}

fn text(word: &[u8]) -> String {
    String::from_utf8_lossy(&word[..word.len().min(160)]).chars().take(40).collect()
}
