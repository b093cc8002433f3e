//! The sky as light from everywhere above, without the sun's disk.
//!
//! Source of a clear sky: Hosek & Wilkie, "An Analytic Model for Full Spectral Sky-Dome Radiance", SIGGRAPH 2012, in its form for red, green and
//! blue. The view draws the same sky: `web/src/view/stage/sky`.

use glam::{Vec3A, vec3a};
use hw_skymodel::rgb::{SkyParams, SkyState};
use std::f32::consts::FRAC_PI_2;

/// How much there is in the air besides air, from 1 (none) to 10: a clear day in the country.
pub const TURBIDITY: f32 = 2.5;
/// What the land sends back up, red, green, blue: grass and stone.
pub const LAND: [f32; 3] = [0.14, 0.16, 0.09];
/// From the model's units to those in which a high clear sun is about 3: so that level ground under a sun 45 degrees high has a quarter of its light
/// from the sky: a day with some haze (on the clearest days it is a seventh).
pub const CLEAR_SCALE: f32 = 0.03;
/// Around the sun the sky is no brighter than this: light from so small a spot comes with the sun's disk.
pub const BRIGHTEST: f32 = 3.0;
/// Of an overcast sky, overhead, against its scale.
pub const GREY: [f32; 3] = [0.94 * 3.2, 3.2, 1.07 * 3.2];

/// Light from all directions.
#[derive(Clone, Debug)]
pub enum Sky {
    /// The same from everywhere; for checks.
    Uniform(Vec3A),
    /// Between clear and overcast.
    Day(Box<Day>),
}

/// A sky by day.
#[derive(Clone, Debug)]
pub struct Day {
    /// Unit vector towards the sun.
    sun: Vec3A,
    /// 0 clear to 1 overcast.
    overcast: f32,
    /// Radiance of an overcast sky, overhead.
    grey: Vec3A,
    /// Nine numbers for each of red, green and blue.
    shape: [[f32; 9]; 3],
    /// What they are multiplied by.
    bright: Vec3A,
}

/// Brightness of the overcast sky relative to the zenith. `up` is the cosine of the angle from the zenith.
///
/// Source: CIE S 011 / ISO 15469, "Spatial distribution of daylight", type 1; values from memory.
fn overcast(up: f32) -> f32 {
    let gradation = |up: f32| 1.0 + 4.0 * libm::expf(-0.7 / up.max(0.01));
    gradation(up) / gradation(1.0)
}

impl Day {
    fn new(sun: Vec3A, overcast: f32) -> Self {
        let elevation = libm::asinf(sun.y.clamp(0.0, 1.0)).min(FRAC_PI_2);
        let params = SkyParams { elevation, turbidity: TURBIDITY, albedo: LAND };
        let (shape, bright) = SkyState::new(&params).expect("a sun at or above the horizon").raw();
        let nine = |channel: usize| std::array::from_fn(|i| shape[channel * 9 + i]);
        // Brighter as the sun rises.
        let scale = 0.07 + 0.17 * sun.y.max(0.0).sqrt();
        Self {
            sun,
            overcast: overcast.clamp(0.0, 1.0),
            grey: Vec3A::from(GREY) * scale,
            shape: [nine(0), nine(1), nine(2)],
            bright: Vec3A::from(bright) * CLEAR_SCALE,
        }
    }

    /// From a unit direction above the horizon.
    fn above(&self, towards: Vec3A) -> Vec3A {
        let cos = towards.dot(self.sun).clamp(-1.0, 1.0);
        let from_sun = libm::acosf(cos);
        let channel = |[a, b, c, d, e, f, g, i, h]: [f32; 9]| {
            let rayleigh = cos * cos;
            let mie = (1.0 + cos * cos) / libm::powf(1.0 + h * h - 2.0 * h * cos, 1.5);
            (1.0 + a * libm::expf(b / (towards.y + 0.01)))
                * (c + d * libm::expf(e * from_sun) + f * rayleigh + g * mie + i * towards.y.sqrt())
        };
        let clear = Vec3A::from(self.shape.map(channel)) * self.bright;
        let clear = clear.clamp(Vec3A::ZERO, Vec3A::splat(BRIGHTEST));
        clear.lerp(self.grey * overcast(towards.y), self.overcast)
    }
}

