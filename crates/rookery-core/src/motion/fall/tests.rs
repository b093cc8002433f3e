use super::*;
use crate::document::{BodyId, Course, Spot, bare};
use crate::motion::body_mesh;
use crate::motion::course::places;
use crate::motion::{BodyMeshes, Moving, fitted};
use crate::nursery::{MeshPlacing, UpAxis};
use glam::Vec2;

/// A plane that rises to the east, so steep.
fn plane(slope_deg: f32) -> Terrain {
    let rise = libm::tanf(slope_deg.to_radians());
    let heights = (0..81 * 81).map(|i| ((i % 81) as f32 - 40.0) * 2.0 * rise).collect();
    Terrain::new(81, 81, Vec2::splat(2.0), heights).unwrap()
}

fn loose() -> Loose {
    Loose {
        at_s: 0.0,
        velocity_m_per_s: [0.0; 3],
        spin_rad_per_s: [0.0; 3],
        density_kg_per_m3: 400.0,
        bounce: 0.0,
        friction: 0.9,
        wind_share: 0.0,
    }
}

fn body(id: u32, form: BodyForm, [x_m, z_m, over_m]: [f32; 3], loose: Loose) -> Body {
    let course = Course::Still { at: Spot { x_m, z_m, over_m } };
    Body { id: BodyId(id), name: "Body".into(), form, course, loose: Some(loose), felt: false, hidden: false }
}

fn ball(x_m: f32, over_m: f32, loose: Loose) -> Body {
    body(1, BodyForm::Ball { radius_m: 0.5 }, [x_m, 0.0, over_m], loose)
}

fn ways(
    bodies: Vec<Body>,
    land: Option<&Terrain>,
    solids: &[&Mesh],
    edit: impl Fn(&mut Document),
) -> Vec<Vec<Place>> {
    let mut document = Document { bodies, ..bare() };
    document.ground.water_m = None;
    document.motion.clock.length_s = 10.0;
    edit(&mut document);
    let mut ways: Vec<Vec<Place>> =
        document.bodies.iter().map(|b| places(&b.course, land, b.form.radius_m(), 0.25)).collect();
    let shapes: Vec<_> = document.bodies.iter().map(|b| Arc::new(body_mesh(&b.form))).collect();
    Around { document: &document, land, solids, shapes: &shapes }
        .go_on(&mut ways, &CancelToken::default())
        .unwrap();
    ways
}

/// Height of a ball's middle over the plane, square to it.
fn off_plane(p: &Place, slope_deg: f32) -> f32 {
    let (s, c) = (libm::sinf(slope_deg.to_radians()), libm::cosf(slope_deg.to_radians()));
    p.at_m.y * c - p.at_m.x * s
}

#[test]
fn a_solid_ball_rolls_down_a_plane_as_the_closed_form_says() {
    let slope = 12.0_f32;
    let land = plane(slope);
    // Set down square to the plane rather than above it; what turf takes is known and added back.
    let set = 0.5 / libm::cosf(slope.to_radians()) - 0.5;
    let way = &ways(vec![ball(0.0, set, loose())], Some(&land), &[], |_| {})[0];
    let (a, b) = (place_at(way, 1.0).at_m, place_at(way, 3.0).at_m);
    let gone = |p: Vec3| (p - way[0].at_m).length();
    // s = a t^2 / 2 from rest, with a = 5/7 (g sin - the rolling resistance of bare ground).
    let wanted = 5.0 / 7.0 * 9.81 * (libm::sinf(slope.to_radians()) - BARE);
    let found = 2.0 * (gone(b).sqrt() - gone(a).sqrt()).powi(2) / 4.0;
    assert!((found / wanted - 1.0).abs() < 0.03, "{found} for {wanted} m/s2");
    let far = way.iter().map(|p| (off_plane(p, slope) - 0.5).abs()).fold(0.0, f32::max);
    assert!(far < 0.02, "it is {far} m off the plane");
    let turned = place_at(way, 3.0);
    let spun =
        (place_at(way, 3.0 - 1.0 / 30.0).turn.inverse() * turned.turn).to_scaled_axis().length() * 30.0;
    let speed = (place_at(way, 3.0).at_m - place_at(way, 3.0 - 1.0 / 30.0).at_m).length() * 30.0;
    assert!(
        (spun * 0.5 / speed - 1.0).abs() < 0.03,
        "it rolls without slipping: {spun} rad/s at {speed} m/s"
    );
}

