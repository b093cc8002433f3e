//! The specification sentence of a layer: its settings, written out.

use super::grouped;
use crate::scene::{
    Amount, Clumps, Document, Drives, GroundId, Layer, LeanTo, Mask, MixPart, Near, Pattern, Quantity,
    Response, SpeciesId, Stance,
};
use serde::Serialize;

/// A piece of the sentence: plain words, or the value of a setting.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Part {
    /// The words.
    pub text: String,
    /// The setting whose value this is: `species`, `amount`, `pattern`, `grounds`, `mask:ID`, `size`, `turn`, `tilt`,
    /// `upright`, `sink`, `tumble`, `lean` or `lift`. None for plain words.
    pub setting: Option<String>,
}

/// Writes the sentence. Joined, the parts read as plain English.
pub fn sentence(document: &Document, layer: &Layer) -> Vec<Part> {
    let mut s = Sentence(Vec::new());
    species(&mut s, document, layer);
    s.plain(", ");
    if by_hand_alone(layer) {
        s.value("amount", "planted by hand");
    } else {
        s.value("amount", amount(layer.amount));
        s.plain(", ");
        s.value("pattern", pattern(document, layer));
    }
    if let Some(host) = layer.on_plants {
        s.plain(" on the plants of ");
        s.value("grounds", document.layer(host).map_or("a layer that is gone", |l| l.name.as_str()));
    } else if !layer.grounds.is_empty() {
        s.plain(" on ");
        s.value("grounds", grounds(document, layer));
    }
    let mut lead = ", where the ground ";
    for mask in layer.masks.iter().filter(|m| m.counts()) {
        s.plain(lead);
        lead = " and ";
        let (verb, band, tail) = mask_words(document, mask);
        s.plain(verb);
        s.value(&format!("mask:{}", mask.id.0), band);
        s.plain(tail);
    }
    for mask in layer.masks.iter().filter(|m| m.enabled && !m.counts()) {
        s.plain(". ");
        let (what, verb) = match mask.drives {
            Drives::Size { low, high } => {
                (format!("Their size goes from {} to {}", number(low), number(high)), "times with ")
            }
            Drives::Mix => ("Which of them grows goes".to_owned(), "with "),
            Drives::Tint { .. } | Drives::Amount => ("Their colour goes".to_owned(), "with "),
        };
        s.plain(&format!("{what} {verb}"));
        s.value(&format!("mask:{}", mask.id.0), quantity_name(mask.quantity));
    }
    s.plain(". ");
    s.value("size", band(layer.stance.size.min, layer.stance.size.max));
    s.plain(" times full size, ");
    let turn = layer.stance.turn_deg;
    s.value(
        "turn",
        if turn.max - turn.min >= 360.0 {
            "turned any way".to_owned()
        } else {
            format!("turned {}\u{b0}", band(turn.min, turn.max))
        },
    );
    s.plain(", ");
    let upright = layer.stance.upright;
    s.value(
        "upright",
        match upright {
            0.0 => "upright".to_owned(),
            1.0 => "square to the surface".to_owned(),
            share => format!("{} % towards the surface", (share * 100.0).round()),
        },
    );
    s.plain(", ");
    s.value(
        "tilt",
        if layer.stance.tilt_deg == 0.0 {
            "not tilted".to_owned()
        } else {
            format!("tilted up to {}\u{b0}", number(layer.stance.tilt_deg))
        },
    );
    s.plain(", ");
    let sink_cm = layer.stance.sink_m * 100.0;
    s.value(
        "sink",
        if sink_cm < 0.0 {
            format!("raised {} cm", number(-sink_cm))
        } else {
            format!("sunk {} cm", number(sink_cm))
        },
    );
    let Stance { tumble, lean_deg, lean, lift_m, .. } = layer.stance;
    if tumble > 0.0 {
        s.plain(", ");
        s.value("tumble", format!("tumbled by {} %", number(tumble * 100.0)));
    }
    if lean_deg != 0.0 {
        s.plain(", ");
        let to = match lean {
            LeanTo::Downhill => "downhill".to_owned(),
            LeanTo::Bearing { deg } => format!("towards {}\u{b0}", number(deg)),
        };
        s.value("lean", format!("leaning {}\u{b0} {to}", number(lean_deg)));
    }
    if lift_m.max > 0.0 {
        s.plain(", ");
        s.value("lift", format!("raised {} m", band(lift_m.min, lift_m.max)));
    }
    s.plain(".");
    s.0
}

