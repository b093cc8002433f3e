//! The same still on any number of threads, and one that can be stopped.

use rookery_core::cancel::{CancelToken, Cancelled};
use rookery_core::ground::{Frame, GroundModel, GroundRef, noise_terrain};
use rookery_core::planting::clearance::fit::Fits;
use rookery_core::planting::grow;
use rookery_core::scene::{GroundId, NoiseGround, kittiwake_head};
use rookery_render::light::Light;
use rookery_render::{Developing, Film, RenderScene, StillError, StillSettings, Water, take_shot};
use std::sync::Mutex;

fn still(
    threads: usize,
    cancel: &CancelToken,
    developing: &Developing,
    progress: impl Fn(f32) + Sync + Send,
) -> Result<Film, StillError> {
    let document = kittiwake_head();
    let settings = NoiseGround { samples: 97, ..NoiseGround::default() };
    let ground = GroundModel::new(noise_terrain::build(&settings).unwrap(), Some(0.0), 1);
    let grown: Vec<_> = document
        .layers
        .iter()
        .map(|l| (l, grow(&ground, l, &CancelToken::default()).unwrap().plants))
        .collect();
    let none = Fits::default();
    let layers: Vec<_> = grown.iter().map(|(l, p)| (*l, p.as_slice(), &none)).collect();
    let shot = &document.shots[0];
    let land = GroundRef::from(&ground).mesh(&Frame::SCENE);
    let waters = Water::all_in(&document);
    let scene = RenderScene::new(
        vec![(GroundId::LAND, land)],
        waters,
        Vec::new(),
        &document,
        &layers,
        Light::new(shot),
    );
    let settings = StillSettings { width_px: 80, height_px: 45, samples: 2, ..StillSettings::new(shot) };
    let pool = rayon::ThreadPoolBuilder::new().num_threads(threads).build().unwrap();
    pool.install(|| take_shot(&scene, shot, settings, cancel, developing, progress))
}

#[test]
fn one_thread_and_three_take_the_same_picture() {
    let heard = Mutex::new(Vec::new());
    let developing = Developing::default();
    // What could be seen when half the paths were traced: every pixel had one of its two.
    let half = Mutex::new(None);
    let never = CancelToken::default();
    let one = still(1, &never, &developing, |p| {
        heard.lock().unwrap().push(p);
        if p == 0.5 {
            *half.lock().unwrap() = Some(developing.film());
        }
    })
    .unwrap();
    assert_eq!(one, still(3, &never, &Developing::default(), |_| ()).unwrap());
    let heard = heard.into_inner().unwrap();
    assert!(heard.is_sorted() && heard.last() == Some(&1.0), "{heard:?}");
    let half = half.into_inner().unwrap().expect("the first round ends at a half");
    let lit = half.pixels.iter().filter(|p| p.min_element() > 0.0).count();
    assert!(lit * 10 > half.pixels.len() * 9, "{lit} of {} pixels are there at a half", half.pixels.len());
    assert!(half != one);
    let mean: f32 = one.pixels.iter().map(|p| p.y).sum::<f32>() / one.pixels.len() as f32;
    assert!((0.05..0.9).contains(&mean), "mean brightness {mean}");
    assert!(one.pixels.iter().all(|p| p.is_finite() && p.min_element() >= 0.0));
}

#[test]
fn a_stopped_still_says_so() {
    let cancel = CancelToken::default();
    cancel.cancel();
    assert_eq!(
        still(2, &cancel, &Developing::default(), |_| ()).unwrap_err(),
        StillError::Cancelled(Cancelled)
    );
}
