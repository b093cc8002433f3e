//! What goes wrong in a request, and how that is said. This is the only place that chooses status and code.

use crate::scenes::Conflict;
use axum::extract::rejection::{BytesRejection, PathRejection, QueryRejection};
use axum::http::{HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use rookery_core::planting::GrowError;
use rookery_core::scene::Refusal;
use rookery_formats::GroundError;
use rookery_formats::gltf::GlbError;
use rookery_formats::heightmap::HeightmapError;
use rookery_formats::mesh::{MeshError, SpeciesFileError};
use rookery_formats::outlines::OutlineFileError;
use serde::Serialize;
use serde_json::{Value, json};
use thiserror::Error;

/// Why a request was not answered as asked. Nothing was changed.
#[derive(Debug, Error)]
pub enum ApiError {
    /// A file is no picture.
    #[error("\u{201c}{name}\u{201d} cannot be read as a picture: {why}")]
    BadPicture {
        /// What it was called.
        name: String,
        /// The reason.
        why: String,
    },
    /// Something named is not there.
    #[error("there is no such {0}")]
    NotFound(&'static str),
    /// The change breaks a rule of the document.
    #[error(transparent)]
    Refused(#[from] Refusal),
    /// Another changed the same to another value, which the sender had not seen.
    #[error(
        "{} changed \u{201c}{}\u{201d} meanwhile, to {}; you wanted {}",
        someone(&conflict.author),
        conflict.setting,
        conflict.theirs_in_words.as_deref().unwrap_or("nothing"),
        conflict.yours_in_words.as_deref().unwrap_or("nothing")
    )]
    Conflict {
        /// Where the scene is.
        seq: i64,
        /// Both values.
        conflict: Box<Conflict>,
    },
    /// A step can no longer be taken back or done again.
    #[error(
        "cannot {verb}: {} changed \u{201c}{setting}\u{201d} after that, and it would be lost",
        someone(author)
    )]
    Overtaken {
        /// `undo` or `redo`.
        verb: &'static str,
        /// Who was later.
        author: String,
        /// What they changed.
        setting: String,
    },
    /// A request that was refused before is refused in the same words.
    #[error("{}", .0["message"].as_str().unwrap_or_default())]
    Again(Box<Value>),
    /// There is nothing to take back, or nothing to do again.
    #[error("there is nothing to {0}")]
    NothingTo(&'static str),
    /// An uploaded file cannot be read as heights.
    #[error(transparent)]
    Heightmap(#[from] HeightmapError),
    /// The ground cannot be made.
    #[error(transparent)]
    Ground(#[from] GroundError),
    /// A layer cannot be grown.
    #[error(transparent)]
    Grow(#[from] GrowError),
    /// The handoff does not fit the format.
    #[error(transparent)]
    Glb(#[from] GlbError),
    /// Something that was asked for has since changed.
    #[error("the {0} has changed since; read the scene again")]
    Outdated(&'static str),
    /// A point outside the ground.
    #[error("the point {x}, {z} is not on the ground")]
    OffGround {
        /// East, metres.
        x: f32,
        /// South, metres.
        z: f32,
    },
    /// A finer picture than is drawn for a handoff.
    #[error("the picture of the land would have {asked} pixels along a side; it may have up to {most}")]
    TooFine {
        /// Pixels that were asked for.
        asked: u32,
        /// The limit.
        most: u32,
    },
    /// More plants asked about than one answer holds.
    #[error("{count} plants were asked about at once, more than the limit of {most}")]
    TooManyPicked {
        /// Plants.
        count: usize,
        /// The most.
        most: usize,
    },
    /// A section without a length or far too wide.
    #[error(
        "the section is {length_m} m long and {width_m} m wide; it must be 0.1 to 50000 m long and 0.1 to 200 m wide"
    )]
    BadSection {
        /// Length of its line.
        length_m: f32,
        /// How far plants are looked for.
        width_m: f32,
    },
    /// An uploaded file cannot be read as a mesh.
    #[error(transparent)]
    Mesh(#[from] MeshError),
    /// A species cannot be made from its file.
    #[error(transparent)]
    SpeciesFile(#[from] SpeciesFileError),
    /// An uploaded file cannot be read as outlines.
    #[error(transparent)]
    Outlines(#[from] OutlineFileError),
    /// A file that was read apart from the server and found wrong.
    #[error("{}", body.message)]
    BadFile {
        /// Status that fits.
        status: StatusCode,
        /// What is wrong with it.
        body: Box<ErrorBody>,
    },
    /// A file that would take too much to read.
    #[error("the file is too hard to read: {why}. Nothing was kept; make it smaller or plainer")]
    FileTooHard {
        /// What it would take.
        why: &'static str,
    },
    /// The request's own form is wrong.
    #[error("{message}")]
    BadRequest {
        /// Status that fits.
        status: StatusCode,
        /// What is wrong.
        message: String,
    },
    /// The request came from a page of another origin.
    #[error("this address only answers its own pages")]
    ForeignOrigin,
    /// The database is not to be had.
    #[error("the database does not answer; nothing was changed")]
    DatabaseAway,
    /// The database has no room left.
    #[error("the disk of the database is full; nothing was changed. Make room there, then try again")]
    DiskFull,
    /// The database would not do it.
    #[error("the database would not do this; nothing was changed")]
    Database(String),
    /// More is asked than can be done at once.
    #[error("too much is asked at once; try again in a moment")]
    Busy,
    /// Requests came too often.
    #[error("too many requests came at once; try again in a moment")]
    TooOften,
    /// The request did not come by a name this server goes by.
    #[error("this server does not go by the name \u{201c}{0}\u{201d}; `rookery serve --host NAME` adds one")]
    StrangeHost(String),
    /// A change without the sign that it comes from a page of this server or from someone who may.
    #[error(
        "a change must come from a page of this server, or carry the token that `rookery serve` writes down"
    )]
    NoToken,
    /// Nobody who is let in.
    #[error("this server asks for a token; open the address that `rookery serve` printed")]
    NotLetIn,
    /// Our own fault.
    #[error("{0}")]
    Internal(String),
}

/// How an error is written.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
pub struct ErrorBody {
    /// A short word for programs, for example `conflict`.
    pub code: String,
    /// What happened, in a sentence.
    pub message: String,
    /// With `conflict`: the scene's sequence number.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub seq: Option<i64>,
    /// With `conflict`: both values.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub conflict: Option<Box<Conflict>>,
}

fn someone(author: &str) -> &str {
    if author.is_empty() { "Someone" } else { author }
}

impl ApiError {
    fn status_and_code(&self) -> (StatusCode, &'static str) {
        match self {
            Self::NotFound(_) => (StatusCode::NOT_FOUND, "not_found"),
            Self::Refused(Refusal::Missing { .. }) => (StatusCode::NOT_FOUND, "refused"),
            Self::Refused(_) => (StatusCode::UNPROCESSABLE_ENTITY, "refused"),
            Self::Conflict { .. } => (StatusCode::CONFLICT, "conflict"),
            Self::Overtaken { .. } => (StatusCode::CONFLICT, "overtaken"),
            Self::Again(_) => (StatusCode::CONFLICT, "again"),
            Self::NothingTo(_) => (StatusCode::CONFLICT, "nothing_to_do"),
            Self::Heightmap(_) => (StatusCode::UNPROCESSABLE_ENTITY, "bad_heightmap"),
            Self::BadPicture { .. } => (StatusCode::UNPROCESSABLE_ENTITY, "bad_picture"),
            Self::Ground(_) => (StatusCode::UNPROCESSABLE_ENTITY, "bad_ground"),
            Self::Grow(GrowError::Cancelled(_)) => (StatusCode::SERVICE_UNAVAILABLE, "stopped"),
            Self::Grow(GrowError::TooMany { .. }) => (StatusCode::UNPROCESSABLE_ENTITY, "too_many"),
            Self::Grow(GrowError::TooManyHosts { .. }) => (StatusCode::UNPROCESSABLE_ENTITY, "too_many"),
            Self::Glb(_) => (StatusCode::UNPROCESSABLE_ENTITY, "too_large"),
            Self::Outdated(_) => (StatusCode::GONE, "outdated"),
            Self::OffGround { .. } => (StatusCode::UNPROCESSABLE_ENTITY, "off_ground"),
            Self::TooManyPicked { .. } => (StatusCode::UNPROCESSABLE_ENTITY, "too_many"),
            Self::TooFine { .. } => (StatusCode::UNPROCESSABLE_ENTITY, "too_fine"),
            Self::BadSection { .. } => (StatusCode::UNPROCESSABLE_ENTITY, "bad_section"),
            Self::Mesh(_) => (StatusCode::UNPROCESSABLE_ENTITY, "bad_mesh"),
            Self::SpeciesFile(_) => (StatusCode::UNPROCESSABLE_ENTITY, "bad_species_file"),
            Self::Outlines(_) => (StatusCode::UNPROCESSABLE_ENTITY, "bad_outlines"),
            Self::BadFile { status, .. } => (*status, "bad_file"),
            Self::FileTooHard { .. } => (StatusCode::UNPROCESSABLE_ENTITY, "too_hard"),
            Self::BadRequest { status, .. } => (*status, "bad_request"),
            Self::ForeignOrigin => (StatusCode::FORBIDDEN, "foreign_origin"),
            Self::StrangeHost(_) => (StatusCode::MISDIRECTED_REQUEST, "strange_host"),
            Self::NoToken => (StatusCode::FORBIDDEN, "no_token"),
            Self::NotLetIn => (StatusCode::UNAUTHORIZED, "not_let_in"),
            Self::DatabaseAway => (StatusCode::SERVICE_UNAVAILABLE, "database_away"),
            Self::DiskFull => (StatusCode::SERVICE_UNAVAILABLE, "disk_full"),
            Self::Busy => (StatusCode::SERVICE_UNAVAILABLE, "busy"),
            Self::TooOften => (StatusCode::TOO_MANY_REQUESTS, "too_often"),
            Self::Database(_) => (StatusCode::INTERNAL_SERVER_ERROR, "database"),
            Self::Internal(_) => (StatusCode::INTERNAL_SERVER_ERROR, "internal"),
        }
    }
}

impl ApiError {
    /// Status and body.
    pub(crate) fn told(&self) -> (StatusCode, ErrorBody) {
        (self.status_and_code().0, self.body())
    }

    fn body(&self) -> ErrorBody {
        if let Self::BadFile { body, .. } = self {
            return ErrorBody::clone(body);
        }
        let (seq, conflict) = match self {
            Self::Conflict { seq, conflict } => (Some(*seq), Some(conflict.clone())),
            _ => (None, None),
        };
        ErrorBody { code: self.status_and_code().1.to_owned(), message: self.to_string(), seq, conflict }
    }

    /// What is written down as the answer to a change that was refused; none for what may go well the next time.
    pub fn as_answer(&self) -> Option<Value> {
        let refused = matches!(
            self,
            Self::Refused(_) | Self::Conflict { .. } | Self::Overtaken { .. } | Self::NothingTo(_)
        );
        let (status, _) = self.status_and_code();
        refused.then(|| json!({"status": status.as_u16(), "body": self.body(), "message": self.to_string()}))
    }
}

impl IntoResponse for ApiError {
    fn into_response(self) -> Response {
        if let Self::Again(answer) = &self {
            let status = answer["status"].as_u64().and_then(|s| StatusCode::from_u16(s as u16).ok());
            return (status.unwrap_or(StatusCode::CONFLICT), axum::Json(answer["body"].clone()))
                .into_response();
        }
        let (status, _) = self.status_and_code();
        if status.is_server_error() {
            tracing::error!(error = %self, "request failed");
        }
        let mut response = (status, axum::Json(self.body())).into_response();
        if matches!(status, StatusCode::SERVICE_UNAVAILABLE | StatusCode::TOO_MANY_REQUESTS) {
            response.headers_mut().insert(header::RETRY_AFTER, HeaderValue::from_static("1"));
        }
        response
    }
}

impl From<diesel::result::Error> for ApiError {
    fn from(e: diesel::result::Error) -> Self {
        use diesel::result::{DatabaseErrorKind as Kind, Error};
        match e {
            Error::NotFound => Self::NotFound("thing"),
            Error::DatabaseError(kind, told) => {
                let full = told.message().contains("No space left");
                tracing::error!(?kind, message = told.message(), "the database failed");
                match kind {
                    _ if full => Self::DiskFull,
                    Kind::UniqueViolation
                    | Kind::ForeignKeyViolation
                    | Kind::NotNullViolation
                    | Kind::CheckViolation
                    | Kind::ReadOnlyTransaction => Self::Database(told.message().to_owned()),
                    // What the database itself finds wrong with a value says so; all else is a connection that broke.
                    _ if told.message().contains("invalid") || told.message().contains("unsupported") => {
                        Self::Database(told.message().to_owned())
                    }
                    _ => Self::DatabaseAway,
                }
            }
            Error::BrokenTransactionManager | Error::RollbackErrorOnCommit { .. } => Self::DatabaseAway,
            other => {
                tracing::error!(error = %other, "the database failed");
                Self::Database(other.to_string())
            }
        }
    }
}

macro_rules! rejections {
    ($($rejection:ty => $status:expr),*) => {$(
        impl From<$rejection> for ApiError {
            fn from(r: $rejection) -> Self {
                let status: fn(&$rejection) -> StatusCode = $status;
                Self::BadRequest { status: status(&r), message: r.body_text() }
            }
        }
    )*};
}
// 400 is for what is not even JSON or a web address; what can be read and does not fit is 422.
rejections!(
    PathRejection => |_| StatusCode::UNPROCESSABLE_ENTITY,
    QueryRejection => |_| StatusCode::UNPROCESSABLE_ENTITY,
    BytesRejection => BytesRejection::status
);