/// "fescue", or "A mix of fescue (60 %), thrift (30 %) and sedge (10 %)".
fn species(s: &mut Sentence, document: &Document, layer: &Layer) {
    let named = |id: &SpeciesId| document.species(id).map_or_else(|| id.0.clone(), |s| s.plural.clone());
    let all: f32 = layer.mix.iter().map(|m| m.share).sum::<f32>().max(1e-6);
    let shown: Vec<&MixPart> = layer.mix.iter().filter(|m| m.share > 0.0).collect();
    if let [one] = shown.as_slice() {
        s.value("species", named(&one.species));
        return;
    }
    s.plain("A mix of ");
    for (i, m) in shown.iter().enumerate() {
        match shown.len() - i {
            _ if i == 0 => {}
            1 => s.plain(" and "),
            _ => s.plain(", "),
        }
        let share = number((m.share / all * 100.0).round());
        s.value("species", format!("{} ({share} %)", named(&m.species)));
    }
}

/// What a mask looks at, in a word or two.
pub fn quantity_name(quantity: Quantity) -> &'static str {
    match quantity {
        Quantity::Slope => "the slope",
        Quantity::Altitude => "the altitude",
        Quantity::HeightShare => "the share of the height",
        Quantity::Zone => "the zone",
        Quantity::Aspect => "the aspect",
        Quantity::ProfileCurvature => "the bend along the slope",
        Quantity::PlanCurvature => "the bend across the slope",
        Quantity::Wetness => "wetness",
        Quantity::Openness => "openness",
        Quantity::SunHours => "hours of sun",
        Quantity::Noise => "noise",
        Quantity::Distance => "distance",
        Quantity::Painted => "what was painted",
        Quantity::Facing => "the way it faces",
        Quantity::InView => "what a shot sees",
        Quantity::Picture | Quantity::Colour => "a picture",
    }
}

struct Sentence(Vec<Part>);

impl Sentence {
    fn plain(&mut self, text: &str) {
        match self.0.last_mut() {
            Some(Part { text: last, setting: None }) => last.push_str(text),
            _ => self.0.push(Part { text: text.to_owned(), setting: None }),
        }
    }

    fn value(&mut self, setting: &str, text: impl Into<String>) {
        self.0.push(Part { text: text.into(), setting: Some(setting.to_owned()) });
    }
}

fn pattern(document: &Document, layer: &Layer) -> String {
    match layer.pattern {
        Pattern::Random => "strewn at random".to_owned(),
        Pattern::Even => "evenly spread".to_owned(),
        Pattern::Clumped => {
            let Clumps { radius_m, plants } = layer.clumps;
            format!("in clumps of {} about, {} m to every side", number(plants), number(radius_m))
        }
        Pattern::Rows => {
            format!(
                "in rows {} m apart, {} m along them",
                number(layer.rows.between_m),
                number(layer.rows.along_m)
            )
        }
        Pattern::Along => {
            let line = document.outlines.iter().find(|o| Some(o.id) == layer.rows.line);
            let name = line.map_or("a line that is gone", |o| o.name.as_str());
            let rows = if layer.rows.count == 1 {
                "one row".to_owned()
            } else {
                format!("{} rows", layer.rows.count)
            };
            format!("in {rows} along {name}")
        }
        Pattern::Vertices => "at the corners of the ground".to_owned(),
        Pattern::Faces => "in the middle of each face".to_owned(),
    }
}

/// Whether nothing grows in it but what was set and strewn by hand.
fn by_hand_alone(layer: &Layer) -> bool {
    let none = matches!(layer.amount, Amount::Total { value: 0 });
    none && (!layer.drifts.is_empty() || layer.tended.iter().any(|t| t.plant.is_some()))
}

fn amount(amount: Amount) -> String {
    match amount {
        Amount::PerM2 { value } if value > 0.0 && value < 0.001 => {
            format!("{} per hectare", number(value * 10_000.0))
        }
        Amount::PerM2 { value } if value > 0.0 && value < 0.2 => {
            format!("{} per 100 m\u{b2}", number(value * 100.0))
        }
        Amount::PerM2 { value } => format!("{} per m\u{b2}", number(value)),
        Amount::Total { value } => format!("{} in all", grouped(u64::from(value))),
        Amount::Cover { value } => format!("covering {} % of it", number(value * 100.0)),
        Amount::Spacing { value_m } => format!("one to every {} m", number(value_m)),
    }
}

/// "the land and The Needle Arch"; a ground that was taken out is not named.
fn grounds(document: &Document, layer: &Layer) -> String {
    let name = |id: &GroundId| match *id {
        GroundId::LAND => Some("the land".to_owned()),
        id => document.placed(id).map(|g| g.name.clone()),
    };
    let names: Vec<String> = layer.grounds.iter().filter_map(name).collect();
    match names.as_slice() {
        [] => "no ground of this scene".to_owned(),
        [one] => one.clone(),
        [some @ .., last] => format!("{} and {last}", some.join(", ")),
    }
}

