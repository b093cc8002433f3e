//! Changing some fields of one thing of a scene, so that two people who change different fields of it both get their way.

use super::check::{self, Refusal};
use super::commands::unlocked;
use super::merge::{merge, set_by};
use super::{Earths, GroundId, ObstacleId, OutlineId, PlacedGround, WaterId, ZoneId};
use crate::document::*;
use crate::names::to_json;
use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use serde_json::{Map, Value};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// Fields with their new values: a merge patch as in RFC 7396. What is not named stays, `null` takes a field out, objects are gone
/// into, lists are replaced whole.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(transparent)]
pub struct Fields(pub Map<String, Value>);

/// A thing of a scene that has fields.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(tag = "of", rename_all = "snake_case", deny_unknown_fields)]
pub enum Thing {
    /// The land, but for its strokes.
    Land {},
    /// A layer, but for its masks, its tended plants and its drifts.
    Layer {
        /// Which.
        id: LayerId,
    },
    /// A mask of a layer.
    Mask {
        /// Of which layer.
        layer: LayerId,
        /// Which.
        id: MaskId,
    },
    /// A ground beside the land.
    Ground {
        /// Which.
        id: GroundId,
    },
    /// A sheet of water.
    Water {
        /// Which.
        id: WaterId,
    },
    /// A zone.
    Zone {
        /// Which.
        id: ZoneId,
    },
    /// A species of the scene's own.
    Species {
        /// Which.
        id: SpeciesId,
    },
    /// A painting, but for its strokes.
    Paint {
        /// Which.
        id: PaintId,
    },
    /// A picture over the plan.
    Picture {
        /// Which.
        id: PictureId,
    },
    /// Pictures that an earth wears.
    EarthPictures {
        /// Which earth.
        id: Earth,
    },
    /// An outline.
    Outline {
        /// Which.
        id: OutlineId,
    },
    /// An obstacle.
    Obstacle {
        /// Which.
        id: ObstacleId,
    },
    /// A blower.
    Blower {
        /// Which.
        id: BlowerId,
    },
    /// A body.
    Body {
        /// Which.
        id: BodyId,
    },
    /// A shot.
    Shot {
        /// Which.
        id: ShotId,
    },
}

impl Thing {
    /// What it is called in a sentence.
    pub fn word(&self) -> &'static str {
        match self {
            Self::Land {} => "land",
            Self::Layer { .. } => "layer",
            Self::Mask { .. } => "mask",
            Self::Ground { .. } => "ground",
            Self::Water { .. } => "sheet of water",
            Self::Zone { .. } => "zone",
            Self::Species { .. } => "species of its own",
            Self::Paint { .. } => "painting",
            Self::Picture { .. } => "picture",
            Self::EarthPictures { .. } => "earth's own pictures",
            Self::Outline { .. } => "outline",
            Self::Obstacle { .. } => "obstacle",
            Self::Blower { .. } => "blower",
            Self::Body { .. } => "body",
            Self::Shot { .. } => "shot",
        }
    }

    fn id(&self) -> String {
        match self {
            Self::Land {} => String::new(),
            Self::Layer { id } => id.0.to_string(),
            Self::Mask { id, .. } => id.0.to_string(),
            Self::Ground { id } => id.0.to_string(),
            Self::Water { id } => id.0.to_string(),
            Self::Zone { id } => id.0.to_string(),
            Self::Species { id } => id.0.clone(),
            Self::Paint { id } => id.0.to_string(),
            Self::Picture { id } => id.0.to_string(),
            Self::EarthPictures { id } => id.name().to_owned(),
            Self::Outline { id } => id.0.to_string(),
            Self::Obstacle { id } => id.0.to_string(),
            Self::Blower { id } => id.0.to_string(),
            Self::Body { id } => id.0.to_string(),
            Self::Shot { id } => id.0.to_string(),
        }
    }

    /// Where it stands in the document, its steps with slashes between.
    pub fn path(&self) -> String {
        let list = match self {
            Self::Land {} => return "ground".to_owned(),
            Self::Mask { layer, id } => return format!("layers/{}/masks/{}", layer.0, id.0),
            Self::Layer { .. } => "layers",
            Self::Ground { .. } => "grounds",
            Self::Water { .. } => "waters",
            Self::Zone { .. } => "zones",
            Self::Species { .. } => "species",
            Self::Paint { .. } => "paints",
            Self::Picture { .. } => "pictures",
            Self::EarthPictures { .. } => "earth_pictures",
            Self::Outline { .. } => "outlines",
            Self::Obstacle { .. } => "obstacles",
            Self::Blower { .. } => "blowers",
            Self::Body { .. } => "bodies",
            Self::Shot { .. } => "shots",
        };
        format!("{list}/{}", self.id())
    }

    /// Fields that other commands change.
    fn kept(&self) -> &'static [&'static str] {
        match self {
            Self::Land {} => &["strokes"],
            Self::Layer { .. } => &["id", "masks", "tended", "drifts"],
            Self::Paint { .. } | Self::Ground { .. } => &["id", "strokes"],
            _ => &["id"],
        }
    }

    /// Writes out the parts that are left out of a document where they are as usual, so that single fields of them can be set.
    fn fill_in(&self, all: &mut Map<String, Value>) {
        let mut part = |name: &str, usual: Value| {
            all.entry(name).or_insert(usual);
        };
        match self {
            Self::Land {} | Self::Ground { .. } => part("earths", to_json(&Earths::default())),
            Self::Layer { .. } => {
                part("tint", to_json(&Tint::default()));
                part("clumps", to_json(&Clumps::default()));
                part("rows", to_json(&Rows::default()));
                part("clearance", to_json(&Clearance::default()));
                if let Some(Value::Object(stance)) = all.get_mut("stance") {
                    let usual = Stance::default();
                    for (name, range) in
                        [("tall", usual.tall), ("deep", usual.deep), ("lift_m", usual.lift_m)]
                    {
                        stance.entry(name).or_insert(to_json(&range));
                    }
                }
            }
            _ => {}
        }
    }

    fn missing(&self) -> Refusal {
        Refusal::Missing { what: self.word(), id: self.id() }
    }
}

