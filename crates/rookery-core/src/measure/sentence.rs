//! The specification sentence of a layer: its settings, written out.

use super::grouped;
use crate::document::{
    Amount, Clumps, Document, Drives, GroundId, Layer, LeanTo, MixPart, Pattern, SpeciesId, Stance,
};
use crate::habitat::{Words, band, number, source};
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
        let Words { verb, what, tail } = source(mask.quantity).words(mask, document);
        s.plain(verb);
        s.value(&format!("mask:{}", mask.id.0), what);
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
        s.value(&format!("mask:{}", mask.id.0), source(mask.quantity).name());
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
            format!("in clumps of about {}, within {} m", number(plants), number(radius_m))
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
        Amount::Spacing { value_m } => format!("{} m apart on average", number(value_m)),
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
                 towards the surface, tilted up to 6\u{b0}, sunk 3 cm.",
                "Boulders, 3.5 per 100 m\u{b2}, strewn at random, where the ground slopes 0\u{2013}40\u{b0}, fading to 55\u{b0} \
                 and lies 0.2\u{2013}6 m, fading to \u{2212}1 and 24 m up. 0.25\u{2013}1.6 times full size, turned any way, 90 % \
                 towards the surface, tilted up to 15\u{b0}, sunk 2 cm.",
            ]
        );
    }
}
