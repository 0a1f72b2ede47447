//! Somebody at a desk with files and the interface open.

use std::path::PathBuf;
use zf_browser_tests::{Browser, Site};
use zf_store::Store;
use zf_store::member::Member;

pub(crate) struct Desk {
    pub(crate) browser: Browser,
    pub(crate) store: Store,
    folder: PathBuf,
}

impl Desk {
    /// Signed in, with no books yet.
    pub(crate) async fn open(name: &str) -> Self {
        let site = Site::open(&[("ann@books.example", "Ann Tester")]).await;
        let browser = Browser::open(&site).await;
        browser.sign_in("ann@books.example").await;
        let folder = std::env::temp_dir().join(format!("zerofold-{name}-{}", std::process::id()));
        std::fs::create_dir_all(&folder).unwrap();
        Self { browser, store: site.store, folder }
    }

    pub(crate) async fn open_books(&self) {
        self.browser.click_words("Open new books").await;
        self.browser.fill("#name", "Small books").await;
        self.browser.click_words("Open the books").await;
        self.browser.see_text("Import a file").await;
    }

    pub(crate) async fn choose(&self, name: &str, content: impl AsRef<[u8]>) {
        let file = self.folder.join(name);
        std::fs::write(&file, content).unwrap();
        self.browser.choose_file(&file).await;
    }

    /// The member of the books that were opened here.
    pub(crate) async fn member(&self) -> Member {
        let ann = self.store.person_by_email("ann@books.example").await.unwrap().unwrap().id;
        let books = self.store.books_of(ann).await.unwrap();
        self.store.member(ann, books[0].books.id).await.unwrap()
    }

    pub(crate) async fn close(self) {
        self.browser.close().await;
        std::fs::remove_dir_all(self.folder).unwrap();
    }
}
