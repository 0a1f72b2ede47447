//! A line to the database that can be made to break at the worst moment.

use std::sync::Arc;
use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering};
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::{TcpListener, TcpStream};

/// A line between a store and PostgreSQL.
#[derive(Clone, Debug)]
pub struct Line {
    breaking: Arc<AtomicBool>,
    away: Arc<AtomicBool>,
    broken: Arc<AtomicUsize>,
}

impl Line {
    /// A line to the database with an address, and the address at its other end.
    pub async fn to(url: &str) -> (Self, String) {
        let (head, rest) = url.split_once('@').unwrap();
        let (server, name) = rest.split_once('/').unwrap();
        let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
        let near = format!("{head}@{}/{name}", listener.local_addr().unwrap());
        let line = Self { breaking: Arc::default(), away: Arc::default(), broken: Arc::default() };
        let (server, own) = (server.to_owned(), line.clone());
        tokio::spawn(async move {
            while let Ok((near, _)) = listener.accept().await {
                if own.away.load(Ordering::SeqCst) {
                    continue;
                }
                let far = TcpStream::connect(&server).await.unwrap();
                tokio::spawn(own.clone().carry(near, far));
            }
        });
        (line, near)
    }

    /// From now on the line breaks behind each COMMIT, before its answer.
    pub fn break_in_commit(&self, breaking: bool) {
        self.breaking.store(breaking, Ordering::SeqCst);
    }

    /// From now on nobody gets through.
    pub fn take_away(&self) {
        self.away.store(true, Ordering::SeqCst);
    }

    /// How often it broke.
    pub fn broken(&self) -> usize {
        self.broken.load(Ordering::SeqCst)
    }

    async fn carry(self, near: TcpStream, far: TcpStream) {
        let (mut from_store, mut to_store) = near.into_split();
        let (mut from_database, mut to_database) = far.into_split();
        let back = tokio::spawn(async move {
            let _ = tokio::io::copy(&mut from_database, &mut to_store).await;
        });
        let mut piece = vec![0; 1 << 16];
        while let Ok(size @ 1..) = from_store.read(&mut piece).await {
            let sent = &piece[..size];
            let commits = sent.windows(6).any(|word| word == b"COMMIT");
            let breaks = commits && self.breaking.load(Ordering::SeqCst);
            if breaks {
                // The answer is lost, and the request is not.
                back.abort();
            }
            if self.away.load(Ordering::SeqCst) || to_database.write_all(sent).await.is_err() {
                break;
            }
            if breaks {
                self.broken.fetch_add(1, Ordering::SeqCst);
                break;
            }
        }
        back.abort();
    }
}
