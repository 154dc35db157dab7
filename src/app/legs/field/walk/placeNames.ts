import type { WalkPlace } from '#core/field/walk.ts';

export const placeNames: Readonly<Record<WalkPlace, string>> = {
  bench: 'At home',
  strip: 'At the strip',
  throw: 'Before it leaves the hand',
  landed: 'Once it has landed',
};
