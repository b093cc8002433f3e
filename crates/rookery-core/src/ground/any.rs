//! A ground of either kind.

use super::mesh::{EvenOnMesh, MeshModel};
use super::{Frame, GroundModel, Histogram, Reading, SunPath, Surface, Terrain, analysis};
use crate::cancel::{CancelToken, Cancelled};
use crate::nursery::{Dress, Mesh};
use crate::pattern::EvenPattern;
use glam::Vec3;
use rayon::prelude::*;

/// A ground with all that is read off it.
#[derive(Clone, Debug)]
pub enum AnyGround {
    /// A heightfield.
    Terrain(GroundModel),
    /// A mesh.
    Mesh(MeshModel),
}

/// Even places of one seed on one ground, as far as they were made.
#[derive(Debug)]
pub enum KeptEven {
    /// On a terrain.
    Terrain(EvenPattern),
    /// On a mesh.
    Mesh(EvenOnMesh),
}

impl KeptEven {
    /// What they take, bytes.
    pub fn bytes(&self) -> usize {
        match self {
            Self::Terrain(kept) => kept.bytes(),
            Self::Mesh(kept) => kept.bytes(),
        }
    }
}

/// A ground of either kind, borrowed.
#[derive(Clone, Copy, Debug)]
pub enum GroundRef<'a> {
    /// A heightfield.
    Terrain(&'a GroundModel),
    /// A mesh.
    Mesh(&'a MeshModel),
}

impl AnyGround {
    /// The same, borrowed.
    pub fn as_ref(&self) -> GroundRef<'_> {
        match self {
            Self::Terrain(t) => GroundRef::Terrain(t),
            Self::Mesh(m) => GroundRef::Mesh(m),
        }
    }
}

impl<'a> From<&'a GroundModel> for GroundRef<'a> {
    fn from(model: &'a GroundModel) -> Self {
        Self::Terrain(model)
    }
}

impl<'a> GroundRef<'a> {
    /// Its terrain; none for a mesh.
    pub fn terrain(&self) -> Option<&'a Terrain> {
        match self {
            Self::Terrain(t) => Some(&t.terrain),
            Self::Mesh(_) => None,
        }
    }
}

impl GroundRef<'_> {
    /// Names of its face groups.
    pub fn groups(&self) -> &[String] {
        match self {
            Self::Terrain(_) => &[],
            Self::Mesh(m) => &m.groups,
        }
    }

    /// How its area is spread over slope and over altitude.
    pub fn histograms(&self) -> (&Histogram, &Histogram) {
        match self {
            Self::Terrain(t) => t.histograms(),
            Self::Mesh(m) => (&m.slope_histogram, &m.altitude_histogram),
        }
    }

    /// No even places yet.
    pub fn no_even_places(&self, seed: u32) -> KeptEven {
        match self {
            Self::Terrain(t) => KeptEven::Terrain(t.no_even_places(seed)),
            Self::Mesh(m) => KeptEven::Mesh(m.no_even_places(seed)),
        }
    }

    /// A quantity of the whole ground, at its samples or vertices, in its own frame.
    ///
    /// # Errors
    /// [`Cancelled`].
    pub fn reading(&self, reading: Reading, cancel: &CancelToken) -> Result<Vec<f32>, Cancelled> {
        match self {
            Self::Terrain(t) => {
                let mut values = reading.read_off(&t.terrain, cancel)?;
                if reading == Reading::Altitude {
                    values.iter_mut().for_each(|v| *v += t.base_m);
                }
                Ok(values)
            }
            Self::Mesh(m) => Ok(m.reading(reading)),
        }
    }

    /// How its area, as densities count it, is spread over values that were read off it.
    pub fn reading_histogram(&self, reading: Reading, values: &[f32]) -> Histogram {
        match self {
            Self::Terrain(t) => reading.histogram(&t.terrain, values),
            Self::Mesh(m) => m.reading_histogram(reading, values),
        }
    }

    /// Hours of direct sun on a day, at its samples or vertices.
    ///
    /// # Errors
    /// [`Cancelled`].
    pub fn sun_hours(&self, path: &SunPath, cancel: &CancelToken) -> Result<Vec<f32>, Cancelled> {
        match self {
            Self::Terrain(t) => analysis::sun_hours(&t.terrain, path, cancel),
            Self::Mesh(m) => m.sun_hours(path, cancel),
        }
    }

    /// Its samples, or its vertices, in its own frame, metres.
    pub fn vertices(&self) -> Vec<Vec3> {
        match self {
            Self::Terrain(t) => {
                let (nx, nz) = (t.terrain.nx(), t.terrain.nz());
                (0..nx * nz).map(|i| t.terrain.vertex(i % nx, i / nx)).collect()
            }
            Self::Mesh(m) => m.mesh.positions.clone(),
        }
    }

    /// Half the way between two samples at most, metres; of a mesh half the root of twice the mean area of a triangle.
    pub fn sample_reach_m(&self) -> f32 {
        match self {
            Self::Terrain(t) => t.terrain.cell_m().length() * 0.5,
            Self::Mesh(m) => {
                let triangles = (m.mesh.indices.len() / 3).max(1);
                ((m.true_area_m2() * 2.0 / triangles as f64).sqrt() * 0.5) as f32
            }
        }
    }

    /// Its area as densities count it, m2.
    pub fn area_m2(&self) -> f64 {
        match self {
            Self::Terrain(t) => t.area_m2(),
            Self::Mesh(m) => m.area_m2(),
        }
    }

    /// How far a point of the ground's own frame lies above the surface, along the way up there, metres; below zero in it. None beside a
    /// terrain. On a mesh the surface is taken for flat about its nearest point.
    pub fn height_over(&self, point: Vec3) -> Option<f32> {
        match self {
            Self::Terrain(t) => {
                let spot = t.terrain.contains(point.x, point.z).then(|| t.spot_at(point.x, point.z))?;
                Some(point.y - t.position_m(&spot).y)
            }
            Self::Mesh(m) => Some(m.height_along_up(point)),
        }
    }

    /// The surface with its colours, where it stands in the scene.
    pub fn mesh(&self, frame: &Frame) -> Mesh {
        let mut mesh = match self {
            Self::Terrain(ground) => {
                let t = &ground.terrain;
                let cells = (0..t.nz()).flat_map(|row| (0..t.nx()).map(move |column| (column, row)));
                Mesh {
                    positions: cells.clone().map(|(c, r)| t.vertex(c, r)).collect(),
                    normals: cells.map(|(c, r)| t.smooth_normal(c, r)).collect(),
                    colours: ground.colours().into_iter().map(Vec3::from).collect(),
                    indices: t.triangles(),
                    through: Vec::new(),
                    dress: Box::new(Dress::Ground(
                        (0..t.nx() * t.nz()).into_par_iter().map(|i| ground.earths_of(i)).collect(),
                    )),
                    ..Mesh::default()
                }
            }
            Self::Mesh(m) => m.mesh.clone(),
        };
        if *frame != Frame::SCENE {
            mesh.positions.iter_mut().for_each(|p| *p = frame.point(*p));
            mesh.normals.iter_mut().for_each(|n| *n = frame.direction(*n));
        }
        mesh
    }
}
