//! Undo and redo, read off the log of edits. Everybody takes back what they did themselves.

use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

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
    /// The first place in the log that it stands for: the values of one drag are one entry, at the place of the last.
    pub since: i64,
    /// What it did.
    pub kind: EntryKind,
    /// Who did it; nobody in particular when empty.
    pub author: String,
    /// Entries of one drag share a name and are taken back together.
    pub gesture: Option<String>,
}

/// A run of entries that is taken back and done again as one.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
struct Gesture {
    seqs: Vec<i64>,
    /// The entry that last took it back or did it again.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    turned: Option<i64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    name: Option<String>,
}

/// What one author can take back and do again, the next at the end.
#[derive(Clone, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
struct Steps {
    done: Vec<Gesture>,
    undone: Vec<Gesture>,
    /// Older gestures that are no longer held here; the log has them.
    #[serde(default)]
    older: usize,
}

/// A gesture that is to be taken back or done again.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Turn {
    /// What the entry that does it has as its target.
    pub target: i64,
    /// The entries whose inverses do it, in this order.
    pub entries: Vec<i64>,
}

/// The gestures that can be taken back and done again.
#[derive(Clone, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(transparent)]
pub struct History(BTreeMap<String, Steps>);

impl History {
    /// Replays a log, oldest entry first.
    pub fn replay<'a>(entries: impl IntoIterator<Item = &'a Entry>) -> Self {
        let mut history = Self::default();
        for entry in entries {
            history.push(entry);
        }
        history
    }

    /// Takes account of one more entry. Answers false where it takes back or does again what is no longer held here: then the
    /// whole log must be replayed.
    pub fn push(&mut self, entry: &Entry) -> bool {
        let owner = match entry.kind {
            EntryKind::Do => entry.author.clone(),
            EntryKind::Undo { target } => self.owner(&entry.author, |s| &s.done, target),
            EntryKind::Redo { target } => self.owner(&entry.author, |s| &s.undone, target),
        };
        let steps = self.0.entry(owner).or_default();
        match entry.kind {
            EntryKind::Do => {
                steps.undone.clear();
                match steps.done.last_mut() {
                    Some(last) if last.name.is_some() && last.name == entry.gesture => {
                        last.seqs.retain(|seq| *seq < entry.since);
                        last.seqs.push(entry.seq);
                    }
                    _ => steps.done.push(Gesture {
                        seqs: vec![entry.seq],
                        turned: None,
                        name: entry.gesture.clone(),
                    }),
                }
                true
            }
            EntryKind::Undo { target } => shift(&mut steps.done, &mut steps.undone, target, entry.seq),
            EntryKind::Redo { target } => shift(&mut steps.undone, &mut steps.done, target, entry.seq),
        }
    }

    /// Whose steps an author takes back: their own, or those of nobody in particular once these are used up.
    fn owner(&self, author: &str, list: impl Fn(&Steps) -> &Vec<Gesture>, target: i64) -> String {
        let has = |name: &str| {
            let steps = self.0.get(name).map(&list);
            steps.is_some_and(|gestures| gestures.iter().any(|g| g.seqs.last() == Some(&target)))
        };
        if has(author) || !has("") { author.to_owned() } else { String::new() }
    }

    fn next(&self, author: &str, list: impl Fn(&Steps) -> &Vec<Gesture>) -> Option<&Gesture> {
        let last = |name: &str| self.0.get(name).and_then(|steps| list(steps).last());
        last(author).or_else(|| last(""))
    }

    /// What an author takes back next; none when there is nothing to undo.
    pub fn next_undo(&self, author: &str) -> Option<Turn> {
        self.next(author, |s| &s.done).map(Gesture::turn)
    }

    /// What an author does again next; none when there is nothing to redo.
    pub fn next_redo(&self, author: &str) -> Option<Turn> {
        self.next(author, |s| &s.undone).map(Gesture::turn)
    }

    /// How many steps an author can take back.
    pub fn undo_steps(&self, author: &str) -> usize {
        self.sum(author, |s| s.done.len() + s.older)
    }

    /// How many steps an author can do again.
    pub fn redo_steps(&self, author: &str) -> usize {
        self.sum(author, |s| s.undone.len())
    }

    fn sum(&self, author: &str, count: impl Fn(&Steps) -> usize) -> usize {
        let of = |name: &str| self.0.get(name).map_or(0, &count);
        of(author) + if author.is_empty() { 0 } else { of("") }
    }

    /// Whether an author has older steps than are held here: the whole log must be replayed to take them back.
    pub fn needs_the_log(&self, author: &str) -> bool {
        self.next_undo(author).is_none() && self.undo_steps(author) > 0
    }

    /// Forgets all but the newest `most` gestures of each author; the log has them.
    pub fn forget_but(&mut self, most: usize) {
        for steps in self.0.values_mut() {
            let over = steps.done.len().saturating_sub(most);
            steps.done.drain(..over);
            steps.older += over;
        }
    }
}

