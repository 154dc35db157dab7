import { clamp } from '../math/scalar.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingOf, settingsOf } from '../settings/typed.ts';

/** By what gains become less. */
export type GainBy = 'speed' | 'throttle' | 'nothing';

/** How the gains of the rate loops go with speed or throttle, and with the battery. */
export interface GainLaw {
  readonly by: GainBy;
  /** Where they hold as written: m/s, or share of the throttle. */
  readonly reference: number;
  /** P, I and D go with reference over speed or throttle to this power. */
  readonly power: number;
  /** Feed-forward of wings does to this one; what motors turn has no steady rate, and its feed-forward goes as P does. */
  readonly forwardPower: number;
  /** Below and beyond these shares of the reference they change no further. */
  readonly lowest: number;
  readonly highest: number;
  /** Speed follows the throttle late: its time constant, s. */
  readonly lagS: number;
  /** Of what motors turn: gains go with `volts` over the voltage of the supply to this power. */
  readonly voltPower: number;
  readonly volts: number;
}

/** By how much gains and feed-forward are multiplied. */
export interface GainTimes {
  gain: number;
  forward: number;
}

/** What they go by now. Numbers given to a large call would be put on the heap; these are set before it. */
export interface GainsNow extends GainTimes {
  /** Speed, m/s, or throttle, 0 to 1, whichever the law goes by. */
  at: number;
  /** Of the battery. */
  supplyV: number;
}

/** Before 3.2 wings went by the square of the speed between these shares of the reference, and rotors by nothing. */
const SPEED_POWER = 2;
const SPEED_FORWARD_POWER = 1;
const SPEED_LOWEST = 0.6;
const SPEED_HIGHEST = 2;
/** Less than this nobody measures of a battery, V: its gains then stay as written. */
const LEAST_V = 1;

/** As a board is set. @param rotors no airspeed: gains go by throttle or by nothing */
export function gainLawOf(values: Values, rotors: boolean): GainLaw {
  const s = settingsOf(values);
  const set = settingOf(values, 'rate.by') ?? 'speed';
  const by: GainBy = rotors && set === 'speed' ? 'nothing' : set;
  const throttle = () => s.number(rotors ? 'hover.throttle' : 'motor.cruise');
  return {
    by,
    reference: by === 'throttle' ? throttle() : s.number('rate.reference'),
    power: settingOf(values, 'rate.power') ?? SPEED_POWER,
    forwardPower: settingOf(values, 'rate.forwardPower') ?? SPEED_FORWARD_POWER,
    lowest: settingOf(values, 'rate.lowest') ?? SPEED_LOWEST,
    highest: settingOf(values, 'rate.highest') ?? SPEED_HIGHEST,
    lagS: settingOf(values, 'rate.throttleLag') ?? 0,
    voltPower: settingOf(values, 'rate.voltPower') ?? 0,
    volts: (settingOf(values, 'rate.volts') ?? 0) * s.number('battery.cells'),
  };
}

/** The reference over a speed or throttle, within the law's ends. */
export const ratioAt = ({ reference, lowest, highest }: GainLaw, at: number): number =>
  reference / clamp(at, lowest * reference, highest * reference);

const raised = (ratio: number, power: number): number => {
  if (power === 2) return ratio * ratio;
  return power === 1 ? ratio : ratio ** power;
};

/**
 * What gains are multiplied by: the moment of a surface grows with V^2, the steady rate that it comes to with V (Etkin and Reid 1996, 5.11).
 * @param out `gain` and `forward` are written to: nothing is allocated
 */
export function gainTimes(law: GainLaw, rotors: boolean, out: GainsNow): GainsNow {
  const { at, supplyV } = out;
  out.gain = 1;
  out.forward = 1;
  if (law.by !== 'nothing') {
    const ratio = ratioAt(law, at);
    out.gain = raised(ratio, law.power);
    if (rotors) out.forward = out.gain;
    else out.forward = raised(ratio, law.forwardPower);
  }
  if (rotors && law.voltPower > 0 && law.volts > 0 && supplyV > LEAST_V) {
    const by = raised(law.volts / clamp(supplyV, 0.5 * law.volts, 1.5 * law.volts), law.voltPower);
    out.gain *= by;
    out.forward *= by;
  }
  return out;
}
