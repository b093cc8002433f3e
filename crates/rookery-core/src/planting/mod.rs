//! Growing a layer: candidates, masks, stance, and a tally of what fell and why.

mod amount;
mod candidate;
pub mod clearance;
mod drift;
mod gather;
mod grow;
mod host;
mod mix;
pub mod pattern;
mod probe;
mod regrow;
mod share_out;
mod sieve;
mod stance;
mod tally;
mod tend;

pub use amount::{AmountIn, MeanCrown, amount_in, cover_of, per_m2};
pub use candidate::{Candidate, MeshPlace, Place, PlantId};
pub use drift::{Drifting, Strewn, drift_number};
pub use gather::{Grown, Sowing, gather, grow_everywhere, grown_on, must_share_out, within_cap};
pub use grow::{GrowError, Growth, MAX_CANDIDATES, Plant, Span, grow, grow_with};
pub use host::{MOST_HOST_TRIANGLES, host_model};
pub use mix::{MOST_SPECIES, Mix, Weights, by_map};
pub use probe::{MaskReading, RoomReading, Verdict, probe};
pub use regrow::{regrow, regrow_curves};
pub use share_out::{layer_on, share_out};
pub use stance::{Standing, spread, tint_towards};
pub use tally::{Reason, Refused, Tally};
pub use tend::{Tending, pose_in, pose_of, tended_number};
