//! PLY, ascii and binary of either byte order: vertices and faces; other elements are passed over.
//!
//! Source: Turk, "The PLY Polygon File Format", 1994.

use super::{Builder, MOST_CORNERS, MOST_TRIANGLES, MOST_VERTICES, MeshError, MeshFile};
use glam::{Vec2, Vec3};
use rookery_core::nursery::srgb_to_linear;

#[derive(Clone, Copy, PartialEq)]
enum Coding {
    Ascii,
    Little,
    Big,
}

#[derive(Clone, Copy, Debug, PartialEq)]
enum Number {
    I8,
    U8,
    I16,
    U16,
    I32,
    U32,
    F32,
    F64,
}

enum Property {
    One(String, Number),
    List(String, Number, Number),
}

struct Element {
    name: String,
    count: usize,
    properties: Vec<Property>,
}

pub(super) fn read(bytes: &[u8], mut builder: Builder) -> Result<MeshFile, MeshError> {
    let (coding, elements, body, lines) = head(bytes)?;
    let mut source = Source { bytes, at: body, coding, line: lines };
    let mut values = Vec::new();
    for element in &elements {
        for _ in 0..element.count {
            let mut place = [0.0_f64; 3];
            let mut look = Look::default();
            for property in &element.properties {
                match property {
                    Property::One(name, kind) => {
                        let value = source.number(*kind)?;
                        if let Some(axis) = ["x", "y", "z"].iter().position(|a| a == name) {
                            place[axis] = value;
                        } else if builder.looks {
                            look.take(name, *kind, value);
                        }
                    }
                    Property::List(name, count, kind) => {
                        let length = source.number(*count)?;
                        if !(0.0..=MOST_CORNERS as f64).contains(&length) || length.fract() != 0.0 {
                            return Err(source.bad(format!("a list has {length} items")));
                        }
                        values.clear();
                        for _ in 0..length as usize {
                            values.push(source.number(*kind)?);
                        }
                        if element.name == "face" && (name == "vertex_indices" || name == "vertex_index") {
                            face(&mut builder, &values).map_err(|e| e.unwrap_or_else(|p| source.bad(p)))?;
                        }
                    }
                }
            }
            if element.name == "vertex" {
                let p = Vec3::from(place.map(|v| v as f32));
                if !p.is_finite() {
                    return Err(source.bad("a vertex is not a finite number".to_owned()));
                }
                builder.vertex(p)?;
                let Look { normal, colour, uv } = look;
                let finite = |v: [f64; 3]| Some(Vec3::from(v.map(|c| c as f32))).filter(|v| v.is_finite());
                builder.dress(
                    normal.and_then(finite),
                    colour.and_then(finite).map(|c| c.clamp(Vec3::ZERO, Vec3::ONE)),
                    // Its pictures begin at the lower left corner.
                    uv.map(|[u, v]| Vec2::new(u as f32, 1.0 - v as f32)).filter(|v| v.is_finite()),
                );
            }
            source.end_of_item()?;
        }
    }
    Ok(builder.mesh)
}

/// What a vertex says about itself beside its place.
#[derive(Default)]
struct Look {
    normal: Option<[f64; 3]>,
    colour: Option<[f64; 3]>,
    uv: Option<[f64; 2]>,
}

impl Look {
    fn take(&mut self, name: &str, kind: Number, value: f64) {
        // Whole numbers are sRGB bytes; fractions are taken for sRGB too, as most programs write them.
        let share = match kind {
            Number::F32 | Number::F64 => (value.clamp(0.0, 1.0) * 255.0).round() as u8,
            Number::U16 => (value / 257.0) as u8,
            _ => value.clamp(0.0, 255.0) as u8,
        };
        match name {
            "nx" => self.normal.get_or_insert_default()[0] = value,
            "ny" => self.normal.get_or_insert_default()[1] = value,
            "nz" => self.normal.get_or_insert_default()[2] = value,
            "red" => self.colour.get_or_insert_default()[0] = f64::from(srgb_to_linear(share)),
            "green" => self.colour.get_or_insert_default()[1] = f64::from(srgb_to_linear(share)),
            "blue" => self.colour.get_or_insert_default()[2] = f64::from(srgb_to_linear(share)),
            "s" | "u" | "texture_u" => self.uv.get_or_insert_default()[0] = value,
            "t" | "v" | "texture_v" => self.uv.get_or_insert_default()[1] = value,
            _ => {}
        }
    }
}

fn face(builder: &mut Builder, values: &[f64]) -> Result<(), Result<MeshError, String>> {
    let count = builder.mesh.positions.len();
    if values.len() < 3 {
        return Err(Err(format!("a face has {} corners; it needs three", values.len())));
    }
    let mut corners = Vec::with_capacity(values.len());
    for v in values {
        if !(0.0..count as f64).contains(v) {
            return Err(Err(format!("a face names vertex {v}, but there are {count}")));
        }
        corners.push(*v as u32);
    }
    builder.face(&corners).map_err(Ok)
}

