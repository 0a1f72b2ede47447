// What a person says of balances that open the books.

export class Opening {
  /** The day, as 2026-09-24; empty while the balances are only compared. */
  date = $state('');
  takeGap = $state(false);
  /** The total that the source document has. */
  total = $state('');

  form() {
    return { date: this.date || null, take_gap: this.takeGap };
  }
}
