//! What a species is.

use super::Dress;
use super::likeness::likeness;
use super::make::{self, Blades, Cushion, Debris, Frond, Herb, Pads, Rock, Wood};
use super::{Colours, Detail, Imported, Look, Mesh, Season, Setting, Sways, Year};
use crate::names::SpeciesId;
use serde::{Deserialize, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// What kind of thing a species is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Kind {
    /// Grass, sedge and rush.
    Grass,
    /// Flowering herbs.
    Herb,
    /// Ferns, bracken, strap-leaved rosettes.
    Fern,
    /// Cushions, mats, mosses and lichens.
    Cushion,
    /// Woody plants with many stems.
    Shrub,
    /// Broad-leaved trees.
    Broadleaf,
    /// Needle-leaved trees.
    Conifer,
    /// Stone of any size.
    Rock,
    /// Wood, leaves and shells that lie about.
    Debris,
    /// Plants whose leaves lie on water.
    Floating,
}

impl Kind {
    /// All of them, as they are listed.
    pub const ALL: [Self; 10] = [
        Self::Grass,
        Self::Herb,
        Self::Fern,
        Self::Cushion,
        Self::Shrub,
        Self::Broadleaf,
        Self::Conifer,
        Self::Rock,
        Self::Debris,
        Self::Floating,
    ];

    /// How far plants of this kind may leave the upright: common practice, so that no tree tumbles by mistake.
    pub fn most(self) -> MostStance {
        let (tilt_deg, tumble, lean_deg) = match self {
            Self::Broadleaf | Self::Conifer => (15.0, 0.0, 25.0),
            Self::Shrub => (30.0, 0.0, 40.0),
            Self::Grass | Self::Herb | Self::Fern => (50.0, 0.0, 60.0),
            Self::Cushion => (60.0, 0.3, 30.0),
            Self::Floating => (3.0, 0.0, 0.0),
            Self::Rock | Self::Debris => (180.0, 1.0, 90.0),
        };
        MostStance { tilt_deg, tumble, lean_deg }
    }
}

/// Limits of a stance, see [`Kind::most`].
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
pub struct MostStance {
    /// Most tilt, degrees.
    pub tilt_deg: f32,
    /// Most tumble, 0 to 1.
    pub tumble: f32,
    /// Most lean either way, degrees.
    pub lean_deg: f32,
}

/// What a species is generated from.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "make", rename_all = "snake_case")]
pub enum Plan {
    /// Blades and tufts.
    Blades(Blades),
    /// Flowering herbs.
    Herb(Herb),
    /// Ferns and rosettes.
    Frond(Frond),
    /// Cushions and mats.
    Cushion(Cushion),
    /// Shrubs and trees.
    Wood(Wood),
    /// Stones.
    Rock(Rock),
    /// Debris.
    Debris(Debris),
    /// Leaves that lie on water.
    Pads(Pads),
    /// A mesh from a file.
    Imported(Imported),
}

impl Plan {
    /// What may be set, in the order of its numbers.
    pub fn settings(&self) -> &'static [Setting] {
        match self {
            Self::Blades(_) => Blades::SETTINGS,
            Self::Herb(_) => Herb::SETTINGS,
            Self::Frond(_) => Frond::SETTINGS,
            Self::Cushion(_) => Cushion::SETTINGS,
            Self::Wood(_) => Wood::SETTINGS,
            Self::Rock(_) => Rock::SETTINGS,
            Self::Debris(_) => Debris::SETTINGS,
            Self::Pads(_) => Pads::SETTINGS,
            Self::Imported(_) => Imported::SETTINGS,
        }
    }

    /// Its `make`: which generator it is for.
    pub fn make(&self) -> &'static str {
        match self {
            Self::Blades(_) => "blades",
            Self::Herb(_) => "herb",
            Self::Frond(_) => "frond",
            Self::Cushion(_) => "cushion",
            Self::Wood(_) => "wood",
            Self::Rock(_) => "rock",
            Self::Debris(_) => "debris",
            Self::Pads(_) => "pads",
            Self::Imported(_) => "imported",
        }
    }

    /// Its numbers, in the order of its settings; those that are chosen by name come after them.
    pub fn numbers(&self) -> Vec<f32> {
        match self {
            Self::Blades(s) => s.numbers(),
            Self::Herb(s) => s.numbers(),
            Self::Frond(s) => s.numbers(),
            Self::Cushion(s) => s.numbers(),
            Self::Wood(s) => s.numbers(),
            Self::Rock(s) => s.numbers(),
            Self::Debris(s) => s.numbers(),
            Self::Pads(s) => s.numbers(),
            Self::Imported(s) => s.numbers(),
        }
    }

    /// Height at full size, metres, about.
    pub fn height_m(&self) -> f32 {
        match self {
            Self::Blades(s) => s.height_m(),
            Self::Herb(s) => s.height_m(),
            Self::Frond(s) => s.height_m(),
            Self::Cushion(s) => s.height_m(),
            Self::Wood(s) => s.height_m(),
            Self::Rock(s) => s.height_m(),
            Self::Debris(s) => s.height_m(),
            Self::Pads(s) => s.height_m(),
            Self::Imported(s) => s.height_m(),
        }
    }

    /// Radius of what it covers seen from above, metres, about.
    pub fn radius_m(&self) -> f32 {
        match self {
            Self::Blades(s) => s.radius_m(),
            Self::Herb(s) => s.radius_m(),
            Self::Frond(s) => s.radius_m(),
            Self::Cushion(s) => s.radius_m(),
            Self::Wood(s) => s.radius_m(),
            Self::Rock(s) => s.radius_m(),
            Self::Debris(s) => s.radius_m(),
            Self::Pads(s) => s.radius_m(),
            Self::Imported(s) => s.radius_m(),
        }
    }
}

