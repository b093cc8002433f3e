//! A layer's masks, ready to be asked about points of one ground.

use super::response_at;
use crate::ground::outline::OutlineLine;
use crate::ground::{Frame, OutlineField, Surface};
use crate::scene::{Document, GroundId, Layer, Mask, Quantity, Zone};
use glam::{Vec2, Vec3};

/// Where a zone lies on one ground.
#[derive(Clone, Debug, Default)]
pub struct ZoneField {
    lines: Vec<OutlineField>,
    /// Numbers of face groups of the ground.
    groups: Vec<u16>,
}

impl ZoneField {
    /// A zone as it lies on a ground with these face groups.
    pub fn of(document: &Document, zone: &Zone, ground: GroundId, groups: &[String]) -> Self {
        let lines = document.outlines.iter().filter(|o| zone.outlines.contains(&o.id));
        let named = |name: &str| zone.groups.iter().any(|g| g.ground == ground && g.name == name);
        let groups = (0..groups.len() as u16).filter(|i| named(&groups[usize::from(*i)])).collect();
        let lines = lines.map(|o| OutlineField::new(OutlineLine::new(o)));
        Self { lines: lines.collect(), groups }
    }

    /// How much a point belongs to the zone, 0 to 1. `plan` is where it lies in the scene.
    pub fn value(&self, plan: Vec2, group: Option<u16>) -> f32 {
        if group.is_some_and(|g| self.groups.contains(&g)) {
            return 1.0;
        }
        self.lines.iter().map(|l| l.value(plan)).fold(0.0, f32::max)
    }
}

#[derive(Clone, Debug)]
struct Rule {
    mask: Mask,
    zone: ZoneField,
}

/// The masks of a layer on one ground, and how many forms its species has.
#[derive(Clone, Debug)]
pub struct Rules {
    rules: Vec<Rule>,
    frame: Frame,
    forms: u16,
}

impl Rules {
    /// Masks without any zones, in the scene's own frame.
    pub fn plain(masks: &[Mask]) -> Self {
        let rules = masks.iter().map(|m| Rule { mask: *m, zone: ZoneField::default() }).collect();
        Self { rules, frame: Frame::SCENE, forms: 1 }
    }

    /// The same, with the number of forms the layer's species has.
    pub fn with_forms(self, forms: u16) -> Self {
        Self { forms, ..self }
    }

    /// Different individuals of the layer's species; the others of its form differ in nothing but their stance.
    pub fn forms(&self) -> u16 {
        self.forms
    }

    /// The masks of a layer on a ground with these face groups.
    pub fn of(document: &Document, layer: &Layer, ground: GroundId, groups: &[String]) -> Self {
        let zone = |m: &Mask| {
            let zone = m.zone.and_then(|id| document.zones.iter().find(|z| z.id == id));
            zone.map(|z| ZoneField::of(document, z, ground, groups)).unwrap_or_default()
        };
        let rules = layer.masks.iter().map(|m| Rule { mask: *m, zone: zone(m) }).collect();
        let forms = document.species(&layer.species).map_or(1, |s| s.forms);
        Self { rules, frame: document.frame(ground), forms }
    }

    /// How many.
    pub fn count(&self) -> usize {
        self.rules.len()
    }

    /// The mask at a place of the list.
    pub fn mask(&self, i: usize) -> &Mask {
        &self.rules[i].mask
    }

    /// The value of a mask's quantity at a point, in its own unit.
    #[inline]
    pub fn quantity<S: Surface>(&self, i: usize, ground: &S, spot: &S::Spot) -> f32 {
        let rule = &self.rules[i];
        match rule.mask.quantity {
            Quantity::Slope => ground.slope_deg(spot),
            Quantity::Altitude => ground.altitude_m(spot),
            Quantity::Zone => {
                let plan: Vec3 = self.frame.point(ground.position_m(spot));
                rule.zone.value(Vec2::new(plan.x, plan.z), ground.group(spot))
            }
        }
    }

    /// The value of a mask's response at a point, 0 to 1, whether it is switched on or not.
    #[inline]
    pub fn response<S: Surface>(&self, i: usize, ground: &S, spot: &S::Spot) -> f32 {
        response_at(&self.rules[i].mask.response, self.quantity(i, ground, spot))
    }

    /// The value of a mask at a point, 0 to 1. One that is switched off lets everything through.
    #[inline]
    pub fn value<S: Surface>(&self, i: usize, ground: &S, spot: &S::Spot) -> f32 {
        if self.rules[i].mask.enabled { self.response(i, ground, spot) } else { 1.0 }
    }
}
