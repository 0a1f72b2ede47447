//! The real interface in headless Chromium, over a real server and database: what the journeys and
//! the screenshots share.

#![allow(clippy::unwrap_used, clippy::panic, reason = "what cannot be built fails the test")]

use std::net::TcpListener;
use std::path::PathBuf;
use std::process::{Child, Command, Stdio};
use std::time::Duration;
use thirtyfour::common::print::{PrintPage, PrintParameters};
use thirtyfour::components::SelectElement;
use thirtyfour::extensions::query::ElementQueryable;
use thirtyfour::prelude::*;
use zf_scenario::{SEED, Scenario};
use zf_server::{App, Config};
use zf_sheets::Format;
use zf_store::Store;
use zf_store::trail::Actor;

/// How long a page may take to show what is waited for.
const PATIENCE: Duration = Duration::from_secs(120);

/// The password of everybody.
pub const PASSWORD: &str = "not a secret";

/// Where a server answers.
pub struct Site {
    /// Its address.
    pub address: String,
    /// Its store.
    pub store: Store,
    /// What its actions reach.
    pub app: App,
}

impl Site {
    /// Serves a fresh database with these people, given by e-mail address and name.
    pub async fn open(people: &[(&str, &str)]) -> Self {
        let store = Store::connect(&zf_testing::fresh_database().await).await.unwrap();
        let hash = password_auth::generate_hash(PASSWORD);
        for (email, name) in people {
            let id = store.add_person(email, name, &hash).await.unwrap();
            store.administer(Actor::Person(id), id, true).await.unwrap();
        }
        let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.unwrap();
        let address = format!("http://{}", listener.local_addr().unwrap());
        let letters = format!("zerofold-letters-{}", address.rsplit(':').next().unwrap());
        let running = Config::on_loopback(0, &std::env::temp_dir().join(letters)).unwrap();
        let app = App::new(store.clone(), running);
        tokio::spawn(zf_server::serve(app.clone(), listener, Box::pin(std::future::pending())));
        Self { address, store, app }
    }
}

/// A browser with a profile of its own.
pub struct Browser {
    driver: WebDriver,
    chromedriver: Child,
    profile: PathBuf,
    site: String,
}

impl Browser {
    /// Opens a browser on a site, 1280 by 800.
    pub async fn open(site: &Site) -> Self {
        let port = TcpListener::bind("127.0.0.1:0").unwrap().local_addr().unwrap().port();
        let chromedriver = Command::new("chromedriver")
            .arg(format!("--port={port}"))
            .stdout(Stdio::null())
            .stderr(Stdio::null())
            .spawn()
            .expect("chromedriver is missing; bin/test installs it");
        let profile = std::env::temp_dir().join(format!("zerofold-browser-{port}"));
        let mut wanted = DesiredCapabilities::chrome();
        for argument in [
            "--headless=new",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-quic",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--disable-dev-shm-usage",
            "--hide-scrollbars",
            "--force-prefers-reduced-motion",
            "--window-size=1280,800",
        ] {
            wanted.add_arg(argument).unwrap();
        }
        wanted.add_arg(&format!("--user-data-dir={}", profile.display())).unwrap();
        let mut tries = 0;
        let driver = loop {
            match WebDriver::new(format!("http://127.0.0.1:{port}"), wanted.clone()).await {
                Ok(driver) => break driver,
                // The driver's port is not open yet.
                Err(_) if tries < 50 => tokio::time::sleep(Duration::from_millis(100)).await,
                Err(error) => panic!("no browser: {error}"),
            }
            tries += 1;
        };
        let browser = Self { driver, chromedriver, profile, site: site.address.clone() };
        browser.resize(1280, 800).await;
        browser
    }

    /// Goes to an address of the site.
    pub async fn go(&self, path: &str) {
        self.driver.goto(format!("{}{path}", self.site)).await.unwrap();
    }

    /// Goes back to where it came from.
    pub async fn go_back(&self) {
        self.driver.back().await.unwrap();
    }

    /// Waits for an element and answers it.
    pub async fn see(&self, css: &str) -> WebElement {
        let found = self.driver.query(By::Css(css)).wait(PATIENCE, Duration::from_millis(40));
        match found.and_displayed().first().await {
            Ok(element) => element,
            Err(_) => panic!("{css} is not to be seen on: {}", self.text().await),
        }
    }

    /// Waits for a text anywhere on the page.
    pub async fn see_text(&self, text: &str) {
        self.wait_for(&format!("document.body.innerText.includes({text:?})"), text).await;
    }

