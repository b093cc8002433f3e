//! What may move by itself, and how.

use super::{FARTHEST_M, Refusal, count, name, within};
use crate::document::{Blower, Blows, Body, BodyForm, Course, GroundMoves, PlacedGround, Spot};

fn spot(s: &Spot) -> Result<(), Refusal> {
    for v in [s.x_m, s.z_m] {
        within("a place on its way", v, -FARTHEST_M, FARTHEST_M, " m")?;
    }
    within("how high it is above the ground", s.over_m, 0.0, 1000.0, " m")
}

fn course(course: &Course) -> Result<(), Refusal> {
    let Course::Path { nodes } = course else {
        return course.spots().iter().try_for_each(spot);
    };
    if nodes.len() < 2 {
        return Err(Refusal::ShortPath { nodes: nodes.len() });
    }
    count("nodes of a path", nodes.len(), Course::MOST_NODES)?;
    for n in nodes {
        spot(&n.spot())?;
    }
    in_order(nodes.iter().map(|n| n.time_s))
}

/// Keys of a moving ground are no nearer to one another, seconds.
const LEAST_BETWEEN_S: f32 = 0.005;

/// Times in their order.
fn in_order(times: impl Iterator<Item = f32>) -> Result<(), Refusal> {
    let times: Vec<f32> = times.collect();
    for t in &times {
        within("a time on its way", *t, 0.0, 3600.0, " s")?;
    }
    let back = times.windows(2).find(|t| t[1] <= t[0]);
    back.map_or(Ok(()), |t| Err(Refusal::TimeRunsBack { before: t[0], after: t[1] }))
}

pub(in crate::scene) fn moves(m: &GroundMoves) -> Result<(), Refusal> {
    if m.keys.len() < 2 {
        return Err(Refusal::FewKeys { keys: m.keys.len() });
    }
    count("keys of a moving ground", m.keys.len(), GroundMoves::MOST_KEYS)?;
    for k in &m.keys {
        for v in [k.x_m, k.y_m, k.z_m] {
            within("how far a ground moves", v, -1000.0, 1000.0, " m")?;
        }
        within("how far a ground turns", k.turn_deg, -3600.0, 3600.0, " degrees")?;
    }
    in_order(m.keys.iter().map(|k| k.time_s))?;
    // Nearer keys would ask for accelerations beyond all numbers.
    m.keys.windows(2).try_for_each(|k| {
        within("the time between two keys", k[1].time_s - k[0].time_s, LEAST_BETWEEN_S, 3600.0, " s")
    })
}

/// Whether there is room for one more, and for one more that moves.
pub(in crate::scene) fn grounds(list: &[PlacedGround]) -> Result<(), Refusal> {
    super::room("grounds", list)?;
    count("moving grounds", list.iter().filter(|g| g.moves.is_some()).count(), GroundMoves::MOST)
}

pub(in crate::scene) fn blower(b: &Blower) -> Result<(), Refusal> {
    name("the blower's name", &b.name)?;
    course(&b.course)?;
    if let Blows::From { deg } = b.blows {
        within("where the blower's wind comes from", deg, 0.0, 360.0, " degrees")?;
    }
    within("the speed of a blower", b.speed_m_per_s, 0.0, 60.0, " m/s")?;
    within("the reach of a blower", b.reach_m, 0.5, 500.0, " m")?;
    within("how soon a blower fades", b.falloff, 0.25, 4.0, "")
}

pub(in crate::scene) fn body(b: &Body) -> Result<(), Refusal> {
    name("the body's name", &b.name)?;
    let length = |v: f32| within("a length of a body", v, 0.05, 50.0, " m");
    match b.form {
        BodyForm::Ball { radius_m } | BodyForm::Buoy { radius_m } => length(radius_m)?,
        BodyForm::Barrel { radius_m, length_m } => [radius_m, length_m].into_iter().try_for_each(length)?,
        BodyForm::Boulder { size_m, form } => {
            length(size_m)?;
            within("which boulder it is", f32::from(form), 0.0, 5.0, "")?;
        }
        BodyForm::Mesh { ref blob, name: ref file, ref placing, size_m } => {
            super::blob(blob)?;
            name("the file's name", file)?;
            within("the unit of a mesh", placing.unit_m, 1e-6, 10_000.0, " m")?;
            length(size_m)?;
        }
    }
    course(&b.course)?;
    let Some(l) = &b.loose else { return Ok(()) };
    within("when a body is let go", l.at_s, 0.0, 3600.0, " s")?;
    if let Course::Path { nodes } = &b.course
        && let Some(last) = nodes.last().filter(|n| n.time_s > l.at_s)
    {
        return Err(Refusal::LooseBeforeEnd { at: l.at_s, end: last.time_s });
    }
    for v in l.velocity_m_per_s {
        within("the speed that a body is pushed with", v, -100.0, 100.0, " m/s")?;
    }
    for v in l.spin_rad_per_s {
        within("the spin of a body", v, -100.0, 100.0, " radians a second")?;
    }
    within("the density of a body", l.density_kg_per_m3, 1.0, 20_000.0, " kg/m3")?;
    within("the bounce of a body", l.bounce, 0.0, 1.0, "")?;
    within("the friction of a body", l.friction, 0.0, 2.0, "")?;
    within("the share of the wind that a body takes", l.wind_share, 0.0, 1.0, "")
}

