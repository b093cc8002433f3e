//! Settings of generators: one table each, that names them, bounds them and explains them.

use serde::Serialize;

/// What a setting of a generator is and what it may be.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Setting {
    /// Its field in the plan.
    pub id: &'static str,
    /// For people.
    pub label: &'static str,
    /// Unit without a space, or empty.
    pub unit: &'static str,
    /// Smallest allowed.
    pub low: f32,
    /// Largest allowed.
    pub high: f32,
    /// One step of it; 1 for whole numbers.
    pub step: f32,
    /// What it does.
    pub hint: &'static str,
    /// The names it is chosen from, where it is no number.
    pub choices: &'static [&'static str],
}

/// One of a few kinds, by name.
pub trait Choice: Copy {
    /// Names as they are stored, in the order of the variants.
    const NAMES: &'static [&'static str];
}

/// Declares an enum chosen by name.
macro_rules! choice {
    ($(#[$doc:meta])* $name:ident { $($(#[$vdoc:meta])* $variant:ident = $id:tt),+ $(,)? }) => {
        $(#[$doc])*
        #[derive(Clone, Copy, Debug, PartialEq, Eq, serde::Serialize, serde::Deserialize)]
        #[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
        pub enum $name { $($(#[$vdoc])* #[serde(rename = $id)] $variant),+ }

        impl $crate::nursery::settings::Choice for $name {
            const NAMES: &'static [&'static str] = &[$($id),+];
        }
    };
}

/// Declares the settings of a generator: numbers with default, range, step, unit, label and hint, then choices.
macro_rules! settings {
    ($(#[$doc:meta])* $name:ident {
        $($field:ident: $default:literal, $low:literal..$high:literal, $step:literal, $unit:literal, $label:literal, $hint:literal;)+
        $(@ $cfield:ident: $ctype:ty = $cdefault:expr, $clabel:literal, $chint:literal;)*
    }) => {
        $(#[$doc])*
        #[derive(Clone, Debug, PartialEq, serde::Serialize, serde::Deserialize)]
        #[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
        #[serde(default, deny_unknown_fields)]
        pub struct $name {
            $(#[doc = $hint] pub $field: f32,)+
            $(#[doc = $chint] pub $cfield: $ctype,)*
        }

        impl Default for $name {
            fn default() -> Self {
                Self { $($field: $default,)+ $($cfield: $cdefault,)* }
            }
        }

        impl $name {
            /// All of its settings.
            pub const SETTINGS: &'static [$crate::nursery::Setting] = &[
                $($crate::nursery::Setting {
                    id: stringify!($field), label: $label, unit: $unit, low: $low, high: $high, step: $step,
                    hint: $hint, choices: &[],
                },)+
                $($crate::nursery::Setting {
                    id: stringify!($cfield), label: $clabel, unit: "", low: 0.0, high: 0.0, step: 1.0,
                    hint: $chint, choices: <$ctype as $crate::nursery::settings::Choice>::NAMES,
                },)*
            ];

            /// Numbers in the order of [`Self::SETTINGS`].
            pub fn numbers(&self) -> Vec<f32> {
                vec![$(self.$field),+]
            }
        }
    };
}

pub(crate) use {choice, settings};
