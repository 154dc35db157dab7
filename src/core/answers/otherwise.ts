import { type Airframe, isRotorcraft, planformOf } from '../airframe/airframe.ts';
import { meanChord } from '../airframe/performance.ts';
import type { BoardDescription } from '../board/description.ts';
import { openCircuitV } from '../flight/battery.ts';
import type { Axis } from '../mixer/authority.ts';
import type { Values } from '../settings/catalogue.ts';
import { type AxisAnswer, axisAnswer } from './answers.ts';

/** The same settings on a craft that is not quite the one described. */
export interface Otherwise {
  readonly id: 'heavier' | 'lighter' | 'nose-heavy' | 'tail-heavy' | 'drained';
  readonly airframe: Airframe;
}

const MORE = 1.2;
/** Of the mean chord. */
const MOVED_CHORDS = 0.04;
/** What charge a craft is described with half way, and where one lands at the latest. */
const [HALF_WAY, DRAINED] = [0.55, 0.1];

function ofMass(airframe: Airframe, times: number): Airframe {
  const { weights } = airframe;
  return {
    ...airframe,
    massKg: times * airframe.massKg,
    ...(weights ? { weights: weights.map((w) => ({ ...w, massKg: times * w.massKg })) } : {}),
  };
}

function ofBalance(airframe: Airframe, moved: number): Airframe | null {
  const wing = planformOf(airframe, 'wing');
  return wing ? { ...airframe, cgAftM: airframe.cgAftM + moved * meanChord(wing).chordM } : null;
}

/** A supply that has fallen: motors know of their battery by its voltage alone. */
function drained(airframe: Airframe): Airframe {
  const { battery } = airframe;
  const share = openCircuitV(battery.chemistry, DRAINED) / openCircuitV(battery.chemistry, HALF_WAY);
  return {
    ...airframe,
    battery: { ...battery, cells: battery.cells * share, capacityMah: battery.capacityMah / share },
  };
}

/** What a craft may be instead: its load, its balance, and of rotors a battery that is nearly empty. */
export function otherwise(airframe: Airframe): readonly Otherwise[] {
  const forward = ofBalance(airframe, -MOVED_CHORDS);
  const aft = ofBalance(airframe, MOVED_CHORDS);
  return [
    { id: 'heavier', airframe: ofMass(airframe, MORE) },
    { id: 'lighter', airframe: ofMass(airframe, 1 / MORE) },
    ...(forward ? [{ id: 'nose-heavy' as const, airframe: forward }] : []),
    ...(aft ? [{ id: 'tail-heavy' as const, airframe: aft }] : []),
    ...(isRotorcraft(airframe) ? [{ id: 'drained' as const, airframe: drained(airframe) }] : []),
  ];
}

/** How each of them answers; null where nothing turns it so. @param speedMps through the air, of wings */
export const answersOtherwise = (
  airframe: Airframe,
  values: Values,
  pads: BoardDescription['pads'],
  axis: Axis,
  speedMps: number,
): readonly { readonly id: Otherwise['id']; readonly answer: AxisAnswer | null }[] =>
  otherwise(airframe).map(({ id, airframe: other }) => ({
    id,
    answer: axisAnswer(other, values, pads, axis, speedMps),
  }));
