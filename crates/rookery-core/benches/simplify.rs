//! Times simplifying a finished mesh, and writes what docs/compare/simplification.py compares with.
//! `cargo bench -p rookery-core --bench simplify [-- FOLDER]`.

use glam::{Vec3, vec3};
use rookery_core::nursery::{Detail, Mesh, Season, ready};
use rookery_core::proxy::simplified;
use std::io::Write;
use std::path::Path;
use std::time::Instant;

/// A knobbly closed stone of 2 x 224 x 224 triangles.
fn stone() -> Mesh {
    const SIDE: u32 = 224;
    let mut mesh = Mesh::default();
    for row in 0..=SIDE {
        for column in 0..SIDE {
            let (u, v) = (column as f32 / SIDE as f32, row as f32 / SIDE as f32);
            let (s, c) = (u * std::f32::consts::TAU).sin_cos();
            let (sv, cv) = (v * std::f32::consts::PI).sin_cos();
            let d = vec3(c * sv, cv, s * sv);
            let r = 1.0
                + 0.18 * (d.x * 3.1 + 0.4).sin() * (d.y * 2.7).cos()
                + 0.03 * (d.x * 17.0).sin() * (d.z * 19.0).cos();
            mesh.positions.push(d * r);
            mesh.normals.push(d);
            mesh.colours.push(Vec3::splat(0.3));
        }
    }
    for row in 0..SIDE {
        for column in 0..SIDE {
            let next = (column + 1) % SIDE;
            let [a, b] = [column, next].map(|c| row * SIDE + c);
            let [d, e] = [a + SIDE, b + SIDE];
            mesh.indices.extend([a, b, e, a, e, d]);
        }
    }
    mesh
}

fn write_ply(path: &Path, mesh: &Mesh) -> std::io::Result<()> {
    let mut out = std::io::BufWriter::new(std::fs::File::create(path)?);
    writeln!(out, "ply\nformat binary_little_endian 1.0\nelement vertex {}", mesh.positions.len())?;
    writeln!(out, "property float x\nproperty float y\nproperty float z\nelement face {}", mesh.triangles())?;
    writeln!(out, "property list uchar int vertex_indices\nend_header")?;
    for p in &mesh.positions {
        out.write_all(bytemuck::cast_slice(&p.to_array()))?;
    }
    for t in mesh.indices.chunks_exact(3) {
        out.write_all(&[3])?;
        out.write_all(bytemuck::cast_slice(t))?;
    }
    out.flush()
}

fn main() {
    let folder = std::env::args().skip(1).find(|a| !a.starts_with("--"));
    let mesh = stone();
    for wanted in [20_000, 5000, 1000] {
        let mut times: Vec<f64> = (0..5)
            .map(|_| {
                let start = Instant::now();
                simplified(&mesh, wanted);
                start.elapsed().as_secs_f64() * 1e3
            })
            .collect();
        times.sort_by(f64::total_cmp);
        let light = simplified(&mesh, wanted);
        println!(
            "{} -> {} triangles: {:.0} ms, stated error {:.2} mm of {:.1} m",
            mesh.triangles(),
            light.mesh.triangles(),
            times[2],
            light.error_m * 1e3,
            (mesh.bounds().1 - mesh.bounds().0).length(),
        );
        if let Some(folder) = &folder {
            write_ply(&Path::new(folder).join(format!("light_{wanted}.ply")), &light.mesh)
                .expect("the folder is there");
        }
    }
    if let Some(folder) = &folder {
        write_ply(&Path::new(folder).join("stone.ply"), &mesh).expect("the folder is there");
    }
    for s in ready().iter().filter(|s| ["sessile-oak", "boulder", "gorse"].contains(&s.id.0.as_str())) {
        let mesh = s.build(0, Detail::Full, Season::SUMMER);
        let start = Instant::now();
        let light = simplified(&mesh, mesh.triangles() / 6);
        println!(
            "{}: {} -> {} triangles in {:.1} ms, {:.0} % of its pieces kept",
            s.name,
            mesh.triangles(),
            light.mesh.triangles(),
            start.elapsed().as_secs_f64() * 1e3,
            light.kept * 100.0,
        );
    }
}
