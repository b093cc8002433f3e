//! Species from mesh files: their forms with normals, colours and pictures, at all details.

use super::put::put;
use super::{MeshError, MeshFile, MeshPart, read_mesh_and_looks};
use glam::{Vec3, vec3};
use rayon::prelude::*;
use rookery_core::ground::mesh::weld;
use rookery_core::nursery::{Imported, Mesh, Skin};
use rookery_core::proxy::simplified;
use rookery_core::scene::UpAxis;
use serde::Serialize;
use std::collections::BTreeMap;
use std::sync::Arc;
use thiserror::Error;

/// Forms of one file, at most.
const MOST_FORMS: usize = 32;
/// Light and far detail have one triangle of so many, and no fewer than the second number.
const LIGHT: (usize, usize) = (6, 60);
const FAR: (usize, usize) = (40, 16);
/// Sharper edges than this stay sharp where normals must be made: the cosine of 50 degrees.
const CREASE: f32 = 0.643;
/// What the file gives no colour.
const PLAIN: Vec3 = vec3(0.30, 0.29, 0.26);

/// Why a species cannot be made from its file.
#[derive(Debug, Error)]
pub enum SpeciesFileError {
    /// The file cannot be read.
    #[error("\u{201c}{name}\u{201d} cannot be read: {why}")]
    BadMesh {
        /// What it was called.
        name: String,
        /// The reason.
        why: MeshError,
    },
    /// The parts that were chosen are not there.
    #[error("the file has no part called {0}")]
    NoSuchPart(String),
    /// More parts than forms.
    #[error(
        "the file has {0} parts; a species has at most {MOST_FORMS} forms. Leave some out, or take all as one form"
    )]
    TooManyForms(usize),
    /// Nothing is left of a form.
    #[error("\u{201c}{0}\u{201d} has no face with an area")]
    Flat(String),
}

/// A picture as people are told of it.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct PictureSize {
    /// What the file calls it.
    pub name: String,
    /// Width it is kept at, pixels.
    pub width_px: u32,
    /// Height it is kept at, pixels.
    pub height_px: u32,
    /// Whether it has holes.
    pub holes: bool,
}

/// What a species from a file will be.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Measured {
    /// Height at the file's own size, metres.
    pub tall_m: f32,
    /// Radius of what it covers at the file's own size, metres.
    pub wide_m: f32,
    /// How many forms it has.
    pub forms: usize,
    /// Triangles of its heaviest form at full, light and far detail.
    pub triangles: [usize; 3],
    /// Triangles of its heaviest form in the file.
    pub in_file: usize,
    /// How far the surface of that form is off after it was simplified to the most triangles, metres.
    pub error_m: f32,
    /// Whether the file says that some of it is seen from both sides, or has holes: leaves, most likely.
    pub looks_thin: bool,
    /// How far the middle of its foot lies beside its base point, metres.
    pub base_off_m: f32,
    /// Its pictures.
    pub pictures: Vec<PictureSize>,
    /// What the file has and is not kept, for people.
    pub left_out: Vec<String>,
}

