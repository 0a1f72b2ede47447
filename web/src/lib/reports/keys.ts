// Going through the rows of a statement by keys.

/** Moves the focus to the stop above or below; says whether the key was one of these. */
export function step(event: KeyboardEvent & { currentTarget: HTMLElement }): boolean {
  const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
  if (!by) return false;
  const body = event.currentTarget.closest('table');
  const stops = [...(body?.querySelectorAll<HTMLElement>('[data-stop]') ?? [])];
  stops[stops.indexOf(event.currentTarget) + by]?.focus();
  event.preventDefault();
  return true;
}
