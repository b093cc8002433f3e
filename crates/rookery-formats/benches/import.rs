//! Times reading files. `cargo bench -p rookery-formats` prints the median of several runs.

use rookery_core::scene::{MeshPlacing, UpAxis};
use rookery_formats::mesh::{inspect_mesh, placed_mesh, read_mesh};
use std::fmt::Write;
use std::time::Instant;

fn median<T>(runs: usize, mut work: impl FnMut() -> T) -> (f64, T) {
    let mut times = Vec::new();
    let mut last = work();
    for _ in 0..runs {
        let start = Instant::now();
        last = work();
        times.push(start.elapsed().as_secs_f64() * 1e3);
    }
    times.sort_by(f64::total_cmp);
    (times[times.len() / 2], last)
}

/// A wavy sheet of 2 x n x n triangles.
fn sheet_obj(n: usize) -> String {
    let mut text = String::with_capacity(n * n * 90);
    text.push_str("o Sheet\n");
    for i in 0..=n {
        for k in 0..=n {
            let (x, z) = (i as f32 * 0.1, k as f32 * 0.1);
            let _ = writeln!(text, "v {x:.5} {:.5} {z:.5}", (x * 0.7).sin() + (z * 0.3).cos());
        }
    }
    for i in 0..n {
        for k in 0..n {
            let a = i * (n + 1) + k + 1;
            let (b, c, d) = (a + 1, a + n + 1, a + n + 2);
            let _ = write!(text, "f {a} {b} {d}\nf {a} {d} {c}\n");
        }
    }
    text
}

fn main() {
    let obj = sheet_obj(1000);
    println!("OBJ of 2 million triangles, {} MB", obj.len() >> 20);
    let (ms, mesh) = median(3, || read_mesh(obj.as_bytes()).expect("a sound file"));
    println!("read: {ms:.0} ms, {} triangles", mesh.triangles());
    let (ms, found) = median(3, || inspect_mesh(&mesh));
    println!("looked over: {ms:.0} ms, {:?}", found.findings);
    let placing = MeshPlacing { unit_m: 1.0, up: UpAxis::Y, recentre: true, turn_over: false, mend: false };
    let (ms, _) = median(3, || placed_mesh(&mesh, &placing));
    println!("placed: {ms:.0} ms");
}
