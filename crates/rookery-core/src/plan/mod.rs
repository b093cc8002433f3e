//! What lies on the plan of a scene: lines, boxes, and where grounds stand.

mod frame;
pub mod outline;
mod outline_field;
mod plan_box;

pub use frame::Frame;
pub use outline_field::OutlineField;
pub use plan_box::{PlanBox, PlanBoxes};
