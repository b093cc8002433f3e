//! Species from mesh files.

use super::make::ball;
use super::{Colours, Detail, Kind, Mesh, Plan, Setting, Species, Year};
use super::{MeshPlacing, UpAxis};
use crate::math::limb::{Limb, Shares};
use crate::names::{BlobId, SpeciesId};
use glam::{Vec3, vec3};
use serde::{Deserialize, Serialize};
use std::sync::Arc;

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// The meshes of an imported species, read from its file: for each form the full, light and far one. They are no part of a
/// scene, only kept beside it, so any two of them count as equal.
#[derive(Clone, Default)]
pub struct Held(Option<Arc<Vec<[Mesh; 3]>>>);

impl Held {
    /// Holds the meshes of at least one form.
    pub fn new(forms: Arc<Vec<[Mesh; 3]>>) -> Self {
        Self((!forms.is_empty()).then_some(forms))
    }

    /// Whether anything is held.
    pub fn is_some(&self) -> bool {
        self.0.is_some()
    }

    /// How many forms are held.
    pub fn forms(&self) -> usize {
        self.0.as_ref().map_or(0, |f| f.len())
    }
}

impl PartialEq for Held {
    fn eq(&self, _: &Self) -> bool {
        true
    }
}

impl std::fmt::Debug for Held {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "Held({} forms)", self.forms())
    }
}

/// What an imported species is made from.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Imported {
    /// The file itself.
    pub blob: BlobId,
    /// What the file was called, 1 to 80 characters.
    pub name: String,
    /// How it is read.
    pub placing: MeshPlacing,
    /// The parts of the file that are taken, by name or material; all of them when empty.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub parts: Vec<String>,
    /// Whether each part is a form of its own.
    #[serde(default)]
    pub each: bool,
    /// Height as the file has it, metres, above zero.
    pub tall_m: f32,
    /// Radius of what it covers as the file has it, metres, above zero.
    pub wide_m: f32,
    /// Times the file's own size, 0.0001 to 10000.
    #[serde(default = "one")]
    pub scale: f32,
    /// How far normals are bent outwards from the middle, for soft light on foliage, 0 to 1.
    #[serde(default)]
    pub soft: f32,
    /// Thickness of its stem at the foot, millimetres, 0 to 3000; 0 does not bend.
    #[serde(default)]
    pub stem_mm: f32,
    /// Triangles of a form at full detail, at most: 50 to 1 million. A heavier one is simplified.
    #[serde(default = "most_triangles")]
    pub most_triangles: f32,
    /// Whether its faces are leaves: seen from both sides, with light going through.
    #[serde(default)]
    pub thin: bool,
    /// Its meshes once the file has been read.
    #[serde(skip)]
    pub held: Held,
}

fn one() -> f32 {
    1.0
}

fn most_triangles() -> f32 {
    Imported::MOST_TRIANGLES
}

impl Default for Imported {
    fn default() -> Self {
        Self {
            blob: BlobId(String::new()),
            name: String::new(),
            placing: MeshPlacing {
                unit_m: 1.0,
                up: UpAxis::Y,
                recentre: true,
                turn_over: false,
                mend: false,
            },
            parts: Vec::new(),
            each: false,
            tall_m: 1.0,
            wide_m: 0.5,
            scale: 1.0,
            soft: 0.0,
            stem_mm: 0.0,
            most_triangles: Self::MOST_TRIANGLES,
            thin: false,
            held: Held::default(),
        }
    }
}

impl Species {
    /// A species from a mesh file, with an id made of its name that is not `taken`.
    pub fn imported(
        plan: Imported,
        kind: Kind,
        name: &str,
        forms: u16,
        taken: impl Fn(&SpeciesId) -> bool,
    ) -> Self {
        let plain: String = name
            .chars()
            .map(|c| if c.is_ascii_alphanumeric() { c.to_ascii_lowercase() } else { '-' })
            .collect();
        let words: Vec<&str> = plain.split('-').filter(|w| !w.is_empty()).collect();
        let stem: String = words.join("-").chars().take(50).collect();
        let stem = if stem.is_empty() { "imported".to_owned() } else { stem };
        let numbered =
            (1_u32..).map(|n| SpeciesId(if n == 1 { stem.clone() } else { format!("{stem}-{n}") }));
        let id = { numbered }.find(|id| !taken(id)).expect("numbers do not end");
        let name: String = name.trim().chars().take(80).collect();
        let grey = [0.3, 0.3, 0.3];
        Self {
            id,
            plural: name.clone(),
            name,
            kind,
            tags: vec!["imported".to_owned()],
            seed: 1,
            forms,
            plan: Plan::Imported(plan),
            colours: Colours {
                root: grey,
                leaf: grey,
                tip: grey,
                old: grey,
                wood: grey,
                flower: grey,
                eye: grey,
                spread: 0.0,
                through: 0.6,
                sheen: 0.0,
                glow: 0.0,
            },
            year: Year { evergreen: 1.0, sheds: false, flowers_at: 1.0, flowers_for: 0.5 },
            season: None,
            sways: None,
            forked_from: None,
        }
    }
}

