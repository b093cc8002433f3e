//! Why a change is not accepted.

use thiserror::Error;

/// Why a change or a document is not accepted. Nothing was changed.
#[derive(Clone, Debug, PartialEq, Error)]
pub enum Refusal {
    /// A list of earths that says one of them again.
    #[error("an earth is named twice among those that are bare")]
    TwiceBare,
    /// A path that leads nowhere.
    #[error("a path needs 2 nodes; this has {nodes}. Let it stand still instead")]
    ShortPath {
        /// Nodes given.
        nodes: usize,
    },
    /// A moving ground that goes nowhere.
    #[error("a ground that moves needs 2 keys; this has {keys}. Let it stand still instead")]
    FewKeys {
        /// Keys given.
        keys: usize,
    },
    /// Times of a path that do not run on.
    #[error("times run on; one comes at {after} s, after one at {before} s")]
    TimeRunsBack {
        /// Of the node before, seconds.
        before: f32,
        /// Of the one after it.
        after: f32,
    },
    /// A body that is let go while it still follows its path.
    #[error("a body is let go at {at} s, but follows its path until {end} s")]
    LooseBeforeEnd {
        /// When it is let go, seconds.
        at: f32,
        /// When its path ends.
        end: f32,
    },
    /// A run of frames that ends before it begins.
    #[error(
        "a run from frame {first} to before frame {last} has no frame; the first must be smaller than the last"
    )]
    NoFrames {
        /// Number of the first.
        first: u32,
        /// Number of the one after the last.
        last: u32,
    },
    /// A number outside its range, or not a number.
    #[error("{field} is {value}{unit}; it must be from {low} to {high}{unit}")]
    OutOfRange {
        /// The setting, in words.
        field: &'static str,
        /// What was given.
        value: f32,
        /// Smallest allowed.
        low: f32,
        /// Largest allowed.
        high: f32,
        /// Unit with its leading space, or empty.
        unit: &'static str,
    },
    /// The two ends of a range are the wrong way round.
    #[error("{field} runs from {min} down to {max}; the first must not be larger")]
    Reversed {
        /// The setting, in words.
        field: &'static str,
        /// Given as the smaller end.
        min: f32,
        /// Given as the larger end.
        max: f32,
    },
    /// A name that is empty or too long.
    #[error("{field} has {length} characters; it must have 1 to 80, and no line breaks")]
    BadName {
        /// Whose name.
        field: &'static str,
        /// Characters given.
        length: usize,
    },
    /// Something named is not there.
    #[error("there is no {what} {id} in this scene")]
    Missing {
        /// Kind of thing.
        what: &'static str,
        /// The id that was not found.
        id: String,
    },
    /// An id that is already in use.
    #[error("{what} {id} is already in this scene")]
    Taken {
        /// Kind of thing.
        what: &'static str,
        /// The id.
        id: u32,
    },
    /// A ground beside the land says that it is a water.
    #[error("a sheet of water is set in as water, not as a ground of its own")]
    WaterIsNoGround,
    /// The ground is a mesh.
    #[error("\u{201c}{name}\u{201d} is a mesh; only terrains can be sculpted")]
    NotSculpted {
        /// The ground's name.
        name: String,
    },
    /// The layer is locked.
    #[error("the layer \u{201c}{name}\u{201d} is locked; unlock it to change it")]
    Locked {
        /// The layer's name.
        name: String,
    },
    /// The nursery has no such species.
    #[error("the nursery has no species \u{201c}{id}\u{201d}")]
    NoSpecies {
        /// The id.
        id: String,
    },
    /// A species' id that is none.
    #[error("\u{201c}{id}\u{201d} cannot name a species: 1 to 60 small letters, digits and hyphens")]
    BadSpeciesId {
        /// What was given.
        id: String,
    },
    /// Two species with one id.
    #[error("this scene already has a species \u{201c}{id}\u{201d} of its own")]
    SpeciesTaken {
        /// The id.
        id: String,
    },
    /// A species that a layer grows.
    #[error("the layer \u{201c}{layer}\u{201d} grows \u{201c}{id}\u{201d}; give it another species first")]
    SpeciesInUse {
        /// The species.
        id: String,
        /// The layer's name.
        layer: String,
    },
    /// A species that is in a mix already.
    #[error("\u{201c}{id}\u{201d} is in this mix already; change its share instead")]
    TwiceInMix {
        /// The species.
        id: String,
    },
    /// An arrangement that is kept already.
    #[error("the arrangement of seed {seed} is kept already")]
    KeptAlready {
        /// Its seed.
        seed: u32,
    },
    /// A mix without anything.
    #[error("a layer grows at least one species with a share above zero")]
    EmptyMix,
    /// Too many of something.
    #[error("{count} {what} are more than the limit of {limit}")]
    TooMany {
        /// Kind of thing.
        what: &'static str,
        /// Asked for.
        count: usize,
        /// Allowed.
        limit: usize,
    },
    /// A document of a later version.
    #[error("this scene was written by a later version (layout {found}; this one reads up to {known})")]
    LaterSchema {
        /// The document's layout.
        found: u32,
        /// The latest known here.
        known: u32,
    },
    /// Fields that do not fit the thing they were meant for.
    #[error("the {what} cannot be changed so: {why}")]
    BadFields {
        /// Kind of thing.
        what: &'static str,
        /// What does not fit.
        why: String,
    },
    /// A name of a file that is not the hash of one.
    #[error("\u{201c}{id}\u{201d} does not name an uploaded file (64 hexadecimal digits)")]
    BadBlob {
        /// What was given.
        id: String,
    },
    /// A mask and its zone do not go together.
    #[error("a mask that looks at a zone must name one, and no other mask may")]
    ZoneMissing,
    /// A mask and its noise do not go together.
    #[error("a mask that looks at a noise must have one, and no other mask may")]
    NoiseMissing,
    /// A mask and what it measures to do not go together.
    #[error("a mask that looks at a distance or the way downhill must say to what, and no other mask may")]
    NearMissing,
    /// A mask of the way downhill to something else.
    #[error("the way downhill is to a track or an outline, and to nothing else")]
    NotDownhill,
    /// A mask and its painting do not go together.
    #[error("a mask that looks at a painting must name one, and no other mask may")]
    PaintMissing,
    /// A mask and its shot do not go together.
    #[error("a mask that looks at what is in a picture must name its shot, and no other mask may")]
    ShotMissing,
    /// A mask and its picture do not go together.
    #[error("a mask that looks at a picture or its colours must name it, and no other mask may")]
    PictureMissing,
    /// A mask and its day do not go together.
    #[error("a mask that looks at hours of sun must say on which day, and no other mask may")]
    SunMissing,
    /// A mask and its wind do not go together.
    #[error(
        "a mask that looks at shelter from the wind must say where that comes from, and no other mask may"
    )]
    WindMissing,
    /// A day that no year of 365 days has.
    #[error("the year has no day {day} in month {month}")]
    NoSuchDay {
        /// The month.
        month: u8,
        /// The day.
        day: u8,
    },
    /// A layer in two shares of one kind.
    #[error("layer {id} shares these settings already; part it first")]
    SharedTwice {
        /// The layer.
        id: u32,
    },
    /// A name that names no plant.
    #[error("a plant that grew by itself is named by 16 hexadecimal digits")]
    NoPlantName,
    /// A layer in its own way.
    #[error("layer {id} cannot yield to itself; its own kind has a setting of its own")]
    YieldsToItself {
        /// The layer.
        id: u32,
    },
    /// A response that this kind of thing has no use for.
    #[error("what is too near to {what} can {to} only")]
    CannotKeepSo {
        /// What plants keep clear of.
        what: &'static str,
        /// The responses there are.
        to: &'static str,
    },
    /// A stroke without a point.
    #[error("drift {id} has no points; it needs at least one")]
    EmptyDrift {
        /// Which.
        id: u32,
    },
    /// Layers wait for one another.
    #[error("\u{201c}{layer}\u{201d} cannot look at \u{201c}{other}\u{201d}, which already waits for it: {}", chain.join(" looks at "))]
    Cycle {
        /// The layer that would look.
        layer: String,
        /// What it would look at.
        other: String,
        /// From the one to the other and back.
        chain: Vec<String>,
    },
    /// A ground beside the land with the land's own number.
    #[error("ground 0 is the land; a ground beside it has another number")]
    LandTaken,
    /// The camera stands on what it looks at.
    #[error("the camera stands exactly on what it looks at; move one of them")]
    NoDirection,
}