fn forms(plan: &Imported, bytes: &[u8]) -> Result<(MeshFile, Vec<Mesh>), SpeciesFileError> {
    let bad = |why| SpeciesFileError::BadMesh { name: plan.name.clone(), why };
    let mut file = read_mesh_and_looks(bytes).map_err(bad)?;
    if !plan.parts.is_empty() {
        let labels = file.labels();
        let mut label = labels.iter();
        file.parts.retain(|_| plan.parts.contains(label.next().expect("one for each part")));
        if file.parts.is_empty() {
            return Err(SpeciesFileError::NoSuchPart(plan.parts.join(", ")));
        }
    }
    if plan.each && file.parts.len() > MOST_FORMS {
        return Err(SpeciesFileError::TooManyForms(file.parts.len()));
    }
    let (placed, positions) = put(&file, &plan.placing);
    let pictures = Arc::new(placed.pictures.clone());
    let groups: Vec<Vec<&MeshPart>> = if plan.each {
        placed.parts.iter().map(|p| vec![p]).collect()
    } else {
        vec![placed.parts.iter().collect()]
    };
    let any_double = placed.parts.iter().any(|p| p.look.double_sided);
    let make = |parts: &Vec<&MeshPart>| {
        let mut mesh = Mesh::default();
        let mut skin =
            Skin { uv: Vec::new(), picture: Vec::new(), pictures: pictures.clone(), repeats: false };
        for part in parts {
            let thin = plan.thin && (part.look.double_sided || !any_double);
            add(&mut mesh, &mut skin, &placed, part, &positions, plan, thin);
        }
        if mesh.indices.is_empty() {
            return Err(SpeciesFileError::Flat(plan.name.clone()));
        }
        if plan.each || plan.placing.recentre {
            let base = foot(&mesh);
            mesh.positions.iter_mut().for_each(|p| *p -= base);
        }
        // A picture that is used once must not run over its own edge.
        skin.repeats = skin.uv.iter().any(|uv| uv.min_element() < -1e-3 || uv.max_element() > 1.001);
        mesh.skin = skin.picture.iter().any(|p| *p != Skin::NONE).then_some(skin);
        if !plan.thin {
            mesh.through.clear();
        }
        soften(&mut mesh, plan.soft);
        Ok(mesh)
    };
    let meshes = groups.iter().map(make).collect::<Result<_, _>>()?;
    drop(groups);
    let file = placed.into_owned();
    Ok((file, meshes))
}

/// Adds the faces of a part with normals, colours and places in its picture.
fn add(
    mesh: &mut Mesh,
    skin: &mut Skin,
    file: &MeshFile,
    part: &MeshPart,
    positions: &[Vec3],
    plan: &Imported,
    thin: bool,
) {
    let upright = |n: Vec3| match plan.placing.up {
        UpAxis::Y => n,
        UpAxis::Z => vec3(n.x, n.z, -n.y),
    };
    let face = |t: &[u32]| {
        let [a, b, c] = [0, 1, 2].map(|i| positions[t[i] as usize]);
        (b - a).cross(c - a)
    };
    let welded = weld(positions);
    let mut smooth = vec![Vec3::ZERO; positions.len()];
    for t in part.indices.chunks_exact(3) {
        t.iter().for_each(|i| smooth[welded[*i as usize] as usize] += face(t));
    }
    let picture = part.look.picture.filter(|_| !file.uvs.is_empty());
    let plain = if file.colours.is_empty() && picture.is_none() { PLAIN } else { Vec3::ONE };
    let colour = part.look.colour.unwrap_or(plain);
    let mut known: BTreeMap<(u32, [u32; 3]), u32> = BTreeMap::new();
    for t in part.indices.chunks_exact(3) {
        let Some(flat) = face(t).try_normalize() else { continue };
        for i in t {
            let at = *i as usize;
            let own = file.normals.get(at).map(|n| upright(*n)).and_then(|n| n.try_normalize());
            let normal = match own {
                // Leaves are often lit by normals that do not look where their faces do.
                Some(n) if thin || n.dot(flat) >= 0.0 => n,
                Some(n) => -n,
                None => {
                    let round = smooth[welded[at] as usize].normalize_or(flat);
                    if round.dot(flat) > CREASE { round } else { flat }
                }
            };
            let vertex = *known.entry((*i, normal.to_array().map(f32::to_bits))).or_insert_with(|| {
                let number = mesh.positions.len() as u32;
                mesh.positions.push(positions[at] * plan.scale);
                mesh.normals.push(normal);
                mesh.colours.push(colour * file.colours.get(at).copied().unwrap_or(Vec3::ONE));
                mesh.through.push(if thin { 1.0 } else { 0.0 });
                skin.uv.push(file.uvs.get(at).copied().unwrap_or_default());
                skin.picture.push(picture.map_or(Skin::NONE, |p| p as u16));
                number
            });
            mesh.indices.push(vertex);
        }
    }
}

