import { actuatorNames, isRotorKind, kindNames } from './actuators.ts';
import type { Airframe } from './airframe.ts';

/** How many motors each kind of rotorcraft hovers on. */
const ROTORS: Readonly<Record<string, number>> = { 'quad-x': 4, 'quad-plus': 4, hex: 6, y6: 6, tri: 3 };

/**
 * What of a craft does not fit together although each number of it is right by itself: parts of the same name, parts that
 * hang on others which are not there, a kind without what makes it that kind. Everything that draws, computes or flies a
 * craft takes it that there is none.
 * @returns sentences, empty for a craft that can be drawn
 */
export function inconsistencies(a: Airframe): string[] {
  const wrong: string[] = [];
  for (const [what, parts] of [
    ['lifting surfaces', a.planforms],
    ['control surfaces', a.surfaces],
    ['motors', a.motors],
    ['weights', a.weights ?? []],
  ] as const) {
    const seen = new Set<string>();
    for (const { id } of parts) {
      if (seen.has(id)) wrong.push(`Two ${what} have the name ${id}.`);
      seen.add(id);
    }
  }
  const plans = new Set<string>(a.planforms.map((p) => p.id));
  if (isRotorKind(a.kind)) {
    const many = ROTORS[a.kind]!;
    if (a.motors.length !== many)
      wrong.push(`A ${kindNames[a.kind]} has ${many} motors; this one has ${a.motors.length}.`);
  } else {
    if (!plans.has('wing')) wrong.push(`A craft of the kind ${kindNames[a.kind]} needs a wing; it has none.`);
    if (a.motors.length === 0) wrong.push('It has no motor.');
  }
  for (const s of a.surfaces) {
    const name = actuatorNames[s.id];
    if (s.on === 'motor') {
      if (!a.motors.some((m) => m.tiltedBy === s.id)) wrong.push(`The ${name} tilts no motor.`);
    } else {
      if (!plans.has(s.on)) wrong.push(`The ${name} hangs on a ${s.on} that is not there.`);
      if (s.from >= s.to) wrong.push(`The ${name} ends before it begins.`);
    }
  }
  for (const m of a.motors) {
    if (m.tiltedBy && !a.surfaces.some((s) => s.id === m.tiltedBy && s.on === 'motor'))
      wrong.push(`The ${actuatorNames[m.id]} is tilted by a ${actuatorNames[m.tiltedBy]} that is not there.`);
  }
  const carried = a.fittings ?? [];
  if (new Set(carried).size < carried.length) wrong.push('It carries one thing twice.');
  if (a.weights && !a.weights.some((w) => w.massKg > 0)) wrong.push('Its weights weigh nothing.');
  return wrong;
}
