//! How a plant bends: as a beam held at its foot.
//!
//! Source: Euler-Bernoulli beam of constant section, any handbook of mechanics: first natural frequency
//! 1.8751^2 / (2 pi) sqrt(EI / (m L^4)), tip deflection under an even load q L^4 / (8 EI). Moduli and densities of living
//! stems are rounded values of common tables, from memory. A real stem tapers and bears leaves: these are the right size, not
//! the right number.

use super::make::Litter;
use super::{Detail, Kind, Plan, Season, Species};
use serde::Serialize;
use std::f32::consts::PI;

/// Fewer pieces than this break into corners when a stem bends over.
const SMOOTH_SEGMENTS: u32 = 4;
/// The wind that deflections are stated for, m/s: Beaufort 5.
const WIND_M_PER_S: f32 = 10.0;

/// Bending of one form, before any wind blows.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Bending {
    /// Length of the stem or blade that bends, metres.
    pub length_m: f32,
    /// Its thickness at the foot, metres.
    pub thick_m: f32,
    /// Flexural stiffness EI, N m2.
    pub stiffness_n_m2: f32,
    /// Mass of that stem or blade, kilograms.
    pub mass_kg: f32,
    /// First natural frequency, Hz.
    pub sway_hz: f32,
    /// How far its tip is pushed aside in a wind of 10 m/s, metres; at most its length.
    pub tip_m: f32,
    /// The same against its length by the law for small loads, whatever comes out.
    pub lean: f32,
    /// Pieces it is built of at full detail.
    pub segments: u32,
    /// Whether those are enough to bend smoothly.
    pub smooth: bool,
}

/// A beam of constant section held at one end.
#[derive(Clone, Copy, Debug)]
struct Beam {
    length_m: f32,
    /// How many times as quickly it sways as one of constant section, for it is lighter and thinner towards its tip.
    taper: f32,
    /// N m2.
    ei: f32,
    /// kg/m.
    mass_per_m: f32,
    /// What the wind takes hold of, metres.
    face_m: f32,
}

impl Beam {
    /// A round stem. `modulus` in pascals, `density` in kg/m3.
    fn round(length_m: f32, thick_m: f32, modulus: f32, density: f32) -> Self {
        let ei = modulus * PI * libm::powf(thick_m, 4.0) / 64.0;
        Self { length_m, taper: 1.0, ei, mass_per_m: density * PI * thick_m * thick_m / 4.0, face_m: thick_m }
    }

    /// A flat blade.
    fn flat(length_m: f32, wide_m: f32, thick_m: f32, modulus: f32, density: f32) -> Self {
        let ei = modulus * wide_m * libm::powf(thick_m, 3.0) / 12.0;
        Self { length_m, taper: 1.0, ei, mass_per_m: density * wide_m * thick_m, face_m: wide_m }
    }

    /// A hollow stem.
    fn tube(length_m: f32, thick_m: f32, wall_m: f32, modulus: f32, density: f32) -> Self {
        let (out, bore) = (thick_m, thick_m - 2.0 * wall_m);
        let ei = modulus * PI * (libm::powf(out, 4.0) - libm::powf(bore, 4.0)) / 64.0;
        // Its own leaves weigh and catch the wind twice as much as it does by itself.
        let mass_per_m = 3.0 * density * PI * (out * out - bore * bore) / 4.0;
        Self { length_m, taper: 1.0, ei, mass_per_m, face_m: 3.0 * thick_m }
    }

    fn sway_hz(&self) -> f32 {
        let k = 1.875_104_f32;
        self.taper * k * k / (2.0 * PI)
            * (self.ei / (self.mass_per_m * libm::powf(self.length_m, 4.0))).sqrt()
    }

    fn tip_m(&self, load_n_per_m: f32) -> f32 {
        load_n_per_m * libm::powf(self.length_m, 4.0) / (8.0 * self.ei)
    }

    /// Load of a steady wind on its face, N/m: air of 1.2 kg/m3, drag coefficient 1.
    fn wind_load(&self) -> f32 {
        0.5 * 1.2 * WIND_M_PER_S * WIND_M_PER_S * self.face_m
    }
}

/// Wet wood and stiff shoots: 7 GPa, 900 kg/m3.
const WOOD: (f32, f32) = (7e9, 900.0);
/// Herb stems: 0.8 GPa, 900 kg/m3.
const STEM: (f32, f32) = (8e8, 900.0);
/// Grass blades: 1 GPa, 800 kg/m3, a tenth as thick as wide.
const BLADE: (f32, f32) = (1e9, 800.0);

