import { portKey, portUses, usualPortUses } from '#core/board/portUses.ts';
import { PORT_COUNT } from './counts.ts';
import type { EntryBook } from './entryBook.ts';

/** What each serial port is for. */
export function addPortsSettings(book: EntryBook): void {
  book.group = 'Ports';
  const uses = Object.entries(portUses).map(
    ([use, name]) => [use, use === 'link' ? 'the link to Wanderweg' : name] as const,
  );
  for (let n = 1; n <= PORT_COUNT; n++)
    book.choice(
      portKey(n),
      `Port ${n} is for`,
      uses,
      usualPortUses[n - 1] ?? 'free',
      'What hangs on this serial port. The port that carries the link cannot be given away.',
      'restart',
    );
}
