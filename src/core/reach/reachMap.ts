import { contours } from 'd3-contour';
import type { Airframe } from '../airframe/airframe.ts';
import { groundAbout } from '../flight/terrain.ts';
import { localFences } from '../plan/fences.ts';
import type { Fence } from '../plan/plan.ts';
import type { Values } from '../settings/catalogue.ts';
import type { Site } from '../site/site.ts';
import { type DraftedReturn, draftedReturn } from './drafted.ts';
import { HomeMarch, type Limit, limits, type ReachCircumstances } from './homeMarch.ts';

/** Half the side of the square about home that is looked at, m, and its cells from coarse to fine, m. */
export const REACH_M = 6000;
export const REACH_CELLS_M = [400, 200, 100] as const;

/** For every place of a square about home: whether the return as drafted works from there, by how much, and what it fails by. */
export interface ReachMap {
  readonly cellM: number;
  /** Cells to a side, odd: home is the middle one. */
  readonly side: number;
  /** Row 0 is the northernmost. 0 and more comes home; what it is a share of goes by the limit. */
  readonly margins: Float32Array;
  /** Index into `limits`. */
  readonly limits: Uint8Array;
  /** Share of the cells that it comes home from. */
  readonly share: number;
}

/** All that a reach rests on. */
export interface ReachInput {
  readonly airframe: Airframe;
  readonly values: Values;
  readonly site: Pick<Site, 'terrain' | 'home'>;
  readonly circumstances: ReachCircumstances;
  /** That its board keeps. */
  readonly fences?: readonly Fence[] | undefined;
}

/** The march of a craft's drafted return about a site's home. @throws RangeError where the board has no return */
export function homeMarch(input: ReachInput, plan = planOf(input)): HomeMarch {
  const { site, airframe, circumstances } = input;
  return new HomeMarch(
    airframe,
    plan,
    groundAbout(site.terrain, site.home),
    site.terrain.known,
    circumstances,
    localFences(input.fences ?? [], site.home),
  );
}

export function planOf({
  airframe,
  values,
  site,
}: Pick<ReachInput, 'airframe' | 'values' | 'site'>): DraftedReturn {
  return draftedReturn(airframe, values, site.home.heightM);
}

/** Worked out row by row, so that whoever has it done may stop in between. */
export function* reachRows(march: HomeMarch, cellM: number, reachM = REACH_M): Generator<number, ReachMap> {
  const half = Math.floor(reachM / cellM);
  const side = 2 * half + 1;
  const margins = new Float32Array(side * side);
  const kinds = new Uint8Array(side * side);
  let good = 0;
  for (let row = 0; row < side; row++) {
    for (let column = 0; column < side; column++) {
      const at = row * side + column;
      const margin = march.from((half - row) * cellM, (column - half) * cellM);
      margins[at] = margin;
      kinds[at] = limits.indexOf(march.limit);
      if (margin >= 0) good++;
    }
    yield row;
  }
  return { cellM, side, margins, limits: kinds, share: good / (side * side) };
}

/** In one go. */
export function reachMap(march: HomeMarch, cellM: number, reachM = REACH_M): ReachMap {
  const rows = reachRows(march, cellM, reachM);
  for (;;) {
    const next = rows.next();
    if (next.done) return next.value;
  }
}

/** A piece of the border that one reason makes: metres east and north of home. */
export interface BorderPiece {
  readonly limit: Limit;
  readonly points: readonly (readonly [eastM: number, northM: number])[];
  /** Where it does not come home from, seen along the points: 1 to their right, -1 to their left. */
  readonly badSide: 1 | -1;
}

/** Margins are drawn within these, so that the line lies where they cross nought. */
const CLAMP = 0.5;

/** Rings around all that it comes home from: metres east and north of home, closed. The edge of the square is one as well. */
export function borderRings(map: ReachMap): [number, number][][] {
  const { side, cellM, margins } = map;
  const half = (side - 1) / 2;
  const values = Array.from(margins, (m) => Math.min(CLAMP, Math.max(-CLAMP, m)));
  const [area] = contours().size([side, side]).thresholds([0])(values);
  return (area?.coordinates ?? []).flatMap((poly) =>
    poly.map((ring) =>
      // A value lies at the middle of its cell, half a unit in.
      ring.map(([x, y]) => [(x! - 0.5 - half) * cellM, (half - (y! - 0.5)) * cellM] as [number, number]),
    ),
  );
}

/** The border in pieces by what it fails for beyond. The edge of the square is left out: nobody looked beyond it. */
export function borderPieces(map: ReachMap): BorderPiece[] {
  const { side, cellM } = map;
  const edge = ((side - 1) / 2) * cellM - 0.01;
  const out: BorderPiece[] = [];
  for (const ring of borderRings(map)) {
    let points: [number, number][] = [];
    let limit: Limit | null = null;
    const end = () => {
      if (limit && points.length > 1) out.push({ limit, points, badSide: badSideOf(map, points) });
      points = [];
      limit = null;
    };
    for (const p of ring) {
      if (Math.abs(p[0]) >= edge || Math.abs(p[1]) >= edge) {
        end();
        continue;
      }
      const here = limitBeside(map, p[0], p[1]);
      if (limit !== null && here !== limit) {
        points.push(p);
        end();
      }
      limit = here;
      points.push(p);
    }
    end();
  }
  return out;
}

/** So far to one side of the middle of a line, m east and north of home. @param metres to the right of the way it is drawn; to the left below zero */
function besideMiddle(
  points: readonly (readonly [number, number])[],
  metres: number,
): readonly [number, number] {
  const i = Math.max(1, Math.floor(points.length / 2));
  const [a, b] = [points[i - 1]!, points[i]!];
  const per = metres / Math.max(1e-6, Math.hypot(b[0] - a[0], b[1] - a[1]));
  return [(a[0] + b[0]) / 2 + (b[1] - a[1]) * per, (a[1] + b[1]) / 2 - (b[0] - a[0]) * per];
}

/** The worse of the places beside the middle of a line. */
function badSideOf(map: ReachMap, points: readonly (readonly [number, number])[]): 1 | -1 {
  const beside = (side: 1 | -1) => marginAt(map, ...besideMiddle(points, side * map.cellM));
  return beside(1) < beside(-1) ? 1 : -1;
}

/** A place so far beyond the middle of a piece of the border, where it does not come home from, m east and north of home. */
export const beyondPiece = (piece: BorderPiece, metres: number): readonly [number, number] =>
  besideMiddle(piece.points, piece.badSide * metres);

/** Margin of the cell at a place, metres east and north of home. */
export function marginAt(map: ReachMap, eastM: number, northM: number): number {
  const half = (map.side - 1) / 2;
  const column = Math.min(map.side - 1, Math.max(0, Math.round(eastM / map.cellM + half)));
  const row = Math.min(map.side - 1, Math.max(0, Math.round(half - northM / map.cellM)));
  return map.margins[row * map.side + column]!;
}

/** What the worst of the cells about a place fails by. */
function limitBeside(map: ReachMap, eastM: number, northM: number): Limit {
  const { side, cellM, margins } = map;
  const half = (side - 1) / 2;
  const column = Math.min(side - 2, Math.max(0, Math.floor(eastM / cellM + half)));
  const row = Math.min(side - 2, Math.max(0, Math.floor(half - northM / cellM)));
  let worst = row * side + column;
  for (const at of [worst, worst + 1, worst + side, worst + side + 1])
    if (margins[at]! < margins[worst]!) worst = at;
  return limits[map.limits[worst]!]!;
}