/// Lower trees than this sway by their limbs, metres.
const LOW_M: f32 = 5.0;
/// Thickness of the limbs of shrubs and low trees against their stem.
const LIMB_THICK: f32 = 0.3;
/// Reed culms: 5 GPa, 700 kg/m3.
const CULM: (f32, f32) = (5e9, 700.0);
/// Blades narrower than this are rolled up, metres.
const NARROW_M: f32 = 0.002;
/// How many times as stiff a blade is as a flat strip of its mean thickness: blades are rolled or keeled.
const ROLLED: f32 = 15.0;
/// How many times as quickly a wedge that runs out to nothing sways as a beam of constant section: 5.32 against 3.52 in the usual
/// formula (Cranch & Adler, "Bending vibrations of variable section beams", J. Appl. Mech. 23, 1956; from memory), and its mass half.
const WEDGE: f32 = 2.0;

impl Species {
    /// How a plant of full size bends; none for what does not.
    pub fn bending(&self) -> Option<Bending> {
        self.bending_times(1.0)
    }

    /// Whether what stands beside it can press it aside: blades, herbs and fronds, not wood.
    pub fn bends_aside(&self) -> bool {
        matches!(self.kind, Kind::Grass | Kind::Herb | Kind::Fern) && self.bending().is_some()
    }

    /// How each form bends: as the species does, its stem as much longer or shorter as the form is higher or lower than the
    /// plan says, and as thick.
    pub fn bending_of_forms(&self, season: Season) -> Vec<Bending> {
        let high = |form: u16| self.build(form, Detail::Far, season).bounds().1.y / self.height_m();
        // Stems are no part of what stands out of a rare tall form, nor do they vanish on a bare one.
        (0..self.forms).filter_map(|f| self.bending_times(high(f).clamp(0.4, 1.8))).collect()
    }

