//! What lies on a ground.

use super::{FARTHEST_M, MOST_SIDE_M, Refusal, name, within};
use crate::scene::{
    Earth, Earths, Obstacle, Outline, OutlineKind, SculptTool, Shape, Stroke, WaterPlane, Zone,
};

pub(super) fn earths(e: &Earths) -> Result<(), Refusal> {
    within("the slope of steep ground", e.steep_deg, 5.0, 85.0, " degrees")?;
    within("the height of the shore", e.shore_m, 0.0, 50.0, " m")?;
    within("patches", e.patches, 0.0, 2.0, "")?;
    e.wet.iter().try_for_each(|w| within("the wetness of wet ground", w.from, 0.0, 25.0, ""))
}

pub(super) fn bare(earths: &[Earth]) -> Result<(), Refusal> {
    match earths.iter().enumerate().find(|(i, e)| earths[..*i].contains(e)) {
        Some(_) => Err(Refusal::TwiceBare),
        None => Ok(()),
    }
}

pub(in crate::scene) fn stroke(s: &Stroke) -> Result<(), Refusal> {
    within("the radius of a stroke", s.radius_m, 0.1, 1000.0, " m")?;
    match s.tool {
        SculptTool::Raise | SculptTool::Lower => {
            within("the strength of a stroke", s.strength, 0.0, 200.0, " m")?
        }
        SculptTool::Smooth | SculptTool::Flatten => {
            within("the strength of a stroke", s.strength, 0.0, 1.0, "")?
        }
    }
    within("the falloff of a stroke", s.falloff, 0.0, 1.0, "")?;
    within("the number of points of a stroke", s.points.len() as f32, 1.0, 2000.0, "")?;
    s.points
        .iter()
        .flatten()
        .try_for_each(|v| within("a point of a stroke", *v, -FARTHEST_M, FARTHEST_M, " m"))
}

/// Checks an outline.
///
/// # Errors
/// The first thing found wrong.
pub fn outline(o: &Outline) -> Result<(), Refusal> {
    name("the outline's name", &o.name)?;
    let fewest = if o.kind == OutlineKind::Track { 2.0 } else { 3.0 };
    within("the number of nodes of an outline", o.nodes.len() as f32, fewest, 1000.0, "")?;
    o.nodes
        .iter()
        .flatten()
        .try_for_each(|v| within("a node of an outline", *v, -FARTHEST_M, FARTHEST_M, " m"))?;
    within("the soft edge of an outline", o.soft_m, 0.0, 100.0, " m")?;
    within("the width of a track", o.width_m, 0.05, 100.0, " m")
}

pub(in crate::scene) fn water(w: &WaterPlane) -> Result<(), Refusal> {
    name("the water's name", &w.name)?;
    within("the height of the water", w.height_m, -1000.0, 10_000.0, " m")?;
    for v in [w.x_m, w.z_m] {
        within("the place of the water", v, -FARTHEST_M, FARTHEST_M, " m")?;
    }
    for v in [w.width_m, w.depth_m] {
        within("the size of the water", v, 0.1, MOST_SIDE_M, " m")?;
    }
    within("the turn of the water", w.turn_deg, -360.0, 360.0, " degrees")
}

pub(in crate::scene) fn zone(z: &Zone) -> Result<(), Refusal> {
    name("the zone's name", &z.name)?;
    within("the number of outlines of a zone", z.outlines.len() as f32, 0.0, 1000.0, "")?;
    within("the number of face groups of a zone", z.groups.len() as f32, 0.0, 4096.0, "")?;
    z.groups.iter().try_for_each(|g| name("the name of a face group", &g.name))
}

pub(in crate::scene) fn obstacle(o: &Obstacle) -> Result<(), Refusal> {
    name("the obstacle's name", &o.name)?;
    for v in [o.x_m, o.z_m, o.lift_m] {
        within("the place of an obstacle", v, -FARTHEST_M, FARTHEST_M, " m")?;
    }
    within("the turn of an obstacle", o.turn_deg, -360.0, 360.0, " degrees")?;
    within("the scale of an obstacle", o.scale, 0.01, 100.0, " times")?;
    let length = |v: &f32| within("a length of an obstacle", *v, 0.05, 500.0, " m");
    match &o.shape {
        Shape::Box { width_m, depth_m, height_m } => {
            [width_m, depth_m, height_m].into_iter().try_for_each(length)
        }
        Shape::Cylinder { radius_m, height_m } => [radius_m, height_m].into_iter().try_for_each(length),
        Shape::Wall { points, height_m, thickness_m } => {
            within("the number of points of a wall", points.len() as f32, 2.0, 200.0, "")?;
            points
                .iter()
                .flatten()
                .try_for_each(|v| within("a point of a wall", *v, -2000.0, 2000.0, " m"))?;
            within("the height of a wall", *height_m, 0.2, 10.0, " m")?;
            within("the thickness of a wall", *thickness_m, 0.1, 5.0, " m")
        }
        Shape::Cottage { width_m, depth_m, eaves_m, roof_deg } => {
            within("the width of a cottage", *width_m, 3.0, 100.0, " m")?;
            within("the depth of a cottage", *depth_m, 3.0, 100.0, " m")?;
            within("the eaves of a cottage", *eaves_m, 1.8, 20.0, " m")?;
            within("the steepness of a roof", *roof_deg, 10.0, 70.0, " degrees")
        }
        Shape::Steps { width_m, count, rise_m, tread_m } => {
            within("the number of steps", *count as f32, 1.0, 200.0, "")?;
            [width_m, rise_m, tread_m].into_iter().try_for_each(length)
        }
        Shape::Mesh { blob, name: file, placing } => {
            super::blob(blob)?;
            name("the file's name", file)?;
            within("the unit of a mesh", placing.unit_m, 1e-6, 10_000.0, " m")
        }
        Shape::Boulder { size_m, form } => {
            within("the form of a boulder", f32::from(*form), 0.0, 5.0, "")?;
            length(size_m)
        }
    }
}
