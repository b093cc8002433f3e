//! How far it is downhill to something, along the edges of a mesh.

use super::MeshModel;

impl MeshModel {
    /// The way downhill from every vertex to the first that is there, metres along the steepest edges, and what is left to go from that
    /// one; infinite where it ends in a hollow or at the lowest land without passing any.
    pub fn downhill_m(&self, there: &[Option<f32>]) -> Vec<f32> {
        let altitudes = self.altitudes_m();
        let positions = &self.mesh.positions;
        // For each vertex the steepest way down, and how steep.
        let mut down: Vec<(u32, f32)> = (0..positions.len() as u32).map(|i| (i, 0.0)).collect();
        for t in self.mesh.indices.chunks_exact(3) {
            for (from, to) in [(0, 1), (1, 2), (2, 0)].map(|(a, b)| (t[a] as usize, t[b] as usize)) {
                for (from, to) in [(from, to), (to, from)] {
                    let fall =
                        (altitudes[from] - altitudes[to]) / positions[from].distance(positions[to]).max(1e-9);
                    if fall > down[from].1 {
                        down[from] = (to as u32, fall);
                    }
                }
            }
        }
        let mut order: Vec<usize> = (0..positions.len()).collect();
        order.sort_by(|a, b| altitudes[*a].total_cmp(&altitudes[*b]));
        let mut away: Vec<f32> = there.iter().map(|t| t.unwrap_or(f32::INFINITY)).collect();
        for from in order {
            let to = down[from].0 as usize;
            if there[from].is_none() && to != from {
                away[from] = away[to] + positions[from].distance(positions[to]);
            }
        }
        away
    }
}
