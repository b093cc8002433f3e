//! The HTTP interface, each test on a database of its own.

mod common;
mod derived;
mod scenes;
