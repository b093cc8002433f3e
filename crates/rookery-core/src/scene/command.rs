//! Every change that can be made to a scene.

use super::change::{Fields, Thing};
use super::document::*;
use super::placed::*;
use super::site::*;
use crate::nursery::{Season, Species};
use serde::{Deserialize, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// One change. Applied by [`apply`](super::apply), which also gives the command that takes it back.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "do", rename_all = "snake_case", deny_unknown_fields)]
pub enum Command {
    /// Names the scene anew.
    RenameScene {
        /// 1 to 80 characters.
        name: String,
    },
    /// Limits the plants of all layers together, or lifts the limit.
    CapScene {
        /// The most plants, 1 to 100,000,000; none for no limit.
        value: Option<u32>,
    },
    /// Grows the ready species of another edition.
    UseEdition {
        /// Which, 1 to [`EDITION`](crate::nursery::EDITION).
        value: u32,
    },
    /// Notes that the artist knows what grows otherwise than when the scene was made.
    KnowChanges {
        /// Up to which number, 0 to [`EPOCH`](super::EPOCH).
        value: u32,
    },
    /// Changes the ground.
    EditGround {
        /// The change.
        edit: GroundEdit,
    },
    /// Adds a layer. Its id must be new; the place is counted from the top of the profile.
    AddLayer {
        /// The whole layer.
        layer: Layer,
        /// Place among the layers, 0 to their count.
        place: u32,
    },
    /// Takes a layer out.
    RemoveLayer {
        /// Which.
        id: LayerId,
    },
    /// Moves a layer to another place of the profile.
    MoveLayer {
        /// Which.
        id: LayerId,
        /// Its new place, counted without it.
        place: u32,
    },
    /// Makes a complete and independent copy of a layer right below it.
    DuplicateLayer {
        /// The layer to copy.
        id: LayerId,
        /// The copy's id; must be new.
        copy: LayerId,
    },
    /// Gives a layer all settings of another version of itself; its id, name and place stay.
    ReplaceLayer {
        /// The other version, with the id of the layer.
        layer: Layer,
    },
    /// Lets layers have settings in common, or replaces the share with its id. All take over what the first of them has.
    PutShare {
        /// The whole share.
        value: Share,
        /// Its place in the list when it is new; the last when left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        place: Option<u32>,
    },
    /// Parts the layers of a share: each keeps what it has.
    RemoveShare {
        /// Which.
        id: ShareId,
    },
    /// Says which of two layers keeps clear of the other, against the order of the profile, or that neither does.
    PutYield {
        /// What holds for the two; it replaces what was said before.
        value: Yield,
    },
    /// Lets two layers follow the order of the profile again.
    RemoveYield {
        /// One layer.
        layer: LayerId,
        /// The other.
        to: LayerId,
    },
    /// Changes one thing about a layer, and about those that share it.
    EditLayer {
        /// Which.
        id: LayerId,
        /// The change.
        edit: LayerEdit,
    },
    /// Changes some fields of one thing, and of those that share them; all else about it stays. Ask for this rather than for a whole
    /// value: then others can change other fields of the same thing at the same time.
    Change {
        /// Which thing.
        what: Thing,
        /// The fields with their new values.
        fields: Fields,
    },
    /// Adds a ground beside the land, or replaces the one with its id.
    PutGround {
        /// The whole ground.
        value: PlacedGround,
        /// Its place in the list when it is new; the last when left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        place: Option<u32>,
    },
    /// Takes a ground out. Layers that were to grow on it keep its name and grow there again when it comes back.
    RemoveGround {
        /// Which.
        id: GroundId,
    },
    /// Adds a species of the scene's own, or replaces the one with its id. With the id of a ready species it takes that
    /// one's place; all layers that grow it change.
    PutSpecies {
        /// The whole species.
        value: Box<Species>,
        /// Its place in the list when it is new; the last when left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        place: Option<u32>,
    },
    /// Takes a species of the scene's own out; a ready one with its id comes back. Refused while a layer grows it and there
    /// is none.
    RemoveSpecies {
        /// Which.
        id: SpeciesId,
    },
    /// Another moment of the year.
    SetSeason {
        /// 0 spring, 1 summer, 2 autumn, 3 winter, 4 dead.
        value: Season,
    },
    /// Adds a painting, or replaces the one with its id.
    PutPaint {
        /// The whole painting.
        value: Paint,
        /// Its place in the list when it is new; the last when left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        place: Option<u32>,
    },
    /// Takes a painting out. Masks that looked at it let all through until it comes back.
    RemovePaint {
        /// Which.
        id: PaintId,
    },
    /// Adds a stroke to a painting, or replaces the one with its id.
    PutPaintStroke {
        /// Which painting.
        paint: PaintId,
        /// The whole stroke.
        value: PaintStroke,
        /// Its place in the list when it is new; the last when left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        place: Option<u32>,
    },
    /// Takes a stroke out of a painting.
    RemovePaintStroke {
        /// Which painting.
        paint: PaintId,
        /// Which stroke.
        id: PaintStrokeId,
    },
    /// Adds a picture over the plan, or replaces the one with its id.
    PutPicture {
        /// The whole picture.
        value: GroundPicture,
        /// Its place in the list when it is new; the last when left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        place: Option<u32>,
    },
    /// Takes a picture out. Masks that looked at it let all through until it comes back.
    RemovePicture {
        /// Which.
        id: PictureId,
    },
    /// Adds a sheet of water, or replaces the one with its id.
    PutWater {
        /// The whole sheet.
        value: WaterPlane,
        /// Its place in the list when it is new; the last when left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        place: Option<u32>,
    },
    /// Takes a sheet of water out.
    RemoveWater {
        /// Which.
        id: WaterId,
    },
    /// Adds a zone, or replaces the one with its id.
    PutZone {
        /// The whole zone.
        value: Zone,
        /// Its place in the list when it is new; the last when left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        place: Option<u32>,
    },
    /// Takes a zone out. Masks that looked at it see nothing of it until it comes back.
    RemoveZone {
        /// Which.
        id: ZoneId,
    },
    /// Adds an outline, or replaces the one with its id.
    PutOutline {
        /// The whole outline.
        value: Outline,
        /// Its place in the list when it is new; the last when left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        place: Option<u32>,
    },
    /// Takes an outline out.
    RemoveOutline {
        /// Which.
        id: OutlineId,
    },
    /// Adds an obstacle, or replaces the one with its id.
    PutObstacle {
        /// The whole obstacle.
        value: Obstacle,
        /// Its place in the list when it is new; the last when left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        place: Option<u32>,
    },
    /// Takes an obstacle out.
    RemoveObstacle {
        /// Which.
        id: ObstacleId,
    },
    /// Adds a shot. Its id must be new.
    AddShot {
        /// The whole shot.
        shot: Shot,
        /// Place among the shots.
        place: u32,
    },
    /// Takes a shot out.
    RemoveShot {
        /// Which.
        id: ShotId,
    },
    /// Changes one thing about a shot.
    EditShot {
        /// Which.
        id: ShotId,
        /// The change.
        edit: ShotEdit,
    },
    /// A layer exactly as it was; the way back of changes that touch several layers.
    RestoreLayer {
        /// The whole layer.
        layer: Layer,
    },
    /// Several changes taken back from the last to the first, each for its own layer alone; the way back of a shared change.
    EachAlone {
        /// In the order of the changes.
        #[cfg_attr(feature = "openapi", schema(no_recursion))]
        commands: Vec<Command>,
    },
    /// Several changes as one: all or none.
    All {
        /// In order.
        #[cfg_attr(feature = "openapi", schema(no_recursion))]
        commands: Vec<Command>,
    },
}

/// A change of the ground.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "set", rename_all = "snake_case", deny_unknown_fields)]
pub enum GroundEdit {
    /// Another source of heights.
    Source {
        /// The new source.
        value: GroundSource,
    },
    /// Adds a sculpting stroke, or replaces the one with its id.
    PutStroke {
        /// The whole stroke.
        value: Stroke,
        /// Its place among the strokes when it is new; the last when left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        place: Option<u32>,
    },
    /// Takes a sculpting stroke back.
    RemoveStroke {
        /// Which.
        id: StrokeId,
    },
    /// Another look of bare ground.
    Earths {
        /// All of it.
        value: Earths,
    },
    /// Whether the scene does without the land.
    Absent {
        /// Whether it does.
        value: bool,
    },
    /// Another height of the water, or none.
    Water {
        /// Metres.
        value: Option<f32>,
    },
}

/// A change of one setting of a layer; the others stay as they are.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "set", rename_all = "snake_case", deny_unknown_fields)]
pub enum LayerEdit {
    /// Its name.
    Name {
        /// 1 to 80 characters.
        value: String,
    },
    /// One species alone, instead of what grew.
    Species {
        /// A species of the nursery.
        value: SpeciesId,
    },
    /// What grows, with shares.
    Mix {
        /// 1 to 16 species.
        value: Vec<MixPart>,
    },
    /// The colour laid over its plants.
    Tint {
        /// All of it.
        value: Tint,
    },
    /// The rows of the patterns in rows and along a line.
    Rows {
        /// All of them.
        value: Rows,
    },
    /// Where it grows.
    Grounds {
        /// The grounds; every one of the scene when empty.
        value: Vec<GroundId>,
    },
    /// Another layer whose plants it grows on; none for grounds.
    OnPlants {
        /// The other layer.
        value: Option<LayerId>,
    },
    /// How its plants are drawn in the view.
    ShowAs {
        /// Which stand-in, or automatic.
        value: ShowAs,
    },
    /// Shown or hidden.
    Visible {
        /// Whether it is shown.
        value: bool,
    },
    /// Locked or open.
    Locked {
        /// Whether it is locked.
        value: bool,
    },
    /// The arrangement.
    Seed {
        /// Any number.
        value: u32,
    },
    /// The arrangements to come back to.
    KeptSeeds {
        /// All of them, at most 24, each once.
        value: Vec<u32>,
    },
    /// How places are chosen.
    Pattern {
        /// The pattern.
        value: Pattern,
    },
    /// The clumps of the clumped pattern.
    Clumps {
        /// The clumps.
        value: Clumps,
    },
    /// How many.
    Amount {
        /// The amount.
        value: Amount,
    },
    /// Sets plants by hand, clears spots by hand, and lets go of either.
    Tend {
        /// What is set or cleared; it takes the place of what has its id.
        #[serde(default)]
        put: Vec<Tended>,
        /// What is let go of: it grows by itself again.
        #[serde(default)]
        let_go: Vec<TendedId>,
    },
    /// Strews plants by strokes, and takes strokes out.
    Drifts {
        /// Strokes; each takes the place of the one with its id.
        #[serde(default)]
        put: Vec<Drift>,
        /// Strokes that are taken out.
        #[serde(default)]
        take_out: Vec<DriftId>,
    },
    /// What its plants keep clear of.
    Clearance {
        /// All of it.
        value: Clearance,
    },
    /// The most plants.
    Cap {
        /// 1 to 10 million.
        value: u32,
    },
    /// Adds a mask, or replaces the one with its id.
    PutMask {
        /// The whole mask.
        value: Mask,
        /// Its place among the masks when it is new; the last when left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        place: Option<u32>,
    },
    /// Takes a mask out.
    RemoveMask {
        /// Which.
        id: MaskId,
    },
    /// Moves a mask to another place among them.
    MoveMask {
        /// Which.
        id: MaskId,
        /// Its new place, counted without it.
        place: u32,
    },
    /// All masks at once.
    Masks {
        /// The masks, in order.
        value: Vec<Mask>,
    },
    /// One mask's curve or switch.
    Mask {
        /// The mask with its id.
        value: Mask,
    },
    /// Size range.
    Size {
        /// Against full size.
        value: Range,
    },
    /// Turn range.
    Turn {
        /// Degrees.
        value: Range,
    },
    /// Most tilt.
    Tilt {
        /// Degrees.
        value: f32,
    },
    /// Upright by gravity or by the surface.
    Upright {
        /// 0 to 1.
        value: f32,
    },
    /// How deep the base is sunk.
    Sink {
        /// Metres.
        value: f32,
    },
    /// How sizes lie within their range.
    Sizes {
        /// The spread.
        value: SizeSpread,
    },
    /// Height along the stem against size.
    Tall {
        /// 0.25 to 4.
        value: Range,
    },
    /// Depth from front to back against size.
    Deep {
        /// 0.25 to 4.
        value: Range,
    },
    /// How far plants lie as they fell.
    Tumble {
        /// 0 to 1.
        value: f32,
    },
    /// How far all plants lean, and which way.
    Lean {
        /// Degrees, -90 to 90.
        deg: f32,
        /// Which way.
        value: LeanTo,
    },
    /// How far single plants are raised.
    Lift {
        /// Metres.
        value: Range,
    },
    /// How far plants are shifted from their places.
    Shift {
        /// Metres.
        value: f32,
    },
    /// Whether tilt, tumble and lean may go beyond what fits each kind.
    Beyond {
        /// Whether they may.
        value: bool,
    },
}

/// A change of one setting of a shot.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "set", rename_all = "snake_case", deny_unknown_fields)]
pub enum ShotEdit {
    /// Its name.
    Name {
        /// 1 to 80 characters.
        value: String,
    },
    /// Where the camera stands and looks.
    Camera {
        /// Metres.
        eye_m: [f32; 3],
        /// Metres.
        target_m: [f32; 3],
    },
    /// Vertical angle of view.
    View {
        /// Degrees.
        value: f32,
    },
    /// Where the sun stands.
    Sun {
        /// Degrees clockwise from north.
        azimuth_deg: f32,
        /// Degrees over the horizon.
        elevation_deg: f32,
    },
    /// How veiled the sky is.
    Overcast {
        /// 0 to 1.
        value: f32,
    },
    /// Picture size.
    Picture {
        /// Pixels.
        width_px: u32,
        /// Pixels.
        height_px: u32,
    },
    /// Light paths per pixel.
    Samples {
        /// 1 to 4096.
        value: u32,
    },
}
