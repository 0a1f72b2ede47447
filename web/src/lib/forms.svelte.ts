// How whoever is signed in likes dates and numbers written.
interface Forms {
  dates: 'day_month' | 'month_day' | 'points' | 'iso';
  numbers: 'comma_point' | 'point_comma' | 'space_comma' | 'apostrophe_point';
}

const chosen = $state<Forms>({ dates: 'day_month', numbers: 'comma_point' });

export const forms: Readonly<Forms> = chosen;

/** Writes dates and numbers so from now on, wherever they are shown. */
export function writeAs({ dates, numbers }: Forms): void {
  chosen.dates = dates;
  chosen.numbers = numbers;
}
