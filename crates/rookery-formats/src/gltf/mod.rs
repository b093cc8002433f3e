//! GLB: binary glTF 2.0 with `EXT_mesh_gpu_instancing`, one instanced node for each layer and form.
//!
//! Sources: Khronos glTF 2.0 specification; the text of `EXT_mesh_gpu_instancing`.

mod buffer;
mod material;
mod tangents;
mod textured;
mod write;

pub use write::{GlbError, write_glb};
