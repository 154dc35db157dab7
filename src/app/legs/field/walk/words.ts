import type { WalkLine } from '#core/field/walk.ts';
import { when } from '../../../history/words.ts';

/** What is known of a line: what was seen and when, and why that no longer holds. */
export function saidOf({ state, seen, at, why, look }: WalkLine): string {
  const was = seen ? `${seen}${at ? `, ${when(at)}` : ''}` : '';
  if (state === 'proven') return was;
  if (why === null) return look;
  return was ? `${why}; before that: ${was}` : why;
}
