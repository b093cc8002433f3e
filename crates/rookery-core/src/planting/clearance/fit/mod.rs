//! Plants whose form is fitted to what stands beside them: bent aside by obstacles, trimmed at edges.
//!
//! Each is worked out by itself, from its form, its stance and what is near it; who stands is settled before, see
//! [`super::Clear::room`].

mod bend;
mod trim;

use super::{Body, Clear};
use crate::cancel::{CancelToken, Cancelled};
use crate::document::{Document, GroundId, Keep, Layer, TooClose};
use crate::nursery::{Detail, Mesh};
use crate::planting::{Mix, Plant};
use bend::Pressed;
use glam::Vec3;
use rayon::prelude::*;
use std::collections::BTreeMap;

/// Vertices of fitted plants of one layer, at most: about 200 MB.
const MOST_VERTICES: usize = 8_000_000;
/// More than these are a burden to a view.
const VIEW_VERTICES: usize = 1_500_000;

/// Details to try, each with the vertices it may come to; the last is cut short.
pub type Details = &'static [(Detail, usize)];
/// As fine as can be.
pub const FINE: Details = &[(Detail::Full, MOST_VERTICES)];
/// As fine as a view can show at once.
pub const SHOWN: Details = &[(Detail::Full, VIEW_VERTICES), (Detail::Light, MOST_VERTICES)];
/// Plants looked at between two looks at the stop.
const CHUNK: usize = 64;

/// A plant with a form of its own.
#[derive(Clone, Debug, PartialEq)]
pub struct Fitted {
    /// Its place in the list of plants.
    pub plant: u32,
    /// The vertices of its form in the form's order, turned as in the scene, metres from the base point.
    pub positions: Vec<Vec3>,
    /// Their unit normals, likewise.
    pub normals: Vec<Vec3>,
    /// How it was fitted.
    pub how: How,
}

/// What was done to a plant's form.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct How {
    /// Parts lean aside.
    pub bent: bool,
    /// Parts were cut off.
    pub trimmed: bool,
    /// It had to be made smaller, because bending alone did not help.
    pub smaller: bool,
    /// Nothing helped: it is not shown.
    pub gone: bool,
}

/// All plants of a layer that have forms of their own.
#[derive(Clone, Debug, PartialEq)]
pub struct Fits {
    /// In the order of the plants.
    pub plants: Vec<Fitted>,
    /// Plants that should be fitted and are not, because there are too many; they show their usual form.
    pub left: usize,
    /// How fine the forms are.
    pub detail: Detail,
}

impl Default for Fits {
    fn default() -> Self {
        Self { plants: Vec::new(), left: 0, detail: Detail::Full }
    }
}

impl Fits {
    /// How many were fitted in some way.
    pub fn count(&self, of: impl Fn(&How) -> bool) -> usize {
        self.plants.iter().filter(|f| of(&f.how)).count()
    }

    /// The mesh of a fitted plant, beside its base point and turned as in the scene. `form` is its usual one.
    pub fn mesh(fitted: &Fitted, form: &Mesh) -> Mesh {
        Mesh { positions: fitted.positions.clone(), normals: fitted.normals.clone(), ..form.clone() }
    }

    /// About how many bytes they take.
    pub fn bytes(&self) -> usize {
        self.plants.iter().map(|f| size_of::<Fitted>() + f.positions.len() * 24).sum()
    }
}

/// Fits the forms of a layer's plants, at the first detail that is not too much. `on` are the grounds it grows on, with what it keeps clear of there.
///
/// # Errors
/// When it was stopped.
pub fn fits(
    document: &Document,
    layer: &Layer,
    on: &[(GroundId, &Clear)],
    plants: &[Plant],
    details: Details,
    cancel: &CancelToken,
) -> Result<Fits, Cancelled> {
    if layer.clearance.fits() {
        for (i, (detail, most)) in details.iter().enumerate() {
            let found =
                fits_at(document, layer, on, plants, (*detail, *most, i + 1 == details.len()), cancel)?;
            if let Some(found) = found {
                return Ok(found);
            }
        }
    }
    Ok(Fits::default())
}

