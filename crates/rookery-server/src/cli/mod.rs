//! The command line. Everything but `serve` and `worker` works without a server or a database.

mod backup;
mod edit;
mod failure;
mod grow;
mod handoff;
mod import;
mod inspect;
mod listen;
mod motion;
mod nursery;
mod progress;
mod render;
mod scene_file;
mod serve;
mod wear;

pub use failure::Failure;

use crate::routes::handoff::{GROUND_PX, MOST_GROUND_PX};
use clap::{Parser, Subcommand};
use std::path::PathBuf;

/// Builds layered vegetation on any ground.
#[derive(Debug, Parser)]
#[command(name = "rookery", version)]
pub struct Cli {
    #[command(subcommand)]
    command: Task,
}

#[derive(Debug, Subcommand)]
enum Task {
    /// Reads one file from standard input, shut in; the server asks itself.
    #[command(hide = true)]
    ReadFile {
        /// As what: heights, picture, mesh, looks or outlines.
        kind: String,
        /// Where the middle of the land lies on its map, metres.
        #[arg(long, default_value_t = 0.0, allow_negative_numbers = true)]
        east: f64,
        /// Where the middle of the land lies on its map, metres.
        #[arg(long, default_value_t = 0.0, allow_negative_numbers = true)]
        north: f64,
    },
    /// Work on scene files.
    #[command(subcommand)]
    Scene(SceneTask),
    /// Look at species.
    #[command(subcommand)]
    Nursery(nursery::NurseryTask),
    /// Grow all visible layers and write the plant table.
    Grow {
        /// The scene file.
        scene: PathBuf,
        /// Where the table goes (CSV).
        #[arg(long)]
        out: PathBuf,
        /// Where the account goes: asked, placed and refused per layer (JSON).
        #[arg(long)]
        report: Option<PathBuf>,
    },
    /// Print the account of every layer: asked, placed, refused by which rule (JSON).
    Measure {
        /// The scene file.
        scene: PathBuf,
    },
    /// Tell how the scene moves: its wind over height, its gusts, and how far plants lean at a time (JSON).
    Motion {
        /// The scene file.
        scene: PathBuf,
        /// Seconds from the start.
        #[arg(long, default_value_t = 0.0, allow_hyphen_values = true)]
        time: f64,
        /// A point of the land, metres: tells the mean wind over it.
        #[arg(long, value_name = "X,Z", allow_hyphen_values = true)]
        at: Option<String>,
    },
    /// Ask a point of the ground why each layer grows there or does not (JSON).
    Probe {
        /// The scene file.
        scene: PathBuf,
        /// East and south of the middle, metres, for example `12.5,-40`; on a ground beside the land with the height
        /// between them.
        #[arg(long, value_name = "X[,Y],Z", allow_hyphen_values = true)]
        at: String,
        /// The number of a ground beside the land.
        #[arg(long, default_value_t = 0)]
        ground: u32,
    },
    /// Say what each response to what is too near would come to for a layer (JSON): remove, shrink, bend aside or trim.
    Responses {
        /// The scene file.
        scene: PathBuf,
        /// The number of the layer.
        #[arg(long)]
        layer: u32,
        /// `obstacles` or `edges`.
        #[arg(long, default_value = "obstacles")]
        beside: String,
    },
    /// Take a still.
    Render {
        /// The scene file.
        scene: PathBuf,
        /// The shot's name; the first shot when left out.
        #[arg(long)]
        shot: Option<String>,
        /// Picture size, pixels; the shot's own when left out.
        #[arg(long, value_name = "WxH")]
        size: Option<String>,
        /// Light paths per pixel; the shot's own when left out.
        #[arg(long)]
        samples: Option<u32>,
        /// The moment it shows, seconds from the start; plants stand at rest when left out.
        #[arg(long, allow_hyphen_values = true, conflicts_with = "frames")]
        time: Option<f64>,
        /// A run of frames instead of one picture, from the first to before the last.
        #[arg(long, value_name = "FIRST..LAST")]
        frames: Option<String>,
        /// Frames a second; the scene's own when left out.
        #[arg(long, requires = "frames")]
        rate: Option<f32>,
        /// Where the picture goes (PNG); a run goes into a `.zip` of numbered pictures, or a `.png` that moves.
        #[arg(long)]
        out: PathBuf,
    },
    /// Hand a scene off to other programs.
    Export {
        /// The scene file.
        scene: PathBuf,
        /// Where it goes; the ending says how: `.glb`, `.csv` or `.geojson` (the outlines).
        #[arg(long)]
        to: PathBuf,
        /// Pixels of the picture of the land in a GLB, along its longer side; with 0 surfaces have the colours of their corners alone.
        #[arg(long, default_value_t = GROUND_PX, value_parser = clap::value_parser!(u32).range(0..=i64::from(MOST_GROUND_PX)))]
        ground_px: u32,
    },
    /// Cut the ground along a line and say what stands there (JSON).
    Section {
        /// The scene file.
        scene: PathBuf,
        /// Where the line starts, metres.
        #[arg(long, value_name = "X,Z", allow_hyphen_values = true)]
        from: String,
        /// Where it ends.
        #[arg(long, value_name = "X,Z", allow_hyphen_values = true)]
        to: String,
        /// Plants within half of this to either side are shown, metres.
        #[arg(long, default_value_t = 2.0)]
        width: f32,
        /// What is read off the grounds along the line, such as `slope`; see `read`.
        #[arg(long)]
        quantity: Option<String>,
    },
    /// Read a quantity off the ground and say how it is spread (JSON).
    Read {
        /// The scene file.
        scene: PathBuf,
        /// `altitude`, `slope`, `aspect`, `profile_curvature`, `plan_curvature`, `wetness` or `openness`.
        #[arg(long)]
        quantity: String,
        /// The number of a ground beside the land; the land where it is left out.
        #[arg(long)]
        ground: Option<u32>,
        /// Where its values go (ESRI ASCII grid), one for each height of a terrain.
        #[arg(long)]
        out: Option<PathBuf>,
    },
    /// Say what a heightmap or a mesh holds, and how a scene would name it (JSON).
    Inspect {
        /// A PNG, TIFF, GeoTIFF or OpenEXR picture, an ESRI ASCII grid, or an OBJ, PLY or GLB mesh.
        file: PathBuf,
    },
    /// Print the OpenAPI document of the server.
    Openapi,
    /// Answer browsers. Needs PostgreSQL.
    Serve(serve::ServeArgs),
    /// Take jobs from the database until stopped. Needs PostgreSQL.
    Worker(serve::WorkerArgs),
    /// Writes everything an installation holds into one file: scenes, logs, stills, communities, files.
    Backup(backup::BackupArgs),
    /// Brings back everything a backup holds.
    Restore(backup::RestoreArgs),
}

