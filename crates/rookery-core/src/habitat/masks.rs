//! A layer's masks, ready to be asked about points of one ground.

use super::source::{Field, On, limit_m, source};
use super::{Given, is_level, response_at};
use crate::document::{Combine, Document, GroundId, Layer, Mask, Quantity, Response, Zone};
use crate::ground::{Frame, OutlineField, Surface};
use crate::math::bearing::bearing_deg;
use crate::plan::outline::OutlineLine;
use glam::{Vec2, Vec3};
use std::sync::Arc;

/// Where a zone lies on one ground.
#[derive(Clone, Debug, Default)]
pub struct ZoneField {
    lines: Vec<OutlineField>,
    /// Numbers of face groups of the ground.
    groups: Vec<u16>,
}

impl ZoneField {
    /// A zone as it lies on a ground with these face groups.
    pub fn new(document: &Document, zone: &Zone, ground: GroundId, groups: &[String]) -> Self {
        let lines = document.outlines.iter().filter(|o| zone.outlines.contains(&o.id));
        let named = |name: &str| zone.groups.iter().any(|g| g.ground == ground && g.name == name);
        let groups = (0..groups.len() as u16).filter(|i| named(&groups[usize::from(*i)])).collect();
        let lines = lines.map(|o| OutlineField::new(OutlineLine::new(o)));
        Self { lines: lines.collect(), groups }
    }

    /// The lines of its outlines.
    pub fn lines(&self) -> &[OutlineField] {
        &self.lines
    }

    /// How far a point of the plan lies within the outlines of the zone, or beside all of them, metres; below zero where it does not.
    /// Face groups have no edge on the plan.
    pub fn depth_m(&self, plan: Vec2, within: bool) -> f32 {
        let each = self.lines.iter().map(|l| l.distance_m(plan));
        if self.lines.is_empty() {
            f32::INFINITY
        } else if within {
            -each.fold(f32::INFINITY, f32::min)
        } else {
            each.fold(f32::INFINITY, f32::min)
        }
    }

    /// How much a point belongs to the zone, 0 to 1. `plan` is where it lies in the scene.
    pub fn value(&self, plan: Vec2, group: Option<u16>) -> f32 {
        if group.is_some_and(|g| self.groups.contains(&g)) {
            return 1.0;
        }
        self.lines.iter().map(|l| l.value(plan)).fold(0.0, f32::max)
    }
}

#[derive(Clone)]
struct Rule {
    mask: Mask,
    field: Field,
}

/// The masks of a layer on one ground.
#[derive(Clone)]
pub struct Masks {
    rules: Vec<Rule>,
    frame: Frame,
    /// Whether a later mask may let through what earlier ones did not.
    generous: bool,
}

impl Masks {
    /// Masks of the ground itself, in the scene's own frame.
    pub fn plain(masks: &[Mask]) -> Self {
        let (document, given) = (crate::document::bare(), Given::default());
        let on = On { document: &document, ground: GroundId::LAND, groups: &[], given: &given };
        Self::with(masks, Frame::SCENE, &on)
    }

    /// The masks of a layer on a ground with these face groups, with what was computed for them there.
    pub fn on(
        document: &Document,
        layer: &Layer,
        ground: GroundId,
        groups: &[String],
        given: &Given,
    ) -> Self {
        Self::with(&layer.masks, document.frame(ground), &On { document, ground, groups, given })
    }

    fn with(masks: &[Mask], frame: Frame, on: &On<'_>) -> Self {
        let rules: Vec<Rule> =
            masks.iter().map(|m| Rule { mask: *m, field: source(m.quantity).field(m, on) }).collect();
        let widens = |r: &Rule| r.mask.counts() && matches!(r.mask.combine, Combine::Highest | Combine::Add);
        let generous = rules.iter().any(widens);
        Self { rules, frame, generous }
    }

    /// Where the ground stands.
    pub fn frame(&self) -> &Frame {
        &self.frame
    }

    /// The zone that a mask at a place of the list looks at, as it lies here.
    pub fn zone(&self, i: usize) -> Option<&Arc<ZoneField>> {
        match &self.rules[i].field {
            Field::Zone(field) => Some(field),
            _ => None,
        }
    }

    /// How many.
    pub fn count(&self) -> usize {
        self.rules.len()
    }

    /// Farther than this the mask at a place of the list tells no distances apart, metres; infinite for all but distances.
    pub fn limit_m(&self, i: usize) -> f32 {
        limit_m(&self.rules[i].mask)
    }

