//! Grounds beside the land.

use super::{FARTHEST_M, Refusal, blob, every_stroke, heightmap, moving, name, noise, site, within};
use crate::scene::{GroundId, PlacedGround, PlacedSource};

pub(in crate::scene) fn placed(g: &PlacedGround) -> Result<(), Refusal> {
    if g.id == GroundId::LAND {
        return Err(Refusal::LandTaken);
    }
    name("the ground's name", &g.name)?;
    for v in [g.x_m, g.y_m, g.z_m] {
        within("the place of a ground", v, -FARTHEST_M, FARTHEST_M, " m")?;
    }
    within("the turn of a ground", g.turn_deg, -360.0, 360.0, " degrees")?;
    within("the scale of a ground", g.scale, 0.001, 1000.0, " times")?;
    site::earths(&g.earths)?;
    every_stroke(&g.strokes)?;
    if !g.strokes.is_empty() && !g.source.has_plan() {
        return Err(Refusal::NotSculpted { name: g.name.clone() });
    }
    g.moves.as_ref().map_or(Ok(()), moving::moves)?;
    match &g.source {
        PlacedSource::Mesh(m) => {
            blob(&m.blob)?;
            name("the file's name", &m.name)?;
            within("the number of parts", m.parts.len() as f32, 0.0, 4096.0, "")?;
            within("the unit of a mesh", m.placing.unit_m, 1e-6, 10_000.0, " m")
        }
        PlacedSource::Arch(a) => {
            within("the length of an arch", a.length_m, 4.0, 400.0, " m")?;
            within("the height of an arch", a.height_m, 3.0, 200.0, " m")?;
            within("the thickness of an arch", a.thickness_m, 1.0, 200.0, " m")?;
            within("the opening of an arch", a.opening, 0.0, 0.8, "")?;
            within("ruggedness", a.ruggedness, 0.0, 1.0, "")?;
            // Faces grow with the square of the size: the finest are for small arches.
            let finest = (a.length_m.max(a.height_m).max(a.thickness_m) / 250.0).max(0.1);
            within("the length of an arch's faces", a.detail_m, finest, 10.0, " m")
        }
        PlacedSource::Planet(p) => {
            within("the radius of a planet", p.radius_m, 0.5, 500.0, " m")?;
            within("the relief of a planet", p.relief, 0.0, 0.6, "")?;
            within("the faces of a planet", p.faces as f32, 8.0, 256.0, "")
        }
        PlacedSource::Noise(n) => noise(n),
        PlacedSource::Water(_) => Err(Refusal::WaterIsNoGround),
        PlacedSource::Heightmap(h) => heightmap(h),
    }
}
