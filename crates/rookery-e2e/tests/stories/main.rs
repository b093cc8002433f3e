//! Stories in a real browser. One program, so that it is built and linked once.

mod by_hand;
mod first_day;
mod grounds;
mod nursery;
mod planting;
mod tending;
mod trust;