impl Imported {
    /// Triangles of one form at full detail, at most.
    pub const MOST_TRIANGLES: f32 = 1_000_000.0;

    /// What may be set by number.
    pub const SETTINGS: &'static [Setting] = &[
        Setting {
            id: "scale",
            label: "Times the file's size",
            unit: "",
            low: 0.0001,
            high: 10_000.0,
            step: 0.01,
            hint: "Makes all of it larger or smaller.",
            choices: &[],
        },
        Setting {
            id: "soft",
            label: "Soft light",
            unit: "",
            low: 0.0,
            high: 1.0,
            step: 0.05,
            hint: "Bends normals outwards from the middle, so that foliage is lit as one body. Its shape stays.",
            choices: &[],
        },
        Setting {
            id: "stem_mm",
            label: "Stem at the foot",
            unit: "mm",
            low: 0.0,
            high: 3000.0,
            step: 1.0,
            hint: "How thick its stem is, for bending in the wind. 0 does not bend.",
            choices: &[],
        },
        Setting {
            id: "most_triangles",
            label: "Most triangles",
            unit: "",
            low: 50.0,
            high: Self::MOST_TRIANGLES,
            step: 100.0,
            hint: "A form with more is simplified to this many at full detail.",
            choices: &[],
        },
    ];

    /// Numbers in the order of [`Self::SETTINGS`].
    pub fn numbers(&self) -> Vec<f32> {
        vec![self.scale, self.soft, self.stem_mm, self.most_triangles]
    }

    /// Height at full size, metres.
    pub fn height_m(&self) -> f32 {
        self.tall_m * self.scale
    }

    /// Radius of what it covers seen from above, metres.
    pub fn radius_m(&self) -> f32 {
        self.wide_m * self.scale
    }

    /// A form at a level of detail, with the share of light that goes through its leaves. A plain round body of its size as
    /// long as the file has not been read.
    pub(super) fn mesh(&self, form: u16, detail: Detail, through: f32) -> Mesh {
        let Some(forms) = &self.held.0 else {
            return self.body();
        };
        let mut mesh = forms[usize::from(form) % forms.len()][detail as usize].clone();
        mesh.through.iter_mut().for_each(|t| *t *= through);
        if self.stem_mm > 0.0 {
            mesh.shares = Box::new(self.shares(&mesh));
        }
        mesh
    }

    /// It bends as a whole: how is not told by its file.
    fn shares(&self, mesh: &Mesh) -> Shares {
        let (low, high) = mesh.bounds();
        let tall = (high.y - low.y.max(0.0)).max(1e-3);
        let share = mesh.positions.iter().map(|p| (p.y / tall).clamp(0.0, 1.0)).collect();
        let limb = Limb { set: Vec3::Y * tall, ..Limb::default() };
        Shares { limbs: vec![limb], limb: vec![0; mesh.positions.len()], share, flaps: Vec::new() }
    }

    fn body(&self) -> Mesh {
        let (directions, indices) = ball(1);
        let size = vec3(self.radius_m(), self.height_m() * 0.5, self.radius_m());
        let mut mesh = Mesh { indices, ..Mesh::default() };
        for d in directions {
            mesh.vertex(d * size + Vec3::Y * size.y, d, Vec3::splat(0.3));
        }
        mesh
    }

    /// How many bands of its height, of twelve, have vertices: pieces that a stem can bend in.
    pub(super) fn bands(&self) -> u32 {
        let Some(forms) = &self.held.0 else { return 12 };
        let mesh = &forms[0][0];
        let (low, high) = mesh.bounds();
        let mut seen = [false; 12];
        for p in &mesh.positions {
            let share = (p.y - low.y) / (high.y - low.y).max(1e-6);
            seen[((share * 12.0) as usize).min(11)] = true;
        }
        seen.iter().filter(|s| **s).count() as u32
    }
}
