//! What grows: plants with their account; and growing a layer from nothing, step by step in `steps`.

pub use super::steps::Span;
use super::steps::{Kept, Work};
use super::{PlantId, Tally};
use crate::cancel::{CancelToken, Cancelled};
use crate::document::bare;
use crate::document::{Document, GroundId, Layer};
use crate::ground::{GroundModel, Surface};
use crate::habitat::{SurveyedRun, survey};
use crate::math::grouped;
use crate::names::ContentKey;
use crate::nursery::Species;
use crate::pattern::Candidate;
use crate::plan::Frame;
use crate::planting::Rules;
use glam::{Quat, Vec2, Vec3};
use rayon::prelude::*;
use thiserror::Error;

/// One placed individual.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Plant {
    /// Lasting name within the layer and the ground it grows on.
    pub id: PlantId,
    /// The ground it grows on.
    pub ground: GroundId,
    /// The ground that it is carried by: the same, or for what grows on other plants the one that those stand on.
    pub carrier: GroundId,
    /// Its base point, metres.
    pub position_m: Vec3,
    /// From its own frame (Y along the stem) to the scene.
    pub rotation: Quat,
    /// Against the species' full size.
    pub size: f32,
    /// Height along the stem and depth from front to back, against that size.
    pub stretch: [f32; 2],
    /// Its species, by its place in the layer's mix.
    pub species: u8,
    /// Which individual of the species.
    pub form: u16,
    /// A number of its own for colour, 0 to 65535.
    pub tint: u16,
    /// What the light of its colours is multiplied with: red, green, blue, each in 128ths.
    pub colour: [u8; 3],
}

impl Plant {
    /// A plant of the first species, at full size, facing north.
    pub const UPRIGHT: Self = Self {
        id: PlantId(0),
        ground: GroundId::LAND,
        carrier: GroundId::LAND,
        position_m: Vec3::ZERO,
        rotation: Quat::IDENTITY,
        size: 1.0,
        stretch: [1.0; 2],
        species: 0,
        form: 0,
        tint: 0x8080,
        colour: [128; 3],
    };

    /// Its size along its own axes: across, along the stem, from front to back.
    pub fn scale(&self) -> Vec3 {
        Vec3::new(1.0, self.stretch[0], self.stretch[1]) * self.size
    }
}

impl Document {
    /// The species of one plant of a layer.
    pub fn species_of(&self, layer: &Layer, plant: &Plant) -> Option<&Species> {
        self.species(&layer.mix.get(usize::from(plant.species))?.species)
    }
}

impl Frame {
    /// A plant of this ground as the scene sees it.
    #[inline]
    pub fn plant(&self, p: &Plant, ground: GroundId) -> Plant {
        let carrier = if ground == GroundId::PLANTS { p.carrier } else { ground };
        Plant {
            position_m: self.point(p.position_m),
            rotation: self.turn * p.rotation,
            ground,
            carrier,
            ..*p
        }
    }
}

/// A grown layer.
#[derive(Clone, Debug)]
pub struct Growth {
    /// In an order that depends on the settings only.
    pub plants: Vec<Plant>,
    /// The account.
    pub tally: Tally,
    pub(super) kept: Kept,
    /// Names the growth this one was made from, for those who know it by a name.
    pub since: Option<ContentKey>,
}

impl Growth {
    /// What stands, with its account. It cannot be grown again from itself.
    pub fn new(plants: Vec<Plant>, tally: Tally) -> Self {
        Self { plants, tally, kept: Kept::default(), since: None }
    }

    /// Memory it takes, bytes, about. Places are as large as half a plant; where they lie takes two more numbers each.
    pub fn bytes(&self) -> usize {
        size_of_val(self.plants.as_slice())
            + self.kept.verdicts.len() * (26 + if self.kept.index.is_some() { 16 } else { 0 })
            + self.kept.runs.iter().map(SurveyedRun::bytes).sum::<usize>()
            + self.kept.looked_at.as_ref().map_or(0, |l| l.bytes())
    }

    /// Where on the plan a plant of this name would stand, of a growth on a terrain; none where it is not known.
    pub fn place_of(&self, id: PlantId) -> Option<Vec2> {
        let places = self.kept.places.as_ref()?.downcast_ref::<Vec<Candidate>>()?;
        places.par_iter().find_any(|p| p.id == id).map(|p| Vec2::new(p.x, p.z))
    }

    /// Where its plants come from, when it was grown again from an earlier growth; none when all were looked at.
    pub fn spans(&self) -> Option<&[Span]> {
        self.kept.spans.as_deref()
    }
}

/// Why a layer cannot be grown.
#[derive(Clone, Copy, Debug, PartialEq, Error)]
pub enum GrowError {
    /// It was stopped.
    #[error(transparent)]
    Cancelled(#[from] Cancelled),
    /// The plants it would grow on are too many.
    #[error(
        "the plants it grows on have {} triangles, more than the limit of {}; choose a sparser layer", grouped(*triangles), grouped(*limit)
    )]
    TooManyHosts {
        /// Triangles of all of them.
        triangles: u64,
        /// The most.
        limit: u64,
    },
    /// The amount asks for more places than fit in memory.
    #[error(
        "its amount means looking at {} places, more than the limit of {}; lower the amount or use a smaller ground", grouped(*candidates), grouped(*limit)
    )]
    TooMany {
        /// Places needed.
        candidates: u64,
        /// The most for this pattern on this ground.
        limit: u64,
    },
}

/// Grows a layer without zones on a terrain from nothing. See [`grow_with`].
///
/// # Errors
/// [`GrowError`].
pub fn grow(ground: &GroundModel, layer: &Layer, cancel: &CancelToken) -> Result<Growth, GrowError> {
    let nursery = bare();
    let rules = Rules::plain(&layer.masks).growing(&nursery, layer);
    grow_with(ground, layer, &rules, &mut ground.no_even_places(layer.seed), cancel)
}

/// Grows a layer on one ground, in that ground's own frame. `rules` must be the masks of this layer on this ground, and
/// `even` the even places of this layer's seed on it; they are kept by callers who grow again and again, so that only what
/// is new is computed.
///
/// The result is the same on any number of threads.
///
/// # Errors
/// [`GrowError`].
pub fn grow_with<S: Surface>(
    ground: &S,
    layer: &Layer,
    rules: &Rules,
    even: &mut S::Even,
    cancel: &CancelToken,
) -> Result<Growth, GrowError> {
    let strewn = rules.drifting().strew(ground, layer, rules);
    let work = Work { ground, layer, rules, before: None, strewn, cancel };
    work.grow(even, survey(ground, rules))
}
