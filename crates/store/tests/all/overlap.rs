//! Files that hold entries which the journal has already.

use time::macros::date;
use zf_core::entry::NewEntry;
use zf_core::overlap::{Compared, FileEntry, Overlap, mark_of, mark_of_code};
use zf_store::journal::overlap::FileSide;
use zf_testing::Books;

const ALL: Compared =
    Compared { foreign: true, payee: true, memo: true, reference: true, dimensions: true };

/// What the journal has of a file with these entries, whose accounts are those that stand today.
async fn overlap(books: &Books, entries: &[NewEntry], compared: Compared) -> Overlap {
    let seen = books.store.snapshot(books.member).await.unwrap();
    let mark = |entry: &NewEntry| {
        let marks = entry.lines.iter().map(|line| {
            let code = seen.today.chart.get(line.account).unwrap().code.to_string();
            mark_of(line, mark_of_code(&code), entry.date)
        });
        marks.fold(0, u64::wrapping_add)
    };
    let file = entries
        .iter()
        .map(|entry| FileEntry { number: &entry.number, mark: Some(mark(entry)) })
        .collect();
    let days = entries.iter().map(|e| e.date).min().zip(entries.iter().map(|e| e.date).max());
    books
        .store
        .overlap(books.member, &seen, &FileSide { entries: file, compared, days })
        .await
        .unwrap()
}

async fn three(books: &Books) -> Vec<NewEntry> {
    let (bank, coal) = (books.id("1010").await, books.id("5010").await);
    let days = [date!(2026 - 05 - 01), date!(2026 - 05 - 02), date!(2026 - 05 - 03)];
    let entries = days.map(|day| books.entry(day, coal, bank, 100)).to_vec();
    books.post(&entries).await;
    entries
}

#[tokio::test]
async fn entries_are_known_changed_new_or_gone() {
    let books = Books::railway().await;
    let entries = three(&books).await;
    let whole = overlap(&books, &entries, ALL).await;
    assert_eq!((whole.same.len(), whole.changed.len(), whole.vanished_count), (3, 0, 0));

    let mut file = entries.clone();
    let gone = file.remove(1);
    file[1].lines[0].memo = "more coal".to_owned();
    file.push(NewEntry { number: "NEW".to_owned(), ..gone.clone() });
    let part = overlap(&books, &file, ALL).await;
    assert_eq!((part.same.iter().collect::<Vec<_>>(), part.vanished_count), (vec![&0], 1));
    assert_eq!(part.vanished[0].number, gone.number);
    assert_eq!(part.changed[&1].as_ref().unwrap().lines, entries[2].lines);
    // A file without memos does not say that they changed.
    file.iter_mut().flat_map(|entry| &mut entry.lines).for_each(|line| line.memo.clear());
    let blind = Compared { memo: false, ..ALL };
    let without = overlap(&books, &file[..2], blind).await;
    assert_eq!((without.same.len(), without.changed.len()), (2, 0));

    // Files of other days, and other books, have nothing to do with it.
    let other = Books::railway_of(books.store.clone(), books.member.person()).await;
    assert!(overlap(&other, &[], ALL).await.is_empty());
    let only_new = overlap(&books, &file[2..], ALL).await;
    assert_eq!((only_new.is_empty(), only_new.vanished_count), (true, 0));
}

#[tokio::test]
async fn a_plan_that_moved_lines_changed_no_entry() {
    let books = Books::railway().await;
    let entries = three(&books).await;
    let coal = books.id("5010").await;
    books.apply(books.stage("5010 code 5110").await).await.unwrap();
    assert_eq!(overlap(&books, &entries, ALL).await.same.len(), 3, "a new code");
    books.apply(books.stage("5110 fate merge 5020").await).await.unwrap();
    // The source still says 5010, which stands for the account that it was merged into.
    let wood = books.id("5020").await;
    let mut file = entries;
    for line in file.iter_mut().flat_map(|entry| &mut entry.lines) {
        line.account = if line.account == coal { wood } else { line.account };
    }
    assert_eq!(overlap(&books, &file, ALL).await.same.len(), 3, "merged");
    let bank = books.id("1010").await;
    file[0].lines[0].account = bank;
    let wrong = overlap(&books, &file, ALL).await;
    assert_eq!((wrong.same.len(), wrong.changed.len()), (2, 1));
}
