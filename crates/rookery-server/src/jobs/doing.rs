//! What is known of a job while it is done: shared between the work and the beats.

use rookery_render::{Developing, Film};
use std::sync::atomic::{AtomicU32, Ordering};
use std::sync::{Mutex, MutexGuard, PoisonError};
use std::time::{Duration, Instant};

/// Between two looks at the picture so far.
const LOOK: Duration = Duration::from_millis(1500);
/// Share that must be done before it can be told how long the rest takes: the first round is spread over the whole picture.
const TELLING: f32 = 0.005;

/// How far a job is, and what can be seen of it.
pub(super) struct Doing {
    /// The share done, as the bits of an `f32`.
    progress: AtomicU32,
    /// When the first of it was done: what was made ready before says nothing of how quickly the rest goes.
    began: Mutex<Option<Instant>>,
    /// When the picture was looked at last, and how far it was.
    looked: Mutex<(Instant, f32)>,
    /// The picture so far.
    pub developing: Developing,
}

impl Default for Doing {
    fn default() -> Self {
        Self {
            progress: AtomicU32::default(),
            began: Mutex::default(),
            looked: Mutex::new((Instant::now(), 0.0)),
            developing: Developing::default(),
        }
    }
}

impl Doing {
    /// Sets the share done, 0 to 1. It only rises: parts end in any order on several threads.
    pub fn set(&self, share: f32) {
        self.progress.fetch_max(share.clamp(0.0, 1.0).to_bits(), Ordering::Relaxed);
        lock(&self.began).get_or_insert_with(Instant::now);
    }

    /// The share done, 0 to 1.
    pub fn progress(&self) -> f32 {
        f32::from_bits(self.progress.load(Ordering::Relaxed))
    }

    /// Seconds that are likely left; none while that is a guess.
    pub fn left_s(&self) -> Option<f32> {
        let began = (*lock(&self.began))?;
        let far = self.progress();
        (far >= TELLING).then(|| began.elapsed().as_secs_f32() * (1.0 - far) / far)
    }

    /// The picture so far, so many pixels wide, now and then, when there is more of it than before.
    pub fn film_anew(&self, wide_px: u32) -> Option<Film> {
        let far = self.progress();
        let mut looked = lock(&self.looked);
        if looked.0.elapsed() < LOOK || far <= looked.1 {
            return None;
        }
        *looked = (Instant::now(), far);
        let film = self.developing.at_most(wide_px);
        (film.width_px > 0).then_some(film)
    }
}

fn lock<T>(mutex: &Mutex<T>) -> MutexGuard<'_, T> {
    mutex.lock().unwrap_or_else(PoisonError::into_inner)
}