    /// Waits until a script says yes.
    pub async fn wait_for(&self, script: &str, what: &str) {
        let until = std::time::Instant::now() + PATIENCE;
        while std::time::Instant::now() < until {
            if self.ask(script).await == true {
                return;
            }
            tokio::time::sleep(Duration::from_millis(40)).await;
        }
        panic!("“{what}” is not to be seen on: {}", self.text().await);
    }

    /// The answer of a script.
    pub async fn ask(&self, script: &str) -> serde_json::Value {
        let answer = self.driver.execute(format!("return {script}"), vec![]).await;
        answer.map_or(serde_json::Value::Null, |a| a.json().clone())
    }

    /// The text of the page.
    pub async fn text(&self) -> String {
        self.ask("document.body.innerText").await.as_str().unwrap_or_default().to_owned()
    }

    /// Clicks on an element.
    pub async fn click(&self, css: &str) {
        let mut tries = 0;
        // What is being drawn anew can go away between being found and being clicked.
        while let Err(error) = self.see(css).await.click().await {
            assert!(tries < 20, "{css} cannot be clicked: {error}");
            tries += 1;
            tokio::time::sleep(Duration::from_millis(50)).await;
        }
    }

    /// Clicks on a button or link by its words.
    pub async fn click_words(&self, words: &str) {
        let path = format!(
            "//*[self::button or self::a or self::summary or self::label or @role='menuitem'][contains(normalize-space(.), {words:?})]"
        );
        let path = By::XPath(path);
        let mut tries = 0;
        loop {
            let found = self.driver.query(path.clone()).wait(PATIENCE, Duration::from_millis(40));
            let Ok(element) = found.and_clickable().first().await else {
                panic!("“{words}” cannot be clicked on: {}", self.text().await);
            };
            // What is being drawn anew can go away between being found and being clicked.
            let Err(error) = element.click().await else { return };
            assert!(tries < 20, "“{words}” cannot be clicked: {error}");
            tries += 1;
            tokio::time::sleep(Duration::from_millis(50)).await;
        }
    }

    /// Double-clicks on an element.
    pub async fn double_click(&self, css: &str) {
        let element = self.see(css).await;
        self.driver.action_chain().double_click_element(&element).perform().await.unwrap();
    }

    /// Types into a cell of the sheet, replacing what is there, once that very cell is open.
    pub async fn retype(&self, cell: &str, text: &str) {
        self.double_click(cell).await;
        self.see(&format!("{cell} input")).await;
        self.control("a").await;
        self.keys(TypingData::from(text) + Key::Enter).await;
    }

    /// Types into an element, replacing what is there.
    pub async fn fill(&self, css: &str, text: &str) {
        let element = self.see(css).await;
        // As a person does it; clearing by the driver tells the page nothing.
        element.send_keys(Key::Control + "a").await.unwrap();
        element.send_keys(Key::Delete + text).await.unwrap();
    }

    /// Gives a date field a day, as its picker does.
    pub async fn set_day(&self, css: &str, day: &str) {
        self.see(css).await;
        let script = format!(
            "(() => {{ const field = document.querySelector({css:?}); field.value = {day:?}; \
             for (const kind of ['input', 'change']) field.dispatchEvent(new Event(kind, {{ bubbles: true }})); \
             return true; }})()"
        );
        self.ask(&script).await;
    }

    /// Whether nothing is to be seen of something any more, or waits until then.
    pub async fn gone(&self, css: &str) {
        let script = format!("!document.querySelector({css:?})");
        self.wait_for(&script, &format!("no {css}")).await;
    }

    /// Chooses an option of a select by its value.
    pub async fn select(&self, css: &str, value: &str) {
        let element = self.see(css).await;
        let select = SelectElement::new(&element).await.unwrap();
        select.select_by_value(value).await.unwrap();
    }

    /// Chooses an option of a select by its words.
    pub async fn select_words(&self, css: &str, words: &str) {
        let element = self.see(css).await;
        let select = SelectElement::new(&element).await.unwrap();
        select.select_by_exact_text(words).await.unwrap();
    }

    /// Loads the page anew.
    pub async fn reload(&self) {
        self.driver.refresh().await.unwrap();
    }

    /// Gives a file to the file field of the page.
    pub async fn choose_file(&self, path: &std::path::Path) {
        let field = self.driver.query(By::Css("input[type=file]")).first().await.unwrap();
        field.send_keys(path.to_string_lossy()).await.unwrap();
    }

    /// Presses keys where the focus is.
    pub async fn keys(&self, keys: impl Into<TypingData>) {
        self.driver.action_chain().send_keys(keys).perform().await.unwrap();
    }

    /// Presses a key while Control is held.
    pub async fn control(&self, key: impl Into<TypingData>) {
        self.held(Key::Control, key).await;
    }

