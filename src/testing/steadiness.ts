import type { Airframe } from '#core/airframe/airframe.ts';
import { pitchOf, rollOf } from '#core/math/quaternion.ts';
import { DEG } from '#core/math/scalar.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { aloft, prepared, run } from './aloft.ts';

/** How a craft answers a step of bank in Level, and whether it comes to rest. */
export interface Steadiness {
  /** Beyond the bank asked for, share of the step. */
  readonly overshoot: number;
  /** Root mean square of the roll and pitch rates long after the step, rad/s. */
  readonly unrest: number;
  /** Reached of the step by its end, share. */
  readonly reached: number;
  readonly finite: boolean;
  readonly upset: boolean;
}

const STEP = 20 * DEG;
const HOLD_S = 5;

/** Flies a craft on its starting values, with its rate gains scaled, through a step of bank and back, in still air. */
export function steadiness(airframe: Airframe, gain = 1, seed = 5): Steadiness {
  const f = aloft(airframe, { heightM: 300, seed, change: scaled(airframe, gain) });
  f.radio.attitude = 1;
  run(f, 6);
  const c = f.pfad.controller;
  const bank = c.config.sets[c.config.setActive]!.bank;
  let most = -1;
  let finite = true;
  let upset = false;
  let unrest = 0;
  let n = 0;
  const from = rollOf(f.plant.attitude);
  f.radio.roll = STEP / bank;
  let k = 0;
  run(f, HOLD_S, () => {
    k++;
    most = Math.max(most, rollOf(f.plant.attitude));
    const w = f.plant.rates;
    finite &&= Number.isFinite(w[0]! + w[1]! + w[2]!);
    upset ||= Math.abs(rollOf(f.plant.attitude)) > 75 * DEG || Math.abs(pitchOf(f.plant.attitude)) > 60 * DEG;
    if (k > 3000) {
      unrest += w[0]! ** 2 + w[1]! ** 2;
      n++;
    }
  });
  const end = rollOf(f.plant.attitude);
  f.radio.roll = 0;
  k = 0;
  run(f, HOLD_S, () => {
    k++;
    const w = f.plant.rates;
    finite &&= Number.isFinite(w[0]! + w[1]! + w[2]!);
    if (k > 3000) {
      unrest += w[0]! ** 2 + w[1]! ** 2;
      n++;
    }
  });
  return {
    overshoot: (most - STEP) / STEP,
    unrest: Math.sqrt(unrest / n),
    reached: (end - Math.min(from, 0)) / STEP,
    finite,
    upset,
  };
}

function scaled(airframe: Airframe, gain: number): Values {
  if (gain === 1) return {};
  const values = prepared(airframe);
  return Object.fromEntries(
    (['roll', 'pitch', 'yaw'] as const).flatMap((axis) =>
      (['p', 'i', 'd'] as const).map((part) => {
        const key = `rate.${axis}.${part}`;
        const most = { p: 2, i: 4, d: 0.2 }[part];
        return [key, Math.min(most, gain * Number(values[key]))];
      }),
    ),
  );
}
