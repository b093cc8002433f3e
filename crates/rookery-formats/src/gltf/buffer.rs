//! The binary part of a GLB: views and accessors over one buffer.

use bytemuck::NoUninit;
use serde_json::{Value, json};

const FLOAT: u32 = 5126;
const UNSIGNED_INT: u32 = 5125;

/// What a buffer view is for, as glTF numbers it; instance attributes have none.
#[derive(Clone, Copy)]
pub(super) enum Target {
    Vertices,
    Indices,
    Instances,
}

/// Collects arrays and describes them.
#[derive(Default)]
pub(super) struct Buffer {
    pub bytes: Vec<u8>,
    pub views: Vec<Value>,
    pub accessors: Vec<Value>,
}

impl Buffer {
    /// Adds an array of `f32` vectors; returns its accessor. `bounded` adds the smallest and largest values, which
    /// positions must have.
    pub fn floats<const N: usize>(&mut self, data: &[[f32; N]], target: Target, bounded: bool) -> usize
    where
        [f32; N]: NoUninit,
    {
        let kind = ["SCALAR", "VEC2", "VEC3", "VEC4"][N - 1];
        let view = self.view(bytemuck::cast_slice(data), target);
        let mut accessor =
            json!({"bufferView": view, "componentType": FLOAT, "count": data.len(), "type": kind});
        if bounded {
            let fold = |f: fn(f32, f32) -> f32, from: f32| {
                data.iter().fold([from; N], |acc, v| std::array::from_fn(|i| f(acc[i], v[i]))).to_vec()
            };
            accessor["min"] = json!(fold(f32::min, f32::INFINITY));
            accessor["max"] = json!(fold(f32::max, f32::NEG_INFINITY));
        }
        self.accessors.push(accessor);
        self.accessors.len() - 1
    }

    /// Adds triangle corners; returns their accessor.
    pub fn indices(&mut self, data: &[u32]) -> usize {
        let view = self.view(bytemuck::cast_slice(data), Target::Indices);
        self.accessors.push(
            json!({"bufferView": view, "componentType": UNSIGNED_INT, "count": data.len(), "type": "SCALAR"}),
        );
        self.accessors.len() - 1
    }

    /// Adds bytes that no accessor reads, such as a picture; returns their view.
    pub fn bytes_view(&mut self, bytes: &[u8]) -> usize {
        self.view(bytes, Target::Instances)
    }

    fn view(&mut self, bytes: &[u8], target: Target) -> usize {
        let offset = self.bytes.len();
        self.bytes.extend_from_slice(bytes);
        self.bytes.resize(self.bytes.len().next_multiple_of(4), 0);
        let mut view = json!({"buffer": 0, "byteOffset": offset, "byteLength": bytes.len()});
        match target {
            Target::Vertices => view["target"] = json!(34962),
            Target::Indices => view["target"] = json!(34963),
            Target::Instances => {}
        }
        self.views.push(view);
        self.views.len() - 1
    }
}
