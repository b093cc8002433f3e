//! Days of the year, for masks that look at the sun.

use serde::{Deserialize, Serialize};

#[cfg(feature = "openapi")]
use utoipa::ToSchema;

/// A day of the year at a latitude, for the sun's way over the sky.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(ToSchema))]
#[serde(deny_unknown_fields)]
pub struct SunDay {
    /// Degrees north of the equator, -90 to 90. A small planet has latitudes of its own.
    pub latitude_deg: f32,
    /// 1 to 12.
    pub month: u8,
    /// 1 to the last of the month, in a year of 365 days.
    pub day: u8,
}

impl Default for SunDay {
    fn default() -> Self {
        Self { latitude_deg: 56.0, month: 6, day: 21 }
    }
}

/// The months with their days, in a year of 365 days.
const MONTHS: [(&str, u8); 12] = [
    ("January", 31),
    ("February", 28),
    ("March", 31),
    ("April", 30),
    ("May", 31),
    ("June", 30),
    ("July", 31),
    ("August", 31),
    ("September", 30),
    ("October", 31),
    ("November", 30),
    ("December", 31),
];

impl SunDay {
    /// Days since the end of the year before, 1 to 365; none when there is no such day.
    pub fn day_of_year(&self) -> Option<u16> {
        let month = usize::from(self.month).checked_sub(1)?;
        let (_, days) = *MONTHS.get(month)?;
        let before: u16 = MONTHS[..month].iter().map(|(_, days)| u16::from(*days)).sum();
        (1..=days).contains(&self.day).then_some(before + u16::from(self.day))
    }

    /// The month in words; empty when there is no such month.
    pub fn month_name(&self) -> &'static str {
        usize::from(self.month).checked_sub(1).and_then(|i| MONTHS.get(i)).map_or("", |(name, _)| name)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn days_are_counted_through_the_months() {
        let day = |month, day| SunDay { month, day, ..SunDay::default() }.day_of_year();
        assert_eq!(
            [day(1, 1), day(3, 1), day(6, 21), day(10, 17), day(12, 31)],
            [1, 60, 172, 290, 365].map(Some)
        );
        assert_eq!([day(0, 1), day(13, 1), day(2, 29), day(4, 31), day(5, 0)], [None; 5]);
        assert_eq!(SunDay { month: 13, ..SunDay::default() }.month_name(), "");
    }
}