/// The same at one detail; none where that is more than so many vertices and may not be cut short.
fn fits_at(
    document: &Document,
    layer: &Layer,
    on: &[(GroundId, &Clear)],
    plants: &[Plant],
    (detail, most, last): (Detail, usize, bool),
    cancel: &CancelToken,
) -> Result<Option<Fits>, Cancelled> {
    let mix = Mix::new(document, layer);
    let forms = Forms::new(document, layer, plants, detail);
    let near = |p: &Plant| -> bool {
        let Some((_, clear)) = on.iter().find(|(id, _)| *id == p.ground) else { return false };
        forms.of_plant(p).is_some_and(|form| form.meets(clear, &mix, p))
    };
    let chunks: Vec<Vec<u32>> = plants
        .par_chunks(4096)
        .enumerate()
        .map(|(k, chunk)| {
            let stopped = cancel.is_cancelled();
            let all = chunk.iter().enumerate().filter(|(_, p)| !stopped && near(p));
            all.map(|(i, _)| (k * 4096 + i) as u32).collect()
        })
        .collect();
    let all = chunks.concat();
    let mut vertices = 0;
    let fitting = all.iter().take_while(|i| {
        vertices += forms.of_plant(&plants[**i as usize]).map_or(0, |f| f.mesh.positions.len());
        vertices <= most
    });
    let fitting: Vec<u32> = fitting.copied().collect();
    if fitting.len() < all.len() && !last {
        return Ok(None);
    }
    let fit = |i: u32| {
        let plant = &plants[i as usize];
        let (_, clear) = on.iter().find(|(id, _)| *id == plant.ground)?;
        forms.of_plant(plant)?.fit(clear, &mix, plant, i)
    };
    let found: Vec<Vec<Fitted>> = fitting
        .par_chunks(CHUNK)
        .map(|chunk| {
            if cancel.is_cancelled() {
                return Vec::new();
            }
            chunk.iter().filter_map(|i| fit(*i)).collect()
        })
        .collect();
    if cancel.is_cancelled() {
        return Err(Cancelled);
    }
    let left = all.len() - fitting.len();
    Ok(Some(Fits { plants: found.into_iter().flatten().collect(), left, detail }))
}

/// The forms that grow in a layer, each built once.
struct Forms(BTreeMap<(u8, u16), Form>);

/// A form with the ball that holds it.
struct Form {
    mesh: Mesh,
    middle: Vec3,
    radius_m: f32,
}

impl Forms {
    fn new(document: &Document, layer: &Layer, plants: &[Plant], detail: Detail) -> Self {
        let mut forms = BTreeMap::new();
        for p in plants {
            if forms.contains_key(&(p.species, p.form)) {
                continue;
            }
            let Some(species) = document.species_of(layer, p) else { continue };
            let mesh = species.build(p.form, detail, document.season);
            let (low, high) = mesh.bounds();
            let middle = (low + high) * 0.5;
            let radius_m = mesh.positions.iter().map(|v| v.distance(middle)).fold(0.0, f32::max);
            forms.insert((p.species, p.form), Form { mesh, middle, radius_m });
        }
        Self(forms)
    }

    fn of_plant(&self, p: &Plant) -> Option<&Form> {
        self.0.get(&(p.species, p.form))
    }
}

impl Form {
    /// Whether any part of a plant of this form may have to be fitted.
    fn meets(&self, clear: &Clear, mix: &Mix, p: &Plant) -> bool {
        let settings = clear.settings();
        let scale = p.scale();
        let middle = p.position_m + p.rotation * (self.middle * scale);
        let radius = self.radius_m * scale.max_element();
        let keep = &settings.obstacles;
        // One that lies in an obstacle with all it has cannot lean out of it.
        let presses = keep.fits() && mix.kin(p.species).bends && {
            let reach = radius + keep.margin_m.max(0.0) + bend::WIDEST_M;
            clear.obstacles.iter().any(|(_, mesh)| mesh.distance(middle, reach) <= reach)
        };
        let hangs = |keep: &Keep, within_m: f32| keep.fits() && within_m < radius + keep.margin_m;
        let plan = middle.truncate_y();
        presses || hangs(&settings.edges, clear.edge_m(plan)) || hangs(&settings.tracks, clear.track_m(plan))
    }

    /// Fits a plant; none where its usual form has room.
    fn fit(&self, clear: &Clear, mix: &Mix, plant: &Plant, at: u32) -> Option<Fitted> {
        let scale = plant.scale();
        let whole: Vec<Vec3> = self.mesh.positions.iter().map(|v| plant.rotation * (*v * scale)).collect();
        let faced = |n: &Vec3| (plant.rotation * (*n / scale)).normalize_or(Vec3::Y);
        let normals: Vec<Vec3> = self.mesh.normals.iter().map(faced).collect();
        let mut fitted = Fitted { plant: at, positions: whole, normals, how: How::default() };
        let settings = clear.settings();
        let kin = mix.kin(plant.species);
        if settings.obstacles.response == TooClose::Bend && kin.bends {
            let own_m = kin.footprint_m * Body::new(plant).across;
            let reach_m = fitted.positions.iter().map(|v| v.length()).fold(0.0, f32::max);
            let pressed = Pressed::new(clear, plant, own_m, reach_m);
            pressed.bend(&self.mesh.indices, &mut fitted);
        }
        if [settings.edges, settings.tracks].iter().any(Keep::fits) {
            trim::trim(clear, plant, &mut fitted);
        }
        (fitted.how != How::default()).then_some(fitted)
    }
}

/// The point of the plan below a point.
trait OnPlan {
    fn truncate_y(self) -> glam::Vec2;
}

impl OnPlan for Vec3 {
    fn truncate_y(self) -> glam::Vec2 {
        glam::Vec2::new(self.x, self.z)
    }
}
