import { arrowAngle, symbolOf, symbols } from '#core/overlay/glyphs.ts';

const compass = ['up', 'up right', 'right', 'down right', 'down', 'down left', 'left', 'up left'];

/** What an item says, for those who hear it: arrows by words, other signs by what they are worth in text. */
export function readable(lines: readonly string[]): string {
  if (lines.length > 1) return 'a drawing';
  return Array.from(lines[0] ?? '', (letter) => {
    const code = letter.charCodeAt(0);
    const symbol = symbolOf(code);
    if (symbol === null) return letter;
    if (symbol === 'arrow') return `${compass[Math.round(arrowAngle(code) / (Math.PI / 4)) % 8]} `;
    if (symbol === 'degree') return '°';
    if (symbol === 'aim') return symbols.aim.instead;
    return '';
  })
    .join('')
    .trim();
}
