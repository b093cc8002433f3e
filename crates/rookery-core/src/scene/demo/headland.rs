//! What lies on Kittiwake Head: the keeper's cottage in its garth, the footpath, the burn and the tide line.

use crate::scene::*;

const BURN: [[f32; 2]; 8] = [
    [119.5, 92.0],
    [98.0, 99.0],
    [79.0, 92.0],
    [60.0, 97.0],
    [42.0, 90.0],
    [28.0, 88.0],
    [16.0, 86.0],
    [6.0, 81.0],
];

pub(super) fn burn_bed() -> Stroke {
    Stroke {
        id: StrokeId(1),
        tool: SculptTool::Lower,
        radius_m: 3.2,
        strength: 0.9,
        falloff: 0.8,
        points: BURN.to_vec(),
    }
}

pub(super) fn outlines() -> Vec<Outline> {
    let garth = [
        [65.0, 49.0],
        [56.0, 45.0],
        [55.0, 27.0],
        [66.0, 22.0],
        [82.0, 24.0],
        [85.0, 36.0],
        [83.0, 47.0],
        [73.0, 50.0],
    ];
    let path = [
        [119.5, 62.0],
        [102.0, 55.0],
        [86.0, 56.0],
        [70.0, 53.0],
        [56.0, 58.0],
        [42.0, 66.0],
        [30.0, 76.0],
        [15.0, 79.0],
        [3.0, 76.0],
    ];
    let tide = [
        [-30.4, 33.3],
        [-18.2, 39.1],
        [-5.2, 43.5],
        [1.8, 55.4],
        [6.6, 67.3],
        [10.7, 79.1],
        [8.9, 91.4],
        [4.7, 102.5],
        [-5.2, 109.7],
    ];
    vec![
        Outline { smooth: false, ..outline(1, "Garth", OutlineKind::Clearing, &garth, 1.0, 1.0) },
        outline(2, "Footpath", OutlineKind::Track, &path, 0.5, 1.1),
        Outline { earth: Some(Earth::Shingle), ..outline(3, "Burn", OutlineKind::Track, &BURN, 1.5, 1.6) },
        Outline { earth: Some(Earth::Sand), ..outline(4, "Tide line", OutlineKind::Track, &tide, 1.0, 2.5) },
    ]
}

/// Where feet, water and the keeper keep the ground bare.
pub(super) fn zones() -> Vec<Zone> {
    let outlines = [1, 2, 3].map(OutlineId).to_vec();
    vec![Zone { id: ZoneId(1), name: "Garth, path and burn".to_owned(), outlines, groups: Vec::new() }]
}

pub(super) fn clear_of_paths(mut masks: Vec<Mask>) -> Vec<Mask> {
    let kept_out = Mask::band(MaskId(3), Quantity::Zone, [0.0, 1.0, 1.0, 1.0]);
    masks.push(Mask {
        zone: Some(ZoneId(1)),
        response: Response { inverted: true, ..kept_out.response },
        ..kept_out
    });
    masks
}

fn outline(id: u32, name: &str, kind: OutlineKind, nodes: &[[f32; 2]], soft_m: f32, width_m: f32) -> Outline {
    let name = name.to_owned();
    Outline {
        id: OutlineId(id),
        name,
        kind,
        nodes: nodes.to_vec(),
        smooth: true,
        soft_m,
        width_m,
        earth: None,
    }
}

pub(super) fn obstacles() -> Vec<Obstacle> {
    let cottage = Shape::Cottage { width_m: 9.4, depth_m: 5.2, eaves_m: 2.4, roof_deg: 43.0 };
    // Around the garth, with a gap to the path.
    let points = vec![
        [-5.0, 13.0],
        [-14.0, 9.0],
        [-15.0, -9.0],
        [-4.0, -14.0],
        [12.0, -12.0],
        [15.0, 0.0],
        [13.0, 11.0],
        [1.0, 14.0],
    ];
    let wall = Shape::Wall { points, height_m: 1.15, thickness_m: 0.62 };
    vec![obstacle(1, "Keeper\u{2019}s cottage", cottage, 28.0), obstacle(2, "Garth wall", wall, 0.0)]
}

fn obstacle(id: u32, name: &str, shape: Shape, turn_deg: f32) -> Obstacle {
    Obstacle {
        id: ObstacleId(id),
        name: name.to_owned(),
        shape,
        x_m: 70.0,
        z_m: 36.0,
        lift_m: 0.0,
        on_ground: true,
        turn_deg,
        scale: 1.0,
        hidden: false,
    }
}