    /// The mask at a place of the list.
    pub fn mask(&self, i: usize) -> &Mask {
        &self.rules[i].mask
    }

    /// The value of a mask's quantity at a point, in its own unit; not a number where it is unknown.
    #[inline]
    pub fn quantity<S: Surface>(&self, i: usize, ground: &S, spot: &S::Spot) -> f32 {
        match &self.rules[i].field {
            Field::Slope => ground.slope_deg(spot),
            Field::Altitude => ground.altitude_m(spot),
            Field::HeightShare => {
                let [low, high] = ground.altitude_range_m();
                ((ground.altitude_m(spot) - low) / (high - low)).clamp(0.0, 1.0)
            }
            Field::Facing => self.frame.direction(ground.footing(spot).normal).y,
            Field::Aspect => self.aspect_deg(ground, spot),
            Field::Zone(zone) => {
                let plan: Vec3 = self.frame.point(ground.position_m(spot));
                zone.value(Vec2::new(plan.x, plan.z), ground.group(spot))
            }
            Field::Samples(values) => {
                let (value, most) = (ground.sampled(values, spot), self.limit_m(i));
                // Of a distance what is unknown is far; of all else it stays unknown.
                if most.is_finite() { value.min(most) } else { value }
            }
            Field::Noise(noise) => noise.value(self.frame.point(ground.position_m(spot)), S::ON_PLAN),
            Field::Paint(paint) => paint.value(self.frame.point(ground.position_m(spot)), S::ON_PLAN),
            Field::Near(near) => near.distance(self.frame.point(ground.position_m(spot))),
            Field::View(view) => view.beside_deg(self.frame.point(ground.position_m(spot))),
            Field::Picture { picture, colour } => {
                let at = if picture.by_uv() {
                    ground.uv(spot)
                } else {
                    let p = self.frame.point(ground.position_m(spot));
                    Some(picture.uv_of(Vec2::new(p.x, p.z)))
                };
                match at {
                    None => f32::NAN,
                    Some(uv) if *colour => picture.away(uv),
                    Some(uv) => picture.value(uv),
                }
            }
            Field::Unknown => f32::NAN,
        }
    }

    /// The way the ground faces, degrees clockwise from north, 0 to 360; not a number on level ground.
    fn aspect_deg<S: Surface>(&self, ground: &S, spot: &S::Spot) -> f32 {
        let n = self.frame.direction(ground.footing(spot).normal);
        if n.x * n.x + n.z * n.z < 1e-10 {
            return f32::NAN;
        }
        bearing_deg(n.x, -n.z)
    }

    /// The value of a mask's response at a point, 0 to 1, whether it is switched on or not. What is unknown lets all through.
    #[inline]
    pub fn response<S: Surface>(&self, i: usize, ground: &S, spot: &S::Spot) -> f32 {
        let Rule { mask, field } = &self.rules[i];
        match field {
            Field::Near(near) => near.response(self.frame.point(ground.position_m(spot))),
            Field::Noise(noise) => {
                // Finer forms are left out where they cannot change the response.
                let settled = |low, high| is_level(&mask.response, low, high);
                let p = self.frame.point(ground.position_m(spot));
                response_at(&mask.response, noise.value_until(p, S::ON_PLAN, settled))
            }
            _ => respond(mask, self.quantity(i, ground, spot)),
        }
    }

    /// All masks that are on as one value, from the value of each.
    #[inline]
    pub fn together(&self, mut value: impl FnMut(usize) -> f32) -> f32 {
        let mut so_far = None;
        for (i, rule) in self.rules.iter().enumerate().filter(|(_, r)| r.mask.counts()) {
            so_far = Some(joined(so_far, &rule.mask, value(i)));
        }
        so_far.unwrap_or(1.0)
    }

    /// The mask that refuses what needs more than `own`; none when all of them together let it through: the last one after
    /// which too little was left.
    #[inline]
    pub fn refusing(&self, own: f32, mut value: impl FnMut(usize) -> f32) -> Option<usize> {
        let (mut so_far, mut refused) = (None, None);
        for (i, rule) in self.rules.iter().enumerate().filter(|(_, r)| r.mask.counts()) {
            let now = joined(so_far, &rule.mask, value(i));
            if own < now {
                refused = None;
            } else if refused.is_none() {
                refused = Some(i);
                if !self.generous {
                    return refused;
                }
            }
            so_far = Some(now);
        }
        refused
    }
}