fn mask_words(document: &Document, mask: &Mask) -> (&'static str, String, &'static str) {
    let Response { start, full_from, full_to, end, inverted } = mask.response;
    let (verb, unit, tail) = match (mask.quantity, inverted) {
        (Quantity::Slope, false) => ("slopes ", "\u{b0}", ""),
        (Quantity::Slope, true) => ("does not slope ", "\u{b0}", ""),
        (Quantity::Altitude, false) => ("lies ", " m", " up"),
        (Quantity::Altitude, true) => ("does not lie ", " m", " up"),
        (Quantity::Zone, inverted) => {
            let zone = document.zones.iter().find(|z| Some(z.id) == mask.zone);
            let name = zone.map_or("a zone that is gone", |z| z.name.as_str());
            return (if inverted { "is not in " } else { "is in " }, name.to_owned(), "");
        }
        (Quantity::Aspect, false) => ("faces ", "\u{b0}", ""),
        (Quantity::Aspect, true) => ("does not face ", "\u{b0}", ""),
        (Quantity::ProfileCurvature, false) => ("bends down the slope by ", " per m", ""),
        (Quantity::ProfileCurvature, true) => ("does not bend down the slope by ", " per m", ""),
        (Quantity::PlanCurvature, false) => ("bends across the slope by ", " per m", ""),
        (Quantity::PlanCurvature, true) => ("does not bend across the slope by ", " per m", ""),
        (Quantity::Wetness, false) => ("has a wetness of ", "", ""),
        (Quantity::Wetness, true) => ("does not have a wetness of ", "", ""),
        (Quantity::HeightShare, inverted) => {
            let share = |v: f32| (v * 100.0).round();
            let words = format!("{}\u{2013}{} %", share(full_from), share(full_to));
            return (if inverted { "does not lie " } else { "lies " }, words, " of the way up");
        }
        (Quantity::Openness, inverted) => {
            let sky = |v: f32| (v * 100.0).round();
            let words = format!("{}\u{2013}{} %", sky(full_from), sky(full_to));
            return (if inverted { "does not see " } else { "sees " }, words, " of the sky");
        }
        (Quantity::SunHours, inverted) => {
            let most = if full_to >= 24.0 {
                format!("{} hours of sun or more", number(full_from))
            } else {
                format!("{} hours of sun", band(full_from, full_to))
            };
            let day = mask.sun.map(|s| format!(" on {} {}", s.day, s.month_name())).unwrap_or_default();
            return (if inverted { "does not have " } else { "has " }, format!("{most}{day}"), "");
        }
        (Quantity::Facing, false) => ("faces up by ", "", ""),
        (Quantity::Facing, true) => ("does not face up by ", "", ""),
        (Quantity::InView, inverted) => {
            let shot = mask.shot.and_then(|id| document.shots.iter().find(|s| s.id == id));
            let name = shot.map_or("a shot that is gone", |s| s.name.as_str());
            let aside = if full_to > 0.0 {
                format!("{}\u{b0} of the picture of {name}", number(full_to))
            } else {
                format!("the picture of {name}")
            };
            return (if inverted { "is not within " } else { "is within " }, aside, "");
        }
        (quantity @ (Quantity::Picture | Quantity::Colour), inverted) => {
            let picture = mask.picture.and_then(|look| document.pictures.iter().find(|p| p.id == look.id));
            let name = picture.map_or("a picture that is gone", |p| p.name.as_str()).to_owned();
            let verb = match (quantity, inverted) {
                (Quantity::Picture, false) => "is light in ",
                (Quantity::Picture, true) => "is dark in ",
                (_, false) => "has a picked colour in ",
                (_, true) => "does not have a picked colour in ",
            };
            return (verb, name, "");
        }
        (Quantity::Noise, inverted) => {
            let size = mask.noise.map_or(0.0, |n| n.size_m);
            let words = format!("a noise of {} m", number(size));
            return (if inverted { "lies off " } else { "lies on " }, words, "");
        }
        (Quantity::Painted, inverted) => {
            let name = mask
                .paint
                .and_then(|id| document.paint(id))
                .map_or("a painting that is gone", |p| p.name.as_str());
            return (if inverted { "is not painted: " } else { "is painted: " }, name.to_owned(), "");
        }
        (Quantity::Distance, inverted) => {
            let words =
                format!("{} m", if full_to >= FAR_M { number(full_from) } else { band(full_from, full_to) });
            let far = full_to >= FAR_M;
            let verb = match (inverted, far) {
                (false, false) => "lies within ",
                (false, true) => "lies farther than ",
                (true, false) => "does not lie within ",
                (true, true) => "does not lie farther than ",
            };
            return (
                verb,
                format!("{words} {} {}", if far { "from" } else { "of" }, near_words(document, mask)),
                "",
            );
        }
    };
    let mut words = format!("{}{unit}", band(full_from, full_to));
    let below = (start < full_from).then(|| number(start));
    let above = (full_to < end).then(|| number(end));
    let fade = [below, above].into_iter().flatten().collect::<Vec<_>>().join(" and ");
    if !fade.is_empty() {
        words.push_str(&format!(", fading to {fade}{unit}"));
    }
    (verb, words, tail)
}

