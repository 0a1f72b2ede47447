import type { Schemas } from '../api/client';

/** Where a row of a file stands: its number, with the sheet where several are one table. */
export const placeWords = ({ sheet, row }: Schemas['RowPlace']): string =>
  sheet ? `${row} of ${sheet}` : `${row}`;
