//! What lighter detail needs so that it stands for the plant: the same covered area and the same mean colour.
//!
//! Generators leave leaves out and make the rest larger (Cook et al. 2007); how much larger depends on how much they hide one another, which
//! differs from species to species. It is measured: lighter meshes are built broader or narrower until what is seen of them all around
//! covers as much as the full ones.

use super::make::{self, Likeness};
use super::seen::Seen;
use super::{Detail, Look, Mesh, Plan};
use glam::Vec3;
use rustc_hash::FxHashMap;
use std::sync::{Mutex, PoisonError};

/// Rows of pixels they are looked at by.
const ROWS: usize = 144;
/// Times that a breadth is tried.
const TRIES: u32 = 7;
/// Near enough: the share by which covered areas differ.
const NEAR: f32 = 0.015;
/// Forms that are remembered.
const KEPT: usize = 2048;

/// Of looks that were measured. What is kept is what would be measured again.
static KNOWN: Mutex<Option<FxHashMap<String, [Likeness; 2]>>> = Mutex::new(None);

/// What light and far detail of a form need at a look.
pub(super) fn likeness(plan: &Plan, look: &Look, seed: u32, form: u16) -> [Likeness; 2] {
    let name = format!("{plan:?} {look:?} {seed} {form}");
    let known = || KNOWN.lock().unwrap_or_else(PoisonError::into_inner);
    if let Some(likeness) = known().get_or_insert_default().get(&name) {
        return *likeness;
    }
    let seen = |detail, likeness| Seen::look(&make::build(plan, look, seed, form, detail, likeness), ROWS);
    let full = seen(Detail::Full, Likeness::default());
    let found = [Detail::Light, Detail::Far].map(|detail| like(full, |likeness| seen(detail, likeness)));
    let mut known = known();
    let known = known.get_or_insert_default();
    if known.len() >= KEPT {
        known.clear();
    }
    known.insert(name, found);
    found
}

/// Finds what makes a mesh look like `full`.
fn like(full: Seen, look: impl Fn(Likeness) -> Seen) -> Likeness {
    let mut best = Likeness::default();
    let mut seen = look(best);
    if full.area_m2 <= 0.0 || seen.area_m2 <= 0.0 {
        return best;
    }
    let share = |seen: &Seen| seen.area_m2 / full.area_m2;
    let off = |seen: &Seen| (share(seen) - 1.0).abs();
    let mut step = 1.0;
    for _ in 0..TRIES {
        if off(&seen) < NEAR {
            break;
        }
        let broader = (best.broader * libm::powf(share(&seen).max(0.05), -step)).clamp(0.2, 12.0);
        let next = Likeness { broader, ..best };
        let now = look(next);
        // What has no leaves stays as it is; where leaves hide one another a whole step can be too long.
        if off(&now) < off(&seen) {
            (best, seen) = (next, now);
        } else {
            step *= 0.5;
        }
    }
    // The rest by its size as a whole.
    if off(&seen) > NEAR {
        let next = Likeness { larger: (1.0 / share(&seen)).sqrt().clamp(0.85, 1.2), ..best };
        let now = look(next);
        if off(&now) < off(&seen) {
            (best, seen) = (next, now);
        }
    }
    // Twice: what is white already does not become lighter, and the rest has to make up for it.
    for _ in 0..2 {
        let gain = full.colour / seen.colour.max(Vec3::splat(1e-4));
        best.tint = (best.tint * gain).clamp(Vec3::splat(0.4), Vec3::splat(2.5));
        seen = look(best);
    }
    best
}

/// Makes a mesh as much larger and of as much another colour.
pub(super) fn apply(mesh: &mut Mesh, likeness: Likeness) {
    let Likeness { larger, tint, .. } = likeness;
    if larger != 1.0 {
        let (low, high) = mesh.bounds();
        // Its foot stays where it is where it has one; a stone grows about its middle.
        let middle = if low.y < -1e-3 { (low.y + high.y) * 0.5 } else { 0.0 };
        for p in &mut mesh.positions {
            *p = Vec3::new(p.x * larger, middle + (p.y - middle) * larger, p.z * larger);
        }
        for limb in &mut mesh.shares.limbs {
            limb.scaled(larger, Vec3::Y * middle);
        }
        mesh.shares.flaps.iter_mut().for_each(|f| f.scaled(larger));
    }
    if tint != Vec3::ONE {
        mesh.colours.iter_mut().for_each(|c| *c = (*c * tint).min(Vec3::ONE));
    }
}
