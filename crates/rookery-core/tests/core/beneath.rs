//! An obstacle is named by the land beneath it: sculpting elsewhere leaves its name, and what has one name is one mesh.

use proptest::prelude::*;
use rookery_core::ground::{GroundModel, noise_terrain, obstacle};
use rookery_core::nursery::Mesh;
use rookery_core::scene::*;
use std::sync::LazyLock;

const NOISE: fn() -> NoiseGround = || NoiseGround {
    size_m: 80.0,
    samples: 161,
    relief_m: 15.0,
    feature_m: 30.0,
    coast: 0.0,
    ..NoiseGround::default()
};

static LAND: LazyLock<GroundModel> =
    LazyLock::new(|| GroundModel::new(noise_terrain::build(&NOISE()).unwrap(), None, 1));

fn scene(strokes: &[Stroke], wall: bool, at: [f32; 2], turn_deg: f32) -> Document {
    let mut document = kittiwake_head();
    document.ground =
        Ground { source: GroundSource::Noise(NOISE()), strokes: strokes.to_vec(), ..document.ground };
    let shape = if wall {
        Shape::Wall { points: vec![[0.0, 0.0], [6.0, 2.0]], height_m: 1.0, thickness_m: 0.6 }
    } else {
        Shape::Box { width_m: 1.0, depth_m: 1.0, height_m: 1.0 }
    };
    document.obstacles = vec![Obstacle {
        id: ObstacleId(1),
        name: "one".into(),
        shape,
        x_m: at[0],
        z_m: at[1],
        lift_m: 0.0,
        on_ground: true,
        turn_deg,
        scale: 1.3,
        hidden: false,
    }];
    document
}

fn mesh(document: &Document) -> Mesh {
    let land = document.ground.strokes.iter().fold(LAND.clone(), |land, stroke| land.sculpted(stroke));
    obstacle::mesh(&document.obstacles[0], &land.terrain, None)
}

fn stroke(id: u32) -> impl Strategy<Value = Stroke> {
    let tools = [SculptTool::Raise, SculptTool::Lower, SculptTool::Smooth, SculptTool::Flatten];
    let points = prop::collection::vec(prop::array::uniform2(-18.0_f32..18.0), 1..3);
    (prop::sample::select(tools.to_vec()), 1.0_f32..7.0, 0.3_f32..1.0, points).prop_map(
        move |(tool, radius_m, strength, points)| Stroke {
            id: StrokeId(id),
            tool,
            radius_m,
            strength,
            falloff: 0.5,
            points,
        },
    )
}

fn strokes() -> impl Strategy<Value = Vec<Stroke>> {
    prop::collection::vec(stroke(1), 1..7).prop_map(|mut all| {
        (1..).zip(&mut all).for_each(|(id, s)| s.id = StrokeId(id));
        all
    })
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(2000))]

    #[test]
    fn what_has_one_name_is_one_mesh(
        strokes in strokes(), other in stroke(99), place in 0_usize..7, kind in 0_u8..3, wall: bool,
        at in prop::array::uniform2(-4.0_f32..4.0), turn_deg in -180.0_f32..180.0
    ) {
        let mut edited = strokes.clone();
        let place = place.min(edited.len() - 1);
        match kind {
            0 => drop(edited.remove(place)),
            1 => edited[place] = Stroke { id: edited[place].id, ..other },
            _ => edited.push(other),
        }
        let (a, b) = (scene(&strokes, wall, at, turn_deg), scene(&edited, wall, at, turn_deg));
        let before = Keyed::new(a.clone());
        let name = before.obstacle_key(&a.obstacles[0]);
        let after = before.after(b.clone());
        let later = after.obstacle_key(&b.obstacles[0]);
        prop_assert_eq!(later, Keyed::new(b.clone()).obstacle_key(&b.obstacles[0]), "it hangs on how it came about");
        if name == later {
            let (a, b) = (mesh(&a), mesh(&b));
            prop_assert_eq!(a.positions, b.positions);
            prop_assert_eq!(a.normals, b.normals);
        }
    }
}

#[test]
fn sculpting_elsewhere_leaves_its_name() {
    let dab = |id, x, tool| Stroke {
        id: StrokeId(id),
        tool,
        radius_m: 4.0,
        strength: 1.0,
        falloff: 0.5,
        points: vec![[x, 0.0]],
    };
    let key = |strokes: &[Stroke]| {
        let d = scene(strokes, true, [-10.0, 0.0], 0.0);
        Keyed::new(d.clone()).obstacle_key(&d.obstacles[0])
    };
    let bare = key(&[]);
    assert_eq!(bare, key(&[dab(1, 30.0, SculptTool::Raise)]), "it lies far off");
    assert_ne!(bare, key(&[dab(1, -8.0, SculptTool::Raise)]));
    // One that smooths beneath it looks at what was raised beside it.
    let smooth = dab(2, -14.0, SculptTool::Smooth);
    assert_ne!(key(std::slice::from_ref(&smooth)), key(&[dab(1, -21.0, SculptTool::Raise), smooth]));
}
