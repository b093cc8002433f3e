//! Where it grows.

use super::{COLOUR_SCALE, FORMS, Nap, TILE_M, size_at, tiles_about};
use crate::document::Earth;
use crate::ground::GroundModel;
use crate::ground::colour::means;
use crate::math::hash::{pcg4d, unit};
use crate::plan::outline::OutlineLine;
use crate::soils::Laid;
use crate::textures::Sheets;
use glam::{Quat, Vec2, Vec3, vec2};
use rayon::prelude::*;

/// Places along a side of a tile.
pub(super) const ALONG: i32 = 72;
/// Steeper ground than this bears none: the height of its normal.
const STEEPEST: f32 = 0.6;
/// So much higher than water it begins, metres.
const OVER_WATER_M: f32 = 0.04;

/// Of what is trodden such a share is left, so small; crumbs of stone come up between, on such a share of the places.
const TRODDEN_LEFT: f32 = 0.3;
const TRODDEN_SIZE: f32 = 0.4;
const CRUMBS_ON_TRACKS: f32 = 0.4;
/// Their reflectance, linear RGB; by eye.
const CRUMBS: [f32; 3] = [0.19, 0.175, 0.15];

/// One of it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Tuft {
    /// Where, metres of the scene.
    pub position: Vec3,
    /// From its own frame to the scene: square to the ground, turned any way.
    pub rotation: Quat,
    /// Against full size.
    pub size: f32,
    /// The smaller, the farther off it is still seen, 0 to 1.
    pub rank: f32,
    /// A number of its own for colour, 0 to 65535.
    pub tint: u16,
    /// Reflectance of the ground it grows on, linear RGB, or that of the stone it comes from.
    pub ground: [f32; 3],
    /// What it is.
    pub nap: Nap,
    /// Which of its forms.
    pub form: u8,
}

impl Tuft {
    /// What the colours of its form are multiplied with, in 128ths. Ground lighter than half the light is taken for that.
    pub fn colour(&self) -> [u8; 3] {
        self.ground.map(|c| (c * 128.0 / COLOUR_SCALE).round().clamp(0.0, 255.0) as u8)
    }
}

/// All of a tile: the square of the plan from `at` times [`TILE_M`]. Earths in `bare` bring none; where an earth is laid it is that of this earth, and on other
/// tracks it is trodden down. Earths show in `sheets`.
pub fn tile(
    model: &GroundModel,
    laid: &[Laid<OutlineLine>],
    bare: &[Earth],
    sheets: &Sheets,
    at: [i32; 2],
) -> Vec<Tuft> {
    let low = Vec2::from(at.map(|i| i as f32 * TILE_M));
    let near: Vec<&Laid<OutlineLine>> = laid.iter().filter(|line| line.touches(low, low + TILE_M)).collect();
    (0..ALONG * ALONG)
        .filter_map(|i| {
            let cell = [at[0] * ALONG + i % ALONG, at[1] * ALONG + i / ALONG];
            tuft(model, &near, bare, sheets, cell)
        })
        .collect()
}

fn tuft(
    model: &GroundModel,
    laid: &[&Laid<OutlineLine>],
    bare: &[Earth],
    sheets: &Sheets,
    cell: [i32; 2],
) -> Option<Tuft> {
    let draw = |channel: u32| pcg4d([cell[0] as u32, cell[1] as u32, channel, 0x6E41_9A70]).map(unit);
    let [jitter_x, jitter_z, rank, there] = draw(0);
    let side = TILE_M / ALONG as f32;
    let p = vec2(cell[0] as f32 + jitter_x, cell[1] as f32 + jitter_z) * side;
    if !model.terrain.contains(p.x, p.y) {
        return None;
    }
    let [a, b, c, d] = draw(1);
    let mut lies = model.lies_at(p, [a, b, c, d]);
    let [wear, size, form, turn] = draw(2);
    // The last that lies there.
    let over = laid.iter().rev().find(|l| wear < l.share(p));
    if let Some(earth) = over.and_then(|l| l.earth) {
        lies.earth = earth;
        lies.colour = model.colour_laid(earth, lies.point);
    }
    if lies.normal.y < STEEPEST
        || lies.over_water_m.is_some_and(|m| m < OVER_WATER_M)
        || bare.contains(&lies.earth)
    {
        return None;
    }
    let [light, warm, trodden, _] = draw(3);
    let mut nap = Nap::of(lies.earth);
    let mut share = nap.share();
    let mut low = 1.0;
    let mut alone = [0.0; 5];
    alone[lies.earth as usize] = 1.0;
    let mut ground = sheets.recoloured(lies.colour.into(), alone, &means()).to_array();
    if over.is_some_and(|l| l.earth.is_none()) {
        if trodden < TRODDEN_LEFT {
            low = TRODDEN_SIZE;
        } else {
            (nap, share, ground) = (Nap::Crumbs, CRUMBS_ON_TRACKS, CRUMBS);
        }
    }
    if there >= share {
        return None;
    }
    let tint = (light * 255.0) as u16 | ((warm * 255.0) as u16) << 8;
    Some(Tuft {
        position: lies.point,
        rotation: Quat::from_rotation_arc(Vec3::Y, lies.normal)
            * Quat::from_rotation_y(turn * std::f32::consts::TAU),
        size: (0.75 + 0.5 * size) * low,
        rank,
        tint,
        ground,
        nap,
        form: (form * f32::from(FORMS)) as u8,
    })
}

