//! A hand at the screen that counts what it does: a step is one click, drag, stroke or committed value.

use fantoccini::actions::{InputSource, KeyAction, KeyActions, MouseActions, PointerAction};
use fantoccini::key::Key;
use rookery_e2e::{Done, Page, Sharpness};
use serde_json::{Value, json};
use std::time::{Duration, Instant};

/// One who does a job in the real page.
pub struct Hand {
    pub page: Page,
    pub steps: u32,
    scene: String,
}

impl Hand {
    pub async fn new() -> Done<Self> {
        Ok(Self { page: Page::open_with(Sharpness::Coarse).await?, steps: 0, scene: String::new() })
    }

    /// Opens a new bare ground; what it takes to get there is not counted.
    pub async fn bare(&mut self) -> Done {
        let made = self.page.client().execute_async(
            "const done = arguments[arguments.length - 1]; fetch('/api/scenes', { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{\"from\":\"bare\"}' }).then((r) => r.json()).then((s) => done(s.id), (e) => done(String(e)))",
            vec![],
        ).await?;
        self.scene = made.as_str().unwrap_or_default().to_owned();
        self.page
            .client()
            .goto(&format!("{}/?scene={}", self.page.server_address().trim_end_matches('/'), self.scene))
            .await?;
        self.page
            .until(
                "the view",
                "return document.querySelector('[data-testid=view]')?.dataset.settled === 'true'",
            )
            .await?;
        self.steps = 0;
        Ok(())
    }

    fn step(&mut self) {
        self.steps += 1;
    }

    /// Presses what has this name.
    pub async fn press(&mut self, name: &str) -> Done {
        self.step();
        self.page.press(name).await
    }

    /// Clicks what fits, wherever it is on the sheet.
    pub async fn click(&mut self, css: &str) -> Done {
        self.step();
        let script = format!(
            "const e = document.querySelector({0}); e?.scrollIntoView({{ block: 'center' }}); return !!e && !e.disabled",
            json!(css)
        );
        self.page.until(css, &script).await?;
        self.page.find(css).await?.click().await.map_err(|e| format!("{css}: {e}").into())
    }

    /// Clicks with Control held.
    pub async fn ctrl_click(&mut self, css: &str) -> Done {
        self.step();
        let at = self.middle(css).await?;
        let key = Key::Control.into();
        let client = self.page.client().clone();
        client.perform_actions(KeyActions::new("keys".into()).then(KeyAction::Down { value: key })).await?;
        let there = PointerAction::MoveTo { duration: Some(Duration::from_millis(40)), x: at.0, y: at.1 };
        let mouse = MouseActions::new("mouse".into()).then(there);
        client
            .perform_actions(
                mouse.then(PointerAction::Down { button: 0 }).then(PointerAction::Up { button: 0 }),
            )
            .await?;
        client.perform_actions(KeyActions::new("keys".into()).then(KeyAction::Up { value: key })).await?;
        Ok(())
    }

    /// An item of the menu that is open.
    pub async fn choose(&mut self, item: &str) -> Done {
        self.step();
        self.page.choose(item).await
    }

    /// Types a number and takes it with Enter.
    pub async fn number(&mut self, field: &str, text: &str) -> Done {
        self.step();
        self.page.type_number(field, text).await
    }

    /// Chooses from a list.
    pub async fn select(&mut self, css: &str, value: &str) -> Done {
        self.step();
        let element = self.page.find(css).await?;
        element.select_by_label(value).await.map_err(|e| format!("{css} {value}: {e}").into())
    }

    /// A click in the view, so far from its middle.
    pub async fn click_view(&mut self, dx: i64, dy: i64) -> Done {
        self.step();
        self.page.click_at("[data-testid=view] canvas", dx, dy).await
    }

    /// A double click in the view.
    pub async fn click_twice(&mut self, dx: i64, dy: i64) -> Done {
        self.click_view(dx, dy).await?;
        self.page.click_at("[data-testid=view] canvas", dx, dy).await
    }

    /// A drag or stroke in the view.
    pub async fn stroke(&mut self, from: (i64, i64), by: (i64, i64)) -> Done {
        self.step();
        self.page.begin_drag("[data-testid=view] canvas", from, by).await?;
        self.page.let_go().await
    }

    /// A drag of something that lies over the view.
    pub async fn drag(&mut self, css: &str, dx: i64, dy: i64) -> Done {
        self.step();
        self.page.drag(css, dx, dy).await
    }

