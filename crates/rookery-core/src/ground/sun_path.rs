//! The sun's way over a ground on one day.

use super::Frame;
use crate::document::SunDay;
use glam::{Quat, Vec3};

/// Where the sun stands through one day, as a ground in its own frame sees it: by the middle of its disc, without the
/// bending of light in air.
///
/// Sources: declination by Spencer, "Fourier series representation of the position of the sun", Search 2(5), 1971, within
/// 0.04 degrees (from memory); height and bearing from the hour angle as in Reda & Andreas, "Solar position algorithm for solar
/// radiation applications", Solar Energy 76(5), 2004.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct SunPath {
    sin_latitude: f32,
    cos_latitude: f32,
    sin_declination: f32,
    cos_declination: f32,
    half_day_h: f32,
    /// From the scene to the ground.
    to_ground: Quat,
}

/// Degrees the sun goes about the pole in an hour.
const DEG_PER_HOUR: f32 = 15.0;

impl SunPath {
    /// The way on a day that the year has; one that it has not counts as the first of January.
    pub fn new(day: &SunDay, frame: &Frame) -> Self {
        let declination = declination_rad(day.day_of_year().unwrap_or(1));
        Self::at(day.latitude_deg.to_radians(), declination, frame)
    }

    fn at(latitude_rad: f32, declination_rad: f32, frame: &Frame) -> Self {
        let (sin_latitude, cos_latitude) = libm::sincosf(latitude_rad);
        let (sin_declination, cos_declination) = libm::sincosf(declination_rad);
        // Where it does not set or does not rise, the cosine lies beyond 1 either way.
        let (high, low) = (sin_latitude * sin_declination, cos_latitude * cos_declination);
        let rises = if low.abs() < 1e-7 { -high.signum() } else { (-high / low).clamp(-1.0, 1.0) };
        let half_day_h = libm::acosf(rises).to_degrees() / DEG_PER_HOUR;
        let to_ground = frame.turn.inverse();
        Self { sin_latitude, cos_latitude, sin_declination, cos_declination, half_day_h, to_ground }
    }

    /// The same day on a small planet whose pole points up: the sun goes round it level, and each place has a latitude of its own.
    pub fn about_a_planet(self) -> Self {
        Self { sin_latitude: 1.0, cos_latitude: 0.0, half_day_h: 12.0, ..self }
    }

    /// From noon until it sets on a plain, hours, 0 to 12.
    pub fn half_day_h(&self) -> f32 {
        self.half_day_h
    }

    /// Unit direction towards it at a time, hours after it stands highest, in the ground's own frame.
    pub fn towards(&self, after_noon_h: f32) -> Vec3 {
        let (sin_h, cos_h) = libm::sincosf((after_noon_h * DEG_PER_HOUR).to_radians());
        let up = self.sin_latitude * self.sin_declination + self.cos_latitude * self.cos_declination * cos_h;
        let north =
            self.cos_latitude * self.sin_declination - self.sin_latitude * self.cos_declination * cos_h;
        self.to_ground * Vec3::new(-self.cos_declination * sin_h, up, -north)
    }
}

/// How far the sun stands north of the equator on a day of the year, radians.
fn declination_rad(day_of_year: u16) -> f32 {
    let turn = (f32::from(day_of_year) - 1.0) / 365.0 * std::f32::consts::TAU;
    let (sin1, cos1) = libm::sincosf(turn);
    let (sin2, cos2) = libm::sincosf(2.0 * turn);
    let (sin3, cos3) = libm::sincosf(3.0 * turn);
    0.006_918 - 0.399_912 * cos1 + 0.070_257 * sin1 - 0.006_758 * cos2 + 0.000_907 * sin2 - 0.002_697 * cos3
        + 0.001_48 * sin3
}

#[cfg(test)]
mod tests {
    use super::*;

    fn day(latitude_deg: f32, month: u8, day: u8) -> SunPath {
        SunPath::new(&SunDay { latitude_deg, month, day }, &Frame::SCENE)
    }

    /// Worked example of Reda & Andreas 2004: 2003-10-17 12:30:30 at 39.742476 N; zenith 50.1116 degrees, azimuth
    /// 194.3402. The hour angle of the example, 11.1059 degrees, is from memory.
    #[test]
    fn it_stands_where_the_worked_example_says() {
        let to = day(39.742_476, 10, 17).towards(11.1059 / 15.0);
        let zenith = to.y.acos().to_degrees();
        let azimuth = to.x.atan2(-to.z).to_degrees().rem_euclid(360.0);
        // The light's bending and the year's drift against the calendar are left out.
        assert!((zenith - 50.1116).abs() < 0.35, "{zenith}");
        assert!((azimuth - 194.3402).abs() < 0.2, "{azimuth}");
        // With the example's own declination (-9.316 degrees, from memory) only the bending is left, 0.016 degrees.
        let own = SunPath::at(39.742_476_f32.to_radians(), (-9.316_18_f32).to_radians(), &Frame::SCENE);
        let to = own.towards(11.1063 / 15.0);
        assert!((to.y.acos().to_degrees() - 50.1116 - 0.0163).abs() < 0.003);
        assert!((to.x.atan2(-to.z).to_degrees().rem_euclid(360.0) - 194.3402).abs() < 0.003);
    }

    /// Closed form: the cosine of half a day is -tan(latitude) tan(declination).
    #[test]
    fn days_are_as_long_as_latitude_and_season_make_them() {
        for latitude in [-60.0_f32, -20.0, 0.0, 35.0, 56.0, 65.0] {
            let own = day(latitude, 6, 21);
            let expected =
                (-latitude.to_radians().tan() * 23.44_f32.to_radians().tan()).acos().to_degrees() / 15.0;
            assert!(
                (own.half_day_h() - expected).abs() < 0.03,
                "{latitude}: {} {expected}",
                own.half_day_h()
            );
            assert!(own.towards(own.half_day_h()).y.abs() < 1e-5);
            // Low in the north-east at its rising in summer.
            assert!(own.towards(-own.half_day_h()).x > 0.0 && own.towards(-own.half_day_h()).z < 0.0);
        }
        assert_eq!([day(80.0, 6, 21).half_day_h(), day(80.0, 12, 21).half_day_h()], [12.0, 0.0]);
        assert_eq!([day(90.0, 6, 21).half_day_h(), day(-90.0, 6, 21).half_day_h()], [12.0, 0.0]);
    }

    #[test]
    fn noon_is_in_the_south_of_the_north_and_in_the_north_of_the_south() {
        assert!(day(50.0, 3, 21).towards(0.0).z > 0.5 && day(-50.0, 3, 21).towards(0.0).z < -0.5);
        // A ground turned a quarter clockwise sees the southern sun in its own east.
        let turned = Frame { turn: Quat::from_rotation_y(-90.0_f32.to_radians()), ..Frame::SCENE };
        let own = SunPath::new(&SunDay { latitude_deg: 50.0, month: 3, day: 21 }, &turned).towards(0.0);
        assert!(own.x > 0.5 && own.z.abs() < 1e-5, "{own}");
    }
}
