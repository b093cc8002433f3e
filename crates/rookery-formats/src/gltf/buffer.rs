//! The binary part of a GLB: views and accessors over one buffer.

use bytemuck::NoUninit;
use gltf::json::accessor::{ComponentType, GenericComponentType, Type};
use gltf::json::buffer::{Target, View};
use gltf::json::validation::Checked::Valid;
use gltf::json::validation::USize64;
use gltf::json::{Accessor, Index, Root, Value};

/// A file with the bytes its views lie in.
#[derive(Default)]
pub(super) struct Binary {
    pub root: Root,
    pub bytes: Vec<u8>,
}

impl Binary {
    /// Adds an array of `f32` vectors for vertices. `bounded` adds the smallest and largest values, which positions must have.
    pub fn vertices<const N: usize>(&mut self, data: &[[f32; N]], bounded: bool) -> Index<Accessor>
    where
        [f32; N]: NoUninit,
    {
        let fold = |f: fn(f32, f32) -> f32, from: f32| -> Value {
            data.iter().fold([from; N], |acc, v| std::array::from_fn(|i| f(acc[i], v[i]))).to_vec().into()
        };
        let min = bounded.then(|| fold(f32::min, f32::INFINITY));
        let max = bounded.then(|| fold(f32::max, f32::NEG_INFINITY));
        let view = self.view(bytemuck::cast_slice(data), Some(Target::ArrayBuffer));
        let accessor = accessor(view, ComponentType::F32, shape(N), data.len());
        self.root.push(Accessor { min, max, ..accessor })
    }

    /// Adds an array of `f32` vectors, one for each instance.
    pub fn instances<const N: usize>(&mut self, data: &[[f32; N]]) -> Index<Accessor>
    where
        [f32; N]: NoUninit,
    {
        let view = self.view(bytemuck::cast_slice(data), None);
        self.root.push(accessor(view, ComponentType::F32, shape(N), data.len()))
    }

    /// Adds triangle corners.
    pub fn indices(&mut self, data: &[u32]) -> Index<Accessor> {
        let view = self.view(bytemuck::cast_slice(data), Some(Target::ElementArrayBuffer));
        self.root.push(accessor(view, ComponentType::U32, Type::Scalar, data.len()))
    }

    /// Adds bytes that no accessor reads, such as a picture, or that have a target.
    pub fn view(&mut self, bytes: &[u8], target: Option<Target>) -> Index<View> {
        let offset = self.bytes.len();
        self.bytes.extend_from_slice(bytes);
        self.bytes.resize(self.bytes.len().next_multiple_of(4), 0);
        self.root.push(View {
            buffer: Index::new(0),
            byte_length: USize64::from(bytes.len()),
            byte_offset: Some(USize64::from(offset)),
            byte_stride: None,
            name: None,
            target: target.map(Valid),
            extensions: None,
            extras: Default::default(),
        })
    }
}

fn shape(wide: usize) -> Type {
    [Type::Scalar, Type::Vec2, Type::Vec3, Type::Vec4][wide - 1]
}

fn accessor(view: Index<View>, each: ComponentType, shape: Type, count: usize) -> Accessor {
    Accessor {
        buffer_view: Some(view),
        byte_offset: None,
        count: USize64::from(count),
        component_type: Valid(GenericComponentType(each)),
        extensions: None,
        extras: Default::default(),
        type_: Valid(shape),
        min: None,
        max: None,
        name: None,
        normalized: false,
        sparse: None,
    }
}