#[test]
fn what_is_thrown_flies_a_parabola_and_bounces_to_the_square_of_its_share() {
    let flat = plane(0.0);
    let thrown = Loose { velocity_m_per_s: [4.0, 6.0, -3.0], ..loose() };
    let way = &ways(vec![ball(0.0, 2.0, thrown)], Some(&flat), &[], |_| {})[0];
    for t in [0.3_f64, 0.8, 1.2] {
        let f = t as f32;
        let wanted = vec3(4.0 * f, 2.5 + 6.0 * f - 0.5 * 9.81 * f * f, -3.0 * f);
        let found = place_at(way, t).at_m;
        assert!((found - wanted).length() < 0.06, "after {t} s {found} for {wanted}");
    }
    for bounce in [0.4_f32, 0.8] {
        let way = &ways(vec![ball(0.0, 3.0, Loose { bounce, ..loose() })], Some(&flat), &[], |_| {})[0];
        let ground = way.iter().position(|p| p.at_m.y < 0.6).unwrap();
        let top = way[ground..].iter().map(|p| p.at_m.y - 0.5).fold(0.0, f32::max);
        assert!((top / 3.0 - bounce * bounce).abs() < 0.04, "{bounce}: {top} m of 3");
    }
}

#[test]
fn energy_never_grows_and_nothing_goes_through_the_ground() {
    let terrain = |x: f32, z: f32| 3.0 * libm::sinf(x * 0.21) + 2.0 * libm::cosf(z * 0.17 + x * 0.05);
    let heights = (0..81 * 81).map(|i| terrain((i % 81) as f32 * 2.0 - 80.0, (i / 81) as f32 * 2.0 - 80.0));
    let land = Terrain::new(81, 81, Vec2::splat(2.0), heights.collect()).unwrap();
    let forms = [
        BodyForm::Ball { radius_m: 0.3 },
        BodyForm::Barrel { radius_m: 0.4, length_m: 1.1 },
        BodyForm::Boulder { size_m: 1.2, form: 1 },
        BodyForm::Buoy { radius_m: 0.6 },
        BodyForm::Boulder { size_m: 0.5, form: 4 },
    ];
    let bodies: Vec<Body> = forms
        .iter()
        .enumerate()
        .map(|(i, f)| {
            let push = Loose { velocity_m_per_s: [9.0 - 4.0 * i as f32, 2.0, 5.0], bounce: 0.5, ..loose() };
            body(i as u32 + 1, f.clone(), [i as f32 * 9.0 - 20.0, 7.0, 4.0], push)
        })
        .collect();
    let all = ways(bodies.clone(), Some(&land), &[], |_| {});
    for (way, b) in all.iter().zip(&bodies) {
        let mut most = f32::INFINITY;
        for pair in way.windows(2) {
            let (p, q) = (pair[0], pair[1]);
            let v = (q.at_m - p.at_m).length() / (q.time_s - p.time_s);
            // Without its spin, and by the mean speed between two places: what is left out lets it seem to gain a little.
            let energy = 9.81 * 0.5 * (p.at_m.y + q.at_m.y) + 0.5 * v * v;
            assert!(energy < most + 0.4 * 0.5 * v * v + 1.0, "{}: {energy} after {most}", b.id.0);
            most = most.min(energy.max(0.0) + 0.4 * 0.5 * v * v);
        }
        for p in way {
            let under = land.height_at(p.at_m.x, p.at_m.z);
            assert!(
                p.at_m.y > under + 0.1,
                "{}: at {} s it is at {}, the ground at {under}",
                b.id.0,
                p.time_s,
                p.at_m
            );
        }
    }
    let again = ways(bodies, Some(&land), &[], |_| {});
    assert_eq!(all, again);
    let one = rayon::ThreadPoolBuilder::new().num_threads(1).build().unwrap();
    assert_eq!(one.install(|| ways(Vec::new(), None, &[], |_| {})), Vec::<Vec<Place>>::new());
}

