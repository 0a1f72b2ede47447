//! The lines of the books' own statements in the database.

use crate::StoreError;
use crate::ids::{Counter, take, take_one};
use crate::writing::Writing;
use sqlx::PgConnection;
use std::collections::{HashMap, HashSet};
use zf_core::ids::{BooksId, ItemId};
use zf_core::statement::{Class, ItemKind, Operand, Section, StatementItem, Structure, Term};

/// What the structure is called that is the books' own.
const OWN: &str = "Statements";

/// Reads the lines that the accounts of the books stand under; retired ones too.
pub(crate) async fn read(
    connection: &mut PgConnection,
    books: BooksId,
) -> Result<Structure, StoreError> {
    let rows = sqlx::query!(
        "SELECT l.id, l.parent_id, l.kind, l.class, l.name, l.standard, l.retired, l.other_side_id
         FROM structure_line l JOIN structure s ON s.books_id = l.books_id AND s.id = l.structure_id
         WHERE l.books_id = $1 AND s.own ORDER BY l.position",
        books.0
    )
    .fetch_all(&mut *connection)
    .await?;
    let mut terms = terms(connection, books).await?;
    let lines = rows.into_iter().map(|row| {
        let standard = row.standard.as_deref();
        let standard = standard.map(|key| StoreError::known(Section::from_key(key), key));
        Ok(StatementItem {
            id: ItemId(row.id),
            parent: row.parent_id.map(ItemId),
            kind: StoreError::known(ItemKind::from_key(&row.kind), &row.kind)?,
            class: StoreError::known(Class::from_key(&row.class), &row.class)?,
            name: row.name,
            standard: standard.transpose()?,
            retired: row.retired,
            other_side: row.other_side_id.map(ItemId),
            terms: terms.remove(&ItemId(row.id)).unwrap_or_default(),
        })
    });
    Ok(Structure::new(lines.collect::<Result<Vec<_>, StoreError>>()?))
}

/// Reads what subtotals and ratios are calculated from.
async fn terms(
    connection: &mut PgConnection,
    books: BooksId,
) -> Result<HashMap<ItemId, Vec<Term>>, StoreError> {
    let rows = sqlx::query!(
        "SELECT line_id, of_class, of_line_id, taken_off FROM structure_term WHERE books_id = $1
         ORDER BY line_id, position",
        books.0
    )
    .fetch_all(connection)
    .await?;
    let mut terms: HashMap<ItemId, Vec<Term>> = HashMap::new();
    for row in rows {
        let class = row.of_class.as_deref();
        let class = class.map(|key| StoreError::known(Class::from_key(key), key)).transpose()?;
        let line = row.of_line_id.map(|id| Operand::Item(ItemId(id)));
        let of = StoreError::known(class.map(Operand::Class).or(line), "a row of the statements")?;
        terms.entry(ItemId(row.line_id)).or_default().push(Term { of, taken_off: row.taken_off });
    }
    Ok(terms)
}

/// Gives new books their own structure, made from the standard line items.
pub(crate) async fn begin(tx: &mut Writing, books: BooksId) -> Result<(), StoreError> {
    let id = take_one(tx, Counter::Structure).await?;
    let ids = take(tx, Counter::StructureLine, Structure::standard_size()).await?;
    let structure = Structure::standard(ids.map(ItemId));
    sqlx::query!(
        "INSERT INTO structure (books_id, id, name, own) VALUES ($1, $2, $3, true)",
        books.0,
        id,
        OWN
    )
    .execute(&mut *tx)
    .await?;
    write(tx, books, id, &structure).await
}

/// Keeps the lines of the books' own structure as they are wanted: new ones are added, and all have the
/// name, the order and the standing that they are wanted with. Answers the identities that new ones have
/// for good, by those that they were wanted with.
pub(crate) async fn keep(
    tx: &mut Writing,
    books: BooksId,
    known: &Structure,
    wanted: &Structure,
) -> Result<HashMap<ItemId, ItemId>, StoreError> {
    if known == wanted {
        return Ok(HashMap::new());
    }
    let known: HashSet<ItemId> = known.items().map(|line| line.id).collect();
    let new: Vec<ItemId> =
        wanted.items().map(|line| line.id).filter(|id| !known.contains(id)).collect();
    let ids = take(tx, Counter::StructureLine, new.len()).await?;
    let ids: HashMap<ItemId, ItemId> = new.into_iter().zip(ids.map(ItemId)).collect();
    let of = |id: ItemId| ids.get(&id).copied().unwrap_or(id);
    let structure = Structure::new(wanted.items().map(|line| StatementItem {
        id: of(line.id),
        parent: line.parent.map(of),
        other_side: line.other_side.map(of),
        terms: line.terms.iter().map(|term| with_ids(*term, of)).collect(),
        ..line.clone()
    }));
    let own = sqlx::query_scalar!("SELECT id FROM structure WHERE books_id = $1 AND own", books.0)
        .fetch_one(&mut *tx)
        .await?;
    write(tx, books, own, &structure).await?;
    Ok(ids)
}