impl Sky {
    /// A day sky with the sun in this direction.
    pub fn new(sun: Vec3A, overcast: f32) -> Self {
        Self::Day(Box::new(Day::new(sun, overcast)))
    }

    /// Light arriving from a unit direction, linear RGB. Below the horizon it is that of the horizon, dimmed.
    pub fn radiance(&self, direction: Vec3A) -> Vec3A {
        match self {
            Self::Uniform(radiance) => *radiance,
            Self::Day(day) => {
                let towards = vec3a(direction.x, direction.y.max(0.002), direction.z).normalize();
                let below = if direction.y < 0.0 { 1.0 + 0.5 * direction.y } else { 1.0 };
                day.above(towards) * below
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::light::Sun;
    use hw_skymodel::rgb::Channel;
    use std::f32::consts::{PI, TAU};

    /// Closed form of the CIE standard overcast sky in its first form, Moon & Spencer 1942: the horizon has a third
    /// of the zenith's brightness. Type 1 follows it within a tenth of the zenith.
    #[test]
    fn an_overcast_sky_is_about_three_times_as_bright_overhead_as_at_the_horizon() {
        for degrees in [5.0_f32, 15.0, 30.0, 45.0, 60.0, 90.0] {
            let up = degrees.to_radians().sin();
            let expected = (1.0 + 2.0 * up) / 3.0;
            let got = overcast(up);
            assert!((got - expected).abs() < 0.1, "{degrees} degrees up: {got}, Moon & Spencer {expected}");
        }
    }

    #[test]
    fn a_clear_sky_is_brightest_near_the_sun_and_blue_overhead() {
        let sun = vec3a(0.6, 0.5, 0.2).normalize();
        let sky = Sky::new(sun, 0.0);
        let near = sky.radiance((sun + vec3a(0.05, 0.0, 0.0)).normalize());
        let away = sky.radiance(vec3a(-0.6, 0.5, -0.2).normalize());
        assert!(near.y > 2.0 * away.y, "{near} against {away}");
        let zenith = sky.radiance(Vec3A::Y);
        assert!(zenith.z > 1.5 * zenith.x);
    }

    /// The crate of the model works it out itself from angles; we do from directions, and so does the view.
    #[test]
    fn a_clear_sky_is_that_of_hosek_and_wilkie() {
        for elevation in [3.0_f32, 20.0, 45.0, 80.0] {
            let (s, c) = elevation.to_radians().sin_cos();
            let sun = vec3a(0.0, s, -c);
            let model = SkyState::new(&SkyParams {
                elevation: elevation.to_radians(),
                turbidity: TURBIDITY,
                albedo: LAND,
            })
            .expect("it is in range");
            let sky = Sky::new(sun, 0.0);
            for n in 0..60 {
                let up = 0.02 + 0.97 * (n as f32 / 59.0);
                let turn = n as f32 * 2.4;
                let d = vec3a(turn.cos() * (1.0 - up * up).sqrt(), up, turn.sin() * (1.0 - up * up).sqrt());
                let (theta, gamma) = (up.acos(), d.dot(sun).clamp(-1.0, 1.0).acos());
                let expected = vec3a(
                    model.radiance(theta, gamma, Channel::R),
                    model.radiance(theta, gamma, Channel::G),
                    model.radiance(theta, gamma, Channel::B),
                ) * CLEAR_SCALE;
                let got = sky.radiance(d);
                assert!(
                    (got - expected.min(Vec3A::splat(BRIGHTEST))).abs().max_element()
                        < 2e-3 * expected.max_element(),
                    "{elevation} {d}: {got} {expected}"
                );
            }
        }
    }

    /// What the view knows of the model: each of its thirty numbers runs through the elevations of the sun as a curve of the fifth degree, so that six
    /// places on it are all there is to know; and a few directions to check by.
    #[test]
    fn the_view_has_the_same_sky() {
        let places: Vec<f32> = (0..6).map(|i| 0.5 - 0.5 * ((2 * i + 1) as f32 * PI / 12.0).cos()).collect();
        let rows: Vec<String> = places
            .iter()
            .map(|t| {
                let elevation = FRAC_PI_2 * t * t * t;
                let (shape, bright) =
                    SkyState::new(&SkyParams { elevation, turbidity: TURBIDITY, albedo: LAND })
                        .expect("it is in range")
                        .raw();
                let all: Vec<String> = shape.iter().chain(&bright).map(|v| format!("{v:.7}")).collect();
                format!("  [{}],\n", all.join(", "))
            })
            .collect();
        let mut checks = String::new();
        for (elevation, overcast) in [(4.0_f32, 0.0), (34.0, 0.1), (61.0, 0.6), (20.0, 1.0)] {
            let sun = Sun::new(236.0, elevation, overcast).direction;
            let sky = Sky::new(sun, overcast);
            for d in
                [vec3a(0.0, 1.0, 0.0), vec3a(0.6, 0.1, -0.5), vec3a(-0.7, 0.3, 0.4), vec3a(0.2, -0.4, 0.9)]
            {
                let d = d.normalize();
                checks += &format!(
                    "  {:?},\n",
                    [&[elevation, overcast], &d.to_array()[..], &sky.radiance(d).to_array()[..]].concat()
                );
            }
        }
        let text = format!(
            "// Written from rookery-render/src/light/sky.rs: change it there, then run its tests with ROOKERY_WRITE_SAMPLES=1.\n\
            // The numbers are those of Hosek & Wilkie 2012, under the 3-clause BSD licence: Copyright (c) 2012 - 2013, Lukas Hosek and Alexander Wilkie.\n\
            \n/** Where on the way from horizon to zenith, as the cube root, the model is written down. */\nexport const PLACES = {places:?}\n\
            /** There: nine numbers for red, green and blue, and what they are multiplied by. */\nexport const MODEL = [\n{}]\n\
            export const CLEAR_SCALE = {CLEAR_SCALE:?}\nexport const BRIGHTEST = {BRIGHTEST:?}\nexport const GREY = {GREY:?}\nexport const LAND = {LAND:?}\n\
            /** To check by: elevation of the sun, degrees, at 236 degrees; overcast; a direction; light from there. */\nexport const CHECKS = [\n{checks}]\n",
            rows.concat()
        );
        const FILE: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../../web/src/view/stage/sky/model.ts");
        if std::env::var_os("ROOKERY_WRITE_SAMPLES").is_some() {
            std::fs::write(FILE, &text).expect("it is written");
        }
        assert_eq!(
            std::fs::read_to_string(FILE).expect("it is there"),
            text,
            "ROOKERY_WRITE_SAMPLES=1 writes it anew"
        );
    }

    /// On level ground, from the sky and from the sun.
    fn on_level_ground(elevation: f32) -> (f32, f32) {
        let sun = Sun::new(180.0, elevation, 0.0);
        let sky = Sky::new(sun.direction, 0.0);
        let (rings, turns) = (64, 128);
        let mut sum = Vec3A::ZERO;
        for i in 0..rings {
            for k in 0..turns {
                // Evenly over the disk below the dome (Nusselt's analog).
                let r = ((i as f32 + 0.5) / rings as f32).sqrt();
                let (s, c) = (TAU * (k as f32 + 0.5) / turns as f32).sin_cos();
                sum += sky.radiance(vec3a(r * c, (1.0 - r * r).sqrt(), r * s));
            }
        }
        let luminance = |v: Vec3A| v.dot(vec3a(0.2126, 0.7152, 0.0722));
        (luminance(sum) * PI / (rings * turns) as f32, luminance(sun.irradiance) * sun.direction.y)
    }

    #[test]
    fn a_clear_day_has_a_quarter_of_its_light_from_the_sky() {
        let (sky, sun) = on_level_ground(45.0);
        let share = sky / (sky + sun);
        assert!((0.22..0.28).contains(&share), "{share} of the light on level ground is the sky's");
        let (sky, sun) = on_level_ground(10.0);
        assert!(sky / (sky + sun) > 0.35, "low down the sky counts for more: {}", sky / (sky + sun));
    }
}
