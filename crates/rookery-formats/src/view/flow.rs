//! `RKFL`: the mean wind over the land.

use super::head;
use rookery_core::air::Flow;
use serde::Serialize;

#[derive(Serialize)]
struct Head<'a> {
    first: [f32; 2],
    step: f32,
    cells: [usize; 2],
    heights: &'a [f32],
}

/// Head: `{first, step, cells, heights}`: the middle of the first cell and the distance of one to the next on the plan, metres, cells along x and z, and
/// the heights of their middles. Arrays, f32: the wind against that at the same height over level ground, x and z, for each cell, x fastest, then
/// height, then z; then the height of the ground under the middle of each column, x fastest.
pub fn encode_flow(flow: &Flow) -> Vec<u8> {
    let info = Head { first: flow.first, step: flow.step, cells: flow.cells, heights: &flow.heights };
    let mut out = head(b"RKFL", &info, flow.ratio.len() * 8 + flow.ground.len() * 4);
    out.extend_from_slice(bytemuck::cast_slice(flow.ratio.as_flattened()));
    out.extend_from_slice(bytemuck::cast_slice(&flow.ground));
    out
}
