//! The Rookery server and command line.
//!
//! `routes` answers HTTP, `db` keeps scenes and their log, `scenes` changes them and tells who watches, `growth` computes and caches what is derived from them,
//! `jobs` does long work, `cli` does all of it without a server.

#![cfg_attr(not(test), warn(clippy::unwrap_used, clippy::indexing_slicing))]

pub mod app;
pub mod cli;
pub mod db;
pub mod error;
pub mod events;
pub mod extract;
pub mod growth;
pub mod jobs;
pub mod openapi;
pub mod reading;
pub mod routes;
pub mod scenes;