fn shift(from: &mut Vec<Gesture>, to: &mut Vec<Gesture>, target: i64, turned: i64) -> bool {
    let Some(place) = from.iter().rposition(|g| g.seqs.last() == Some(&target)) else { return false };
    let mut gesture = from.remove(place);
    // A gesture that was taken back is closed: later entries start a new one.
    gesture.name = None;
    gesture.turned = Some(turned);
    to.push(gesture);
    true
}

impl Gesture {
    fn turn(&self) -> Turn {
        let newest_first = self.seqs.iter().rev().copied().collect();
        Turn {
            target: *self.seqs.last().expect("a gesture has an entry"),
            entries: self.turned.map_or(newest_first, |seq| vec![seq]),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn entry(seq: i64, kind: EntryKind, gesture: Option<&str>) -> Entry {
        by("a", seq, kind, gesture)
    }

    fn undo(history: &History) -> Vec<i64> {
        history.next_undo("a").map(|t| t.entries).unwrap_or_default()
    }

    fn redo(history: &History) -> Vec<i64> {
        history.next_redo("a").map(|t| t.entries).unwrap_or_default()
    }

    fn by(author: &str, seq: i64, kind: EntryKind, gesture: Option<&str>) -> Entry {
        Entry { seq, since: seq, kind, author: author.to_owned(), gesture: gesture.map(str::to_owned) }
    }

    #[test]
    fn a_drag_is_taken_back_and_done_again_as_one_step() {
        let log = [
            entry(1, EntryKind::Do, None),
            entry(2, EntryKind::Do, Some("drag")),
            entry(3, EntryKind::Do, Some("drag")),
            entry(4, EntryKind::Undo { target: 3 }, None),
        ];
        assert_eq!(undo(&History::replay(&log[..3])), [3, 2]);
        let after = History::replay(&log);
        assert_eq!((undo(&after), redo(&after)), (vec![1], vec![4]));
        assert_eq!(after.next_redo("a").unwrap().target, 3);
    }

    /// The values of a drag that follow one another in the log are one entry of it.
    #[test]
    fn an_entry_stands_for_all_values_of_its_drag() {
        let mut history = History::default();
        history.push(&entry(1, EntryKind::Do, Some("drag")));
        history.push(&Entry { since: 1, ..entry(5, EntryKind::Do, Some("drag")) });
        history.push(&entry(6, EntryKind::Do, Some("drag")));
        assert_eq!(undo(&history), [6, 5]);
        assert_eq!(history.undo_steps("a"), 1);
    }

    #[test]
    fn a_new_change_after_undo_forgets_what_could_be_done_again() {
        let mut log = vec![
            entry(1, EntryKind::Do, None),
            entry(2, EntryKind::Do, None),
            entry(3, EntryKind::Undo { target: 2 }, None),
        ];
        assert_eq!(History::replay(&log).redo_steps("a"), 1);
        log.push(by("b", 4, EntryKind::Do, None));
        assert_eq!(History::replay(&log).redo_steps("a"), 1, "that of another forgets nothing");
        log.push(entry(5, EntryKind::Do, None));
        let history = History::replay(&log);
        assert_eq!((undo(&history), history.redo_steps("a")), (vec![5], 0));
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
        assert_eq!((history.undo_steps("a"), redo(&history)), (0, vec![6]));
    }

    #[test]
    fn nobody_takes_back_what_another_did_but_anybody_what_nobody_did() {
        let log = [
            by("", 1, EntryKind::Do, None),
            by("a", 2, EntryKind::Do, None),
            by("b", 3, EntryKind::Do, None),
            by("a", 4, EntryKind::Undo { target: 2 }, None),
        ];
        let history = History::replay(&log);
        assert_eq!(history.next_undo("b").unwrap().entries, [3]);
        assert_eq!((undo(&history), redo(&history)), (vec![1], vec![4]));
        assert_eq!((history.undo_steps("a"), history.undo_steps("b")), (1, 2));
    }

    #[test]
    fn what_is_forgotten_still_counts() {
        let log: Vec<Entry> = (1..=5).map(|seq| entry(seq, EntryKind::Do, None)).collect();
        let mut history = History::replay(&log);
        history.forget_but(2);
        assert_eq!((history.undo_steps("a"), undo(&history)), (5, vec![5]));
        for (seq, target) in [(6, 5), (7, 4)] {
            assert!(!history.needs_the_log("a"));
            assert!(history.push(&entry(seq, EntryKind::Undo { target }, None)));
        }
        assert!(history.needs_the_log("a"));
        assert!(!history.push(&entry(8, EntryKind::Undo { target: 3 }, None)));
    }
}