impl Fields {
    /// The paths of all that they set, below `at`.
    pub fn paths(&self, at: &str) -> Vec<String> {
        let mut out = Vec::new();
        set_by(&self.0, at, &mut out);
        out
    }

    fn only(&self, settings: SharedSettings) -> Self {
        let own = self.0.iter().filter(|(field, _)| settings_of(field) == Some(settings));
        Self(own.map(|(field, value)| (field.clone(), value.clone())).collect())
    }
}

/// The shared settings that a field of a layer belongs to.
fn settings_of(field: &str) -> Option<SharedSettings> {
    match field {
        "mix" | "tint" => Some(SharedSettings::Mix),
        "amount" | "pattern" | "clumps" | "rows" => Some(SharedSettings::Amount),
        "stance" => Some(SharedSettings::Stance),
        "clearance" => Some(SharedSettings::Clearance),
        _ => None,
    }
}

/// All changes that a change comes to: with those of things that have the settings in common.
pub(super) fn with_sharers(document: &Document, what: &Thing, fields: &Fields) -> Vec<(Thing, Fields)> {
    let mut out = vec![(what.clone(), fields.clone())];
    match what {
        Thing::Layer { id } => {
            for settings in SharedSettings::ALL {
                let part = fields.only(settings);
                if !part.0.is_empty() {
                    let others = document.sharing(*id, settings);
                    out.extend(others.into_iter().map(|id| (Thing::Layer { id }, part.clone())));
                }
            }
        }
        Thing::Mask { layer, id } => {
            let others = document.sharing(*layer, SharedSettings::Masks);
            out.extend(others.into_iter().map(|layer| (Thing::Mask { layer, id: *id }, fields.clone())));
        }
        _ => {}
    }
    out
}