/// What a mask makes of a value of its quantity.
#[inline]
pub fn respond(mask: &Mask, quantity: f32) -> f32 {
    if quantity.is_nan() {
        return 1.0;
    }
    if mask.quantity == Quantity::Aspect {
        // The same way is met again a full turn on.
        let turned = [quantity - 360.0, quantity, quantity + 360.0];
        let plain = Response { inverted: false, ..mask.response };
        let most = turned.iter().map(|q| response_at(&plain, *q)).fold(0.0, f32::max);
        return if mask.response.inverted { 1.0 - most } else { most };
    }
    response_at(&mask.response, quantity)
}

/// The value of the masks so far and one more. See [`Combine`].
#[inline]
pub fn joined(so_far: Option<f32>, mask: &Mask, value: f32) -> f32 {
    let strength = mask.strength;
    // At no strength a mask leaves what was there before: all for those that narrow, nothing for those that widen.
    let narrow = 1.0 + (value - 1.0) * strength;
    let wide = value * strength;
    let Some(before) = so_far else {
        return if mask.combine == Combine::Subtract { 1.0 - wide } else { narrow };
    };
    match mask.combine {
        Combine::Multiply => before * narrow,
        Combine::Lowest => before.min(narrow),
        Combine::Highest => before.max(wide),
        Combine::Add => (before + wide).min(1.0),
        Combine::Subtract => (before - wide).max(0.0),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::MaskId;

    fn masks(combines: &[(Combine, f32)]) -> Masks {
        let mask = |(i, (combine, strength)): (usize, &(Combine, f32))| Mask {
            combine: *combine,
            strength: *strength,
            ..Mask::band(MaskId(i as u32), Quantity::Slope, [0.0, 0.0, 90.0, 90.0])
        };
        Masks::plain(&combines.iter().enumerate().map(mask).collect::<Vec<_>>())
    }

    #[test]
    fn values_come_together_as_each_mask_says() {
        let table = [
            (Combine::Multiply, 0.3 * 0.5),
            (Combine::Lowest, 0.3),
            (Combine::Highest, 0.5),
            (Combine::Add, 0.8),
            (Combine::Subtract, 0.0),
        ];
        for (combine, expected) in table {
            let rules = masks(&[(Combine::Multiply, 1.0), (combine, 1.0)]);
            let got = rules.together(|i| [0.3, 0.5][i]);
            assert!((got - expected).abs() < 1e-6, "{combine:?}: {got}");
            // Without strength the second plays no part.
            assert!(
                (masks(&[(Combine::Multiply, 1.0), (combine, 0.0)]).together(|i| [0.3, 0.5][i]) - 0.3).abs()
                    < 1e-6
            );
        }
        assert!((masks(&[(Combine::Subtract, 1.0)]).together(|_| 0.3) - 0.7).abs() < 1e-6);
        assert!((masks(&[(Combine::Highest, 1.0)]).together(|_| 0.3) - 0.3).abs() < 1e-6);
    }

    #[test]
    fn the_mask_that_refuses_is_the_last_after_which_too_little_was_left() {
        let strict = masks(&[(Combine::Multiply, 1.0), (Combine::Multiply, 1.0)]);
        assert_eq!(strict.refusing(0.4, |i| [0.5, 0.5][i]), Some(1));
        assert_eq!(strict.refusing(0.6, |i| [0.5, 0.5][i]), Some(0));
        assert_eq!(strict.refusing(0.2, |i| [0.5, 0.5][i]), None);
        let wide = masks(&[(Combine::Multiply, 1.0), (Combine::Highest, 1.0), (Combine::Multiply, 1.0)]);
        assert_eq!(
            wide.refusing(0.4, |i| [0.0, 0.9, 1.0][i]),
            None,
            "the second lets through what the first did not"
        );
        assert_eq!(wide.refusing(0.4, |i| [0.0, 0.9, 0.1][i]), Some(2));
    }

    #[test]
    fn an_aspect_band_may_run_past_north() {
        let mask = Mask::band(MaskId(1), Quantity::Aspect, [300.0, 320.0, 400.0, 420.0]);
        let got = [0.0, 39.0, 50.0, 61.0, 180.0, 310.0, 330.0].map(|q| respond(&mask, q));
        assert_eq!(got, [1.0, 1.0, 0.5, 0.0, 0.0, 0.5, 1.0]);
        assert_eq!(respond(&mask, f32::NAN), 1.0);
    }
}