    /// Brings a file.
    pub async fn file(&mut self, css: &str, path: &std::path::Path) -> Done {
        self.step();
        self.page.find(css).await?.send_keys(&path.display().to_string()).await?;
        Ok(())
    }

    /// A layer of the profile.
    pub async fn layer(&mut self, name: &str) -> Done {
        self.step();
        let script = format!(
            "const b = [...document.querySelectorAll('[data-row]')].find((b) => b.textContent.includes({})); b?.click(); return !!b",
            json!(name)
        );
        self.page.until(&format!("the layer {name}"), &script).await
    }

    async fn middle(&self, css: &str) -> Done<(f64, f64)> {
        self.page.find(css).await?;
        let script = format!(
            "const e = document.querySelector({0}); e.scrollIntoView({{ block: 'center' }}); const r = e.getBoundingClientRect(); return [r.x + r.width / 2, r.y + r.height / 2]",
            json!(css)
        );
        let at = self.page.ask(&script).await?;
        Ok((at[0].as_f64().unwrap_or(0.0), at[1].as_f64().unwrap_or(0.0)))
    }

    /// Waits until all is saved and grown.
    pub async fn rest(&self) -> Done {
        self.page.saved().await?;
        self.page.until("all to be grown", "return [...document.querySelectorAll('[data-row]')].length === document.querySelectorAll('[data-growing=false]').length && ![...document.querySelectorAll('[data-growing]')].some((e) => e.textContent.includes('\u{2026}'))").await?;
        tokio::time::sleep(Duration::from_millis(300)).await;
        Ok(())
    }

    /// What the server answers.
    pub async fn get(&self, path: &str) -> Done<Value> {
        let script = "const done = arguments[arguments.length - 1]; fetch(arguments[0]).then((r) => r.json()).then(done, (e) => done(String(e)))";
        let url = format!("/api/scenes/{}{path}", self.scene);
        Ok(self.page.client().execute_async(script, vec![json!(url)]).await?)
    }

    /// The account of every layer, the lowest in the profile last.
    pub async fn measure(&self) -> Done<Vec<Value>> {
        self.rest().await?;
        Ok(self.get("/measure").await?.as_array().cloned().unwrap_or_default())
    }

    /// The scene's document.
    pub async fn document(&self) -> Done<Value> {
        self.rest().await?;
        Ok(self.get("").await?["document"].clone())
    }

    /// Where every plant stands, metres, and its size.
    pub async fn plants(&self) -> Done<Vec<Plant>> {
        self.rest().await?;
        let script = "const done = arguments[arguments.length - 1]; fetch(arguments[0]).then((r) => r.text()).then(done, (e) => done(String(e)))";
        let url = format!("/api/scenes/{}/handoff/csv", self.scene);
        let told = self.page.client().execute_async(script, vec![json!(url)]).await?;
        let text = told.as_str().unwrap_or_default();
        let mut lines = text.lines();
        let head: Vec<&str> = lines.next().unwrap_or_default().split(',').collect();
        let at = |name: &str| {
            head.iter().position(|h| *h == name).ok_or_else(|| format!("no column {name} in {head:?}"))
        };
        let [x, y, z, size] = [at("x_m")?, at("y_m")?, at("z_m")?, at("size")?];
        let plant = |line: &str| {
            let cells: Vec<&str> = line.split(',').collect();
            let number = |i: usize| cells.get(i).and_then(|c| c.parse().ok()).unwrap_or(f64::NAN);
            Plant { x: number(x), y: number(y), z: number(z), size: number(size) }
        };
        Ok(lines.map(plant).collect())
    }

    /// Waits for stills to be finished.
    pub async fn stills(&self, count: usize) -> Done {
        let start = Instant::now();
        let script = "return document.querySelectorAll('[data-testid=still][data-state=done] img').length";
        while start.elapsed() < Duration::from_secs(240) {
            if self.page.ask(script).await?.as_u64().unwrap_or(0) as usize >= count {
                return Ok(());
            }
            tokio::time::sleep(Duration::from_millis(300)).await;
        }
        Err("the stills never came".into())
    }
}

/// A plant of the table.
pub struct Plant {
    pub x: f64,
    pub y: f64,
    pub z: f64,
    pub size: f64,
}

/// Plants of a layer that a measure tells.
pub fn placed(line: &Value) -> f64 {
    line["tally"]["placed"].as_f64().unwrap_or(0.0)
}