/// Changes one thing alone and gives the fields that take it back. After an error the document is of no use.
pub(super) fn change_one(document: &mut Document, what: &Thing, fields: &Fields) -> Result<Fields, Refusal> {
    if let Some(field) = fields.0.keys().find(|f| what.kept().contains(&f.as_str())) {
        return Err(Refusal::BadFields {
            what: what.word(),
            why: format!("\u{201c}{field}\u{201d} is changed in another way"),
        });
    }
    let by_id = |found: Option<usize>| found.ok_or_else(|| what.missing());
    macro_rules! listed {
        ($list:ident, $id:expr, $check:expr) => {{
            let place = by_id(document.$list.iter().position(|i| i.id == *$id))?;
            let (now, back) = changed(what, &document.$list[place], fields)?;
            document.$list[place] = now;
            $check(&document.$list[place])?;
            Ok(back)
        }};
    }
    match what {
        Thing::Land {} => {
            // Strokes can be many and are none of this.
            let strokes = std::mem::take(&mut document.ground.strokes);
            let (now, back) = changed(what, &document.ground, fields)?;
            document.ground = Ground { strokes, ..now };
            check::ground(&document.ground)?;
            Ok(back)
        }
        Thing::Layer { id } => {
            let place = by_id(document.layers.iter().position(|l| l.id == *id))?;
            if fields.0.keys().any(|f| f != "locked" && f != "visible") {
                unlocked(&document.layers[place])?;
            }
            let layer = &mut document.layers[place];
            let (masks, tended, drifts) = (
                std::mem::take(&mut layer.masks),
                std::mem::take(&mut layer.tended),
                std::mem::take(&mut layer.drifts),
            );
            let (now, back) = changed(what, layer, fields)?;
            *layer = Layer { masks, tended, drifts, ..now };
            check::layer(document, &document.layers[place])?;
            Ok(back)
        }
        Thing::Mask { layer, id } => {
            let place = document.layers.iter().position(|l| l.id == *layer);
            let place = place.ok_or_else(|| Refusal::Missing { what: "layer", id: layer.0.to_string() })?;
            unlocked(&document.layers[place])?;
            let masks = &mut document.layers[place].masks;
            let mask = masks.iter_mut().find(|m| m.id == *id).ok_or_else(|| what.missing())?;
            let (now, back) = changed(what, mask, fields)?;
            *mask = now;
            check::layer(document, &document.layers[place])?;
            Ok(back)
        }
        Thing::Ground { id } => {
            let place = by_id(document.grounds.iter().position(|g| g.id == *id))?;
            let strokes = std::mem::take(&mut document.grounds[place].strokes);
            let (now, back) = changed(what, &document.grounds[place], fields)?;
            document.grounds[place] = PlacedGround { strokes, ..now };
            check::placed(&document.grounds[place])?;
            check::grounds(&document.grounds)?;
            Ok(back)
        }
        Thing::Water { id } => listed!(waters, id, check::water),
        Thing::Zone { id } => listed!(zones, id, check::zone),
        Thing::Picture { id } => listed!(pictures, id, check::picture),
        Thing::EarthPictures { id } => listed!(earth_pictures, id, check::earth_pictures),
        Thing::Outline { id } => listed!(outlines, id, check::outline),
        Thing::Obstacle { id } => listed!(obstacles, id, check::obstacle),
        Thing::Blower { id } => listed!(blowers, id, check::blower),
        Thing::Body { id } => listed!(bodies, id, check::body),
        Thing::Shot { id } => listed!(shots, id, check::shot),
        Thing::Species { id } => {
            let place = by_id(document.species.iter().position(|s| s.id == *id))?;
            let (now, back) = changed(what, &document.species[place], fields)?;
            document.species[place] = now;
            check::own_species(document)?;
            Ok(back)
        }
        Thing::Paint { id } => {
            let place = by_id(document.paints.iter().position(|p| p.id == *id))?;
            let strokes = std::mem::take(&mut document.paints[place].strokes);
            let (now, back) = changed(what, &document.paints[place], fields)?;
            document.paints[place] = Paint { strokes, ..now };
            check::paint(&document.paints[place])?;
            Ok(back)
        }
    }
}

fn changed<T: Serialize + DeserializeOwned>(
    what: &Thing,
    now: &T,
    fields: &Fields,
) -> Result<(T, Fields), Refusal> {
    let Value::Object(mut all) = to_json(now) else {
        unreachable!("things of a scene are written as objects")
    };
    what.fill_in(&mut all);
    let back = merge(&mut all, &fields.0);
    let read = serde_json::from_value(Value::Object(all));
    let read = read.map_err(|e| Refusal::BadFields { what: what.word(), why: e.to_string() })?;
    Ok((read, Fields(back)))
}
