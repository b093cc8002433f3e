//! Every change that can be made to a scene, a file a family: the command, what it touches, its checks and the command that takes it back.

mod exchange;
mod land;
mod layer_edit;
mod layers;
mod lists;
mod motion;
mod shared;
mod shots;
mod strokes;
mod touch;
mod whole;

pub use land::GroundEdit;
pub use layer_edit::LayerEdit;
pub(super) use layers::unlocked;
pub use motion::MotionEdit;
pub use shots::ShotEdit;
pub use touch::{overlap, setting_at, touches, value_at, value_in_words};

use super::change::{Fields, Thing};
use super::check::Refusal;
use crate::document::*;
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
    /// Changes one thing about what moves: the wind, or the length of time that is played.
    EditMotion {
        /// The change.
        edit: MotionEdit,
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
        /// The copy's arrangement; that of the layer when left out, which leaves it no room beside the layer's own plants.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        seed: Option<u32>,
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
    /// Adds a sculpting stroke to a ground, or replaces the one with its id: to the land, or to a terrain beside it, in that ground's own
    /// metres before it is scaled.
    PutGroundStroke {
        /// Which ground; 0 for the land.
        ground: GroundId,
        /// The whole stroke.
        value: Stroke,
        /// Its place among the strokes when it is new; the last when left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        place: Option<u32>,
    },
    /// Takes a sculpting stroke of a ground back.
    RemoveGroundStroke {
        /// Which ground; 0 for the land.
        ground: GroundId,
        /// Which stroke.
        id: StrokeId,
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
    /// Lets an earth wear pictures, or others than it has on.
    PutEarthPictures {
        /// The whole set.
        value: EarthPictures,
        /// Its place in the list when it is new; the last when left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        place: Option<u32>,
    },
    /// Takes an earth's pictures off: it shows as it is drawn by itself.
    RemoveEarthPictures {
        /// Which earth.
        id: Earth,
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
    /// Adds a blower, or replaces the one with its id.
    PutBlower {
        /// The whole blower.
        value: Blower,
        /// Its place in the list when it is new; the last when left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        place: Option<u32>,
    },
    /// Takes a blower out.
    RemoveBlower {
        /// Which.
        id: BlowerId,
    },
    /// Adds a body, or replaces the one with its id.
    PutBody {
        /// The whole body.
        value: Body,
        /// Its place in the list when it is new; the last when left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        place: Option<u32>,
    },
    /// Takes a body out.
    RemoveBody {
        /// Which.
        id: BodyId,
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

/// A changed document and the command that takes the change back.
#[derive(Clone, Debug, PartialEq)]
pub struct Applied {
    /// The document after the change.
    pub document: Document,
    /// Applied to `document`, gives the one from before, exactly.
    pub inverse: Command,
}

/// Applies a command to a copy of the document.
///
/// # Errors
/// When the command names something that is not there, touches a locked layer, or would leave a setting outside
/// its range. Nothing is changed then.
pub fn apply(document: &Document, command: &Command) -> Result<Applied, Refusal> {
    let mut document = document.clone();
    let inverse = change(&mut document, command)?;
    Ok(Applied { document, inverse })
}

/// Changes the document and gives the command that takes it back. After an error the document is of no use.
fn change(document: &mut Document, command: &Command) -> Result<Command, Refusal> {
    use Command as C;
    match command {
        C::RenameScene { name } => whole::rename(document, name),
        C::CapScene { value } => whole::cap(document, *value),
        C::UseEdition { value } => whole::use_edition(document, *value),
        C::KnowChanges { value } => whole::know_changes(document, *value),
        C::SetSeason { value } => whole::set_season(document, *value),
        C::EditMotion { edit } => motion::edit(document, *edit),
        C::EditGround { edit } => land::edit(document, edit),
        C::AddLayer { layer, place } => layers::add(document, layer, *place),
        C::RemoveLayer { id } => layers::remove(document, *id),
        C::MoveLayer { id, place } => layers::shift(document, *id, *place),
        C::DuplicateLayer { id, copy, seed } => layers::duplicate(document, *id, *copy, *seed),
        C::ReplaceLayer { layer } => layers::replace_with(document, layer),
        C::RestoreLayer { layer } => layers::restore(document, layer),
        C::EditLayer { id, edit } => layers::edit(document, *id, edit),
        C::Change { what, fields } => shared::change_fields(document, what, fields),
        C::PutShare { value, place } => shared::put(document, value, *place),
        C::RemoveShare { id } => shared::remove(document, *id),
        C::PutYield { value } => shared::put_yield(document, *value),
        C::RemoveYield { layer, to } => shared::remove_yield(document, *layer, *to),
        C::PutGround { value, place } => lists::put(document, value, *place),
        C::RemoveGround { id } => lists::remove::<PlacedGround>(document, id),
        C::PutGroundStroke { ground, value, place } => strokes::put(document, *ground, value, *place),
        C::RemoveGroundStroke { ground, id } => strokes::remove(document, *ground, *id),
        C::PutSpecies { value, place } => lists::put(document, &**value, *place),
        C::RemoveSpecies { id } => lists::remove::<Species>(document, id),
        C::PutPaint { value, place } => lists::put(document, value, *place),
        C::RemovePaint { id } => lists::remove::<Paint>(document, id),
        C::PutPaintStroke { paint, value, place } => strokes::put_paint(document, *paint, value, *place),
        C::RemovePaintStroke { paint, id } => strokes::remove_paint(document, *paint, *id),
        C::PutPicture { value, place } => lists::put(document, value, *place),
        C::RemovePicture { id } => lists::remove::<GroundPicture>(document, id),
        C::PutEarthPictures { value, place } => lists::put(document, value, *place),
        C::RemoveEarthPictures { id } => lists::remove::<EarthPictures>(document, id),
        C::PutWater { value, place } => lists::put(document, value, *place),
        C::RemoveWater { id } => lists::remove::<WaterPlane>(document, id),
        C::PutZone { value, place } => lists::put(document, value, *place),
        C::RemoveZone { id } => lists::remove::<Zone>(document, id),
        C::PutOutline { value, place } => lists::put(document, value, *place),
        C::RemoveOutline { id } => lists::remove::<Outline>(document, id),
        C::PutObstacle { value, place } => lists::put(document, value, *place),
        C::RemoveObstacle { id } => lists::remove::<Obstacle>(document, id),
        C::PutBlower { value, place } => lists::put(document, value, *place),
        C::RemoveBlower { id } => lists::remove::<Blower>(document, id),
        C::PutBody { value, place } => lists::put(document, value, *place),
        C::RemoveBody { id } => lists::remove::<Body>(document, id),
        C::AddShot { shot, place } => shots::add(document, shot, *place),
        C::RemoveShot { id } => shots::remove(document, *id),
        C::EditShot { id, edit } => shots::edit(document, *id, edit),
        C::EachAlone { commands } => shared::each_alone(document, commands),
        C::All { commands } => {
            let mut inverses = commands.iter().map(|c| change(document, c)).collect::<Result<Vec<_>, _>>()?;
            inverses.reverse();
            Ok(C::All { commands: inverses })
        }
    }
}
