//! Plants of a growth, in pieces that were there before and pieces that are new.

use super::CHUNK;
use crate::planting::Plant;
use rayon::prelude::*;
use std::ops::Range;

/// Plants in a row that were there before, then some that were not.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Span {
    /// Their places among the plants of before.
    pub kept: Range<usize>,
    /// How many follow that are new or stand anew.
    pub grown: usize,
}

/// Plants of a run of candidates, in their order.
pub(super) enum Piece {
    /// Taken from those of before.
    Kept(Range<usize>),
    /// Stood anew.
    Grown(Vec<Plant>),
}

impl Piece {
    fn len(&self) -> usize {
        match self {
            Self::Kept(range) => range.len(),
            Self::Grown(plants) => plants.len(),
        }
    }
}

/// What a run of candidates came to.
pub(super) struct Part {
    pub pieces: Vec<Piece>,
    /// Fallen by mask, then for want of room, then by the cap.
    pub fallen: Vec<u64>,
}

impl Part {
    pub fn keep(&mut self, at: usize) {
        match self.pieces.last_mut() {
            Some(Piece::Kept(range)) if range.end == at => range.end += 1,
            _ => self.pieces.push(Piece::Kept(at..at + 1)),
        }
    }

    /// `room` is how many may follow.
    pub fn grow(&mut self, plant: Plant, room: usize) {
        if let Some(Piece::Grown(plants)) = self.pieces.last_mut() {
            plants.push(plant);
            return;
        }
        let mut plants = Vec::with_capacity(if self.pieces.is_empty() { room } else { 4 });
        plants.push(plant);
        self.pieces.push(Piece::Grown(plants));
    }
}

/// The plants of all pieces, one after the other. Most of the time goes into fresh memory, so all threads take part.
pub(super) fn gathered(pieces: &[&Piece], stood: &[Plant]) -> Vec<Plant> {
    let mut ends = Vec::with_capacity(pieces.len());
    let mut count = 0;
    for piece in pieces {
        count += piece.len();
        ends.push(count);
    }
    let mut plants = Vec::new();
    let places = (0..count).into_par_iter().with_min_len(CHUNK);
    places
        .map_init(
            || (0, 0..0),
            |(at, range), i| {
                if !range.contains(&i) {
                    *at = ends.partition_point(|end| *end <= i);
                    *range = ends[*at] - pieces[*at].len()..ends[*at];
                }
                match pieces[*at] {
                    Piece::Kept(kept) => stood[kept.start + i - range.start],
                    Piece::Grown(fresh) => fresh[i - range.start],
                }
            },
        )
        .collect_into_vec(&mut plants);
    plants
}

/// Where the plants of all pieces come from, neighbours joined.
pub(super) fn spans(pieces: &[&Piece]) -> Vec<Span> {
    let mut spans = Vec::<Span>::new();
    for piece in pieces {
        match (piece, spans.last_mut()) {
            (Piece::Kept(r), Some(s)) if s.grown == 0 && s.kept.end == r.start => s.kept.end = r.end,
            (Piece::Kept(r), _) => spans.push(Span { kept: r.clone(), grown: 0 }),
            (Piece::Grown(fresh), Some(span)) => span.grown += fresh.len(),
            (Piece::Grown(fresh), None) => spans.push(Span { kept: 0..0, grown: fresh.len() }),
        }
    }
    spans
}
