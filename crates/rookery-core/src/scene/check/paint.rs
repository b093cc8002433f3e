//! What a painting may be.

use super::{FARTHEST_M, Refusal, count, each, name, within};
use crate::scene::{Paint, PaintStroke};

/// Strokes of one painting, at most.
const MOST_STROKES: usize = 20_000;
const MOST_POINTS: usize = 2000;

pub(in crate::scene) fn paint(paint: &Paint) -> Result<(), Refusal> {
    name("the painting's name", &paint.name)?;
    within("the bare value of a painting", paint.bare, 0.0, 1.0, "")?;
    paint_strokes(paint)?;
    each(&paint.strokes, "stroke", |s| s.id.0, paint_stroke)
}

pub(in crate::scene) fn paint_strokes(paint: &Paint) -> Result<(), Refusal> {
    count("strokes", paint.strokes.len(), MOST_STROKES)
}

pub(in crate::scene) fn paint_stroke(stroke: &PaintStroke) -> Result<(), Refusal> {
    within("the radius of a brush", stroke.radius_m, 0.02, 1000.0, " m")?;
    within("the strength of a brush", stroke.strength, 0.0, 1.0, "")?;
    within("the falloff of a brush", stroke.falloff, 0.0, 1.0, "")?;
    within("the ragged edge of a brush", stroke.ragged, 0.0, 1.0, "")?;
    within("points of a stroke", stroke.points.len() as f32, 1.0, MOST_POINTS as f32, "")?;
    let points = stroke.points.len() as f32;
    if !stroke.pressures.is_empty() {
        within(
            "pressures of a stroke, one for each point",
            stroke.pressures.len() as f32,
            points,
            points,
            "",
        )?;
    }
    stroke.pressures.iter().try_for_each(|v| within("the pressure of a pen", *v, 0.0, 1.0, ""))?;
    stroke
        .points
        .iter()
        .flatten()
        .try_for_each(|v| within("a point of a stroke", *v, -FARTHEST_M, FARTHEST_M, " m"))
}
