use super::*;
use glam::vec2;

/// Ground in the usual colours of its earths.
pub(super) fn bare(earths: [f32; 5], means: &[Vec3; 5]) -> Bare<'_> {
    Bare { colour: (0..5).map(|k| means[k] * earths[k]).sum(), earths, means }
}

/// Samples of a picture along a row and a column, and across the edge: no step there is larger than those within.
#[test]
fn pictures_have_no_seams_and_their_means_are_one() {
    for texture in Texture::ALL {
        let sheet = texture.sheet();
        let n = (SIDE * SIDE) as f32;
        let mean =
            sheet.texels.iter().map(|t| Vec3::new(t[0].into(), t[1].into(), t[2].into())).sum::<Vec3>() / n;
        assert!((mean / PARTS - 1.0).abs().max_element() < 0.02, "{texture:?}: {mean}");
        let slope = sheet.slopes.iter().map(|s| vec2(s[0].into(), s[1].into()) - 128.0).sum::<Vec2>() / n;
        assert!(slope.abs().max_element() < 0.6, "{texture:?} is tilted: {slope}");
        let step = |i: usize, j: usize| {
            let d = |k: usize| f32::from(sheet.texels[i][k]) - f32::from(sheet.texels[j][k]);
            (0..4).map(|k| d(k) * d(k)).sum::<f32>()
        };
        let column = |x: usize| (0..SIDE).map(|y| step(y * SIDE + x, y * SIDE + (x + 1) % SIDE)).sum::<f32>();
        let row = |y: usize| (0..SIDE).map(|x| step(y * SIDE + x, (y + 1) % SIDE * SIDE + x)).sum::<f32>();
        let most = |f: &dyn Fn(usize) -> f32| (0..SIDE - 1).map(f).fold(0.0, f32::max);
        assert!(column(SIDE - 1) <= most(&column) && row(SIDE - 1) <= most(&row), "{texture:?} has a seam");
        let (low, high) = sheet.texels.iter().fold((255, 0), |(l, h), t| (l.min(t[3]), h.max(t[3])));
        assert!(low == 0 && high == 255, "{texture:?}: heights from {low} to {high}");
    }
}

#[test]
fn a_place_has_the_same_texel_whoever_asks_and_neighbours_are_alike() {
    for texture in Texture::ALL {
        let sheet = texture.sheet();
        for i in 0..400 {
            let p = vec2(i as f32 * 0.731 - 90.0, i as f32 * -0.417 + 33.0);
            let one = sheet.at(p);
            assert_eq!(one, sheet.at(p));
            // Across cells of shifts as well.
            let near = sheet.at(p + vec2(sheet.size_m * 1e-4, 0.0));
            assert!(
                (one.tone - near.tone).abs().max_element() < 0.2 && (one.height - near.height).abs() < 0.2
            );
        }
    }
}

/// Farther off than any land, where cells no longer fit in 32 bits.
#[test]
fn places_at_the_end_of_the_world_have_textures_too() {
    for far in [3e9_f32, -3e9, 1e30, f32::MAX, f32::INFINITY, f32::NAN] {
        for texture in Texture::ALL {
            let texel = texture.sheet().at(vec2(far, -far));
            assert!(
                (0.0..=255.0).contains(&(texel.height * 255.0)) || !(far * 1e8).is_finite(),
                "{texture:?} at {far}: {texel:?}"
            );
        }
        let n = Vec3::new(0.48, 0.6, 0.64);
        on_ground(
            &Sheets::usual(),
            Vec3::splat(far),
            n,
            &bare([0.5, 0.0, 0.0, 0.0, 0.5], &[Vec3::ONE; 5]),
            1.0,
        );
        on_stone(&Sheets::usual(), Vec3::splat(far), n, 1.0);
    }
}

/// How alike two series are, -1 to 1.
fn alike(a: &[f32], b: &[f32]) -> f32 {
    let mean = |v: &[f32]| v.iter().sum::<f32>() / v.len() as f32;
    let (ma, mb) = (mean(a), mean(b));
    let product: f32 = a.iter().zip(b).map(|(x, y)| (x - ma) * (y - mb)).sum();
    let square = |v: &[f32], m: f32| v.iter().map(|x| (x - m) * (x - m)).sum::<f32>();
    product / (square(a, ma) * square(b, mb)).sqrt()
}

/// A picture that is laid side by side is the same one side further on; shifted it is not.
#[test]
fn no_eye_finds_where_an_earth_repeats() {
    for texture in [Texture::Turf, Texture::Sand, Texture::Shingle, Texture::Rock] {
        let sheet = texture.sheet();
        let along = |from: f32| -> Vec<f32> {
            (0..4000)
                .map(|i| {
                    vec2(from + (i % 63) as f32 * 0.031 * sheet.size_m, (i / 63) as f32 * 0.77 * sheet.size_m)
                })
                .map(|p| sheet.at(p).tone.y)
                .collect()
        };
        let here = along(0.0);
        let most =
            (1..12).map(|sides| alike(&here, &along(sides as f32 * sheet.size_m)).abs()).fold(0.0, f32::max);
        assert!(most < 0.55, "{texture:?}: {most}");
        let unshifted = |from: f32| -> Vec<f32> {
            (0..300).map(|i| sheet.sample(vec2(from + i as f32 * 0.031, 0.3)).tone.y).collect()
        };
        assert!(alike(&unshifted(0.0), &unshifted(1.0)) > 0.99);
    }
}

