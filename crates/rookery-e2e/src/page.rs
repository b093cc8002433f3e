//! What a story does on the page, in the words of a person at the screen.

use crate::{Browser, Done, Server, Sharpness};
use fantoccini::actions::{InputSource, KeyAction, KeyActions, MouseActions, PointerAction};
use fantoccini::elements::Element;
use fantoccini::key::Key;
use fantoccini::{Client, Locator};
use serde_json::{Value, json};
use std::time::{Duration, Instant};

const PATIENCE: Duration = Duration::from_secs(90);

/// A page with the interface on it.
pub struct Page {
    /// The server behind it.
    pub server: Server,
    /// The browser.
    pub browser: Browser,
}

impl Page {
    /// Starts a server and a browser, and opens the first scene.
    ///
    /// # Errors
    /// When either does not start, or no plant shows.
    pub async fn open() -> Done<Self> {
        Self::open_with(Sharpness::Coarse).await
    }

    /// The same, drawn with so many pixels.
    ///
    /// # Errors
    /// As [`Page::open`].
    pub async fn open_with(sharpness: Sharpness) -> Done<Self> {
        let (server, browser) = (Server::start().await?, Browser::start(sharpness).await?);
        let page = Self { server, browser };
        page.load().await?;
        Ok(page)
    }

    /// A second browser on the same server.
    ///
    /// # Errors
    /// When it does not start, or no plant shows.
    pub async fn beside(&self) -> Done<Self> {
        let page = Self { server: self.server.seen(), browser: Browser::start(Sharpness::Coarse).await? };
        page.load().await?;
        Ok(page)
    }

    /// Opens the page anew and waits for plants.
    ///
    /// # Errors
    /// When no plant shows.
    pub async fn load(&self) -> Done {
        // Shadows and half a minute of refinement cost a processor dear: stories do without them, but the one about them.
        let quick = format!("{}/?rest=plain", self.server.address.trim_end_matches('/'));
        self.client().goto(&quick).await?;
        self.until("plants in the view", "const v = document.querySelector('[data-testid=view]'); return !!v && Number(v.dataset.plants) > 0").await
    }

    /// Where the server answers.
    pub fn server_address(&self) -> &str {
        &self.server.address
    }

    /// The session.
    pub fn client(&self) -> &Client {
        &self.browser.client
    }

    /// The first element that fits a CSS selector, waited for.
    ///
    /// # Errors
    /// When none comes.
    pub async fn find(&self, css: &str) -> Done<Element> {
        let found = self.client().wait().at_most(PATIENCE).for_element(Locator::Css(css)).await;
        found.map_err(|e| format!("{css}: {e}").into())
    }

    /// The control with this accessible name.
    ///
    /// # Errors
    /// When none comes.
    pub async fn named(&self, name: &str) -> Done<Element> {
        let xpath = format!("//*[@aria-label='{name}'] | //button[normalize-space()='{name}']");
        let found = self.client().wait().at_most(PATIENCE).for_element(Locator::XPath(&xpath)).await;
        found.map_err(|e| format!("{name}: {e}").into())
    }

    /// Presses the control with this accessible name.
    ///
    /// # Errors
    /// When there is none.
    pub async fn press(&self, name: &str) -> Done {
        self.named(name).await?.click().await.map_err(|e| format!("{name}: {e}").into())
    }

    /// Runs a script and gives its answer.
    ///
    /// # Errors
    /// When the script fails.
    pub async fn ask(&self, script: &str) -> Done<Value> {
        Ok(self.client().execute(script, vec![]).await?)
    }

    /// Waits until a script answers true.
    ///
    /// # Errors
    /// When it never does.
    pub async fn until(&self, what: &str, script: &str) -> Done {
        let start = Instant::now();
        while start.elapsed() < PATIENCE {
            if self.ask(script).await? == json!(true) {
                return Ok(());
            }
            tokio::time::sleep(Duration::from_millis(60)).await;
        }
        Err(format!("waited in vain for {what}").into())
    }

