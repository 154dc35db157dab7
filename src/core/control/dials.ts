import { clamp } from '../math/scalar.ts';
import type { Values } from '../settings/catalogue.ts';
import { type SettingKey, settingOf } from '../settings/typed.ts';
import { inSet } from './controlSet.ts';

/** So many settings can be put on dials or switches at once. */
export const DIALS = 3;

const axes = ['roll', 'pitch', 'yaw'] as const;
const gainsOfAxis = (axis: (typeof axes)[number]) => ['p', 'i', 'd'].map((part) => `rate.${axis}.${part}`);

/** What a dial may move: one setting, or gains that keep their ratios. Keys of a control set are those of the first. */
const targets: Readonly<Record<string, { readonly name: string; readonly keys: readonly string[] }>> = {
  roll: { name: 'P, I and D of roll', keys: gainsOfAxis('roll') },
  pitch: { name: 'P, I and D of pitch', keys: gainsOfAxis('pitch') },
  'roll-pitch': {
    name: 'P, I and D of roll and pitch',
    keys: [...gainsOfAxis('roll'), ...gainsOfAxis('pitch')],
  },
  yaw: { name: 'P, I and D of yaw', keys: gainsOfAxis('yaw') },
  ...Object.fromEntries(
    axes.flatMap((axis) =>
      (
        [
          ['p', 'P'],
          ['i', 'I'],
          ['d', 'D'],
          ['forward', 'feed-forward'],
        ] as const
      ).map(([part, name]) => {
        const key = `rate.${axis}.${part}`;
        return [key, { name: `${axis[0]!.toUpperCase()}${axis.slice(1)} ${name}`, keys: [key] }];
      }),
    ),
  ),
  ...Object.fromEntries(
    (
      [
        ['level.time', 'Levelling time'],
        ['nav.heightTime', 'Height time'],
        ['nav.speedTime', 'Speed time'],
        ['nav.period', 'Path period'],
        ['hover.velocityP', 'Velocity P'],
        ['hover.positionP', 'Position P'],
        ['hover.climbP', 'Climb P'],
        ['hover.heightP', 'Height P'],
      ] as const
    ).map(([key, name]) => [key, { name, keys: [key] }]),
  ),
};

/** What a dial may be put on, with its name. */
export const dialTargets: readonly (readonly [id: string, name: string])[] = Object.entries(targets).map(
  ([id, { name }]) => [id, name],
);

/** How one dial is set. */
export interface DialSettings {
  /** 1 to `DIALS` */
  readonly dial: number;
  /** 0 for none. */
  readonly channel: number;
  /** Of `dialTargets`, or nothing. */
  readonly moves: string;
  /** Goes with the dial's place, or by steps at each flick of a switch that is let go of in its middle. */
  readonly by: 'dial' | 'switch';
  /** No farther than so many times what is written, and no less than one over it. */
  readonly span: number;
  /** Of a switch: share of what it is now. */
  readonly step: number;
}

/** The key of a dial's setting. */
export const dialKey = (dial: number, part: 'channel' | 'moves' | 'by' | 'span' | 'step'): SettingKey =>
  `dial.${dial}.${part}` as SettingKey;

/** Dials that move something, as a board is set; none with firmware before 3.2. */
export function dialsOf(values: Values): readonly DialSettings[] {
  return Array.from({ length: DIALS }, (_, i): DialSettings => {
    const get = (part: 'channel' | 'moves' | 'by' | 'span' | 'step') =>
      settingOf(values, dialKey(i + 1, part));
    return {
      dial: i + 1,
      channel: Number(get('channel') ?? 0),
      moves: String(get('moves') ?? 'nothing'),
      by: get('by') === 'switch' ? 'switch' : 'dial',
      span: Number(get('span') ?? 1),
      step: Number(get('step') ?? 0),
    };
  }).filter((d) => d.channel > 0 && targets[d.moves] !== undefined);
}

/** The settings that it moves. @param set control set, 1 to 3 */
export const keysMoved = ({ moves }: DialSettings, set: number): readonly SettingKey[] =>
  (targets[moves]?.keys ?? []).map(
    (key) => (/^(rate|level)\./.test(key) ? inSet(key, set) : key) as SettingKey,
  );

export const nameOfTarget = (moves: string): string => targets[moves]?.name ?? moves;

/** Pulses of a dial's ends and middle, us. */
const MIDDLE_US = 1500;
const HALF_US = 500;

/** How many times what is written a dial gives where it stands: its middle leaves it, its ends are `span` times and one over it. */
export const timesAt = (span: number, us: number): number => span ** clamp((us - MIDDLE_US) / HALF_US, -1, 1);

/** A switch that is flicked up or down counts from there, and again once it was back in its middle, us. */
const FLICK_US = 300;
const BACK_US = 150;

/** Counts flicks of a switch that is let go of in its middle. */
export class FlickSteps {
  times = 1;
  private out = false;

  constructor(
    private readonly span: number,
    private readonly stepShare: number,
  ) {}

  /** @returns whether it was flicked just now */
  step(us: number): boolean {
    const off = us - MIDDLE_US;
    if (this.out) {
      if (Math.abs(off) < BACK_US) this.out = false;
      return false;
    }
    if (Math.abs(off) < FLICK_US) return false;
    this.out = true;
    const by = 1 + this.stepShare;
    this.times = clamp(off > 0 ? this.times * by : this.times / by, 1 / this.span, this.span);
    return true;
  }
}

/** Settings as they are with the dials where they are. @param times of each dial, from the first on @param bounds least and most of a setting */
export function dialled(
  values: Values,
  times: readonly number[],
  set: number,
  bounds: (
    key: string,
  ) => { readonly min?: number | undefined; readonly max?: number | undefined } | undefined,
): Values {
  const out: Record<string, Values[string]> = {};
  for (const d of dialsOf(values)) {
    const by = times[d.dial - 1] ?? 1;
    for (const key of keysMoved(d, set)) {
      const written = (out[key] ?? values[key]) as number;
      const { min = Number.NEGATIVE_INFINITY, max = Number.POSITIVE_INFINITY } = bounds(key) ?? {};
      out[key] = Number(clamp(written * by, min, max).toPrecision(4));
    }
  }
  return out;
}

/** How a board begins to say which dials were not in their middle in the end. */
export const DIALS_SAY = 'Dials stand off their middle';
