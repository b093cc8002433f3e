use super::*;

/// A box of cells over ground of a height, with sides of so many metres.
fn boxed(nx: usize, nz: usize, step: f32, faces: Vec<f32>, height: &dyn Fn(f32, f32) -> f32) -> Cells {
    let (x0, z0) = (-(nx as f32) * step * 0.5, -(nz as f32) * step * 0.5);
    let solids = Solids::ground([x0, z0], step * 0.5, [2 * nx + 1, 2 * nz + 1], height);
    Cells::new(Grid { x0, z0, step, nx, nz, faces }, solids)
}

fn even(count: usize, tall: f32) -> Vec<f32> {
    (0..=count).map(|k| k as f32 * tall).collect()
}

fn uniform(_: f32) -> f32 {
    1.0
}

/// Net flow out of the worst cell against that through its smallest face.
fn left_over(cells: &Cells, f: &Field) -> f32 {
    let g = &cells.grid;
    let mut worst = 0.0_f32;
    for z in 0..g.nz {
        for x in 0..g.nx {
            for y in 0..g.ny() {
                let tall = g.faces[y + 1] - g.faces[y];
                let through = |list: &[f32], u: &[f32], face: usize| list[face] * u[face];
                let sides = through(&cells.ax, &f.ux, cells.face_x(x + 1, y, z))
                    - through(&cells.ax, &f.ux, cells.face_x(x, y, z))
                    + through(&cells.az, &f.uz, cells.face_z(x, y, z + 1))
                    - through(&cells.az, &f.uz, cells.face_z(x, y, z));
                let up = through(&cells.ay, &f.uy, cells.face_y(x, y + 1, z))
                    - through(&cells.ay, &f.uy, cells.face_y(x, y, z));
                let out = sides * g.step * tall + up * g.step * g.step;
                if cells.volume[cells.cell(x, y, z)] > 0.0 {
                    worst = worst.max(out.abs() / (g.step * tall.min(g.step)));
                }
            }
        }
    }
    worst
}

/// Potential flow over a half cylinder: 1 + R^2 / r^2 times the wind above its top. Source: any handbook of fluid mechanics.
#[test]
fn over_a_half_cylinder_it_is_potential_flow() {
    let r = 16.0_f32;
    let round = move |x: f32, _: f32| (r * r - x * x).max(0.0).sqrt();
    let cells = boxed(128, 4, 1.0, even(64, 1.0), &round);
    let field = Field::new(&cells, [1.0, 0.0], 1.0, &uniform, None, &CancelToken::default()).unwrap();
    for y in 17..40 {
        let u = field.middle(&cells, 63, y, 1)[0];
        let exact = 1.0 + r * r / (cells.grid.mid(y) * cells.grid.mid(y));
        assert!((u / exact - 1.0).abs() < 0.06, "at {} m {u} for {exact}", cells.grid.mid(y));
    }
    assert!(left_over(&cells, &field) < 1e-3);
}

/// Over a half sphere: 1 + R^3 / 2 r^3.
#[test]
fn over_a_half_sphere_it_is_potential_flow() {
    let r = 12.0_f32;
    let round = move |x: f32, z: f32| (r * r - x * x - z * z).max(0.0).sqrt();
    let cells = boxed(64, 64, 1.0, even(48, 1.0), &round);
    let field = Field::new(&cells, [1.0, 0.0], 1.0, &uniform, None, &CancelToken::default()).unwrap();
    for y in 13..30 {
        let u = field.middle(&cells, 31, y, 31)[0];
        let exact = 1.0 + 0.5 * (r / cells.grid.mid(y)).powi(3);
        assert!((u / exact - 1.0).abs() < 0.06, "at {} m {u} for {exact}", cells.grid.mid(y));
    }
    assert!(left_over(&cells, &field) < 1e-3 && field.steps < 15, "{} steps", field.steps);
    // Nothing goes through what is shut, and the field is as it is from the other side.
    let shut = cells.ax.iter().zip(&cells.volume).filter(|(a, _)| **a == 0.0).count();
    assert!(shut > 1000);
    let back = Field::new(&cells, [-1.0, 0.0], 1.0, &uniform, None, &CancelToken::default()).unwrap();
    let (there, here) = (field.middle(&cells, 20, 3, 31)[0], back.middle(&cells, 43, 3, 31)[0]);
    assert!((there + here).abs() < 1e-3, "{there} and {here}");
}