    /// The number in a `data-` attribute of the element that fits, once it differs from `not`.
    ///
    /// # Errors
    /// When it never does.
    pub async fn number(&self, css: &str, attribute: &str, not: Option<f64>) -> Done<f64> {
        let script = format!(
            "const e = document.querySelector({}); return e ? e.getAttribute('{attribute}') : null",
            json!(css)
        );
        let start = Instant::now();
        while start.elapsed() < PATIENCE {
            let now = self.ask(&script).await?.as_str().and_then(|s| s.parse().ok());
            if let Some(now) = now
                && Some(now) != not
            {
                return Ok(now);
            }
            tokio::time::sleep(Duration::from_millis(60)).await;
        }
        Err(format!("{css} {attribute} stayed at {not:?}").into())
    }

    /// Plants placed by the chosen layer, once their number differs from `not`.
    ///
    /// # Errors
    /// When it never does.
    pub async fn placed(&self, not: Option<f64>) -> Done<f64> {
        self.number("[data-testid=placed]", "data-placed", not).await
    }

    /// Plants placed by the chosen layer once everything is saved and the number has come to rest.
    ///
    /// # Errors
    /// When it never does.
    pub async fn placed_at_rest(&self) -> Done<f64> {
        self.saved().await?;
        let mut last = self.placed(None).await?;
        for _ in 0..100 {
            tokio::time::sleep(Duration::from_millis(500)).await;
            let now = self.placed(None).await?;
            if now == last {
                return Ok(now);
            }
            last = now;
        }
        Err("the number of plants never came to rest".into())
    }

    /// Chooses an item of the menu that is open.
    ///
    /// # Errors
    /// When there is no such item.
    pub async fn choose(&self, item: &str) -> Done {
        let script = format!(
            "const i = [...document.querySelectorAll('[role=menu][data-state=open] [role=menuitem]')].find(e => e.textContent.startsWith({})); i?.click(); return !!i",
            json!(item)
        );
        self.until(&format!("the menu item {item}"), &script).await
    }

    /// Types into a number field and presses Enter.
    ///
    /// # Errors
    /// When the field is not there.
    pub async fn type_number(&self, field: &str, text: &str) -> Done {
        let css = format!("input[data-testid={field}]");
        let element = self.find(&css).await?;
        self.ask(&format!("document.querySelector({}).scrollIntoView({{block: 'center'}})", json!(css)))
            .await?;
        element.click().await?;
        element.send_keys(text).await?;
        element.send_keys(&String::from(char::from(Key::Enter))).await?;
        Ok(())
    }

    /// Drags from the middle of an element by so many pixels, in several moves.
    ///
    /// # Errors
    /// When the element is not there.
    pub async fn drag(&self, css: &str, dx: i64, dy: i64) -> Done {
        self.find(css).await?;
        let middle = format!(
            "const e = document.querySelector({}); e.scrollIntoView({{block: 'center'}}); const r = e.getBoundingClientRect(); return [Math.round(r.x + r.width / 2), Math.round(r.y + r.height / 2)]",
            json!(css)
        );
        let at = self.ask(&middle).await?;
        let (x, y) = (at[0].as_i64().unwrap_or(0), at[1].as_i64().unwrap_or(0));
        let to = |dx: i64, dy: i64| PointerAction::MoveTo {
            duration: Some(Duration::from_millis(40)),
            x: (x + dx) as f64,
            y: (y + dy) as f64,
        };
        let mut mouse =
            MouseActions::new("mouse".into()).then(to(0, 0)).then(PointerAction::Down { button: 0 });
        for step in 1..=8 {
            mouse = mouse.then(to(dx * step / 8, dy * step / 8));
        }
        self.client().perform_actions(mouse.then(PointerAction::Up { button: 0 })).await?;
        Ok(())
    }

    /// Presses the mouse so far from the middle of an element and leads it on by so many pixels, without letting go.
    ///
    /// # Errors
    /// When the element is not there.
    pub async fn begin_drag(&self, css: &str, from: (i64, i64), by: (i64, i64)) -> Done {
        let (x, y) = self.middle(css).await?;
        let (x, y) = (x + from.0, y + from.1);
        let to = |share: f64| PointerAction::MoveTo {
            duration: Some(Duration::from_millis(40)),
            x: x as f64 + by.0 as f64 * share,
            y: y as f64 + by.1 as f64 * share,
        };
        let mut mouse =
            MouseActions::new("mouse".into()).then(to(0.0)).then(PointerAction::Down { button: 0 });
        for step in 1..=8 {
            mouse = mouse.then(to(f64::from(step) / 8.0));
        }
        self.client().perform_actions(mouse).await?;
        Ok(())
    }

