//! Open formats in and out, and the compact buffers that the view reads.
//!
//! Readers take bytes that anyone may have written: they check sizes before they spend memory, and name the line
//! or the reason of what is wrong.

#![cfg_attr(not(test), warn(clippy::unwrap_used))]

pub mod frames;
pub mod gltf;
mod ground;
pub mod heightmap;
pub mod mesh;
pub mod outlines;
pub mod picture;
pub mod table;
pub mod view;

pub use ground::{GroundError, body_from_file, ground_model, obstacle_mesh, placed_model};

use rookery_core::{
    motion::MotionFacts,
    nursery::Mesh,
    planting::Plant,
    planting::clearance::fit::Fits,
    scene::{Document, Layer},
    soils::FromAbove,
    textures::Sheets,
};

/// A grown layer, ready to be handed off.
#[derive(Clone, Copy, Debug)]
pub struct GrownLayer<'a> {
    /// Its settings.
    pub layer: &'a Layer,
    /// Its plants in the scene's own frame.
    pub plants: &'a [Plant],
    /// Those of them that have forms of their own.
    pub fits: &'a Fits,
}

/// Pictures of what surfaces look like up close.
#[derive(Clone, Copy, Debug)]
pub struct Textured<'a> {
    /// The land, first of the grounds, from straight above; none where it is not shown.
    pub land: Option<&'a FromAbove>,
    /// What built things are made of.
    pub sheets: &'a Sheets,
}

/// What is handed off: the grounds and the visible layers.
#[derive(Clone, Debug)]
pub struct Handoff<'a> {
    /// The scene.
    pub document: &'a Document,
    /// The land and the grounds beside it by name, where they stand. Hidden ones are left out by the caller.
    pub grounds: Vec<(String, Mesh)>,
    /// Obstacles by name, where they stand. Hidden ones are left out by the caller.
    pub obstacles: Vec<(String, Mesh)>,
    /// Hidden layers are left out by the caller.
    pub layers: Vec<GrownLayer<'a>>,
    /// How they move in the wind; none in a calm.
    pub motion: Option<MotionFacts>,
    /// What a GLB's surfaces look like up close; none for colours at their corners alone.
    pub textures: Option<Textured<'a>>,
}
