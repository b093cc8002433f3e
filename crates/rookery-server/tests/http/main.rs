//! The HTTP interface, each test on a database of its own.

mod backup;
mod changed;
mod common;
mod derived;
mod door;
mod earth_pictures;
mod grounds;
mod hostile;
mod motion;
mod nursery;
mod planting;
mod runs;
mod scenes;
mod stills;
mod taken_in;
mod tending;
mod trust;
