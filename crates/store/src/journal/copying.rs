//! Rows on their way through `COPY ... FROM STDIN (FORMAT binary)`. A value goes the way it goes as
//! an argument of a statement, so that nothing is written as text only to be parsed again.

use crate::StoreError;
use crate::writing::Writing;
use sqlx::encode::IsNull;
use sqlx::error::BoxDynError;
use sqlx::postgres::{PgArgumentBuffer, PgCopyIn};
use sqlx::{Encode, PgConnection, Postgres};

/// How much is handed to PostgreSQL in one piece, in bytes.
const PIECE: usize = 1 << 20;

/// What stands before the rows: a signature, no flags, and nothing more.
const HEAD: &[u8] = b"PGCOPY\n\xff\r\n\0\0\0\0\0\0\0\0\0";

/// What stands behind them: a row of less than no fields.
const END: [u8; 2] = (-1i16).to_be_bytes();

/// The length of a field without a value.
const NULL: [u8; 4] = (-1i32).to_be_bytes();

/// A value of a field.
pub(super) trait Field {
    fn put(&self, into: &mut PgArgumentBuffer) -> Result<IsNull, BoxDynError>;
}

impl<T: for<'v> Encode<'v, Postgres>> Field for T {
    fn put(&self, into: &mut PgArgumentBuffer) -> Result<IsNull, BoxDynError> {
        self.encode_by_ref(into)
    }
}

/// Rows that are copied into a table.
pub(super) struct CopyIn<'a> {
    copy: PgCopyIn<&'a mut PgConnection>,
    piece: PgArgumentBuffer,
}

impl<'a> CopyIn<'a> {
    /// Begins with a table, given with its columns.
    pub(super) async fn begin(tx: &'a mut Writing, table: &str) -> Result<Self, StoreError> {
        let copy = tx.copy_in(&format!("COPY {table} FROM STDIN (FORMAT binary)")).await?;
        let mut piece = PgArgumentBuffer::default();
        piece.extend_from_slice(HEAD);
        Ok(Self { copy, piece })
    }

    /// Adds a row. The types of its fields are those of the columns.
    pub(super) async fn row<const N: usize>(
        &mut self,
        fields: [&(dyn Field + Sync); N],
    ) -> Result<(), StoreError> {
        let count = i16::try_from(N).map_err(StoreError::damaged)?;
        self.piece.extend_from_slice(&count.to_be_bytes());
        for field in fields {
            let start = self.piece.len();
            self.piece.extend_from_slice(&NULL);
            let value = start + NULL.len();
            if let IsNull::No = field.put(&mut self.piece).map_err(StoreError::damaged)? {
                let length =
                    i32::try_from(self.piece.len() - value).map_err(StoreError::damaged)?;
                self.piece[start..value].copy_from_slice(&length.to_be_bytes());
            }
        }
        if self.piece.len() >= PIECE {
            self.send().await?;
        }
        Ok(())
    }

    async fn send(&mut self) -> Result<(), StoreError> {
        self.copy.send(self.piece.as_slice()).await?;
        self.piece.clear();
        Ok(())
    }

    /// Ends the rows, which are in the table then.
    pub(super) async fn finish(mut self) -> Result<(), StoreError> {
        self.piece.extend_from_slice(&END);
        self.send().await?;
        self.copy.finish().await?;
        Ok(())
    }
}
