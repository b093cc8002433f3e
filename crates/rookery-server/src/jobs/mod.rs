//! Long work. Any number of workers on any machine take jobs from the database.

mod doing;
mod frame;
mod ready;
mod still;
mod worker;

pub use worker::work;

use rookery_core::scene::Shot;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// What a job is to do.
#[derive(Clone, Debug, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum Order {
    /// Take a still.
    Still {
        /// Its row on the contact sheet, which holds the scene.
        still: Uuid,
        /// The shot, with the size and samples asked for.
        shot: Shot,
        /// The moment it shows, seconds; none for one at rest.
        #[serde(default)]
        time_s: Option<f64>,
    },
    /// Take a frame of a run.
    Frame {
        /// Its run, which holds the scene and the shot.
        run: Uuid,
        /// Its number.
        nth: i32,
    },
}
