//! Telling those who watch a scene what changed: one small message, written once for all of them.

use super::{Live, Scenes};
use crate::events::Event;
use rookery_core::scene::patch::PatchOp;
use serde::Serialize;
use std::sync::Arc;
use uuid::Uuid;

/// A longer message is not sent; who watches asks for the changes.
const MOST_BYTES: usize = 64 << 10;

/// A message to all who watch a scene.
#[derive(Clone, Debug)]
pub struct Told {
    /// Which scene.
    pub scene: Uuid,
    /// The message in JSON.
    pub text: Arc<str>,
}

#[derive(Serialize)]
struct Edited<'a> {
    event: &'static str,
    scene: Uuid,
    seq: i64,
    base_seq: i64,
    authors: Vec<&'a str>,
    patch: Option<Vec<PatchOp>>,
}

impl Scenes {
    /// Follows edits that other servers make.
    pub(super) fn listen(&self) {
        let (scenes, mut heard) = (self.clone(), self.events.subscribe());
        tokio::spawn(async move {
            loop {
                match heard.recv().await {
                    Ok(Event::Edited { scene, seq }) => scenes.heard(scene, seq).await,
                    Ok(event @ Event::Job { .. }) => {
                        if let Ok(text) = serde_json::to_string(&event) {
                            scenes.events.say(Told { scene: event.scene(), text: text.into() });
                        }
                    }
                    Err(tokio::sync::broadcast::error::RecvError::Lagged(_)) => {}
                    Err(tokio::sync::broadcast::error::RecvError::Closed) => return,
                }
            }
        });
    }

    async fn heard(&self, scene: Uuid, seq: i64) {
        if !self.events.is_watched(scene) {
            return;
        }
        let slot = self.slot(scene);
        let mut held = slot.lock().await;
        let known = held.as_ref().is_some_and(|live| live.snapshot().seq >= seq);
        if !known {
            // Told of the first edit that is heard of, where nothing of the scene was held yet.
            let fresh = held.is_none();
            match self.caught_up(&mut held, scene).await {
                Ok(live) if fresh => live.told = seq - 1,
                Ok(_) => {}
                Err(_) => return,
            }
        }
        if let Some(live) = held.as_mut() {
            self.tell(live);
        }
    }

    /// Tells all who watch what they have not been told.
    pub(super) fn tell(&self, live: &mut Live) {
        let now = live.snapshot().clone();
        if live.told >= now.seq {
            return;
        }
        let base_seq = live.told;
        live.told = now.seq;
        if !self.events.is_watched(now.scene) {
            return;
        }
        let patch = live.state_at(base_seq).map(|before| now.since(before));
        let since = live.edits.iter().filter(|e| e.seq > base_seq);
        let authors = since.map(|e| e.author.as_str()).collect();
        let mut edited = Edited { event: "edited", scene: now.scene, seq: now.seq, base_seq, authors, patch };
        let write = |e: &Edited| serde_json::to_string(e).expect("events are plain data");
        let mut text = write(&edited);
        if text.len() > MOST_BYTES {
            edited.patch = None;
            text = write(&edited);
        }
        self.events.say(Told { scene: now.scene, text: text.into() });
    }
}
