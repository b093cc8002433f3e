//! What a scene is. Plain data: everything seen in the view is computed from it.

mod bare;
mod claims;
mod clearance;
mod drift;
mod earth_pictures;
mod layer;
mod mask;
mod motion;
mod moving;
mod paint;
mod picture;
mod placed;
mod refusal;
mod share;
mod site;
mod sun_day;
mod tended;
mod usual;

pub use crate::names::{BlobId, PlantId, SpeciesId};
use crate::nursery::{Season, Species, ready, ready_in, ready_species};
pub use bare::bare;
pub(crate) use claims::Claimants;
pub use claims::{BANDS_M, Claims, looks_at};
pub use clearance::{Clearance, Keep, Reach, TooClose, Yield};
pub use drift::{Drift, DriftId};
pub use earth_pictures::{EarthPictures, PictureFile, sheets_of};
pub use layer::*;
pub use mask::{Combine, Drives, Mask, Near, NoiseKind, NoiseMask, Quantity, Response, WindFrom};
pub(crate) use motion::all_wind;
pub use motion::{Clock, Frames, GustSettings, Motion, Wind};
pub use moving::*;
pub use paint::{Paint, PaintId, PaintStroke, PaintStrokeId, PaintTool};
pub use picture::*;
pub use placed::*;
pub use refusal::Refusal;
use serde::{Deserialize, Serialize};
pub use share::{Share, ShareId, SharedSettings};
pub use site::*;
pub use sun_day::SunDay;
pub use tended::{Origin, Pose, Tended, TendedId};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// Part of every name: raised when the same settings come to give other grounds or other plants.
pub const EPOCH: u32 = 10;

/// The version of this layout. Older documents are brought up to it on reading.
pub const SCHEMA: u32 = 1;

/// Names a layer for as long as the scene lives; never used twice.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct LayerId(pub u32);

/// Names a mask within its layer.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct MaskId(pub u32);

/// Names a shot.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct ShotId(pub u32);

/// One scene.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Document {
    /// Layout version, see [`SCHEMA`].
    pub schema: u32,
    /// Which edition of the ready species it grows, see [`EDITION`](crate::nursery::EDITION). A scene that does not say grows the first.
    #[serde(default = "first_edition", skip_serializing_if = "is_first_edition")]
    pub edition: u32,
    /// Up to which number of `scene::CHANGES` its artist knows what grows otherwise; 0 for a scene that does not say.
    #[serde(default, skip_serializing_if = "is_none_yet")]
    pub epoch: u32,
    /// What the artist calls the scene.
    pub name: String,
    /// The land: the terrain that all else is laid out on.
    pub ground: Ground,
    /// Grounds beside the land.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub grounds: Vec<PlacedGround>,
    /// Sheets of water beside the one that is everywhere.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub waters: Vec<WaterPlane>,
    /// Named parts of the ground, for masks.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub zones: Vec<Zone>,
    /// What was painted on the grounds, for masks.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub paints: Vec<Paint>,
    /// Pictures over the plan, for masks.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub pictures: Vec<GroundPicture>,
    /// Pictures that earths wear, one set for an earth at most.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub earth_pictures: Vec<EarthPictures>,
    /// Lines on the plan: beds, clearings and tracks.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub outlines: Vec<Outline>,
    /// Species of this scene's own: edited, forked or brought in. One with the id of a ready species takes its place.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub species: Vec<Species>,
    /// The moment of the year.
    #[serde(default, skip_serializing_if = "Season::is_summer")]
    pub season: Season,
    /// What plants keep clear of.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub obstacles: Vec<Obstacle>,
    /// Layers, upper profile first.
    pub layers: Vec<Layer>,
    /// The most plants that all layers together may have, 1 to 100,000,000; none for no such limit. Layers are served in the order in
    /// which they claim ground: stones, then the profile from the top down, each after those it looks at. What was set or strewn by
    /// hand stands in any case.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub cap: Option<u32>,
    /// Settings that layers have in common.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub shares: Vec<Share>,
    /// Which layers yield to which against the order of the profile.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub yields: Vec<Yield>,
    /// Saved cameras.
    pub shots: Vec<Shot>,
    /// Local sources of wind.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub blowers: Vec<Blower>,
    /// What moves through the scene.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub bodies: Vec<Body>,
    /// What moves. Nothing grows otherwise by it.
    #[serde(default, skip_serializing_if = "Motion::is_still")]
    pub motion: Motion,
}

