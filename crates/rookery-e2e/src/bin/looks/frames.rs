//! The frames that are looked at: always the same.

/// A camera in a demo scene.
pub struct Frame {
    pub name: &'static str,
    /// As `rookery scene demo` and `POST /api/scenes` have it.
    pub scene: &'static str,
    pub eye_m: [f32; 3],
    pub target_m: [f32; 3],
    pub view_deg: f32,
    /// Azimuth and elevation, degrees.
    pub sun_deg: [f32; 2],
}

const fn frame(
    name: &'static str,
    scene: &'static str,
    eye_m: [f32; 3],
    target_m: [f32; 3],
    view_deg: f32,
    sun_deg: [f32; 2],
) -> Frame {
    Frame { name, scene, eye_m, target_m, view_deg, sun_deg }
}

/// Four of each scene: two at the height of an eye, one a metre above the ground, one from above.
pub const FRAMES: [Frame; 12] = [
    frame("head-eye", "kittiwake-head", [40.0, 14.9, 70.0], [-50.0, 12.0, 30.0], 42.0, [236.0, 34.0]),
    frame("head-garth", "kittiwake-head", [58.0, 15.9, 58.0], [72.0, 16.0, 34.0], 42.0, [250.0, 28.0]),
    frame("head-low", "kittiwake-head", [30.0, 9.75, 84.0], [25.0, 8.9, 79.0], 42.0, [236.0, 34.0]),
    frame("head-above", "kittiwake-head", [70.0, 78.0, 190.0], [-22.0, 8.0, 6.0], 40.0, [236.0, 42.0]),
    frame("tarn-eye", "tarn-moraine", [-40.0, 20.7, 60.0], [-88.0, 17.0, 4.0], 42.0, [236.0, 34.0]),
    frame("tarn-shore", "tarn-moraine", [60.0, 19.5, 0.0], [0.0, 12.0, -40.0], 42.0, [236.0, 34.0]),
    frame("tarn-low", "tarn-moraine", [-40.0, 20.1, 60.0], [-44.5, 18.2, 54.0], 42.0, [236.0, 34.0]),
    frame("tarn-above", "tarn-moraine", [0.0, 70.0, 120.0], [-40.0, 10.0, 0.0], 42.0, [236.0, 34.0]),
    frame("arch-eye", "needle-arch", [0.0, 10.85, 60.0], [1.5, 15.5, 0.0], 42.0, [205.0, 31.0]),
    frame("arch-shot", "needle-arch", [25.0, 13.5, 56.0], [1.5, 15.5, 0.0], 42.0, [205.0, 31.0]),
    frame("arch-low", "needle-arch", [0.0, 10.25, 60.0], [3.0, 9.2, 54.0], 42.0, [205.0, 31.0]),
    frame("arch-above", "needle-arch", [-55.0, 48.0, 50.0], [0.0, 12.0, 0.0], 42.0, [205.0, 31.0]),
];