fn head(bytes: &[u8]) -> Result<(Coding, Vec<Element>, usize, usize), MeshError> {
    let mut coding = None;
    let mut elements: Vec<Element> = Vec::new();
    let (mut at, mut number) = (0, 0);
    loop {
        number += 1;
        let bad = |problem: String| MeshError::BadLine { line: number, problem };
        let end = bytes[at..].iter().take(1024).position(|b| *b == b'\n');
        let end = end.ok_or_else(|| bad("the head does not end".to_owned()))?;
        let line = String::from_utf8_lossy(&bytes[at..at + end]).trim().to_owned();
        at += end + 1;
        let words: Vec<&str> = line.split_ascii_whitespace().collect();
        match words.as_slice() {
            ["ply"] | ["comment" | "obj_info", ..] | [] => {}
            ["format", kind, _] => {
                coding = Some(match *kind {
                    "ascii" => Coding::Ascii,
                    "binary_little_endian" => Coding::Little,
                    "binary_big_endian" => Coding::Big,
                    other => return Err(bad(format!("the format is \u{201c}{other}\u{201d}"))),
                });
            }
            ["element", name, count] => {
                let count: usize = count
                    .parse()
                    .map_err(|_| bad(format!("the count is \u{201c}{count}\u{201d}, not a whole number")))?;
                if count > MOST_VERTICES {
                    let (what, limit) = if *name == "face" {
                        ("triangles", MOST_TRIANGLES)
                    } else {
                        ("vertices", MOST_VERTICES)
                    };
                    return Err(MeshError::TooMuch { what, limit });
                }
                elements.push(Element { name: (*name).to_owned(), count, properties: Vec::new() });
            }
            ["property", "list", count, kind, name] => {
                let property = Property::List(
                    (*name).to_owned(),
                    kind_of(count).map_err(bad)?,
                    kind_of(kind).map_err(bad)?,
                );
                elements
                    .last_mut()
                    .ok_or_else(|| bad("a property belongs to no element".to_owned()))?
                    .properties
                    .push(property);
            }
            ["property", kind, name] => {
                let property = Property::One((*name).to_owned(), kind_of(kind).map_err(bad)?);
                elements
                    .last_mut()
                    .ok_or_else(|| bad("a property belongs to no element".to_owned()))?
                    .properties
                    .push(property);
            }
            ["end_header"] => {
                let coding = coding.ok_or_else(|| bad("the head states no format".to_owned()))?;
                if elements.iter().any(|e| e.properties.is_empty() && e.count > 0) {
                    return Err(bad("an element has no properties".to_owned()));
                }
                return Ok((coding, elements, at, number));
            }
            _ => {
                return Err(bad(format!(
                    "\u{201c}{}\u{201d} is not part of a PLY head",
                    line.chars().take(40).collect::<String>()
                )));
            }
        }
    }
}

fn kind_of(word: &str) -> Result<Number, String> {
    Ok(match word {
        "char" | "int8" => Number::I8,
        "uchar" | "uint8" => Number::U8,
        "short" | "int16" => Number::I16,
        "ushort" | "uint16" => Number::U16,
        "int" | "int32" => Number::I32,
        "uint" | "uint32" => Number::U32,
        "float" | "float32" => Number::F32,
        "double" | "float64" => Number::F64,
        other => return Err(format!("\u{201c}{other}\u{201d} is not a kind of number")),
    })
}

struct Source<'a> {
    bytes: &'a [u8],
    at: usize,
    coding: Coding,
    line: usize,
}

impl Source<'_> {
    fn bad(&self, problem: String) -> MeshError {
        match self.coding {
            Coding::Ascii => MeshError::BadLine { line: self.line + 1, problem },
            _ => MeshError::BadByte { offset: self.at, problem },
        }
    }

    fn number(&mut self, kind: Number) -> Result<f64, MeshError> {
        if self.coding == Coding::Ascii {
            return self.word();
        }
        let size = match kind {
            Number::I8 | Number::U8 => 1,
            Number::I16 | Number::U16 => 2,
            Number::I32 | Number::U32 | Number::F32 => 4,
            Number::F64 => 8,
        };
        let Some(raw) = self.bytes.get(self.at..self.at + size) else {
            return Err(self.bad("the file ends early".to_owned()));
        };
        self.at += size;
        let mut b = [0; 8];
        b[..size].copy_from_slice(raw);
        if self.coding == Coding::Big {
            b[..size].reverse();
        }
        let [b0, b1, b2, b3, ..] = b;
        Ok(match kind {
            Number::I8 => f64::from(b0 as i8),
            Number::U8 => f64::from(b0),
            Number::I16 => f64::from(i16::from_le_bytes([b0, b1])),
            Number::U16 => f64::from(u16::from_le_bytes([b0, b1])),
            Number::I32 => f64::from(i32::from_le_bytes([b0, b1, b2, b3])),
            Number::U32 => f64::from(u32::from_le_bytes([b0, b1, b2, b3])),
            Number::F32 => f64::from(f32::from_le_bytes([b0, b1, b2, b3])),
            Number::F64 => f64::from_le_bytes(b),
        })
    }

    /// The next word of an ascii body; an item's words stand on one line.
    fn word(&mut self) -> Result<f64, MeshError> {
        let rest = &self.bytes[self.at.min(self.bytes.len())..];
        let start = rest.iter().position(|b| !matches!(b, b' ' | b'\t' | b'\r')).unwrap_or(rest.len());
        let word = &rest[start..];
        let end = word.iter().position(u8::is_ascii_whitespace).unwrap_or(word.len());
        let word = &word[..end];
        self.at += start + end;
        if word.is_empty() {
            return Err(self.bad("the line ends early".to_owned()));
        }
        let number = std::str::from_utf8(word).ok().and_then(|t| t.parse::<f64>().ok());
        number.ok_or_else(|| {
            let word: String = String::from_utf8_lossy(word).chars().take(24).collect();
            self.bad(format!("\u{201c}{word}\u{201d} is not a number"))
        })
    }

    fn end_of_item(&mut self) -> Result<(), MeshError> {
        if self.coding == Coding::Ascii {
            let rest = &self.bytes[self.at.min(self.bytes.len())..];
            let end = rest.iter().position(|b| *b == b'\n').map_or(rest.len(), |e| e + 1);
            self.at += end;
            self.line += 1;
        }
        Ok(())
    }
}