/// The land of a scene.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Ground {
    /// Where the heights come from.
    pub source: GroundSource,
    /// Height of the water that is everywhere, metres, -1000 to 10000; none for a dry scene.
    pub water_m: Option<f32>,
    /// A scene of placed grounds alone has no land: it is neither seen nor grown on.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub absent: bool,
    /// Whether the land ends at its edges; otherwise it is seen to go on to the horizon. Nothing grows out there.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub ends: bool,
    /// Earths that bring no fine cover of their own near the eye: no short grass, pebbles or litter. At most all five, each once.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub bare: Vec<Earth>,
    /// What bare ground looks like.
    #[serde(default, skip_serializing_if = "Earths::is_default")]
    pub earths: Earths,
    /// What was sculpted, in order; each works on what the ones before it left.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub strokes: Vec<Stroke>,
}

/// Where a ground's heights come from.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum GroundSource {
    /// Made from noise.
    Noise(NoiseGround),
    /// Read from an uploaded file.
    Heightmap(HeightmapGround),
}

/// Ground made from noise.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct NoiseGround {
    /// Length of each side, metres, 10 to 4000.
    pub size_m: f32,
    /// Height from the lowest to the highest land, metres, 0 to 1000.
    pub relief_m: f32,
    /// Width of the largest hills, metres, 1 to 4000.
    pub feature_m: f32,
    /// How strong the small forms are, 0 smooth to 1 rugged.
    pub ruggedness: f32,
    /// How far hills are drawn up into sharp ridges, 0 to 1.
    #[serde(default)]
    pub ridges: f32,
    /// How deep winding valleys are cut, 0 to 1.
    #[serde(default)]
    pub valleys: f32,
    /// How far the land is stepped into terraces, 0 to 1.
    #[serde(default)]
    pub terraces: f32,
    /// Height of one terrace, metres, 0.1 to 200.
    #[serde(default = "terrace_m")]
    pub terrace_m: f32,
    /// How much of a sea coast with cliffs and a cove the west side is, 0 to 1.
    pub coast: f32,
    /// Another number, another ground.
    pub seed: u32,
    /// Heights along each side, 33 to 4096.
    pub samples: u32,
}

fn terrace_m() -> f32 {
    4.0
}

impl Default for NoiseGround {
    fn default() -> Self {
        Self {
            size_m: 240.0,
            relief_m: 36.0,
            feature_m: 110.0,
            ruggedness: 0.45,
            ridges: 0.0,
            valleys: 0.0,
            terraces: 0.0,
            terrace_m: terrace_m(),
            coast: 1.0,
            seed: 11,
            samples: 241,
        }
    }
}

/// The file formats heights are read from.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum HeightmapFormat {
    /// A grey PNG picture with 8 or 16 bits; 0 is `low_m` and white is `high_m`.
    Png,
    /// An ESRI ASCII grid; heights in metres, `low_m` and `high_m` are as read.
    AsciiGrid,
    /// A TIFF or GeoTIFF with one grey channel. Whole unsigned numbers without a scale are grey, all else is metres.
    Tiff,
    /// An OpenEXR picture; heights in metres.
    Exr,
}

/// Ground read from a file.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct HeightmapGround {
    /// The file itself.
    pub blob: BlobId,
    /// How to read it.
    pub format: HeightmapFormat,
    /// What the file was called.
    pub name: String,
    /// Width from west to east, metres, 1 to 60000.
    pub width_m: f32,
    /// Depth from north to south, metres, 1 to 60000.
    pub depth_m: f32,
    /// Height of the lowest value, metres, -12000 to 12000.
    pub low_m: f32,
    /// Height of the highest value, metres; not below `low_m`.
    pub high_m: f32,
    /// Where the file puts the middle of the ground on its own map: east and north, metres. Outlines in GeoJSON are read and
    /// written on that map.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub middle_m: Option<[f64; 2]>,
    /// How many heights the file has from west to east and from north to south, 2 to 60000, where that is known.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub samples: Option<[u32; 2]>,
}

/// From the smaller to the larger, both included.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Range {
    /// The smaller end.
    pub min: f32,
    /// The larger end.
    pub max: f32,
}

/// A saved camera with its light.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Shot {
    /// Lasting name within the scene.
    pub id: ShotId,
    /// What the artist calls it, 1 to 80 characters.
    pub name: String,
    /// Where the camera stands, metres: x, y, z.
    pub eye_m: [f32; 3],
    /// What it looks at, metres: x, y, z.
    pub target_m: [f32; 3],
    /// Vertical angle of view, degrees, 5 to 120.
    pub view_deg: f32,
    /// Where the sun stands, degrees clockwise from north, 0 to 360.
    pub sun_azimuth_deg: f32,
    /// Height of the sun over the horizon, degrees, 0 to 90.
    pub sun_elevation_deg: f32,
    /// How veiled the sky is, 0 clear to 1 overcast.
    pub overcast: f32,
    /// Share of the sky that soft clouds cover, 0 to 1.
    #[serde(default, skip_serializing_if = "is_clear")]
    pub clouds: f32,
    /// Picture width, pixels, 16 to 8192.
    pub width_px: u32,
    /// Picture height, pixels, 16 to 8192.
    pub height_px: u32,
    /// Light paths per pixel, 1 to 4096.
    pub samples: u32,
}

