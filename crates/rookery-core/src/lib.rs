//! The rules and the computation of Rookery.
//!
//! Pure: no files, network, clock, globals or interface code. Everything derived is a function of a
//! [`scene::Document`] and the heights it names; see `docs/architecture.md` for the map.
//!
//! Units: metres, Y up, right-handed, +X east, -Z north. Turns are degrees clockwise from north.

#![cfg_attr(not(test), warn(clippy::unwrap_used))]

pub mod air;
pub mod cancel;
pub mod clouds;
pub mod community;
pub mod document;
pub mod ground;
pub mod habitat;
pub mod math;
pub mod measure;
pub mod motion;
pub mod names;
pub mod nap;
pub mod nursery;
pub mod pattern;
pub mod plan;
pub mod planting;
pub mod proxy;
pub mod scene;
pub mod soils;
pub mod textures;
pub mod water;
