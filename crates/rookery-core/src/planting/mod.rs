//! Growing a layer: candidates, masks, stance, and a tally of what fell and why.

mod amount;
pub mod clearance;
mod drift;
mod driven;
mod gather;
mod given;
mod growth;
mod host;
mod mix;
mod on_any;
mod probe;
mod regrow;
mod rules;
mod share_out;
mod stance;
mod steps;
mod tally;
mod tend;

pub use crate::names::PlantId;
pub use crate::pattern::{self, Candidate, MAX_CANDIDATES, MeshPlace, Place};
pub use amount::{AmountIn, MeanCrown, amount_in, cover_of, per_m2};
pub use drift::{Drifting, Strewn, drift_number};
pub use driven::Driven;
pub use gather::{Grown, Sowing, gather, grow_everywhere, grown_on, must_share_out, within_cap};
pub use given::crowns;
pub use growth::{GrowError, Growth, Plant, Span, grow, grow_with};
pub use host::{MOST_HOST_TRIANGLES, host_model};
pub use mix::{MOST_SPECIES, Mix, Weights, by_map};
pub use probe::{MaskReading, RoomReading, Verdict, probe};
pub use regrow::{regrow, regrow_curves};
pub use rules::Rules;
pub use share_out::{layer_on, share_out};
pub use stance::{Standing, spread, tint_towards};
pub use tally::{Reason, Refused, Tally};
pub use tend::{Tending, pose_in, pose_of, tended_number};