#[derive(Debug, Subcommand)]
enum SceneTask {
    /// Print a demo scene.
    Demo {
        /// `kittiwake-head`, `tarn-moraine`, `needle-arch` or `bare`.
        #[arg(default_value = "kittiwake-head")]
        name: String,
    },
    /// Add the lines of a GeoJSON file or an SVG drawing as outlines and print the changed scene.
    Outlines {
        /// The scene file.
        scene: PathBuf,
        /// Metres east and north in GeoJSON, metres from the middle of the drawing in SVG.
        lines: PathBuf,
    },
    /// Drop a community on a scene and print the changed scene.
    Plant {
        /// The scene file.
        scene: PathBuf,
        /// The name of a ready community, or a file with one.
        community: String,
        /// The number of a ground; all grounds when left out.
        #[arg(long)]
        ground: Option<u32>,
    },
    /// Bring a mesh file in as a species and print the changed scene. The file is looked for beside the scene from then on.
    Import {
        /// The scene file.
        scene: PathBuf,
        /// An OBJ, PLY or GLB mesh.
        file: PathBuf,
        #[command(flatten)]
        how: import::ImportArgs,
    },
    /// Let an earth wear pictures and print the changed scene. The files are looked for beside the scene from then on.
    Wear {
        /// The scene file.
        scene: PathBuf,
        /// `turf`, `peat`, `sand`, `shingle` or `rock`.
        earth: String,
        /// A picture of its colour (PNG or JPEG).
        colour: PathBuf,
        #[command(flatten)]
        how: wear::WearArgs,
    },
    /// Take layers of a scene as a community and print it.
    Community {
        /// The scene file.
        scene: PathBuf,
        /// What it is to be called.
        name: String,
        /// Numbers of layers; all when left out.
        #[arg(long, value_delimiter = ',')]
        layers: Vec<u32>,
    },
    /// Say what grows otherwise than when the scene was made, and which of its species were remade since (JSON).
    Changes {
        /// The scene file.
        scene: PathBuf,
    },
    /// Apply a command to a scene file and print the changed scene.
    Edit {
        /// The scene file.
        scene: PathBuf,
        /// The command as JSON, for example `{"do":"rename_scene","name":"North side"}`.
        command: String,
    },
}

