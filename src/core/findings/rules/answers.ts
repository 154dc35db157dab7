import { GAIN_LEAST, MARGIN_LEAST_DEG } from '../../answers/answers.ts';
import { type Ringing, ringingOf } from '../../answers/ringing.ts';
import { inSet } from '../../control/controlSet.ts';
import type { Axis } from '../../mixer/authority.ts';
import type { Edits } from '../../settings/draft.ts';
import type { SettingKey } from '../../settings/typed.ts';
import { formatQuantity } from '../../units/units.ts';
import { finding, need, type Rule } from '../rule.ts';

/** Gains that the craft's own model says would ring. */

const names: Readonly<Record<Axis, string>> = { roll: 'Roll', pitch: 'Pitch', yaw: 'Yaw' };

/** P, I and D of an axis in a control set. */
const gainKeys = ({ axis, set }: Ringing): readonly SettingKey[] =>
  ['p', 'i', 'd'].map((part) => inSet(`rate.${axis}.${part}`, set));

const STEP = 1e-4;

const rings: Rule = ({ airframe, values, description, units = 'metric' }) => {
  need(values, 'rate.roll.p', 'rate.roll.i', 'rate.roll.d', 'rate.dCutoff', 'gyro.cutoff', 'gyro.notch');
  return ringingOf(airframe, values, description?.pads ?? []).map((r) => {
    const keys = gainKeys(r);
    const speed = formatQuantity(r.speedMps, 'm/s', units, 0);
    const where = {
      hover: 'in a hover',
      full: 'with nearly all throttle',
      level: `at ${speed}`,
      dive: `in a dive to ${speed}, its throttle shut`,
    }[r.in];
    const inSet = r.set === 1 ? '' : ` with control set ${r.set}`;
    const ringing = r.state === 'rings';
    const edits: Edits = Object.fromEntries(
      r.times === null
        ? []
        : keys.map((k) => [k, Math.floor(((values[k] as number) * r.times!) / STEP) * STEP]),
    );
    return finding(
      `${ringing ? 'loop-rings' : 'little-margin'}.${r.axis}${r.set === 1 ? '' : `.${r.set}`}`,
      ringing ? 'blocks' : 'caution',
      'answers',
      ringing
        ? `${names[r.axis]} would ring ${where}${inSet}`
        : `${names[r.axis]} has little left ${where}${inSet}`,
      ringing
        ? `By the craft's own model its loop swings by itself ${r.hz.toFixed(1)} times a second there, ever wider.`
        : `By the craft's own model ${
            r.degrees < MARGIN_LEAST_DEG
              ? `${Math.round(r.degrees)}° of phase are left until it rings; ${MARGIN_LEAST_DEG}° are wanted`
              : `its gains bear no more than ${r.gainLeft.toFixed(1)} times what they are until it rings; ${GAIN_LEAST} times are wanted`
          }. A slower servo or a lighter craft uses that up.`,
      keys,
      r.times === null
        ? undefined
        : { label: `Take P, I and D down to ${Math.round(100 * r.times)} %`, edits },
    );
  });
};

export const answersRules: readonly Rule[] = [rings];