/// A band of distances that ends here or beyond has no end.
const FAR_M: f32 = 10_000.0;

fn near_words(document: &Document, mask: &Mask) -> String {
    let named = |name: Option<&String>, gone: &str| name.map_or_else(|| gone.to_owned(), |n| n.clone());
    match mask.near {
        Some(Near::Outline { id }) => {
            named(document.outlines.iter().find(|o| o.id == id).map(|o| &o.name), "an outline that is gone")
        }
        Some(Near::Tracks) => "a track".to_owned(),
        Some(Near::Water) | None => "water".to_owned(),
        Some(Near::Obstacle { id }) => {
            named(document.obstacles.iter().find(|o| o.id == id).map(|o| &o.name), "an obstacle that is gone")
        }
        Some(Near::Obstacles) => "an obstacle".to_owned(),
        Some(Near::Straight { bearing_deg, .. }) => {
            format!("a line that faces {}\u{b0}", number(bearing_deg))
        }
        Some(Near::Ball { radius_m: 0.0, .. } | Near::Cylinder { radius_m: 0.0, .. }) => "a point".to_owned(),
        Some(Near::Ball { .. }) => "a ball".to_owned(),
        Some(Near::Cylinder { .. }) => "a cylinder".to_owned(),
        Some(Near::Box { .. }) => "a box".to_owned(),
        Some(Near::Camera { id }) => {
            named(document.shots.iter().find(|s| s.id == id).map(|s| &s.name), "a shot that is gone")
        }
        Some(Near::Layer { id }) => named(document.layer(id).map(|l| &l.name), "a layer that is gone"),
    }
}

fn band(from: f32, to: f32) -> String {
    if from == to { number(from) } else { format!("{}\u{2013}{}", number(from), number(to)) }
}

/// At most two decimals, none when they are zero.
fn number(v: f32) -> String {
    let text = format!("{v:.2}");
    text.trim_end_matches('0').trim_end_matches('.').replace('-', "\u{2212}")
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::scene::{kittiwake_head, needle_arch};

    fn written(document: &Document) -> Vec<String> {
        let words = |l| sentence(document, l).iter().map(|p| p.text.as_str()).collect();
        document.layers.iter().map(words).collect()
    }

    #[test]
    fn a_layer_that_keeps_to_some_grounds_names_them() {
        let mut document = needle_arch();
        assert!(written(&document)[0].contains("evenly spread on The Needle Arch, where"));
        document.layers[0].grounds.push(GroundId::LAND);
        assert!(written(&document)[0].contains(" on The Needle Arch and the land, where"));
        document.layers[0].grounds = vec![GroundId(44)];
        assert!(written(&document)[0].contains(" on no ground of this scene, where"));
    }

    #[test]
    fn the_demo_layers_read_as_plain_english() {
        let text = written(&kittiwake_head());
        assert_eq!(
            text[..2],
            [
                "Marram tufts, 2.4 per m\u{b2}, evenly spread, where the ground slopes 0\u{2013}27\u{b0}, fading to 38\u{b0} and \
                 lies 2.4\u{2013}9 m, fading to 1.2 and 14 m up and is not in Garth, path and burn. 0.75\u{2013}1.3 times full size, turned any way, 20 % \
                 towards the surface, tilted up to 6\u{b0}, sunk 2 cm.",
                "Boulders, 3.5 per 100 m\u{b2}, strewn at random, where the ground slopes 0\u{2013}40\u{b0}, fading to 55\u{b0} \
                 and lies 0.2\u{2013}6 m, fading to \u{2212}1 and 24 m up. 0.25\u{2013}1.6 times full size, turned any way, 50 % \
                 towards the surface, tilted up to 35\u{b0}, sunk 18 cm.",
            ]
        );
    }
}