    /// Leads the mouse that is held to a point so far from the middle of an element.
    ///
    /// # Errors
    /// When the element is not there.
    pub async fn lead_on(&self, css: &str, to: (i64, i64)) -> Done {
        let (x, y) = self.middle(css).await?;
        let there = PointerAction::MoveTo {
            duration: Some(Duration::from_millis(200)),
            x: (x + to.0) as f64,
            y: (y + to.1) as f64,
        };
        self.client().perform_actions(MouseActions::new("mouse".into()).then(there)).await?;
        Ok(())
    }

    /// The middle of an element, pixels of the page.
    async fn middle(&self, css: &str) -> Done<(i64, i64)> {
        self.find(css).await?;
        let script = format!(
            "const r = document.querySelector({}).getBoundingClientRect(); return [Math.round(r.x + r.width / 2), Math.round(r.y + r.height / 2)]",
            json!(css)
        );
        let at = self.ask(&script).await?;
        Ok((at[0].as_i64().unwrap_or(0), at[1].as_i64().unwrap_or(0)))
    }

    /// Lets go of the mouse.
    ///
    /// # Errors
    /// When the browser is gone.
    pub async fn let_go(&self) -> Done {
        let up = MouseActions::new("mouse".into()).then(PointerAction::Up { button: 0 });
        self.client().perform_actions(up).await?;
        Ok(())
    }

    /// Clicks so many pixels beside the middle of an element, as a hand does: there first, then down and up.
    ///
    /// # Errors
    /// When the element is not there.
    pub async fn click_at(&self, css: &str, dx: i64, dy: i64) -> Done {
        let (x, y) = self.middle(css).await?;
        let (x, y) = (x + dx, y + dy);
        let there =
            PointerAction::MoveTo { duration: Some(Duration::from_millis(60)), x: x as f64, y: y as f64 };
        let mouse = MouseActions::new("mouse".into())
            .then(there)
            .then(PointerAction::Down { button: 0 })
            .then(PointerAction::Up { button: 0 });
        self.client().perform_actions(mouse).await?;
        // A second click too soon after the first is a double one.
        tokio::time::sleep(Duration::from_millis(350)).await;
        Ok(())
    }

    /// Presses keys together, for example Control and Z.
    ///
    /// # Errors
    /// When the browser is gone.
    pub async fn chord(&self, held: &[char], key: char) -> Done {
        let mut keys = KeyActions::new("keys".into());
        for &value in held {
            keys = keys.then(KeyAction::Down { value });
        }
        keys = keys.then(KeyAction::Down { value: key }).then(KeyAction::Up { value: key });
        for &value in held {
            keys = keys.then(KeyAction::Up { value });
        }
        self.client().perform_actions(keys).await?;
        Ok(())
    }

    /// Waits until every change is in the database.
    ///
    /// # Errors
    /// When it never is.
    pub async fn saved(&self) -> Done {
        self.until(
            "everything to be saved",
            "return document.querySelector('[data-testid=saved]').textContent === 'Saved'",
        )
        .await
    }

    /// Waits for a finished download with this ending.
    ///
    /// # Errors
    /// When none comes.
    pub async fn downloaded(&self, ending: &str) -> Done<Vec<u8>> {
        let start = Instant::now();
        while start.elapsed() < PATIENCE {
            for entry in std::fs::read_dir(&self.browser.downloads)?.flatten() {
                if entry.path().extension().is_some_and(|e| e == ending) {
                    return Ok(std::fs::read(entry.path())?);
                }
            }
            tokio::time::sleep(Duration::from_millis(100)).await;
        }
        Err(format!("no download ended in .{ending}").into())
    }

    /// Ends the session.
    ///
    /// # Errors
    /// When the browser is gone already.
    pub async fn close(self) -> Done {
        self.browser.client.clone().close().await?;
        Ok(())
    }
}