/// All that an eye sees of it, each with its distance: those that are left out there are not among them, the others have the size they have there.
pub fn about(
    model: &GroundModel,
    laid: &[Laid<OutlineLine>],
    bare: &[Earth],
    sheets: &Sheets,
    eye: Vec3,
) -> Vec<(Tuft, f32)> {
    tiles_about(eye)
        .into_par_iter()
        .flat_map_iter(|at| {
            tile(model, laid, bare, sheets, at).into_iter().filter_map(|t| {
                let away_m = t.position.distance(eye);
                let size = size_at(t.rank, away_m) * t.size;
                (size > 0.0).then_some((Tuft { size, ..t }, away_m))
            })
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::{Earths, Outline, OutlineId, OutlineKind};
    use crate::ground::Terrain;
    use crate::nap::{REACH_M, WHOLE_M, share_at};
    use crate::soils::laid;

    fn flat(height: f32) -> GroundModel {
        let terrain = Terrain::new(65, 65, Vec2::splat(2.0), vec![height; 65 * 65]).unwrap();
        GroundModel::with_earths(terrain, Some(0.0), Earths { patches: 0.0, ..Earths::default() }, 3)
    }

    #[test]
    fn a_tile_is_the_same_whoever_asks_and_lies_in_its_square() {
        let model = flat(9.0);
        let one = tile(&model, &[], &[], &Sheets::usual(), [-1, 2]);
        assert_eq!(one, tile(&model, &[], &[], &Sheets::usual(), [-1, 2]));
        assert_eq!(one.len() as i32, ALONG * ALONG);
        for t in &one {
            assert!(
                (-TILE_M..=0.0).contains(&t.position.x)
                    && (2.0 * TILE_M..=3.0 * TILE_M).contains(&t.position.z)
            );
            assert!((t.position.y - 9.0).abs() < 1e-4 && t.nap == Nap::Sward);
        }
        assert!(tile(&model, &[], &[], &Sheets::usual(), [9, 9]).is_empty(), "beyond the land there is none");
    }

    #[test]
    fn it_keeps_out_of_water_and_off_bare_earths_and_is_trodden_down_on_tracks() {
        assert!(tile(&flat(0.0), &[], &[], &Sheets::usual(), [0, 0]).is_empty());
        let strand = tile(&flat(0.6), &[], &[], &Sheets::usual(), [0, 0]);
        assert!(strand.iter().all(|t| t.nap == Nap::Strand) && !strand.is_empty());
        let model = flat(9.0);
        assert!(tile(&model, &[], &[Earth::Turf], &Sheets::usual(), [0, 0]).is_empty());
        let track = Outline {
            id: OutlineId(1),
            name: "walk".into(),
            kind: OutlineKind::Track,
            nodes: vec![[8.0, -50.0], [8.0, 50.0]],
            smooth: false,
            soft_m: 0.0,
            width_m: 2.0,
            earth: None,
        };
        let worn = tile(&model, &laid(std::slice::from_ref(&track)), &[], &Sheets::usual(), [0, 0]);
        let whole: Vec<Tuft> = tile(&model, &[], &[], &Sheets::usual(), [0, 0]);
        // Its edges are ragged. Beside it nothing is another; on it there is little, and that is low or of stone.
        let beside = |t: &&Tuft| (t.position.x - 8.0).abs() > 1.25;
        let on = |t: &&Tuft| (t.position.x - 8.0).abs() < 0.75;
        assert!(worn.iter().filter(beside).eq(whole.iter().filter(beside)));
        let left = worn.iter().filter(on).count() as f32 / whole.iter().filter(on).count() as f32;
        let on: Vec<&Tuft> = worn.iter().filter(on).collect();
        assert!((left - 0.58).abs() < 0.05, "{left}");
        assert!(on.iter().all(|t| t.nap == Nap::Crumbs || t.size < 0.51));
        assert!(on.iter().any(|t| t.nap == Nap::Crumbs) && on.iter().any(|t| t.nap == Nap::Sward));
        // Where an earth is laid it is that of this earth.
        let laid = tile(
            &model,
            &laid(&[Outline { earth: Some(Earth::Sand), ..track }]),
            &[],
            &Sheets::usual(),
            [0, 0],
        );
        assert!(laid.iter().filter(beside).eq(whole.iter().filter(beside)));
        let on: Vec<&Tuft> = laid.iter().filter(|t| (t.position.x - 8.0).abs() < 0.75).collect();
        assert!(!on.is_empty() && on.iter().all(|t| t.nap == Nap::Strand && t.ground[0] > 0.3));
    }

    #[test]
    fn it_is_whole_near_the_eye_and_gone_before_its_reach() {
        let model = flat(9.0);
        let eye = Vec3::new(0.0, 10.6, 0.0);
        let all = about(&model, &[], &[], &Sheets::usual(), eye);
        let per_m2 = |from: f32, to: f32| {
            let found = all.iter().filter(|(_, away)| (from..to).contains(away)).count();
            found as f32 / (std::f32::consts::PI * (to * to - from * from))
        };
        let whole = (ALONG as f32 / TILE_M).powi(2);
        assert!((per_m2(4.0, WHOLE_M) / whole - 1.0).abs() < 0.02, "{}", per_m2(4.0, WHOLE_M));
        let far = per_m2(30.0, 31.0) / whole;
        assert!((far - share_at(30.5)).abs() < 0.02, "{far}");
        assert!(all.iter().all(|(_, away)| *away < REACH_M));
        // Seen from high above there is none.
        assert!(about(&model, &[], &[], &Sheets::usual(), eye + Vec3::Y * 50.0).is_empty());
    }
}
