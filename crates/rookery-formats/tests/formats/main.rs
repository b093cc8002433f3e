//! What is read and written, held against outside references. One program, so that it is built and linked once.

#![recursion_limit = "512"]

mod any_bytes;
#[path = "../../../rookery-core/tests/core/common/mod.rs"]
mod common;
mod handoff;
mod heightmaps;
mod hostile;
mod mesh_grounds;
mod meshes;
mod on_water;
mod outlines;
mod readers;
mod same_name_same_plants;
mod species_files;
mod textured;
mod view_buffers;
