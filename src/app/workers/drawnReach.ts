import { interned } from '#core/airframe/interned.ts';
import type { DraftedReturn } from '#core/reach/drafted.ts';
import type { HomeMarch, WayPoint } from '#core/reach/homeMarch.ts';
import { type ReachPlace, reachPlace } from '#core/reach/place.ts';
import {
  type BorderPiece,
  beyondPiece,
  borderPieces,
  borderRings,
  homeMarch,
  planOf,
  type ReachInput,
  type ReachMap,
} from '#core/reach/reachMap.ts';

/** A map of the reach as it is drawn: its border, and what is short beyond the middle of each piece. */
export interface DrawnReach {
  readonly cellM: number;
  readonly share: number;
  /** Rings about all that it comes home from. */
  readonly rings: readonly (readonly (readonly [number, number])[])[];
  readonly pieces: readonly (BorderPiece & { readonly beyond: ReachPlace })[];
}

export interface ReachWay {
  readonly place: ReachPlace;
  readonly points: readonly WayPoint[];
}

/** What the craft needs for its drafted return is worked out once for all winds, heights and charges. */
let planned: { readonly key: string; readonly plan: DraftedReturn } | null = null;

/** A question about the reach with a craft that is known again. */
export const knownInput = (asked: ReachInput): ReachInput => ({
  ...asked,
  airframe: interned(asked.airframe),
});

export function marchOf(asked: ReachInput): HomeMarch {
  const known = knownInput(asked);
  const key = JSON.stringify([known.airframe, known.values, known.site.home]);
  if (planned?.key !== key) planned = { key, plan: planOf(known) };
  return homeMarch(known, planned.plan);
}

/** So far beyond the border it is asked what is short, m. */
const BEYOND_M = 150;

export function drawReach(map: ReachMap, march: HomeMarch): DrawnReach {
  const pieces = borderPieces(map).map((piece) => ({
    ...piece,
    beyond: reachPlace(march, ...beyondPiece(piece, BEYOND_M)),
  }));
  return { cellM: map.cellM, share: map.share, rings: borderRings(map), pieces };
}
