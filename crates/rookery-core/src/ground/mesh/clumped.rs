//! Places in clumps on a mesh: middles at random by area, places about each in the plane that touches the surface there,
//! brought to the nearest point of the surface.

use super::bodies::Part;
use crate::document::Clumps;
use crate::pattern::clumped::{clump_size, name_in, offset};
use crate::pattern::{MeshPlace, Place};
use glam::Vec3;
use rayon::prelude::*;

/// Level of the middles in their names.
const LEVEL: u8 = 254;

impl Part<'_> {
    pub(super) fn clumped(&self, seed: u32, clumps: &Clumps, count: usize) -> Vec<MeshPlace> {
        if count == 0 {
            return Vec::new();
        }
        let sigma = clumps.sigma_m();
        let wanted = count as f64 / f64::from(clumps.plants);
        let mut middles = (wanted + 5.0 * wanted.sqrt() + 4.0) as usize;
        loop {
            let mut places: Vec<MeshPlace> = self
                .runs
                .first(seed, LEVEL, middles)
                .par_iter()
                .filter(|m| m.id.0 & 0xFFFF < 0x1000)
                .flat_map_iter(|m| {
                    let spot = self.model.spot_on(m.face, m.v, m.w);
                    let across = spot.normal.any_orthonormal_vector();
                    let other = spot.normal.cross(across);
                    (0..clump_size(seed, m.id.0, clumps.plants)).filter_map(move |k| {
                        let id = name_in(m.id, k);
                        let at = offset(seed, id) * sigma;
                        let p: Vec3 = spot.position_m + across * at.x + other * at.y;
                        let (face, v, w) = self.closest(p)?;
                        Some(MeshPlace { face, v, w, birth: m.birth, id })
                    })
                })
                .collect();
            if places.len() >= count || middles > 20_000_000 {
                if places.len() > count {
                    places.select_nth_unstable_by(count - 1, MeshPlace::order);
                    places.truncate(count);
                }
                return places;
            }
            middles = middles * 13 / 10 + 1;
        }
    }
}
