import { causeWords, type Snapshot } from '#core/formats/history.ts';
import type { Side } from '../store/historySlice.ts';

/** What a side is called. */
export function sideName(side: Side, snapshots: readonly Snapshot[]): string {
  if (side === 'board') return 'the board as last read';
  if (side === 'draft') return 'the board with the waiting edits';
  const s = snapshots.find((x) => x.id === side);
  return s ? `${when(s.lastAt)}, ${causeWords[s.cause]}${s.setup ? `, ${s.setup}` : ''}` : 'nothing';
}

const clock = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
});

/** "23 Nov 2026, 19:04" in the person's own time. */
export function when(at: string): string {
  return clock.format(new Date(at));
}
