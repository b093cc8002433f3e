//! A triangle mesh with colours at its vertices.

use super::{Dress, Skin};
use crate::math::limb::Shares;
use glam::Vec3;

/// How finely a form is made.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Detail {
    /// For stills and near plants.
    Full,
    /// For plants some metres away.
    Light,
    /// For plants far away: a handful of triangles with the same outline and colour.
    Far,
}

impl Detail {
    /// From the finest to the lightest.
    pub const ALL: [Self; 3] = [Self::Full, Self::Light, Self::Far];
}

/// A mesh in its own frame, metres: base point at the origin, Y along the stem.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Mesh {
    /// Places of the vertices.
    pub positions: Vec<Vec3>,
    /// Unit normals for shading; soft on plants.
    pub normals: Vec<Vec3>,
    /// Reflectance, linear RGB, 0 to 1.
    pub colours: Vec<Vec3>,
    /// Three a triangle, counter-clockwise seen from outside.
    pub indices: Vec<u32>,
    /// How much of the light on a side goes through to the other, 0 to 1, at every vertex; nothing does when empty.
    pub through: Vec<f32>,
    /// How glossy it is, 0 to 1: [`super::Colours::sheen`].
    pub sheen: f32,
    /// Light it gives off by itself: [`super::Colours::glow`].
    pub glow: f32,
    /// What of it bends in the wind; nothing of what is stiff.
    pub shares: Box<Shares>,
    /// Pictures that lie on it; none on what is made here.
    pub skin: Option<Skin>,
    /// What it is made of.
    pub dress: Box<Dress>,
}

impl Mesh {
    /// Triangles.
    pub fn triangles(&self) -> usize {
        self.indices.len() / 3
    }

    /// Smallest and largest corner of the mesh.
    pub fn bounds(&self) -> (Vec3, Vec3) {
        self.positions
            .iter()
            .fold((Vec3::INFINITY, Vec3::NEG_INFINITY), |(low, high), p| (low.min(*p), high.max(*p)))
    }

    /// Adds a vertex of a leaf. All vertices of a mesh are added this way or none.
    pub(crate) fn leafy(&mut self, position: Vec3, normal: Vec3, colour: Vec3, through: f32) -> u32 {
        self.through.push(through);
        self.vertex(position, normal, colour)
    }

    pub(crate) fn vertex(&mut self, position: Vec3, normal: Vec3, colour: Vec3) -> u32 {
        self.positions.push(position);
        self.normals.push(normal);
        self.colours.push(colour);
        (self.positions.len() - 1) as u32
    }
}