/// A term with the identity that its row has for good.
fn with_ids(term: Term, of: impl Fn(ItemId) -> ItemId) -> Term {
    match term.of {
        Operand::Item(id) => Term { of: Operand::Item(of(id)), ..term },
        Operand::Class(_) => term,
    }
}

/// Writes the lines of a structure in their order. Those that are there already stay what they are, and
/// take the name, the place and the standing.
async fn write(
    tx: &mut Writing,
    books: BooksId,
    id: i64,
    structure: &Structure,
) -> Result<(), StoreError> {
    let lines = || structure.items();
    sqlx::query!(
        "INSERT INTO structure_line (books_id, id, structure_id, parent_id, position, kind, class, name, standard, retired,
             other_side_id)
         SELECT $1, l.id, $2, l.parent, l.position - 1, l.kind, l.class, l.name, l.standard, l.retired, l.other_side
         FROM unnest($3::bigint[], $4::bigint[], $5::text[], $6::text[], $7::text[], $8::text[], $9::boolean[],
                     $10::bigint[])
              WITH ORDINALITY AS l (id, parent, kind, class, name, standard, retired, other_side, position)
         ON CONFLICT (books_id, id) DO UPDATE
         SET position = EXCLUDED.position, name = EXCLUDED.name, retired = EXCLUDED.retired,
             other_side_id = EXCLUDED.other_side_id",
        books.0,
        id,
        &lines().map(|line| line.id.0).collect::<Vec<_>>(),
        &lines().map(|line| line.parent.map(|id| id.0)).collect::<Vec<_>>() as &[Option<i64>],
        &lines().map(|line| line.kind.key().to_owned()).collect::<Vec<_>>(),
        &lines().map(|line| line.class.key().to_owned()).collect::<Vec<_>>(),
        &lines().map(|line| line.name.clone()).collect::<Vec<_>>(),
        &lines().map(|line| line.standard.map(|s| s.key().to_owned())).collect::<Vec<_>>()
            as &[Option<String>],
        &lines().map(|line| line.retired).collect::<Vec<_>>(),
        &lines().map(|line| line.other_side.map(|id| id.0)).collect::<Vec<_>>() as &[Option<i64>],
    )
    .execute(&mut *tx)
    .await?;
    write_terms(tx, books, structure).await
}

/// Writes what subtotals and ratios are calculated from, in place of what they were calculated from before.
async fn write_terms(
    tx: &mut Writing,
    books: BooksId,
    structure: &Structure,
) -> Result<(), StoreError> {
    let lines: Vec<i64> = structure.items().map(|line| line.id.0).collect();
    sqlx::query!(
        "DELETE FROM structure_term WHERE books_id = $1 AND line_id = ANY($2)",
        books.0,
        &lines
    )
    .execute(&mut *tx)
    .await?;
    let terms =
        || structure.items().flat_map(|line| line.terms.iter().map(move |term| (line.id, term)));
    let class = |term: &Term| match term.of {
        Operand::Class(class) => Some(class.key().to_owned()),
        Operand::Item(_) => None,
    };
    let line = |term: &Term| match term.of {
        Operand::Class(_) => None,
        Operand::Item(id) => Some(id.0),
    };
    sqlx::query!(
        "INSERT INTO structure_term (books_id, line_id, position, of_class, of_line_id, taken_off)
         SELECT $1, t.line, t.position, t.class, t.of_line, t.taken_off
         FROM unnest($2::bigint[], $3::text[], $4::bigint[], $5::boolean[])
              WITH ORDINALITY AS t (line, class, of_line, taken_off, position)",
        books.0,
        &terms().map(|(line, _)| line.0).collect::<Vec<_>>(),
        &terms().map(|(_, term)| class(term)).collect::<Vec<_>>() as &[Option<String>],
        &terms().map(|(_, term)| line(term)).collect::<Vec<_>>() as &[Option<i64>],
        &terms().map(|(_, term)| term.taken_off).collect::<Vec<_>>(),
    )
    .execute(tx)
    .await?;
    Ok(())
}
