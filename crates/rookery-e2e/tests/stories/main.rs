//! Stories in a real browser. One program, so that it is built and linked once.

mod at_rest;
mod by_hand;
mod earths;
mod first_day;
mod first_hour;
mod grounds;
mod motion;
mod nursery;
mod planting;
mod sky_and_sea;
mod tending;
mod trust;