const MEANS: [Vec3; 5] = [
    Vec3::new(0.12, 0.14, 0.05),
    Vec3::splat(0.07),
    Vec3::new(0.4, 0.34, 0.24),
    Vec3::splat(0.18),
    Vec3::splat(0.15),
];

fn mean_of(earths: [f32; 5], n: Vec3) -> (Vec3, Vec3) {
    let all = 60 * 60;
    let at = |i: i32| Vec3::new((i % 60) as f32 * 0.173, (i % 43) as f32 * 0.317, (i / 60) as f32 * 0.191);
    let laid: Vec<LaidOn> =
        (0..all).map(|i| on_ground(&Sheets::usual(), at(i), n, &bare(earths, &MEANS), 5.0)).collect();
    let n = all as f32;
    (laid.iter().map(|l| l.tone).sum::<Vec3>() / n, laid.iter().map(|l| l.tilt).sum::<Vec3>() / n)
}

/// Textures change nothing from afar: what they add is none on the mean.
#[test]
fn the_mean_of_a_ground_stays_what_its_earths_make_it() {
    for k in 0..5 {
        let mut earths = [0.0; 5];
        earths[k] = 1.0;
        for n in [Vec3::Y, Vec3::new(0.6, 0.8, 0.0)] {
            let (tone, tilt) = mean_of(earths, n);
            assert!((tone - 1.0).abs().max_element() < 0.06, "{k} facing {n}: {tone}");
            assert!(tilt.abs().max_element() < 0.05, "{k} facing {n}: {tilt}");
        }
    }
    // Where two meet neither wins on the whole.
    let (tone, _) = mean_of([0.0, 0.0, 0.5, 0.5, 0.0], Vec3::Y);
    assert!((tone - 1.0).abs().max_element() < 0.2, "{tone}");
}

/// Pebbles stand out of the sand they lie in: where shingle is high its colour shows, in its hollows that of sand.
#[test]
fn where_two_earths_meet_the_higher_shows() {
    let (mut high, mut low) = (Vec::new(), Vec::new());
    for i in 0..3000 {
        let p = Vec3::new(i as f32 * 0.137, 0.0, i as f32 * 0.071);
        let shingle = Texture::Shingle.sheet().at(vec2(p.x, p.z));
        let sand = Texture::Sand.sheet().at(vec2(p.x, p.z));
        let laid = on_ground(&Sheets::usual(), p, Vec3::Y, &bare([0.0, 0.0, 0.5, 0.5, 0.0], &MEANS), 100.0);
        let colour = laid.tone * (MEANS[2] + MEANS[3]) * 0.5;
        // Sand is warm, stones are not.
        let warm = (colour.x - colour.z) / colour.y;
        if shingle.height > sand.height + 0.25 {
            high.push(warm);
        } else if shingle.height < sand.height - 0.25 {
            low.push(warm);
        }
    }
    let mean = |v: &[f32]| v.iter().sum::<f32>() / v.len() as f32;
    assert!(high.len() > 20 && low.len() > 20);
    assert!(mean(&high) < 0.75 * mean(&low), "{} and {}", mean(&high), mean(&low));
}

/// Beds of a face lie level: along the level its tone varies less than upwards, and shifting it moves none of them up or down.
#[test]
fn beds_of_rock_lie_level() {
    let sheet = Texture::Face.sheet();
    assert_eq!(sheet.shifts[1], 0.0);
    let means = |of: &dyn Fn(usize, usize) -> usize| -> f32 {
        let lines: Vec<f32> = (0..SIDE)
            .map(|a| (0..SIDE).map(|b| f32::from(sheet.texels[of(a, b)][3])).sum::<f32>() / SIDE as f32)
            .collect();
        let mean = lines.iter().sum::<f32>() / SIDE as f32;
        lines.iter().map(|l| (l - mean) * (l - mean)).sum::<f32>() / SIDE as f32
    };
    let (rows, columns) = (means(&|y, x| y * SIDE + x), means(&|x, y| y * SIDE + x));
    assert!(rows > 3.0 * columns, "{rows} and {columns}");
}

#[test]
fn a_place_on_a_wall_is_measured_along_the_level_and_upwards() {
    for n in [Vec3::X, Vec3::NEG_Z, Vec3::new(0.6, 0.0, 0.8), Vec3::new(0.0, 0.6, 0.8)] {
        let along = level_along(n);
        assert!(along.y.abs() < 1e-6 && along.dot(n).abs() < 1e-6 && (along.length() - 1.0).abs() < 1e-6);
        let up = n.cross(along);
        assert!(up.y > 0.0);
        let p = n * 3.0 + along * 1.25 + up * 0.5;
        assert!((place_on(p, n) - vec2(1.25, 0.5)).length() < 1e-5);
    }
}
