//! The nap of the ground about the eye.

use crate::accel::Instance;
use crate::scene::RenderScene;
use rookery_core::nap::{DETAIL_M, Tuft, form};
use rookery_core::nursery::Detail;
use std::collections::BTreeMap;

impl RenderScene {
    /// Lays it, each with its distance from the eye, metres. Meshes that are there once serve all tufts of a form.
    pub fn lay(&mut self, nap: &[(Tuft, f32)]) {
        let mut parts = BTreeMap::new();
        let mut list = self.placed().to_vec();
        list.reserve(nap.len());
        for (tuft, away_m) in nap {
            // A still sees more than a view: what is drawn lightly there is whole here a little farther.
            let detail = match *away_m {
                near if near < 2.0 * DETAIL_M[0] => Detail::Full,
                near if near < 2.0 * DETAIL_M[1] => Detail::Light,
                _ => Detail::Far,
            };
            let mesh = *parts
                .entry((tuft.nap, tuft.form, detail))
                .or_insert_with(|| self.add_part(form(tuft.nap, tuft.form, detail)));
            list.push(Instance {
                position: tuft.position.into(),
                rotation: tuft.rotation,
                scale: glam::Vec3A::splat(tuft.size),
                tint: tuft.tint,
                colour: tuft.colour(),
                ..Instance::new(mesh)
            });
        }
        self.place(list);
    }
}
