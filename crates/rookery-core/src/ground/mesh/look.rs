//! What a bare mesh looks like at its vertices.

use super::MeshModel;
use crate::ground::colour::Colouring;
use glam::Vec3;
use rayon::prelude::*;

pub(super) fn colours(model: &MeshModel, colouring: &Colouring) -> Vec<Vec3> {
    let vertices = model.mesh.positions.par_iter().zip(&model.mesh.normals);
    vertices.map(|(p, n)| colouring.on_mesh(*p, model.slope_between(*p, *n)).into()).collect()
}

pub(super) fn earths(model: &MeshModel, colouring: &Colouring) -> Vec<[u8; 4]> {
    let vertices = model.mesh.positions.par_iter().zip(&model.mesh.normals);
    vertices.map(|(p, n)| colouring.earths_on_mesh(*p, model.slope_between(*p, *n))).collect()
}
