//! What the nap leaves of a beam is what the view's formula says (Monsi & Saeki 1953), by rays through the nap itself.

use glam::{Vec2, Vec3, vec2};
use rookery_core::document::Earths;
use rookery_core::ground::{GroundModel, Terrain};
use rookery_core::math::hash::{pcg4d, unit};
use rookery_core::nap::{Nap, about, above, leaf_area, passes};
use rookery_core::textures::Sheets;
use rookery_render::RenderScene;
use rookery_render::accel::Ray;
use rookery_render::light::Light;

const GROUND_M: f32 = 9.0;

#[test]
fn a_beam_passes_the_sward_as_it_passes_layers_of_leaf() {
    let terrain = Terrain::new(65, 65, Vec2::splat(2.0), vec![GROUND_M; 65 * 65]).unwrap();
    let model = GroundModel::with_earths(terrain, Some(0.0), Earths { patches: 0.0, ..Earths::default() }, 3);
    let eye = Vec3::new(0.0, GROUND_M + 1.6, 0.0);
    let nap = about(&model, &[], &[], &Sheets::usual(), eye);
    assert!(nap.iter().all(|(tuft, _)| tuft.nap == Nap::Sward));
    let mut scene = RenderScene::of_mesh(None, Light::uniform(1.0));
    scene.lay(&nap);
    let area = leaf_area(Nap::Sward);
    for degrees in [15.0_f32, 34.0, 60.0] {
        for height_m in [0.002, 0.02, 0.04] {
            let free = (0..4000).filter(|i| {
                let [x, z, turn, _] = pcg4d([*i, 7, 1, 2]).map(unit);
                // Within the distance where it is whole and drawn with all its blades.
                let p = (vec2(x, z) - 0.5) * 8.0;
                let (rise, way) = (degrees.to_radians(), Vec2::from_angle(turn * std::f32::consts::TAU));
                let to = Vec3::new(way.x * rise.cos(), rise.sin(), way.y * rise.cos());
                !scene.blocks(&Ray::new(Vec3::new(p.x, GROUND_M + height_m, p.y).into(), to.into()))
            });
            let found = free.count() as f32 / 4000.0;
            let said = passes(area * above(height_m), degrees.to_radians().sin());
            assert!((found - said).abs() < 0.04, "{degrees} degrees, {height_m} m: {found}, not {said}");
        }
    }
}