/// Whether there is room for one more.
pub(in crate::scene) fn blowers(list: &[Blower]) -> Result<(), Refusal> {
    count("blowers", list.len(), Blower::MOST)
}

/// Whether there is room for one more.
pub(in crate::scene) fn bodies(list: &[Body]) -> Result<(), Refusal> {
    count("bodies", list.len(), Body::MOST)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{BlowerId, MoveKey, PathNode};

    fn along(nodes: Vec<PathNode>) -> Blower {
        Blower {
            id: BlowerId(1),
            name: "Wash".into(),
            course: Course::Path { nodes },
            blows: Blows::Outwards {},
            speed_m_per_s: 12.0,
            reach_m: 8.0,
            falloff: 1.0,
            enabled: true,
        }
    }

    fn node(time_s: f32, x_m: f32) -> PathNode {
        PathNode { time_s, x_m, z_m: 0.0, over_m: 3.0 }
    }

    #[test]
    fn a_path_has_two_nodes_and_its_times_run_on() {
        let said = |b: &Blower| blower(b).err().map(|e| e.to_string()).unwrap_or_default();
        assert_eq!(said(&along(vec![node(0.0, 0.0), node(2.0, 9.0)])), "");
        assert!(said(&along(vec![node(0.0, 0.0)])).contains("a path needs 2 nodes; this has 1"));
        assert!(said(&along(vec![])).contains("this has 0"));
        let back = said(&along(vec![node(0.0, 0.0), node(4.0, 9.0), node(4.0, 12.0)]));
        assert!(back.contains("comes at 4 s, after one at 4 s"), "{back}");
        let many = (0..65_u8).map(|i| node(f32::from(i), 0.0)).collect();
        assert!(said(&along(many)).contains("65 nodes of a path"));
        assert!(said(&along(vec![node(0.0, f32::NAN), node(1.0, 0.0)])).contains("a place on its way"));
        let fast = Blower { speed_m_per_s: f32::INFINITY, ..along(vec![node(0.0, 0.0), node(2.0, 9.0)]) };
        assert!(said(&fast).contains("the speed of a blower"));
    }

    #[test]
    fn a_ground_that_moves_has_two_keys_and_its_times_run_on() {
        let key = |time_s: f32, x_m: f32| MoveKey { time_s, x_m, y_m: 0.0, z_m: 0.0, turn_deg: 0.0 };
        let said = |keys: Vec<MoveKey>| {
            moves(&GroundMoves { keys }).err().map(|e| e.to_string()).unwrap_or_default()
        };
        assert_eq!(said(vec![key(0.0, 0.0), key(2.0, 9.0)]), "");
        assert!(said(vec![key(0.0, 0.0)]).contains("needs 2 keys; this has 1"));
        assert!(said(vec![key(2.0, 0.0), key(1.0, 0.0)]).contains("one comes at 1 s, after one at 2 s"));
        assert!(said(vec![key(0.0, 0.0), key(1.0, 1001.0)]).contains("how far a ground moves"));
        assert!(said(vec![key(0.0, f32::NAN), key(1.0, 0.0)]).contains("how far a ground moves"));
        assert!(said(vec![key(0.0, 0.0), key(1e-30, 9.0)]).contains("the time between two keys"));
        assert!(said(vec![key(0.0, 0.0), key(3601.0, 0.0)]).contains("a time on its way"));
        assert!(
            said((0..65_u8).map(|i| key(f32::from(i), 0.0)).collect()).contains("65 keys of a moving ground")
        );
    }
}
