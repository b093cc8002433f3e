//! Undo and redo, read off the log of edits.

/// What an entry of the log did.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum EntryKind {
    /// Someone changed something.
    Do,
    /// The gesture that ends at `target` was taken back.
    Undo {
        /// Sequence number of the last entry of the gesture.
        target: i64,
    },
    /// The gesture that ends at `target` was done again.
    Redo {
        /// Sequence number of the last entry of the gesture.
        target: i64,
    },
}

/// What history needs to know of an entry.
#[derive(Clone, Debug)]
pub struct Entry {
    /// Place in the log, rising.
    pub seq: i64,
    /// What it did.
    pub kind: EntryKind,
    /// Entries of one drag share a name and are taken back together.
    pub gesture: Option<String>,
}

/// A run of entries that is taken back and done again as one.
#[derive(Clone, Debug, PartialEq, Eq)]
struct Gesture {
    seqs: Vec<i64>,
    name: Option<String>,
}

/// The gestures that can be taken back and done again.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct History {
    done: Vec<Gesture>,
    undone: Vec<Gesture>,
}

impl History {
    /// Replays a log, oldest entry first.
    pub fn replay<'a>(entries: impl IntoIterator<Item = &'a Entry>) -> Self {
        let mut history = Self::default();
        for entry in entries {
            history.push(entry);
        }
        history
    }

    fn push(&mut self, entry: &Entry) {
        match entry.kind {
            EntryKind::Do => {
                self.undone.clear();
                match self.done.last_mut() {
                    Some(last) if last.name.is_some() && last.name == entry.gesture => {
                        last.seqs.push(entry.seq)
                    }
                    _ => self.done.push(Gesture { seqs: vec![entry.seq], name: entry.gesture.clone() }),
                }
            }
            EntryKind::Undo { target } => Self::shift(&mut self.done, &mut self.undone, target),
            EntryKind::Redo { target } => Self::shift(&mut self.undone, &mut self.done, target),
        }
    }

    fn shift(from: &mut Vec<Gesture>, to: &mut Vec<Gesture>, target: i64) {
        if let Some(place) = from.iter().rposition(|g| g.seqs.last() == Some(&target)) {
            let mut gesture = from.remove(place);
            // A gesture that was taken back is closed: later entries start a new one.
            gesture.name = None;
            to.push(gesture);
        }
    }

    /// The entries to take back next, newest first; empty when there is nothing to undo.
    pub fn next_undo(&self) -> Vec<i64> {
        self.done.last().map(|g| g.seqs.iter().rev().copied().collect()).unwrap_or_default()
    }

    /// The entries to do again next, oldest first; empty when there is nothing to redo.
    pub fn next_redo(&self) -> Vec<i64> {
        self.undone.last().map(|g| g.seqs.clone()).unwrap_or_default()
    }

    /// How many steps can be taken back.
    pub fn undo_steps(&self) -> usize {
        self.done.len()
    }

    /// How many steps can be done again.
    pub fn redo_steps(&self) -> usize {
        self.undone.len()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn entry(seq: i64, kind: EntryKind, gesture: Option<&str>) -> Entry {
        Entry { seq, kind, gesture: gesture.map(str::to_owned) }
    }

    #[test]
    fn a_drag_is_taken_back_and_done_again_as_one_step() {
        let log = [
            entry(1, EntryKind::Do, None),
            entry(2, EntryKind::Do, Some("drag")),
            entry(3, EntryKind::Do, Some("drag")),
            entry(4, EntryKind::Undo { target: 3 }, None),
        ];
        assert_eq!(History::replay(&log[..3]).next_undo(), [3, 2]);
        let after = History::replay(&log);
        assert_eq!((after.next_undo(), after.next_redo()), (vec![1], vec![2, 3]));
    }

    #[test]
    fn a_new_change_after_undo_forgets_what_could_be_done_again() {
        let mut log = vec![
            entry(1, EntryKind::Do, None),
            entry(2, EntryKind::Do, None),
            entry(3, EntryKind::Undo { target: 2 }, None),
        ];
        assert_eq!(History::replay(&log).redo_steps(), 1);
        log.push(entry(4, EntryKind::Do, None));
        let history = History::replay(&log);
        assert_eq!((history.next_undo(), history.redo_steps()), (vec![4], 0));
    }

    #[test]
    fn undo_redo_undo_walks_back_to_the_start() {
        let log = [
            entry(1, EntryKind::Do, None),
            entry(2, EntryKind::Do, None),
            entry(3, EntryKind::Undo { target: 2 }, None),
            entry(4, EntryKind::Redo { target: 2 }, None),
            entry(5, EntryKind::Undo { target: 2 }, None),
            entry(6, EntryKind::Undo { target: 1 }, None),
        ];
        let history = History::replay(&log);
        assert_eq!((history.undo_steps(), history.next_redo()), (0, vec![1]));
    }
}