/// One kind of plant, stone or debris.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Species {
    /// Lasting name: 1 to 60 small letters, digits and hyphens.
    pub id: SpeciesId,
    /// Singular, for people, 1 to 80 characters.
    pub name: String,
    /// Plural, for people, 1 to 80 characters.
    pub plural: String,
    /// What it is.
    pub kind: Kind,
    /// Words to find it by, at most 12 of 1 to 30 characters.
    #[serde(default)]
    pub tags: Vec<String>,
    /// Another number, other individuals.
    pub seed: u32,
    /// Different individuals, 1 to 32.
    pub forms: u16,
    /// What it is generated from.
    pub plan: Plan,
    /// Its colours.
    pub colours: Colours,
    /// How it goes through the year.
    pub year: Year,
    /// A season of its own; the scene's when there is none.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub season: Option<Season>,
    /// How it answers the wind, where it is otherwise than its kind. Nothing grows otherwise by it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub sways: Option<Sways>,
    /// The species it was forked from.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub forked_from: Option<SpeciesId>,
}

impl Species {
    /// Height at full size, metres, about.
    pub fn height_m(&self) -> f32 {
        self.plan.height_m()
    }

    /// Radius of what it covers seen from above, metres, about.
    pub fn radius_m(&self) -> f32 {
        self.plan.radius_m()
    }

    /// How far what stands on the ground reaches from the base point at full size, metres. Common practice: stones and cushions lie on
    /// half their width, stems are three hundredths of the height, tufts a fifth of their width, and what
    /// floats lies side by side.
    pub fn footprint_m(&self) -> f32 {
        match self.kind {
            Kind::Rock | Kind::Debris | Kind::Cushion => self.radius_m() * 0.5,
            Kind::Broadleaf | Kind::Conifer | Kind::Shrub => self.height_m() * 0.03,
            Kind::Grass | Kind::Herb | Kind::Fern => self.radius_m() * 0.2,
            Kind::Floating => self.radius_m() * 0.9,
        }
    }

    /// Whether it has leaves that light goes through.
    pub fn leafy(&self) -> bool {
        match &self.plan {
            Plan::Rock(_) => false,
            Plan::Debris(d) => d.kind == make::Litter::Leaves,
            Plan::Imported(i) => i.thin,
            _ => true,
        }
    }

    /// Makes one individual in a scene's season. The same form is the same mesh, always; detail levels of a form share
    /// its outline. Plants grow on these and are measured by them.
    pub fn build(&self, form: u16, detail: Detail, season: Season) -> Mesh {
        self.built(form, detail, season, |_| make::Likeness::default())
    }

    /// The same for the eye: lighter detail covers as much of a picture as the full one, in the same mean colour. Its corners and
    /// triangles are those of [`Self::build`], elsewhere.
    pub fn stand_in(&self, form: u16, detail: Detail, season: Season) -> Mesh {
        self.built(form, detail, season, |look| match detail {
            Detail::Full => make::Likeness::default(),
            Detail::Light => likeness(&self.plan, look, self.seed, form)[0],
            Detail::Far => likeness(&self.plan, look, self.seed, form)[1],
        })
    }

    fn built(
        &self,
        form: u16,
        detail: Detail,
        season: Season,
        likeness: impl Fn(&Look) -> make::Likeness,
    ) -> Mesh {
        let mut mesh = if let Plan::Imported(imported) = &self.plan {
            imported.mesh(form, detail, self.colours.through)
        } else {
            let look = Look::at(&self.colours, &self.year, self.season.unwrap_or(season));
            make::build(&self.plan, &look, self.seed, form, detail, likeness(&look))
        };
        (mesh.sheen, mesh.glow) = (self.colours.sheen, self.colours.glow);
        if matches!(self.plan, Plan::Rock(_)) {
            *mesh.dress = Dress::Stone;
        }
        mesh
    }
}