/// Where a plant stands: the middle of what lies in the lowest thirtieth of its height.
fn foot(mesh: &Mesh) -> Vec3 {
    let (low, high) = mesh.bounds();
    let limit = low.y + (high.y - low.y) / 30.0;
    let foot = mesh.positions.iter().filter(|p| p.y <= limit);
    let (from, to) = foot.fold((high, low), |(from, to), p| (from.min(*p), to.max(*p)));
    vec3((from.x + to.x) * 0.5, low.y, (from.z + to.z) * 0.5)
}

/// Bends normals outwards from the middle of the crown.
fn soften(mesh: &mut Mesh, soft: f32) {
    if soft <= 0.0 {
        return;
    }
    let (low, high) = mesh.bounds();
    let centre = vec3((low.x + high.x) * 0.5, low.y + (high.y - low.y) * 0.4, (low.z + high.z) * 0.5);
    for (n, p) in mesh.normals.iter_mut().zip(&mesh.positions) {
        let out = (*p - centre).normalize_or(Vec3::Y);
        *n = n.lerp(out, soft).normalize_or(out);
    }
}

fn all_details(mesh: Mesh, most: usize) -> ([Mesh; 3], f32) {
    let full = simplified(&mesh, most);
    let count = full.mesh.triangles();
    let [light, far] =
        [LIGHT, FAR].map(|(share, least)| simplified(&full.mesh, (count / share).max(least)).mesh);
    ([full.mesh, light, far], full.error_m)
}

/// Makes the forms of a species from its file: for each the full, light and far mesh.
///
/// # Errors
/// [`SpeciesFileError`].
pub fn hold(plan: &Imported, bytes: &[u8]) -> Result<Vec<[Mesh; 3]>, SpeciesFileError> {
    let (_, meshes) = forms(plan, bytes)?;
    let most = plan.most_triangles as usize;
    Ok(meshes.into_par_iter().map(|m| all_details(m, most).0).collect())
}

/// Measures the species a file would make under a plan. What the plan says of height and radius plays no part.
///
/// # Errors
/// [`SpeciesFileError`].
pub fn measure(plan: &Imported, bytes: &[u8]) -> Result<Measured, SpeciesFileError> {
    let own = Imported { scale: 1.0, ..plan.clone() };
    let (file, meshes) = forms(&own, bytes)?;
    let tall_m = meshes.iter().map(|m| m.bounds().1.y).fold(1e-4, f32::max);
    let radius = |m: &Mesh| m.positions.iter().map(|p| p.x.hypot(p.z)).fold(1e-4, f32::max);
    let wide_m = meshes.iter().map(radius).fold(1e-4, f32::max);
    let base_off_m = meshes
        .iter()
        .map(|m| {
            let f = foot(m);
            f.x.hypot(f.z).max(f.y.abs())
        })
        .fold(0.0, f32::max);
    let number = meshes.len();
    let heaviest = meshes.into_iter().max_by_key(Mesh::triangles).expect("there is at least one form");
    let in_file = heaviest.triangles();
    let (details, error_m) = all_details(heaviest, plan.most_triangles as usize);
    let pictures: Vec<PictureSize> = file
        .pictures
        .iter()
        .map(|p| PictureSize {
            name: p.name.clone(),
            width_px: p.width_px,
            height_px: p.height_px,
            holes: p.holes(),
        })
        .collect();
    Ok(Measured {
        tall_m,
        wide_m,
        forms: number,
        triangles: details.map(|m| m.triangles()),
        in_file,
        error_m,
        looks_thin: file.parts.iter().any(|p| p.look.double_sided) || pictures.iter().any(|p| p.holes),
        base_off_m,
        pictures,
        left_out: file.left_out,
    })
}
