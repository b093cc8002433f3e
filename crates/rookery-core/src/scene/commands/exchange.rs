//! Putting things into a list by their ids and taking them out.

use crate::scene::check::Refusal;
use crate::scene::{Drift, DriftId, Tended, TendedId};
use std::mem::replace;

/// A thing with a name within its list.
pub(super) trait Named {
    /// Its name.
    type Id: Copy + Ord;
    /// Which it is.
    fn id(&self) -> Self::Id;
    /// The name as a number.
    fn number(id: Self::Id) -> u32;
}

impl Named for Tended {
    type Id = TendedId;
    fn id(&self) -> TendedId {
        self.id
    }
    fn number(id: TendedId) -> u32 {
        id.0
    }
}

impl Named for Drift {
    type Id = DriftId;
    fn id(&self) -> DriftId {
        self.id
    }
    fn number(id: DriftId) -> u32 {
        id.0
    }
}

/// Puts in and takes out; gives what must be put in and taken out to undo it. All is found by its place in a list sorted by id.
pub(super) fn exchange<T: Named>(
    what: &'static str,
    list: &mut Vec<T>,
    put: Vec<T>,
    out: Vec<T::Id>,
) -> Result<(Vec<T>, Vec<T::Id>), Refusal> {
    let mut ids: Vec<T::Id> = put.iter().map(T::id).collect();
    ids.sort_unstable();
    if let Some(twice) = ids.windows(2).find(|pair| pair[0] == pair[1]) {
        return Err(Refusal::Taken { what, id: T::number(twice[0]) });
    }
    let (mut back, mut fresh) = (Vec::new(), Vec::new());
    for id in out {
        let place = list.binary_search_by_key(&id, T::id);
        let place = place.map_err(|_| Refusal::Missing { what, id: T::number(id).to_string() })?;
        back.push(list.remove(place));
    }
    for one in put {
        match list.binary_search_by_key(&one.id(), T::id) {
            Ok(place) => back.push(replace(&mut list[place], one)),
            Err(place) => {
                fresh.push(one.id());
                list.insert(place, one);
            }
        }
    }
    Ok((back, fresh))
}