impl Cli {
    /// Does what was asked.
    ///
    /// # Errors
    /// [`Failure`], which knows its exit code.
    pub fn run(self) -> Result<(), Failure> {
        match self.command {
            Task::Scene(SceneTask::Demo { name }) => edit::demo(&name),
            Task::Scene(SceneTask::Changes { scene }) => edit::changes(&scene),
            Task::Scene(SceneTask::Outlines { scene, lines }) => edit::outlines(&scene, &lines),
            Task::Scene(SceneTask::Plant { scene, community, ground }) => {
                edit::plant(&scene, &community, ground)
            }
            Task::Scene(SceneTask::Import { scene, file, how }) => import::import(&scene, &file, &how),
            Task::Scene(SceneTask::Wear { scene, earth, colour, how }) => {
                wear::wear(&scene, &earth, &colour, &how)
            }
            Task::Scene(SceneTask::Community { scene, name, layers }) => {
                edit::community(&scene, &name, &layers)
            }
            Task::Scene(SceneTask::Edit { scene, command }) => edit::edit(&scene, &command),
            Task::Nursery(task) => nursery::run(task),
            Task::Grow { scene, out, report } => grow::grow(&scene, &out, report.as_deref()),
            Task::Measure { scene } => grow::measure(&scene),
            Task::Motion { scene, time, at } => motion::motion(&scene, time, at.as_deref()),
            Task::Probe { scene, at, ground } => inspect::probe(&scene, &at, ground),
            Task::Responses { scene, layer, beside } => grow::responses(&scene, layer, &beside),
            Task::Render { scene, shot, size, samples, time, frames, rate, out } => {
                let how = render::How { shot, size, samples, time_s: time, frames, rate };
                render::render(&scene, &how, &out)
            }
            Task::Export { scene, to, ground_px } => handoff::export(&scene, &to, ground_px),
            Task::Section { scene, from, to, width, quantity } => {
                inspect::section(&scene, (&from, &to), width, quantity.as_deref())
            }
            Task::Read { scene, quantity, ground, out } => {
                inspect::reading(&scene, &quantity, ground, out.as_deref())
            }
            Task::Inspect { file } => inspect::file(&file),
            Task::Openapi => failure::print_json(&crate::openapi::document()),
            Task::ReadFile { kind, east, north } => {
                let known = crate::reading::Kind::named(&kind, [east, north]);
                let kind =
                    known.ok_or_else(|| Failure::bad(format!("there is no kind \u{201c}{kind}\u{201d}")))?;
                crate::reading::run_child(kind).map_err(Failure::other)
            }
            Task::Serve(args) => serve::serve(args),
            Task::Worker(args) => serve::worker(args),
            Task::Backup(args) => backup::backup(&args),
            Task::Restore(args) => backup::restore(&args),
        }
    }
}
