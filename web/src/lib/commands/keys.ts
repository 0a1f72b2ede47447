const NAMES: Record<string, string> = {
  ' ': 'Space',
  ArrowUp: '↑',
  ArrowDown: '↓',
  ArrowLeft: '←',
  ArrowRight: '→',
  Delete: 'Del',
  Escape: 'Esc',
};

/**
 * The name that commands give to a key: `m`, `Ctrl D`, `Alt ↑`. A sign that is typed is itself, whatever is held to
 * type it.
 */
export function keyOf(event: KeyboardEvent): string {
  const { key, altKey, shiftKey } = event;
  const command = event.ctrlKey || event.metaKey;
  const isTyped = key.length === 1;
  const letter = command ? key.toUpperCase() : key.toLowerCase();
  const held = [
    command ? 'Ctrl' : '',
    altKey ? 'Alt' : '',
    shiftKey && (command || !isTyped) ? 'Shift' : '',
  ];
  return [...held, NAMES[key] ?? (isTyped ? letter : key)].filter(Boolean).join(' ');
}

/** Whether a key goes into a field rather than to the page. */
export const isTyping = ({ target }: KeyboardEvent): boolean =>
  target instanceof Element && target.closest('input, textarea, select') !== null;
