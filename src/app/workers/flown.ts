import type { Airframe } from '#core/airframe/airframe.ts';
import { interned } from '#core/airframe/interned.ts';
import { type Flown, groundUnder, MOST_FLOWN_BYTES } from '#core/flown/flown.ts';
import { type OpenedFlown, openFlown } from '#core/flown/openFlown.ts';
import { type FlightFigures, figuresOf } from '#core/flown/summary.ts';
import { type Surprise, surprisesOf } from '#core/flown/surprises.ts';
import type { Place } from '#core/navigation/earth.ts';
import type { FlightPlan } from '#core/plan/plan.ts';
import type { Site } from '#core/site/site.ts';
import type { UnitSystem } from '#core/units/units.ts';

/** Opens a file of a flight. @param about what a log's metres are counted from where it does not say so */
export async function openFlownFile(file: File, about: Place): Promise<OpenedFlown> {
  if (file.size > MOST_FLOWN_BYTES)
    return {
      ok: false,
      why: `${file.name} has ${(file.size / 1e6).toFixed(0)} MB; at most ${MOST_FLOWN_BYTES / 1e6} MB are read. Nothing was taken.`,
    };
  return openFlown(new Uint8Array(await file.arrayBuffer()), file.name, about);
}

/** What a flight is judged against. */
export interface FlownBy {
  readonly airframe: Airframe;
  readonly plan: FlightPlan | undefined;
  readonly site: Site;
  readonly units: UnitSystem;
}

/** A flight with what follows from it. */
export interface LookedAt {
  readonly flown: Flown;
  readonly startMs: number | null;
  /** Ground under each moment, m above the sea; NaN where nobody knows it. */
  readonly groundM: Float64Array;
  readonly surprises: readonly Surprise[];
  readonly figures: FlightFigures;
}

/** Opens a flight and looks it over. */
export function lookAt(
  bytes: Uint8Array,
  name: string,
  { airframe, plan, site, units }: FlownBy,
): LookedAt | { readonly refused: string } {
  const opened = openFlown(bytes, name, site.home);
  if (!opened.ok) return { refused: opened.why };
  const { flown, startMs } = opened;
  const groundM = groundUnder(flown, site);
  const surprises = surprisesOf(flown, { airframe: interned(airframe), plan, groundM, units });
  return { flown, startMs, groundM, surprises, figures: figuresOf(flown) };
}

/** Its columns, to be handed over rather than copied. */
export const buffersOf = ({ flown, groundM }: LookedAt): ArrayBuffer[] =>
  [flown.seconds, flown.mode, groundM, ...Object.values(flown.told)].map((c) => c.buffer as ArrayBuffer);
