import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import { gainTimesOf, levelThrottle } from '#core/answers/axisModel.ts';
import { extremesOf, flightsBetween, gainsWanted, referenceFlight } from '#core/answers/gainSchedule.ts';
import type { BoardDescription } from '#core/board/description.ts';
import { type GainLaw, gainLawOf } from '#core/control/gainLaw.ts';
import type { Axis } from '#core/mixer/authority.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { LawPoint } from './LawDrawing.tsx';

const POINTS = 17;

/** The law as it is drawn: along speed for wings, along throttle for rotors. */
export interface DrawnLaw {
  readonly law: GainLaw;
  readonly points: readonly LawPoint[];
  /** Along the drawing. */
  readonly reference: number;
  readonly lowest: number | null;
  readonly highest: number | null;
  /** Which share of the reference a place along the drawing is. */
  readonly shareAt: (x: number) => number;
}

export function drawnLaw(
  airframe: Airframe,
  values: Values,
  pads: BoardDescription['pads'],
  axis: Axis,
): DrawnLaw {
  const rotors = isRotorcraft(airframe);
  const law = gainLawOf(values, rotors);
  const reference = referenceFlight(airframe, values);
  const flights = flightsBetween(airframe, extremesOf(airframe, values), POINTS);
  const wanted = gainsWanted(airframe, values, pads, axis, reference, flights);
  const points = flights.map(({ speedMps, flown }, k): LawPoint => {
    const gain = gainTimesOf(airframe, values, speedMps, flown).gain;
    return {
      x: rotors ? flown.throttle! : speedMps,
      wanted: wanted[k]!,
      gain,
      shut: rotors ? gain : gainTimesOf(airframe, values, speedMps, { throttle: 0 }).gain,
    };
  });
  /** What the law goes by at a place along the drawing. */
  const goesBy = (x: number) => (rotors || law.by === 'speed' ? x : levelThrottle(airframe, x));
  const along = (share: number) =>
    placeOf(
      points.map((p) => p.x),
      goesBy,
      share * law.reference,
    );
  return {
    law,
    points,
    reference: rotors ? levelThrottle(airframe, 0) : reference.speedMps,
    lowest: law.by === 'nothing' ? null : along(law.lowest),
    highest: law.by === 'nothing' ? null : along(law.highest),
    shareAt: (x) => goesBy(x) / law.reference,
  };
}

/** Where along some places something that grows has a value; the nearer end where it has it nowhere. */
function placeOf(xs: readonly number[], of: (x: number) => number, value: number): number {
  for (let k = 1; k < xs.length; k++) {
    const [a, b] = [of(xs[k - 1]!), of(xs[k]!)];
    if (value <= a && k === 1) return xs[0]!;
    if (a < value && value <= b) return xs[k - 1]! + ((xs[k]! - xs[k - 1]!) * (value - a)) / (b - a);
  }
  return xs.at(-1)!;
}