    /// Presses a key while another is held.
    pub async fn held(&self, holds: Key, key: impl Into<TypingData>) {
        let chain = self.driver.action_chain().key_down(holds.clone()).send_keys(key);
        chain.key_up(holds).perform().await.unwrap();
    }

    /// Presses a key so often while Shift is held.
    pub async fn shift(&self, key: Key, times: usize) {
        let mut chain = self.driver.action_chain().key_down(Key::Shift);
        for _ in 0..times {
            chain = chain.send_keys(key.clone() + "");
        }
        chain.key_up(Key::Shift).perform().await.unwrap();
    }

    /// Presses Tab until the element with the focus matches.
    pub async fn tab_to(&self, css: &str) {
        for _ in 0..160 {
            if self.ask(&format!("document.activeElement?.matches({css:?})")).await == true {
                return;
            }
            self.keys(Key::Tab + "").await;
        }
        panic!("{css} cannot be reached by Tab on: {}", self.text().await);
    }

    /// Signs somebody in.
    pub async fn sign_in(&self, email: &str) {
        self.go("/sign-in").await;
        self.fill("input[type=email]", email).await;
        self.fill("input[type=password]", PASSWORD).await;
        self.keys(Key::Enter + "").await;
        self.see_text("Your books").await;
    }

    /// Pastes a text where the focus is, as from another program.
    pub async fn paste(&self, text: &str) {
        let script = "const data = new DataTransfer(); data.setData('text/plain', arguments[0]); \
                      document.activeElement.dispatchEvent(new ClipboardEvent('paste', \
                      { clipboardData: data, bubbles: true, cancelable: true }));";
        self.driver.execute(script, vec![text.into()]).await.unwrap();
    }

    /// What the page breaks of those rules of WCAG 2.2, A and AA, that a program can check, as
    /// `rule: element` with what is wrong.
    pub async fn barriers(&self) -> Vec<String> {
        // Colours are mixed while something still fades in.
        const RUN: &str = "const done = arguments[0]; \
            const drawn = () => new Promise((then) => requestAnimationFrame(() => requestAnimationFrame(then))); \
            drawn().then(() => Promise.allSettled(document.getAnimations().map((a) => a.finished))).then(drawn).then(() => \
            axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] })) \
               .then(({ violations }) => done(violations.flatMap(({ id, nodes }) => \
                   nodes.map((n) => `${id}: ${n.html.slice(0, 160)} (${n.failureSummary})`))));";
        let source =
            concat!(env!("CARGO_MANIFEST_DIR"), "/../../web/node_modules/axe-core/axe.min.js");
        let source = std::fs::read_to_string(source).expect("bin/test installs axe-core");
        self.driver.execute(source, vec![]).await.unwrap();
        self.driver.execute_async(RUN, vec![]).await.unwrap().convert().unwrap()
    }

    /// Makes the window another size.
    pub async fn resize(&self, width: u32, height: u32) {
        let metrics = serde_json::json!({ "width": width, "height": height, "deviceScaleFactor": 1, "mobile": false });
        self.driver.cdp().send_raw("Emulation.setDeviceMetricsOverride", metrics).await.unwrap();
    }

    /// Saves a picture of the page.
    pub async fn picture(&self, path: &std::path::Path) {
        self.driver.screenshot(path).await.unwrap();
    }

    /// What the page is on A4, printed: the text of each sheet.
    pub async fn printed(&self) -> Vec<String> {
        let page = PrintPage { width: 21.0, height: 29.7 };
        let pdf = self.driver.print_page(PrintParameters { page, ..PrintParameters::default() });
        let file = self.profile.join("printed.pdf");
        std::fs::write(&file, pdf.await.unwrap()).unwrap();
        let text = Command::new("pdftotext").arg("-layout").arg(&file).arg("-").output().unwrap();
        let text = String::from_utf8(text.stdout).unwrap();
        text.split('\u{c}').map(str::to_owned).filter(|sheet| !sheet.trim().is_empty()).collect()
    }

    /// Ends the browser.
    pub async fn close(mut self) {
        self.driver.clone().quit().await.unwrap();
        let _ = self.chromedriver.kill();
        let _ = self.chromedriver.wait();
        let _ = std::fs::remove_dir_all(&self.profile);
    }
}

/// Writes the demo books' files to a folder of their own and answers it.
pub fn scenario_files() -> PathBuf {
    let folder = std::env::temp_dir().join(format!("zerofold-files-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    let scenario = Scenario::new(SEED);
    for (name, table) in scenario.files() {
        std::fs::write(folder.join(format!("{name}.csv")), table.write(Format::Csv).unwrap())
            .unwrap();
    }
    let chart = scenario.chart.write(Format::Xlsx).unwrap();
    std::fs::write(folder.join("chart.xlsx"), chart).unwrap();
    folder
}