/// Speed-up over low hills: two-dimensional ridges about 2.0 h/L, round hills about 1.6 h/L. Source: Taylor & Lee, "Simple guidelines for estimating wind speed
/// variations due to small scale topographic features", Climatological Bulletin 18, 1984, from memory; looked at for the order.
#[test]
fn it_speeds_up_over_hills_as_guidelines_say() {
    // Half as high at the half length on either side.
    let (h, l) = (10.0_f32, 50.0_f32);
    let shape = move |r: f32| h / (1.0 + (r / l) * (r / l));
    let up = |height: &dyn Fn(f32, f32) -> f32, nz: usize| {
        let mut faces = vec![-1.0_f32];
        (0..30)
            .for_each(|k| faces.push(faces[k] + if k < 9 { 1.5 } else { 1.5 * 1.2_f32.powi(k as i32 - 8) }));
        let cells = boxed(96, nz, 8.0, faces, height);
        let field =
            Field::new(&cells, [1.0, 0.0], UPRIGHT, &open_ground, None, &CancelToken::default()).unwrap();
        let flow = field.against(&cells, &open_ground);
        (flow.at(Vec3::new(0.0, h + 3.0, 0.0))[0] - 1.0) / (h / l)
    };
    let ridge = up(&move |x, _| shape(x), 4);
    let round = up(&move |x, z| shape((x * x + z * z).sqrt()), 96);
    assert!((1.5..2.4).contains(&ridge), "ridge {ridge}");
    assert!((0.9..1.8).contains(&round), "round {round}");
    assert!(ridge > round);
}

#[test]
fn over_level_land_it_is_the_wind_itself_and_a_block_shelters() {
    let level = |_: f32, _: f32| 2.0;
    let land = Land { corner: [-100.0, -100.0], sides: [200.0, 200.0], height: &level, bodies: &[] };
    let never = CancelToken::default();
    let (dx, dz) = (0.6, 0.8);
    let flow = Flow::over(&land, [dx, dz], &never).unwrap();
    for p in [[0.0, 2.5, 0.0], [40.0, 4.0, -60.0], [99.0, 12.0, 99.0]] {
        let [x, z] = flow.at(p.into());
        assert!((x - dx).abs() < 0.02 && (z - dz).abs() < 0.02, "{p:?}: {x}, {z}");
    }
    // A block of 6 m across, 5 m high.
    let mut block = Mesh::default();
    for y in [1.0, 7.0] {
        for (x, z) in [(-3.0, -3.0), (3.0, -3.0), (3.0, 3.0), (-3.0, 3.0)] {
            block.positions.push(Vec3::new(x, y, z));
        }
    }
    block.indices = vec![0, 1, 2, 0, 2, 3, 4, 6, 5, 4, 7, 6];
    for k in 0..4_u32 {
        let n = (k + 1) % 4;
        block.indices.extend([k, k + 4, n, n, k + 4, n + 4]);
    }
    let bodies = [&block];
    let land = Land { bodies: &bodies, ..land };
    let flow = Flow::over(&land, [1.0, 0.0], &never).unwrap();
    let at = |x: f32, z: f32| flow.at(Vec3::new(x, 3.5, z))[0];
    assert!(at(14.0, 0.0) < 0.7, "lee {}", at(14.0, 0.0));
    assert!(at(14.0, 30.0) > 0.95 && at(-60.0, 0.0) > 0.95);
    assert!(at(0.0, 6.5) > 1.02, "beside {}", at(0.0, 6.5));
    // From the other side the lee is on the other side.
    let back = Flow::over(&land, [-1.0, 0.0], &never).unwrap();
    let lee = -back.at(Vec3::new(-14.0, 3.5, 0.0))[0];
    assert!((0.0..0.7).contains(&lee) && back.at(Vec3::new(14.0, 3.5, 0.0))[0] < -0.8, "{lee}");
    let stopped = CancelToken::default();
    stopped.cancel();
    assert!(Flow::over(&land, [1.0, 0.0], &stopped).is_err());
}
