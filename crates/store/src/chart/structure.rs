//! The lines of the books' own statements in the database.

use crate::StoreError;
use crate::ids::{Counter, take, take_one};
use crate::writing::Writing;
use sqlx::PgConnection;
use std::collections::{HashMap, HashSet};
use zf_core::ids::{BooksId, LineId};
use zf_core::statement::{Class, LineKind, Section, StatementLine, Structure};

/// What the structure is called that is the books' own.
const OWN: &str = "Statements";

/// Reads the lines that the accounts of the books stand under; retired ones too.
pub(crate) async fn read(
    connection: &mut PgConnection,
    books: BooksId,
) -> Result<Structure, StoreError> {
    let rows = sqlx::query!(
        "SELECT l.id, l.parent_id, l.kind, l.class, l.name, l.standard, l.retired
         FROM structure_line l JOIN structure s ON s.books_id = l.books_id AND s.id = l.structure_id
         WHERE l.books_id = $1 AND s.own ORDER BY l.position",
        books.0
    )
    .fetch_all(connection)
    .await?;
    let lines = rows.into_iter().map(|row| {
        let standard = row.standard.as_deref();
        let standard = standard.map(|key| StoreError::known(Section::from_key(key), key));
        Ok(StatementLine {
            id: LineId(row.id),
            parent: row.parent_id.map(LineId),
            kind: StoreError::known(LineKind::from_key(&row.kind), &row.kind)?,
            class: StoreError::known(Class::from_key(&row.class), &row.class)?,
            name: row.name,
            standard: standard.transpose()?,
            retired: row.retired,
        })
    });
    Ok(Structure::new(lines.collect::<Result<Vec<_>, StoreError>>()?))
}

/// Gives new books their own structure, made from the standard line items.
pub(crate) async fn begin(tx: &mut Writing, books: BooksId) -> Result<(), StoreError> {
    let id = take_one(tx, Counter::Structure).await?;
    let ids = take(tx, Counter::StructureLine, Structure::standard_size()).await?;
    let structure = Structure::standard(ids.map(LineId));
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
) -> Result<HashMap<LineId, LineId>, StoreError> {
    if known == wanted {
        return Ok(HashMap::new());
    }
    let known: HashSet<LineId> = known.lines().map(|line| line.id).collect();
    let new: Vec<LineId> =
        wanted.lines().map(|line| line.id).filter(|id| !known.contains(id)).collect();
    let ids = take(tx, Counter::StructureLine, new.len()).await?;
    let ids: HashMap<LineId, LineId> = new.into_iter().zip(ids.map(LineId)).collect();
    let of = |id: LineId| ids.get(&id).copied().unwrap_or(id);
    let structure = Structure::new(wanted.lines().map(|line| StatementLine {
        id: of(line.id),
        parent: line.parent.map(of),
        ..line.clone()
    }));
    let own = sqlx::query_scalar!("SELECT id FROM structure WHERE books_id = $1 AND own", books.0)
        .fetch_one(&mut *tx)
        .await?;
    write(tx, books, own, &structure).await?;
    Ok(ids)
}

/// Writes the lines of a structure in their order. Those that are there already stay what they are, and
/// take the name, the place and the standing.
async fn write(
    tx: &mut Writing,
    books: BooksId,
    id: i64,
    structure: &Structure,
) -> Result<(), StoreError> {
    let lines = || structure.lines();
    sqlx::query!(
        "INSERT INTO structure_line (books_id, id, structure_id, parent_id, position, kind, class, name, standard, retired)
         SELECT $1, l.id, $2, l.parent, l.position - 1, l.kind, l.class, l.name, l.standard, l.retired
         FROM unnest($3::bigint[], $4::bigint[], $5::text[], $6::text[], $7::text[], $8::text[], $9::boolean[])
              WITH ORDINALITY AS l (id, parent, kind, class, name, standard, retired, position)
         ON CONFLICT (books_id, id) DO UPDATE
         SET position = EXCLUDED.position, name = EXCLUDED.name, retired = EXCLUDED.retired",
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
    )
    .execute(tx)
    .await?;
    Ok(())
}
