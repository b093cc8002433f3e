//! What may move by itself, and how.

use super::{FARTHEST_M, Refusal, count, name, within};
use crate::document::{Blower, Blows, Body, BodyForm, Course, Spot};

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
        within("a time on its way", n.time_s, 0.0, 3600.0, " s")?;
    }
    let back = nodes.windows(2).find(|n| n[1].time_s <= n[0].time_s);
    back.map_or(Ok(()), |n| Err(Refusal::TimeRunsBack { before: n[0].time_s, after: n[1].time_s }))
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
    use crate::document::{BlowerId, PathNode};

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
}