#[test]
fn a_buoy_floats_a_stone_sinks_and_walls_stop_what_rolls() {
    let flat = plane(0.0);
    let buoy = body(
        1,
        BodyForm::Buoy { radius_m: 0.5 },
        [0.0, 0.0, 6.0],
        Loose { density_kg_per_m3: 250.0, ..loose() },
    );
    let stone = body(
        2,
        BodyForm::Ball { radius_m: 0.5 },
        [5.0, 0.0, 6.0],
        Loose { density_kg_per_m3: 2600.0, ..loose() },
    );
    let all = ways(vec![buoy, stone], Some(&flat), &[], |d| d.ground.water_m = Some(4.0));
    let (floats, sinks) = (place_at(&all[0], 10.0).at_m.y, place_at(&all[1], 10.0).at_m.y);
    // A ball of a quarter of the weight of water draws 0.326 of its height.
    assert!((floats - (4.0 + 0.5 - 0.326)).abs() < 0.08, "{floats}");
    assert!((sinks - 0.5).abs() < 0.05, "{sinks}");
    let mut wall = crate::ground::obstacle::mesh(
        &crate::document::Obstacle {
            id: crate::document::ObstacleId(1),
            name: "Wall".into(),
            shape: crate::document::Shape::Box { width_m: 0.3, depth_m: 20.0, height_m: 3.0 },
            x_m: 6.0,
            z_m: 0.0,
            lift_m: 0.0,
            on_ground: true,
            turn_deg: 0.0,
            scale: 1.0,
            hidden: false,
        },
        &flat,
        None,
    );
    let rolls = ball(0.0, 0.0, Loose { velocity_m_per_s: [60.0, 0.0, 0.0], ..loose() });
    let way = &ways(vec![rolls], Some(&flat), &[&wall], |_| {})[0];
    assert!(way.iter().all(|p| p.at_m.x < 5.86), "fast as it is, it does not go through the wall");
    wall.indices.clear();
    let calm = ball(0.0, 0.0, Loose { wind_share: 1.0, density_kg_per_m3: 10.0, ..loose() });
    let blown = ways(vec![calm], Some(&flat), &[&wall], |d| {
        (d.motion.wind.speed_m_per_s, d.motion.wind.from_deg) = (12.0, 270.0);
    });
    assert!(place_at(&blown[0], 10.0).at_m.x > 10.0, "a light ball rolls before the wind");
}

#[test]
fn what_comes_from_a_file_falls_as_its_hull_and_lies_on_its_face_whatever_the_file_holds() {
    let corners = |far: [f32; 3]| -> Vec<Vec3> {
        (0..8)
            .map(|i| vec3((i & 1) as f32 * far[0], (i >> 1 & 1) as f32 * far[1], (i >> 2) as f32 * far[2]))
            .collect()
    };
    let all: Vec<u32> = (0..8).flat_map(|a| (0..8).flat_map(move |b| [a, b, (a + b + 1) % 8])).collect();
    let mesh = |positions: Vec<Vec3>| Mesh {
        normals: vec![Vec3::Y; 8],
        colours: vec![Vec3::ONE; 8],
        positions,
        indices: all.clone(),
        ..Mesh::default()
    };
    let land = Terrain::new(41, 41, Vec2::ONE, vec![0.0; 41 * 41]).unwrap();
    let placing = MeshPlacing { unit_m: 1.0, up: UpAxis::Y, recentre: true, turn_over: false, mend: false };
    let form = BodyForm::Mesh {
        blob: crate::document::BlobId("00".into()),
        name: "crate.obj".into(),
        placing,
        size_m: 2.0,
    };
    let loose = Loose { density_kg_per_m3: 700.0, ..loose() };
    let fallen = |mesh: Option<Mesh>| -> f32 {
        let bodies = vec![body(1, form.clone(), [0.0, 0.0, 3.0], loose)];
        let mut document = Document { bodies, ..bare() };
        document.ground.water_m = None;
        let meshes: BodyMeshes = mesh.map(|m| (BodyId(1), m)).into_iter().collect();
        let moving =
            Moving::with_meshes(&document, Some(&land), &[], &meshes, &CancelToken::default()).unwrap();
        moving.bodies[0].places.last().unwrap().at_m.y
    };
    // Twice as long as it is high and deep: its middle comes to lie half of its height over the ground.
    let chest = fitted(&mesh(corners([200.0, 100.0, 100.0])), 2.0).unwrap();
    assert!((fallen(Some(chest)) - 0.5).abs() < 0.03);
    // A plate, a rod and no mesh at all fall as well.
    for flat in [[2.0, 0.0, 1.0], [2.0, 0.0, 0.0]] {
        let rest = fallen(fitted(&mesh(corners(flat)), 2.0));
        assert!(rest.is_finite() && rest > -0.1 && rest < 1.1, "{flat:?}: {rest}");
    }
    assert!((fallen(None) - 1.0).abs() < 0.03);
    assert!(fitted(&mesh(corners([0.0; 3])), 2.0).is_none() && fitted(&Mesh::default(), 2.0).is_none());
    assert!(fitted(&mesh(corners([f32::NAN, 1.0, 1.0])), 2.0).is_none());
}
