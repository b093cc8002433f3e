//! Things that lie in a list of the document under names of their own: one family for all of them.

use super::Command;
use crate::document::*;
use crate::nursery::Species;
use crate::scene::check::{self, Refusal};
use std::mem::replace;

/// A kind of thing that is put in, replaced and taken out whole.
pub(super) trait Listed: Clone {
    /// Its name within the list.
    type Id: Clone + PartialEq;
    /// What one is called in a sentence.
    const WORD: &'static str;
    /// The list's field in the document.
    const LIST: &'static str;

    fn id(&self) -> Self::Id;
    fn written(id: &Self::Id) -> String;
    fn list(document: &mut Document) -> &mut Vec<Self>;
    /// Whether it may be what it is.
    fn check(&self) -> Result<(), Refusal>;
    /// Whether the document may be what it is after one was put in.
    fn check_in(document: &Document) -> Result<(), Refusal>;
    /// Whether the document may be what it is after this one was taken out.
    fn check_out(_: &Document, _: &Self::Id) -> Result<(), Refusal> {
        Ok(())
    }
    fn put_again(self, place: Option<u32>) -> Command;
    fn take_again(id: Self::Id) -> Command;
}

macro_rules! listed {
    ($($kind:ident, $id:ident: $word:literal in $list:ident, $room:expr, $put:ident, $remove:ident, $check:path;)*) => {$(
        impl Listed for $kind {
            type Id = $id;
            const WORD: &'static str = $word;
            const LIST: &'static str = stringify!($list);

            fn id(&self) -> $id {
                self.id
            }
            fn written(id: &$id) -> String {
                id.0.to_string()
            }
            fn list(document: &mut Document) -> &mut Vec<Self> {
                &mut document.$list
            }
            fn check(&self) -> Result<(), Refusal> {
                $check(self)
            }
            fn check_in(document: &Document) -> Result<(), Refusal> {
                $room(&document.$list)
            }
            fn put_again(self, place: Option<u32>) -> Command {
                Command::$put { value: self, place }
            }
            fn take_again(id: $id) -> Command {
                Command::$remove { id }
            }
        }
    )*};
}

listed! {
    PlacedGround, GroundId: "ground" in grounds, check::grounds, PutGround, RemoveGround, check::placed;
    Paint, PaintId: "painting" in paints, |all| check::room("paintings", all), PutPaint, RemovePaint, check::paint;
    GroundPicture, PictureId: "picture" in pictures, |all| check::room("pictures", all), PutPicture, RemovePicture, check::picture;
    WaterPlane, WaterId: "sheet of water" in waters, |all| check::room("sheets of water", all), PutWater, RemoveWater, check::water;
    Zone, ZoneId: "zone" in zones, |all| check::room("zones", all), PutZone, RemoveZone, check::zone;
    Outline, OutlineId: "outline" in outlines, |all| check::room("outlines", all), PutOutline, RemoveOutline, check::outline;
    Obstacle, ObstacleId: "obstacle" in obstacles, |all| check::room("obstacles", all), PutObstacle, RemoveObstacle, check::obstacle;
    Blower, BlowerId: "blower" in blowers, check::blowers, PutBlower, RemoveBlower, check::blower;
    Body, BodyId: "body" in bodies, check::bodies, PutBody, RemoveBody, check::body;
}

impl Listed for EarthPictures {
    type Id = Earth;
    const WORD: &'static str = "earth's own pictures";
    const LIST: &'static str = "earth_pictures";

    fn id(&self) -> Earth {
        self.id
    }
    fn written(id: &Earth) -> String {
        id.name().to_owned()
    }
    fn list(document: &mut Document) -> &mut Vec<Self> {
        &mut document.earth_pictures
    }
    fn check(&self) -> Result<(), Refusal> {
        check::earth_pictures(self)
    }
    /// There are no more earths than there are.
    fn check_in(_: &Document) -> Result<(), Refusal> {
        Ok(())
    }
    fn put_again(self, place: Option<u32>) -> Command {
        Command::PutEarthPictures { value: self, place }
    }
    fn take_again(id: Earth) -> Command {
        Command::RemoveEarthPictures { id }
    }
}

impl Listed for Species {
    type Id = SpeciesId;
    const WORD: &'static str = "species of its own";
    const LIST: &'static str = "species";

    fn id(&self) -> SpeciesId {
        self.id.clone()
    }
    fn written(id: &SpeciesId) -> String {
        id.0.clone()
    }
    fn list(document: &mut Document) -> &mut Vec<Self> {
        &mut document.species
    }
    fn check(&self) -> Result<(), Refusal> {
        Ok(())
    }
    /// All of them together: what grows them looks at their files and ids.
    fn check_in(document: &Document) -> Result<(), Refusal> {
        check::own_species(document)
    }
    fn check_out(document: &Document, id: &SpeciesId) -> Result<(), Refusal> {
        check::still_there(document, id)
    }
    fn put_again(self, place: Option<u32>) -> Command {
        Command::PutSpecies { value: Box::new(self), place }
    }
    fn take_again(id: SpeciesId) -> Command {
        Command::RemoveSpecies { id }
    }
}

/// Adds a thing, or replaces the one with its id.
pub(super) fn put<T: Listed>(
    document: &mut Document,
    value: &T,
    place: Option<u32>,
) -> Result<Command, Refusal> {
    value.check()?;
    let id = value.id();
    let old = put_in(T::list(document), value, place, |i| i.id() == id);
    T::check_in(document)?;
    Ok(match old {
        Some(old) => old.put_again(place),
        None => T::take_again(id),
    })
}

/// Takes a thing out.
pub(super) fn remove<T: Listed>(document: &mut Document, id: &T::Id) -> Result<Command, Refusal> {
    let (value, place) = take_out(T::list(document), T::WORD, || T::written(id), |i| i.id() == *id)?;
    T::check_out(document, id)?;
    Ok(value.put_again(Some(place)))
}

/// Where a thing of a kind stands in the document.
pub(super) fn path<T: Listed>(id: &T::Id) -> String {
    format!("{}/{}", T::LIST, T::written(id))
}

/// Replaces the item that fits and gives the old one, or adds a new one and gives none.
pub(super) fn put_in<T: Clone>(
    list: &mut Vec<T>,
    item: &T,
    place: Option<u32>,
    fits: impl Fn(&T) -> bool,
) -> Option<T> {
    if let Some(known) = list.iter_mut().find(|i| fits(i)) {
        return Some(replace(known, item.clone()));
    }
    insert(list, item.clone(), place.unwrap_or(u32::MAX));
    None
}

/// Takes out the item that fits, with its place. `id` writes out which was looked for.
pub(super) fn take_out<T>(
    list: &mut Vec<T>,
    what: &'static str,
    id: impl Fn() -> String,
    fits: impl Fn(&T) -> bool,
) -> Result<(T, u32), Refusal> {
    let place = list.iter().position(fits).ok_or_else(|| Refusal::Missing { what, id: id() })?;
    Ok((list.remove(place), place as u32))
}

/// Puts an item in at a place, or last where there are fewer.
pub(super) fn insert<T>(list: &mut Vec<T>, item: T, place: u32) {
    let place = (place as usize).min(list.len());
    list.insert(place, item);
}
