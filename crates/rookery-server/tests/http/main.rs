//! The HTTP interface, each test on a database of its own.

#[cfg(test)]
mod common;
#[cfg(test)]
mod derived;
#[cfg(test)]
mod grounds;
#[cfg(test)]
mod nursery;
mod planting;
#[cfg(test)]
mod scenes;
mod tending;
mod trust;
