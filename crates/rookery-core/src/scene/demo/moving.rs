//! What moves by itself in the demo scenes.

use crate::document::{Blower, BlowerId, Blows, Body, BodyForm, BodyId, Course, Loose, PathNode, Spot};

fn node([time_s, x_m, z_m, over_m]: [f32; 4]) -> PathNode {
    PathNode { time_s, x_m, z_m, over_m }
}

/// A mooring buoy that rolls down through the turf and the marram to the cove.
pub(super) fn buoy() -> Body {
    let nodes = [[0.5, 38.0, 52.0, 0.0], [2.0, 35.5, 58.0, 0.0], [3.2, 32.0, 62.5, 0.0]].map(node);
    Body {
        id: BodyId(1),
        name: "Mooring buoy".into(),
        form: BodyForm::Buoy { radius_m: 0.45 },
        course: Course::Path { nodes: nodes.into() },
        loose: Some(Loose {
            at_s: 3.2,
            velocity_m_per_s: [0.0; 3],
            spin_rad_per_s: [0.0; 3],
            density_kg_per_m3: 180.0,
            bounce: 0.35,
            friction: 0.6,
            wind_share: 0.0,
        }),
        felt: true,
        hidden: false,
    }
}

/// A drone that flies low past the birches.
pub(super) fn drone() -> Blower {
    let nodes = [
        [0.0, -20.0, 106.0, 9.0],
        [3.0, -50.0, 101.0, 9.0],
        [5.0, -66.0, 101.0, 8.0],
        [7.0, -80.0, 92.0, 8.0],
        [10.0, -90.0, 62.0, 10.0],
    ];
    Blower {
        id: BlowerId(1),
        name: "Drone".into(),
        course: Course::Path { nodes: nodes.map(node).into() },
        blows: Blows::Outwards {},
        speed_m_per_s: 16.0,
        reach_m: 14.0,
        falloff: 1.0,
        enabled: true,
    }
}

/// A boulder that breaks loose and rolls through the turf on the back of the arch.
pub(super) fn breaking_loose() -> Body {
    Body {
        id: BodyId(1),
        name: "Loose boulder".into(),
        form: BodyForm::Boulder { size_m: 0.9, form: 1 },
        course: Course::Still { at: Spot { x_m: -6.6, z_m: -2.4, over_m: 22.6 } },
        loose: Some(Loose {
            at_s: 1.0,
            velocity_m_per_s: [-3.0, 0.0, 0.6],
            spin_rad_per_s: [0.0; 3],
            density_kg_per_m3: 2600.0,
            bounce: 0.25,
            friction: 0.9,
            wind_share: 0.0,
        }),
        felt: true,
        hidden: false,
    }
}
