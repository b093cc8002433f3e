//! What the rules and the computation promise, a file for each promise. One program, so that it is built and linked once.

#![recursion_limit = "512"]

mod beneath;
mod clearance;
mod clumps;
mod commands;
mod common;
mod cover;
mod drift;
mod driven;
mod findings;
mod fit;
mod likeness;
mod masks;
mod mesh_distance;
mod mesh_ground;
mod names;
mod on_plants;
mod order_of_modules;
mod patterns;
mod redrawn;
mod regrow_on_meshes;
mod scene_cap;
mod sculpted_growth;
mod several_grounds;
mod shares;
mod stability;
mod tend;
mod touches;
mod written_for_the_view;
