//! What a mesh is made of, seen from near.

use super::Mesh;
use crate::textures::{Bare, LaidOn, Sheets, Texture, on_built, on_ground, on_stone};
use glam::{Vec2, Vec3};

/// A point of a mesh that is looked at.
#[derive(Clone, Copy, Debug)]
pub struct Place {
    /// Which triangle it lies on.
    pub triangle: usize,
    /// Weights of the corners of that.
    pub weights: [f32; 3],
    /// In the mesh's own frame, but of its true size, metres.
    pub point: Vec3,
    /// Unit normal in that frame.
    pub normal: Vec3,
    /// Its reflectance before, linear RGB.
    pub colour: Vec3,
    /// Seen from so far.
    pub away_m: f32,
}

/// What lies on a mesh besides its colours. Nothing of it is in the mesh's shape.
#[derive(Clone, Debug, Default, PartialEq)]
pub enum Dress {
    /// Its colours are all.
    #[default]
    Plain,
    /// Stone all through.
    Stone,
    /// Earths: of each vertex how much peat, sand, shingle and rock lies there, in 255ths; the rest is turf.
    Ground(Vec<[u8; 4]>),
    /// Built of several things.
    Built {
        /// Of each vertex its place on its face, metres along the level and up.
        places_m: Vec<Vec2>,
        /// Of each the number of its texture, the same at all corners of a triangle; [`Dress::BARE`] for none.
        textures: Vec<u8>,
    },
}

impl Dress {
    /// No texture lies here.
    pub const BARE: u8 = 255;

    /// What it does to a point of its mesh. `means` are the usual mean colours of the earths; `over` lays others over those that lie there.
    pub fn at(
        &self,
        mesh: &Mesh,
        place: &Place,
        sheets: &Sheets,
        means: &[Vec3; 5],
        over: impl FnOnce([f32; 5]) -> [f32; 5],
    ) -> Option<LaidOn> {
        let Place { triangle, weights, point: p, normal: n, colour, away_m } = *place;
        let corners = [0, 1, 2].map(|i| mesh.indices[triangle * 3 + i] as usize);
        match self {
            Self::Plain => None,
            Self::Stone => Some(on_stone(sheets, p, n, away_m)),
            Self::Ground(earths) => {
                let mut mixed = [0.0; 5];
                for (corner, weight) in corners.into_iter().zip(weights) {
                    let own = five(earths[corner]);
                    mixed.iter_mut().zip(own).for_each(|(m, o)| *m += o * weight);
                }
                Some(on_ground(sheets, p, n, &Bare { colour, earths: over(mixed), means }, away_m))
            }
            Self::Built { places_m, textures } => {
                let texture = Texture::ALL.get(usize::from(textures[corners[0]]))?;
                let place: Vec2 = corners.into_iter().zip(weights).map(|(c, w)| places_m[c] * w).sum();
                Some(on_built(sheets, place, *texture, n, away_m))
            }
        }
    }

    /// Puts the dress of another mesh after its own, the vertices of both being so many. Only the dress of grounds is joined.
    pub fn join(&mut self, own: usize, other: &Self, others: usize) {
        let list = |dress: &Self, n: usize| match dress {
            Self::Ground(earths) => earths.clone(),
            _ => vec![[0; 4]; n],
        };
        if matches!((&*self, other), (Self::Plain, Self::Plain)) {
            return;
        }
        let mut all = list(self, own);
        all.extend(list(other, others));
        *self = Self::Ground(all);
    }
}

/// A ground in the colours of what its earths wear, whose usual means are these.
pub fn worn(mut mesh: Mesh, sheets: &Sheets, means: &[Vec3; 5]) -> Mesh {
    if let Dress::Ground(earths) = &*mesh.dress {
        for (colour, earths) in mesh.colours.iter_mut().zip(earths) {
            *colour = sheets.recoloured(*colour, five(*earths), means).min(Vec3::ONE);
        }
    }
    mesh
}

/// Shares of the five earths from those that are kept.
pub fn five(kept: [u8; 4]) -> [f32; 5] {
    let [peat, sand, shingle, rock] = kept.map(|v| f32::from(v) / 255.0);
    [(1.0 - peat - sand - shingle - rock).max(0.0), peat, sand, shingle, rock]
}

/// What is kept of the shares of the five earths.
pub fn four(shares: [f32; 5]) -> [u8; 4] {
    let all: f32 = shares.iter().sum();
    [1, 2, 3, 4].map(|k: usize| (shares[k] / all.max(1e-6) * 255.0).round().clamp(0.0, 255.0) as u8)
}
