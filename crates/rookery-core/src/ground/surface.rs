//! What growth asks of a ground, be it a terrain or a mesh.

use super::PlanBox;
use crate::cancel::{CancelToken, Cancelled};
use crate::document::{Clumps, GroundId, Pattern};
use crate::pattern::Layout;
use crate::pattern::{MAX_CANDIDATES, Place};
use glam::{Vec2, Vec3};

/// A point of the surface as a plant meets it, in the ground's own frame.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Footing {
    /// Where, metres.
    pub position_m: Vec3,
    /// Unit normal of the surface.
    pub normal: Vec3,
    /// Unit direction that is up for what grows here.
    pub up: Vec3,
}

/// How many places are asked for.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Quota {
    /// The first so many of the whole ground.
    pub count: usize,
    /// So many a square metre, where that is what is asked for: a ground of many bodies gives each its own, whatever the others are.
    pub per_m2: Option<f64>,
}

impl From<usize> for Quota {
    fn from(count: usize) -> Self {
        Self { count, per_m2: None }
    }
}

/// Looks at points of a survey: how each is found, and the area it stands for.
pub type Visit<'a, Spot> = dyn FnMut(&dyn Fn() -> Spot, f64) + 'a;

/// A surface that plants grow on.
pub trait Surface: Sync {
    /// A point of the surface, found once and asked about often.
    type Spot;
    /// A place where a plant may stand.
    type Place: Place;
    /// Even places as far as they were made.
    type Even: Send;

    /// Whether patterns and noises lie on its plan, so that they stay when it is sculpted.
    const ON_PLAN: bool;

    /// The area that densities count, m2: plan area of a terrain, true area of a mesh.
    fn area_m2(&self) -> f64;
    /// The point of a place.
    fn spot(&self, place: &Self::Place) -> Self::Spot;
    /// Steepness against the way up, degrees, 0 to 180; more than 90 is an underside.
    fn slope_deg(&self, spot: &Self::Spot) -> f32;
    /// Height, metres: above zero, or over the lowest land where up is away from the middle.
    fn altitude_m(&self, spot: &Self::Spot) -> f32;
    /// Lowest and highest land, metres, as [`Surface::altitude_m`] counts them; never the same.
    fn altitude_range_m(&self) -> [f32; 2];
    /// Where the point lies in the ground's own frame.
    fn position_m(&self, spot: &Self::Spot) -> Vec3;
    /// The face group of the point, if the ground has any.
    fn group(&self, spot: &Self::Spot) -> Option<u16>;
    /// Where a picture that is laid on the surface by its own places has the point: 0 to 1 from its left and from its upper edge, or
    /// beyond where the picture begins again; none where the surface has no such places.
    fn uv(&self, spot: &Self::Spot) -> Option<Vec2>;
    /// Values of its samples, or of the vertices of a mesh, between them; not a number where there are none.
    fn sampled(&self, values: &[f32], spot: &Self::Spot) -> f32;
    /// How a plant stands at the point.
    fn footing(&self, spot: &Self::Spot) -> Footing;
    /// The ground that carries the point, where the surface is made of plants that stand on some.
    fn carrier(&self, _: &Self::Spot) -> GroundId {
        GroundId::LAND
    }

    /// Where on the plan of the ground's own frame a place lies.
    fn plan(&self, place: &Self::Place) -> Vec2 {
        let p = self.position_m(&self.spot(place));
        Vec2::new(p.x, p.z)
    }

    /// Runs of points that together are spread over the whole surface.
    fn runs(&self) -> usize;
    /// The part of the plan of the ground's own frame that the points of a run lie in.
    fn run_on_plan(&self, run: usize) -> PlanBox;
    /// The points of a run, each with the area it stands for, in a unit that is the same for all. A point is found when it is asked
    /// for.
    fn survey(&self, run: usize, visit: &mut Visit<'_, Self::Spot>);

    /// The most places a pattern may be asked for here, so that memory stays bounded.
    fn most_places(&self, _: Pattern) -> u64 {
        MAX_CANDIDATES
    }
    /// The first places at random, in no particular order; those for less are all among them.
    fn random_places(&self, seed: u32, quota: impl Into<Quota>) -> Vec<Self::Place>;
    /// The first places in clumps, in no particular order; those for less are all among them.
    fn clumped_places(&self, seed: u32, clumps: &Clumps, quota: impl Into<Quota>) -> Vec<Self::Place>;
    /// The places of a layout up to so many a square metre, in an order of its own, and how many it has in all.
    fn laid_places(&self, seed: u32, layout: &Layout<'_>, per_m2: Option<f64>) -> (Vec<Self::Place>, u64);
    /// The point of the surface that is meant by a point near it: on a terrain the one below or above it, on a mesh the nearest.
    fn spot_near(&self, point: Vec3) -> Self::Spot;
    /// The point so many metres to two sides of a point, on the surface.
    fn beside(&self, spot: &Self::Spot, across_m: f32, along_m: f32) -> Self::Spot;
    /// No even places yet.
    fn no_even_places(&self, seed: u32) -> Self::Even;
    /// The first even places, kept for the next time.
    ///
    /// # Errors
    /// [`Cancelled`].
    fn even_places(
        &self,
        kept: &mut Self::Even,
        quota: impl Into<Quota>,
        cancel: &CancelToken,
    ) -> Result<Vec<Self::Place>, Cancelled>;
}
