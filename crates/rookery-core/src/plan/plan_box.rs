//! Boxes of the plan.

use glam::Vec2;

/// Part of the plan between two corners, metres: where something changed.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct PlanBox {
    /// Smallest x and z.
    pub low: Vec2,
    /// Largest x and z.
    pub high: Vec2,
}

impl PlanBox {
    /// Whether a point lies in it, edges included.
    #[inline]
    pub fn contains(&self, x: f32, z: f32) -> bool {
        x >= self.low.x && x <= self.high.x && z >= self.low.y && z <= self.high.y
    }

    /// Whether two have a point in common, edges included.
    pub fn meets(&self, other: &Self) -> bool {
        self.low.cmple(other.high).all() && other.low.cmple(self.high).all()
    }

    /// Larger by so many metres on every side.
    pub fn grown(&self, by_m: f32) -> Self {
        Self { low: self.low - by_m, high: self.high + by_m }
    }
}

/// Parts along each side of what several boxes span.
const PARTS: usize = 256;

/// Any number of boxes, quick to ask whether a point lies in one of them.
#[derive(Clone, Debug)]
pub struct PlanBoxes {
    boxes: Vec<PlanBox>,
    whole: PlanBox,
    /// Which parts of what they span meet one of them.
    parts: Vec<bool>,
}

impl PlanBoxes {
    /// Of these boxes.
    pub fn new(boxes: Vec<PlanBox>) -> Self {
        let mut whole = PlanBox { low: Vec2::INFINITY, high: Vec2::NEG_INFINITY };
        for b in &boxes {
            whole = PlanBox { low: whole.low.min(b.low), high: whole.high.max(b.high) };
        }
        let mut made = Self { boxes, whole, parts: vec![false; PARTS * PARTS] };
        for b in &made.boxes {
            let ([west, north], [east, south]) = (made.part(b.low), made.part(b.high));
            for row in north..=south {
                made.parts[row * PARTS + west..=row * PARTS + east].fill(true);
            }
        }
        made
    }

    fn part(&self, at: Vec2) -> [usize; 2] {
        let share = (at - self.whole.low) / (self.whole.high - self.whole.low).max(Vec2::splat(1e-6));
        (share * PARTS as f32).to_array().map(|v| (v as usize).min(PARTS - 1))
    }

    /// Whether a point lies in one of them, or a little beside where there are several: never not where it does.
    #[inline]
    pub fn contains(&self, x: f32, z: f32) -> bool {
        self.whole.contains(x, z) && {
            let [column, row] = self.part(Vec2::new(x, z));
            self.parts[row * PARTS + column]
        }
    }

    /// Each larger by so many metres on every side.
    pub fn grown(&self, by_m: f32) -> Self {
        Self::new(self.boxes.iter().map(|b| b.grown(by_m)).collect())
    }

    /// Whether one of them meets a box.
    pub fn meets(&self, other: &PlanBox) -> bool {
        self.boxes.iter().any(|b| b.meets(other))
    }
}

impl From<PlanBox> for PlanBoxes {
    fn from(one: PlanBox) -> Self {
        Self::new(vec![one])
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn boxes() -> impl Strategy<Value = Vec<PlanBox>> {
        let one = (prop::array::uniform2(-500.0_f32..500.0), prop::array::uniform2(0.0_f32..60.0));
        let one = one.prop_map(|(low, size)| {
            let low = Vec2::from(low);
            PlanBox { low, high: low + Vec2::from(size) }
        });
        prop::collection::vec(one, 0..9)
    }

    proptest! {
        #[test]
        fn no_point_of_a_box_is_missed_and_few_are_taken_beside(
            boxes in boxes(), pick in 0_usize..9, share in prop::array::uniform2(0.0_f32..=1.0),
            beside in prop::array::uniform2(-600.0_f32..600.0)
        ) {
            let all = PlanBoxes::new(boxes.clone());
            if let Some(b) = boxes.get(pick) {
                let p = b.low + (b.high - b.low) * Vec2::from(share);
                let p = p.clamp(b.low, b.high);
                prop_assert!(all.contains(p.x, p.y));
                let there = PlanBox { low: p, high: p };
                prop_assert!(all.meets(&there));
            }
            let part = (all.whole.high - all.whole.low) / PARTS as f32 * 1.01;
            let near = boxes.iter().any(|b| {
                PlanBox { low: b.low - part, high: b.high + part }.contains(beside[0], beside[1])
            });
            prop_assert!(near || !all.contains(beside[0], beside[1]));
            if let [one] = boxes.as_slice() {
                prop_assert_eq!(all.contains(beside[0], beside[1]), one.contains(beside[0], beside[1]));
            }
        }
    }
}
