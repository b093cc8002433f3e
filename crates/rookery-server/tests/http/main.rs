//! The HTTP interface, each test on a database of its own.

#[cfg(test)]
mod backup;
#[cfg(test)]
mod common;
#[cfg(test)]
mod derived;
#[cfg(test)]
mod door;
#[cfg(test)]
mod grounds;
#[cfg(test)]
mod hostile;
#[cfg(test)]
mod nursery;
mod planting;
#[cfg(test)]
mod scenes;
mod tending;
mod trust;
