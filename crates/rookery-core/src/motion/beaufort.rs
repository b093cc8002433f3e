//! The scale of wind forces.

use serde::Serialize;

/// A force of wind.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Beaufort {
    /// 0 to 12.
    pub number: u8,
    /// What it is called.
    pub name: &'static str,
}

/// Lower limits of the forces, m/s at 10 m, and their names.
///
/// Source: WMO Manual on Codes, No. 306, code table 1100 (equivalent speeds 10 m above open flat ground), from memory.
const FORCES: [(f32, &str); 13] = [
    (0.0, "calm"),
    (0.3, "light air"),
    (1.6, "light breeze"),
    (3.4, "gentle breeze"),
    (5.5, "moderate breeze"),
    (8.0, "fresh breeze"),
    (10.8, "strong breeze"),
    (13.9, "near gale"),
    (17.2, "gale"),
    (20.8, "strong gale"),
    (24.5, "storm"),
    (28.5, "violent storm"),
    (32.7, "hurricane"),
];

/// The force of a wind of so many m/s at 10 m.
pub fn beaufort(speed_m_per_s: f32) -> Beaufort {
    let number = FORCES.iter().rposition(|(from, _)| speed_m_per_s >= *from).unwrap_or(0);
    Beaufort { number: number as u8, name: FORCES[number].1 }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn forces_follow_the_law_that_the_scale_was_set_by() {
        // Speeds are 0.836 B^1.5 m/s in the middle of each force (WMO, Commission for Maritime Meteorology, report 3; from memory).
        for number in 1..12_u8 {
            let middle = 0.836 * libm::powf(f32::from(number), 1.5);
            assert_eq!(beaufort(middle).number, number, "{middle} m/s");
        }
        assert_eq!(beaufort(0.0).name, "calm");
        assert_eq!(beaufort(6.0), Beaufort { number: 4, name: "moderate breeze" });
        assert_eq!(beaufort(40.0).number, 12);
    }
}