#[expect(clippy::trivially_copy_pass_by_ref, reason = "serde hands over a reference")]
fn is_clear(clouds: &f32) -> bool {
    *clouds == 0.0
}

fn first_edition() -> u32 {
    1
}

#[expect(clippy::trivially_copy_pass_by_ref, reason = "serde hands over a reference")]
fn is_first_edition(edition: &u32) -> bool {
    *edition == first_edition()
}

#[expect(clippy::trivially_copy_pass_by_ref, reason = "serde hands over a reference")]
fn is_none_yet(epoch: &u32) -> bool {
    *epoch == 0
}

impl Document {
    /// A species by its id: the scene's own first, then the ready ones of its edition.
    pub fn species(&self, id: &SpeciesId) -> Option<&Species> {
        self.species.iter().find(|s| s.id == *id).or_else(|| ready_in(self.edition, id))
    }

    /// The species of a layer's mix, in its order; those that are gone are left out.
    pub fn mix_of<'a>(&'a self, layer: &'a Layer) -> impl Iterator<Item = (&'a MixPart, &'a Species)> {
        layer.mix.iter().filter_map(|m| Some((m, self.species(&m.species)?)))
    }

    /// All species that may grow here: the ready ones, each replaced where the scene has its own, then the rest of its own.
    pub fn nursery(&self) -> Vec<&Species> {
        let known = ready().iter().map(|s| self.species(&s.id).unwrap_or(s));
        let own = self.species.iter().filter(|s| ready_species(&s.id).is_none());
        known.chain(own).collect()
    }

    /// The layer with this id.
    pub fn layer(&self, id: LayerId) -> Option<&Layer> {
        self.layers.iter().find(|l| l.id == id)
    }

    /// Where the middle of the land lies on the map of its file, east and north, metres; the origin when no file says.
    pub fn map_middle_m(&self) -> [f64; 2] {
        match &self.ground.source {
            GroundSource::Heightmap(h) => h.middle_m.unwrap_or_default(),
            GroundSource::Noise(_) => [0.0; 2],
        }
    }

    /// The grounds of the scene: the land, if there is any, and those beside it, hidden ones too.
    pub fn ground_ids(&self) -> Vec<GroundId> {
        let land = (!self.ground.absent).then_some(GroundId::LAND);
        land.into_iter().chain(self.grounds.iter().map(|g| g.id)).collect()
    }

    /// The grounds a layer grows on: those it names, or all but the waters where it names none.
    pub fn grounds_of(&self, layer: &Layer) -> Vec<GroundId> {
        if layer.on_plants.is_some() {
            return vec![GroundId::PLANTS];
        }
        if layer.grounds.is_empty() {
            return self.ground_ids();
        }
        let all = self.ground_ids().into_iter().chain(self.water_ids());
        all.filter(|id| layer.grounds.contains(id)).collect()
    }

    /// The sculpting strokes of a ground; none for one that is not there.
    pub fn strokes_on(&self, id: GroundId) -> &[Stroke] {
        match id {
            GroundId::LAND => &self.ground.strokes,
            other => self.grounds.iter().find(|g| g.id == other).map_or(&[], |g| &g.strokes),
        }
    }

    /// The document before the last stroke on a ground, and that stroke as it lies on the ground in the ground's true size; none where
    /// it has none.
    pub fn before_last_stroke(&self, id: GroundId) -> Option<(Self, Stroke)> {
        let last = self.strokes_on(id).last()?;
        let last = last.scaled(self.placed(id).map_or(1.0, |g| g.scale));
        let mut before = self.clone();
        match before.grounds.iter_mut().find(|g| g.id == id) {
            Some(ground) => ground.strokes.pop(),
            None => before.ground.strokes.pop(),
        };
        Some((before, last))
    }

    /// The painting with this id.
    pub fn paint(&self, id: PaintId) -> Option<&Paint> {
        self.paints.iter().find(|p| p.id == id)
    }

    /// The shot with this id.
    pub fn shot(&self, id: ShotId) -> Option<&Shot> {
        self.shots.iter().find(|s| s.id == id)
    }
}
