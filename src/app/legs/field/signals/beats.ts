import type { Rhythm } from '#core/signals/signals.ts';

export const SHOWN_MS = 3000;

/** From and how wide each stretch that is on, along three seconds drawn so wide. */
export function beats(rhythm: Rhythm, wide: number): (readonly [number, number])[] {
  // One that never rests is a single stretch.
  if (rhythm.length === 1) return [[0, wide]];
  const out: (readonly [number, number])[] = [];
  const k = wide / SHOWN_MS;
  for (let at = 0, i = 0; at < SHOWN_MS; i++) {
    const ms = rhythm[i % rhythm.length]!;
    if (i % 2 === 0) out.push([at * k, Math.min(ms, SHOWN_MS - at) * k]);
    at += ms;
  }
  return out;
}
