//! `cargo xtask trial`: jobs of a first hour, each on a new bare ground in the real page, with the steps they take and what came of them.
//! A word on the command line does only the jobs whose name has it.

mod hand;
mod jobs;

use hand::Hand;
use rookery_e2e::Done;
use std::time::Instant;

/// Does one job: what was measured in the end.
macro_rules! jobs {
    ($($aim:literal $before:literal $name:ident $what:literal),* $(,)?) => {
        const JOBS: &[(&str, &str, u32, &str)] = &[$((stringify!($name), $what, $aim, $before)),*];

        async fn job(name: &str, hand: &mut Hand) -> Done<String> {
            match name {
                $(stringify!($name) => jobs::$name(hand).await,)*
                _ => Err("no such job".into()),
            }
        }
    };
}

jobs! {
    12 "26" lawn "rolling ground: turf in two tones that hides the soil, two sparse flowers of many sizes and turns",
    10 "14, partly" solid "a closed solid: grass on top only, its length by a noise, an upright stone it bends around",
    8 "14" trees_on_faces "80 trees on a face group of a brought mesh, sunk a little, none overlapping",
    12 "17, partly" inverted "mixed grasses with and without turn side by side; flowers by duplicating; one painting for both, inverted",
    8 "14" walk "lawn with flowers and bushes; a walk is drawn; nothing stands on it",
    7 "12, partly" counts "two communities, a foreign species in one; its share against its true count",
    8 "14" planet "a small planet, trees outward, patchy",
    7 "13" cottage "15,000 tufts round a cottage, drawn lightly",
    10 "16" drifts "drifts of two species, their numbers changed after",
    14 "30, partly" bed "a bed of three shrubs by shares at 80 % cover, trimmed at its edge, only what the shot sees, foreground by hand",
    8 "22, partly" community "a community: another arrangement, stand-ins at one switch, painted out, autumn",
    18 "34" bands "near, middle and far with their own densities; sculpted; two trees by hand; a still before and after",
    7 "10" altitude "plants in a band of altitude on a mesh, shown as boxes, under a ceiling for the layer",
    9 "12, not possible" pool "a pool with two floating species, chosen by a gradient",
    8 "11" stones "stones of several sizes by strokes on rough ground, the sun moved",
    10 "15" junipers "80 x 60 m, shrubs 4 m apart, a picture as mask, tint, one plant by hand, another seed",
    8 "12, partly" building "trees and grass clear of a building and paving, the building dragged",
}

#[tokio::main]
async fn main() -> Done {
    let wanted = std::env::args().nth(1).filter(|a| !a.starts_with('-')).unwrap_or_default();
    let mut hand = Hand::new().await?;
    let mut failed = 0;
    println!("| job | steps before | aim | steps | seconds | what came of it |\n|---|---|---|---|---|---|");
    for (name, what, aim, before) in JOBS.iter().filter(|(name, ..)| name.contains(wanted.as_str())) {
        hand.bare().await?;
        let start = Instant::now();
        let done = job(name, &mut hand).await;
        let (steps, seconds) = (hand.steps, start.elapsed().as_secs());
        match done {
            Ok(said) => println!("| {what} | {before} | {aim} | {steps} | {seconds} | {said} |"),
            Err(why) => {
                failed += 1;
                println!("| {what} | {before} | {aim} | {steps}, not done | {seconds} | {name}: {why} |");
            }
        }
    }
    hand.page.close().await?;
    if failed > 0 { Err(format!("{failed} jobs could not be done").into()) } else { Ok(()) }
}