    fn bending_times(&self, length: f32) -> Option<Bending> {
        let (mut beam, thick_m, segments) = match &self.plan {
            Plan::Blades(s) => {
                let (wide, thick) = (s.width_mm * 1e-3, (s.width_mm * 1e-4).max(2e-4));
                let mut beam = Beam::flat(s.length_m, wide, thick, BLADE.0, BLADE.1);
                let hollow = s.length_m > 1.2;
                let round = s.bend_deg < 20.0;
                if hollow {
                    // A culm bears the blades: a tube of 7 mm with walls of 0.6 mm for blades of 17.
                    let (out, wall) = (wide * 0.41, wide * 0.035);
                    beam = Beam::tube(s.length_m, out, wall, CULM.0, CULM.1);
                } else if round {
                    beam = Beam::round(s.length_m, wide, BLADE.0 * 0.5, BLADE.1 * 0.4);
                } else if wide < NARROW_M {
                    // Bristle leaves are rolled up into a stem.
                    beam = Beam::round(s.length_m, wide * 0.4, BLADE.0, BLADE.1);
                } else {
                    beam.ei *= ROLLED;
                    beam.taper = WEDGE;
                }
                (beam, thick, s.segments as u32)
            }
            Plan::Herb(s) if s.stems >= 1.0 => {
                let thick = s.stem_mm * 1e-3;
                (Beam::round(s.height_m, thick, STEM.0, STEM.1), thick, 6)
            }
            Plan::Herb(s) => {
                let thick = s.basal_m * 0.012;
                (Beam::round(s.basal_m, thick, STEM.0, STEM.1), thick, 3)
            }
            Plan::Frond(s) => {
                let thick = s.length_m * 0.009;
                (Beam::round(s.length_m, thick, STEM.0, STEM.1), thick, 16)
            }
            Plan::Cushion(s) if s.flowers >= 1.0 && s.stalk_m > 0.0 => {
                let thick = (s.flower_m * 0.07).max(6e-4);
                (Beam::round(s.stalk_m, thick, STEM.0, STEM.1), thick, 2)
            }
            Plan::Wood(s) => {
                // The crown weighs more than the stem and is borne high: counted as twice the stem's mass along it.
                let mut beam = Beam::round(s.height_m, s.trunk_m, WOOD.0, WOOD.1);
                beam.mass_per_m *= 3.0;
                // The wind holds the crown, of which about a quarter is leaf.
                beam.face_m = (s.reach * s.height_m * 0.5).max(s.trunk_m);
                if s.stems > 1.0 || s.height_m < LOW_M {
                    // Shrubs and low trees move by their limbs, not by the stem.
                    let (long, thick) = (s.height_m * 0.7, s.trunk_m * LIMB_THICK);
                    beam = Beam::round(long, thick, WOOD.0, WOOD.1);
                    beam.mass_per_m *= 3.0;
                    beam.face_m = thick * 6.0;
                }
                (beam, s.trunk_m, 12)
            }
            Plan::Imported(s) if s.stem_mm > 0.0 => {
                let woody = matches!(self.kind, Kind::Shrub | Kind::Broadleaf | Kind::Conifer);
                let (modulus, density) = if woody { WOOD } else { STEM };
                let thick = s.stem_mm * 1e-3;
                (Beam::round(s.height_m(), thick, modulus, density), thick, s.bands())
            }
            Plan::Imported(_) => return None,
            Plan::Debris(s) if s.kind == Litter::Leaves => return None,
            Plan::Pads(_) | Plan::Cushion(_) | Plan::Rock(_) | Plan::Debris(_) => return None,
        };
        beam.length_m *= length;
        Some(Bending {
            length_m: beam.length_m,
            thick_m,
            stiffness_n_m2: beam.ei,
            mass_kg: beam.mass_per_m * beam.length_m,
            sway_hz: beam.sway_hz(),
            tip_m: beam.tip_m(beam.wind_load()).min(beam.length_m),
            lean: beam.tip_m(beam.wind_load()) / beam.length_m,
            segments,
            smooth: segments >= SMOOTH_SEGMENTS,
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::nursery::ready;

    /// The beam cut into pieces: static deflection by integrating the bending moment twice.
    fn integrated_tip(beam: &Beam, load: f32) -> f64 {
        let n = 4000;
        let h = f64::from(beam.length_m) / f64::from(n);
        let (mut slope, mut deflection) = (0.0_f64, 0.0_f64);
        for i in 0..n {
            let left = f64::from(beam.length_m) - (f64::from(i) + 0.5) * h;
            let moment = f64::from(load) * left * left / 2.0;
            deflection += slope * h + moment / f64::from(beam.ei) * h * h / 2.0;
            slope += moment / f64::from(beam.ei) * h;
        }
        deflection
    }

    /// Rayleigh's quotient of the known first mode of a cantilever: what stiffness holds against what mass moves.
    fn rayleigh_hz(beam: &Beam) -> f64 {
        let (k, l) = (1.875_104_f64 / f64::from(beam.length_m), f64::from(beam.length_m));
        let c = ((k * l).cosh() + (k * l).cos()) / ((k * l).sinh() + (k * l).sin());
        let n = 20_000;
        let (mut held, mut moved) = (0.0, 0.0);
        for i in 0..n {
            let x = (f64::from(i) + 0.5) / f64::from(n) * l * k;
            let y = x.cosh() - x.cos() - c * (x.sinh() - x.sin());
            let bent = x.cosh() + x.cos() - c * (x.sinh() + x.sin());
            held += bent * bent * k.powi(4);
            moved += y * y;
        }
        (f64::from(beam.ei) * held / (f64::from(beam.mass_per_m) * moved)).sqrt() / std::f64::consts::TAU
    }

    #[test]
    fn frequency_and_deflection_are_those_of_the_beam() {
        for beam in [Beam::round(8.5, 0.17, 7e9, 900.0), Beam::flat(0.75, 0.006, 0.0006, 1e9, 800.0)] {
            let tip = f64::from(beam.tip_m(2.0));
            assert!((tip / integrated_tip(&beam, 2.0) - 1.0).abs() < 1e-3, "{tip}");
            let hz = f64::from(beam.sway_hz());
            assert!((hz / rayleigh_hz(&beam) - 1.0).abs() < 1e-3, "{hz}");
        }
    }

    #[test]
    fn a_steel_bar_sways_as_handbooks_say() {
        // 1 m of round steel, 10 mm thick, E 210 GPa, 7850 kg/m3: 7.24 Hz, worked by hand from the handbook formula.
        let hz = Beam::round(1.0, 0.01, 210e9, 7850.0).sway_hz();
        assert!((hz - 7.24).abs() < 0.02, "{hz}");
    }

    #[test]
    fn higher_forms_of_a_species_sway_more_slowly() {
        let oak = ready().iter().find(|s| s.id.0 == "sessile-oak").unwrap();
        let forms = oak.bending_of_forms(Season::SUMMER);
        assert_eq!(forms.len(), usize::from(oak.forms));
        let mut sorted = forms.clone();
        sorted.sort_by(|a, b| a.length_m.total_cmp(&b.length_m));
        assert!(sorted.windows(2).all(|w| w[0].sway_hz >= w[1].sway_hz));
        assert!(sorted[0].length_m < sorted[sorted.len() - 1].length_m);
    }

    #[test]
    fn large_plants_sway_slowly_and_stones_not_at_all() {
        for s in ready() {
            let Some(b) = s.bending() else { continue };
            assert!((0.05..1000.0).contains(&b.sway_hz), "{}: {} Hz", s.id.0, b.sway_hz);
            assert!(b.tip_m <= b.length_m && b.mass_kg > 0.0, "{}", s.id.0);
        }
        let hz = |id: &str| ready().iter().find(|s| s.id.0 == id).unwrap().bending().map(|b| b.sway_hz);
        assert!(hz("sessile-oak") < hz("gorse") && hz("boulder").is_none());
        // Birches of this height are measured at 0.2 to 1 Hz (common values of forest wind studies, from memory).
        assert!((0.15..2.0).contains(&hz("downy-birch").unwrap()), "{:?}", hz("downy-birch"));
    }
}
