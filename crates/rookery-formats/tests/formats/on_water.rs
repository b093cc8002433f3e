//! Layers that grow on a sheet of water.

use glam::Vec3;
use rookery_core::cancel::CancelToken;
use rookery_core::ground::GroundRef;
use rookery_core::nursery::ready_species;
use rookery_core::planting::{Growth, grow_everywhere};
use rookery_core::scene::*;
use rookery_formats::{ground_model, placed_model};

const SHEET: WaterId = WaterId(5);

/// Rolling land with a pool in it, half of which lies over dry land, and lilies on the pool.
fn scene() -> Document {
    let mut d = bare();
    d.ground.source = GroundSource::Noise(NoiseGround {
        size_m: 60.0,
        relief_m: 6.0,
        samples: 257,
        ..NoiseGround::default()
    });
    d.ground.water_m = None;
    let land = ground_model(&d, |_| None).unwrap();
    let height_m = land.terrain.height_at(2.0, -3.0);
    d.waters = vec![WaterPlane {
        id: SHEET,
        name: "Pool".into(),
        height_m,
        x_m: 2.0,
        z_m: -3.0,
        width_m: 24.0,
        depth_m: 18.0,
        turn_deg: 30.0,
        round: true,
    }];
    let lily = ready_species(&SpeciesId("water-lily".into())).unwrap();
    d.layers = vec![Layer {
        grounds: vec![GroundId::of_water(SHEET).unwrap()],
        ..Layer::usual(lily, LayerId(1), "Lilies")
    }];
    d
}

fn grown(d: &Document) -> Growth {
    let land = ground_model(d, |_| None).unwrap();
    let ids = d.water_ids();
    let waters: Vec<_> =
        ids.iter().map(|id| (*id, placed_model(&d.placed(*id).unwrap(), None, |_| None).unwrap())).collect();
    let model = |id: GroundId| -> Option<GroundRef<'_>> {
        if id == GroundId::LAND {
            return (!d.ground.absent).then_some((&land).into());
        }
        waters.iter().find(|(own, _)| *own == id).map(|(_, g)| g.as_ref())
    };
    grow_everywhere(d, &d.layers[0], &model, &|_| None, &CancelToken::default()).unwrap()
}

#[test]
fn lilies_lie_on_the_pool_and_stay_inside_its_rim() {
    let d = scene();
    let terrain = ground_model(&d, |_| None).unwrap().terrain;
    let (growth, pool) = (grown(&d), &d.waters[0]);
    assert!(growth.plants.len() > 20, "{}", growth.plants.len());
    for p in &growth.plants {
        let Vec3 { x, y, z } = p.position_m;
        assert!((y - pool.height_m).abs() < 1e-4, "neither sunk nor raised: {y}");
        assert!(pool.covers(x, z), "beside the sheet: {x} {z}");
        assert!(terrain.height_at(x, z) < pool.height_m, "over dry land: {x} {z}");
    }
    // Asked and placed agree, and so does the area: a density counts the wet part alone.
    let wet = (0..4000).map(|i| {
        let (u, v) = ((i as f32 * 0.754_877_7).fract() - 0.5, (i as f32 * 0.569_840_3).fract() - 0.5);
        let (x, z) = (pool.x_m + u * 40.0, pool.z_m + v * 40.0);
        pool.covers(x, z) && terrain.height_at(x, z) < pool.height_m - 0.06
    });
    let wet_m2 = wet.filter(|w| *w).count() as f64 / 4000.0 * 1600.0;
    assert!(
        (growth.tally.allowed_m2 / wet_m2 - 1.0).abs() < 0.08,
        "{} of {wet_m2} m2",
        growth.tally.allowed_m2
    );
}

#[test]
fn lilies_go_along_with_their_pool_and_none_reshuffles_where_the_shore_changes() {
    let mut d = scene();
    // Of those that keep clear of their kind others come up where one goes.
    d.layers[0].clearance = Clearance::default();
    let before = grown(&d);
    // Nothing but the land beneath changes: whoever is still wet stays.
    d.ground.strokes.push(Stroke {
        id: StrokeId(1),
        tool: SculptTool::Raise,
        radius_m: 5.0,
        strength: 4.0,
        falloff: 0.5,
        points: vec![[2.0, -3.0]],
    });
    let after = grown(&d);
    assert!(after.plants.len() < before.plants.len());
    let known: std::collections::HashMap<_, _> = before.plants.iter().map(|p| (p.id, p.position_m)).collect();
    for p in &after.plants {
        assert_eq!(known.get(&p.id), Some(&p.position_m), "a lily that was not there before");
    }
    // Without land all of it is deep, and where the pool stands plays no part.
    let mut d = scene();
    d.ground.absent = true;
    let here = grown(&d);
    (d.waters[0].x_m, d.waters[0].height_m) = (-9.0, 40.0);
    let there = grown(&d);
    assert_eq!(here.plants.len(), there.plants.len());
    for (a, b) in here.plants.iter().zip(&there.plants) {
        assert_eq!((a.id, a.size), (b.id, b.size));
        assert!((b.position_m - a.position_m - (there_from_here())).length() < 1e-3);
    }
}

fn there_from_here() -> Vec3 {
    let d = scene();
    Vec3::new(-11.0, 40.0 - d.waters[0].height_m, 0.0)
}

#[test]
fn reeds_stand_on_the_land_where_water_is_as_deep_as_they_like() {
    let mut d = scene();
    let reed = ready_species(&SpeciesId("reed".into())).unwrap();
    let deep = Mask::band(MaskId(1), Quantity::WaterDepth, [0.0, 0.1, 0.6, 0.8]);
    d.layers = vec![Layer {
        masks: vec![deep],
        amount: Amount::PerM2 { value: 6.0 },
        ..Layer::usual(reed, LayerId(1), "Reeds")
    }];
    let pool = &d.waters[0];
    let growth = grown(&d);
    assert!(growth.plants.len() > 20, "{}", growth.plants.len());
    // Where the sheet ends over deep land its depth ends between two samples.
    let cell_m = 60.0 / 256.0;
    let inside = WaterPlane {
        width_m: pool.width_m - 3.0 * cell_m,
        depth_m: pool.depth_m - 3.0 * cell_m,
        ..pool.clone()
    };
    let beyond = WaterPlane {
        width_m: pool.width_m + 3.0 * cell_m,
        depth_m: pool.depth_m + 3.0 * cell_m,
        ..pool.clone()
    };
    for p in &growth.plants {
        let foot = p.position_m + Vec3::Y * d.layers[0].stance.sink_m;
        let depth = pool.height_m - foot.y;
        assert!(beyond.covers(foot.x, foot.z), "beside the sheet: {foot}");
        assert!(!inside.covers(foot.x, foot.z) || (-0.1..0.9).contains(&depth), "{depth} m deep at {foot}");
    }
}
