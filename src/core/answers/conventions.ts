import { gainLawOf, ratioAt } from '../control/gainLaw.ts';
import type { Convention } from '../formats/convention.ts';
import { DEG } from '../math/scalar.ts';
import type { Axis } from '../mixer/authority.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';

/** Our own scale in its own words: share of full command per rad/s, at the reference speed. */
const PLAIN: Omit<Convention, 'name'> = {
  error: 'rad/s',
  fullStickDps: 360,
  output: 'share',
  fullOutput: 1,
  per: 1,
  sums: 'seconds',
  slopes: 'seconds',
  loopHz: 1000,
  speedMps: null,
  slopeOfError: false,
  angle: 'rate',
  filter: 'hz',
};

/** Conventions that come with the application. Pfad 2.8 wrote microseconds of pulse per degree a second, 500 for full command. */
export const broughtConventions: readonly Convention[] = [
  { ...PLAIN, name: 'Pfad 2.8', error: 'deg/s', output: 'us', fullOutput: 500 },
  { ...PLAIN, name: 'Share of command per °/s', error: 'deg/s' },
];

export const newConvention = (name: string): Convention => ({ ...PLAIN, name });

/** What a full command is of an output, as far as its unit says. */
export const usualFull: Readonly<Record<Convention['output'], number>> = {
  share: 1,
  percent: 100,
  us: 500,
  deg: 25,
  counts: 500,
};

/** Numbers as they are written there; what is not written is left alone. */
export interface Elsewhere {
  readonly p?: number;
  readonly i?: number;
  readonly d?: number;
  readonly forward?: number;
  readonly angle?: number;
  readonly filter?: number;
}
export type ElsewherePart = keyof Elsewhere;

/** One number taken over by meaning. */
export interface TakenOver {
  readonly part: ElsewherePart;
  readonly key: string;
  readonly written: number;
  /** In the unit of our setting. */
  readonly value: number;
  /** How it comes to it, after the number itself. */
  readonly formula: string;
}

/** Three digits more than are read: enough for any setting's step. */
const rounded = (x: number) => Number(x.toPrecision(6));
const shown = (x: number) => String(Number(x.toPrecision(4)));

interface Factor {
  readonly by: number;
  readonly words: string;
}

const product = (factors: readonly Factor[]) => factors.reduce((p, f) => p * f.by, 1);
const formulaOf = (factors: readonly Factor[]) =>
  factors
    .filter((f) => f.words !== '')
    .map((f) => f.words)
    .join(' ');

/** What one written is, as a share of full command per rad/s: its unit of output over its unit of error. */
function perRadps({ per, output, fullOutput, error, fullStickDps }: Convention): readonly Factor[] {
  const errors: Readonly<Record<Convention['error'], Factor>> = {
    'rad/s': { by: 1, words: '' },
    'deg/s': { by: 1 / DEG, words: '× 57.3 °/rad' },
    share: { by: 1 / (fullStickDps * DEG), words: `÷ ${shown(fullStickDps * DEG)} rad/s of full stick` },
  };
  return [
    { by: per, words: per === 1 ? '' : `× ${shown(per)}` },
    {
      by: 1 / fullOutput,
      words:
        fullOutput === 1
          ? ''
          : `÷ ${shown(fullOutput)}${output === 'us' ? ' µs' : output === 'deg' ? '°' : output === 'percent' ? ' %' : ''} of full command`,
    },
    errors[error],
  ];
}

/** Gains that hold at one speed as they are to be written for ours, by our law of speed. */
function bySpeed(
  values: Values,
  rotors: boolean,
  speedMps: number | null,
  power: 'power' | 'forwardPower',
): Factor {
  const law = gainLawOf(values, rotors);
  const at = speedMps ?? settingsOf(values).number('nav.speed');
  if (rotors || law.by !== 'speed') return { by: 1, words: '' };
  const ratio = ratioAt(law, at);
  const by = ratio ** -law[power];
  if (Math.abs(by - 1) < 1e-9) return { by: 1, words: '' };
  return { by, words: `× ${shown(by)} for its speed` };
}

/**
 * Numbers of one axis and what stands around it, taken over by what they multiply (HANDBOOK, section 3: output per unit of error at the
 * reference speed).
 * @param rotors no law of speed
 */
export function takeOver(
  convention: Convention,
  written: Elsewhere,
  axis: Axis,
  values: Values,
  rotors: boolean,
): readonly TakenOver[] {
  const c = convention;
  const base = perRadps(c);
  const law = bySpeed(values, rotors, c.speedMps, 'power');
  const p = [...base, law];
  const one = (
    part: ElsewherePart,
    key: string,
    factors: readonly Factor[],
    of = written[part],
  ): TakenOver[] =>
    of === undefined
      ? []
      : [
          {
            part,
            key,
            written: written[part]!,
            value: rounded(of * product(factors)),
            formula: formulaOf(factors),
          },
        ];
  const beside = (part: 'i' | 'd'): TakenOver[] => {
    const time = written[part];
    if (time === undefined || written.p === undefined || (part === 'i' && time <= 0)) return [];
    const gain = written.p * product(p);
    return [
      {
        part,
        key: `rate.${axis}.${part}`,
        written: time,
        value: rounded(part === 'i' ? gain / time : gain * time),
        formula: part === 'i' ? `s: P of ${shown(gain)} ÷ it` : `s: P of ${shown(gain)} × it`,
      },
    ];
  };
  const steps = (by: number): Factor => ({
    by,
    words: by > 1 ? `× ${shown(c.loopHz)} steps a second` : `÷ ${shown(c.loopHz)} steps a second`,
  });
  return [
    ...one('p', `rate.${axis}.p`, p),
    ...(c.sums === 'time'
      ? beside('i')
      : one('i', `rate.${axis}.i`, c.sums === 'steps' ? [...p, steps(c.loopHz)] : p)),
    ...(c.slopes === 'time'
      ? beside('d')
      : one('d', `rate.${axis}.d`, c.slopes === 'steps' ? [...p, steps(1 / c.loopHz)] : p)),
    ...one('forward', `rate.${axis}.forward`, [...base, bySpeed(values, rotors, c.speedMps, 'forwardPower')]),
    ...angleOf(c, written.angle),
    ...filterOf(c, written.filter),
  ];
}

function angleOf(c: Convention, written: number | undefined): TakenOver[] {
  if (written === undefined || written <= 0) return [];
  const value = c.angle === 'time' ? written : 1 / written;
  return [
    {
      part: 'angle',
      key: 'level.time',
      written,
      value: rounded(value),
      formula: c.angle === 'time' ? '' : '1/s: one over it, s',
    },
  ];
}

/** A one-pole low-pass by its time constant, or by the share that each step takes of what is new: k = dt/(dt + 1/(2 pi f)). */
function filterOf(c: Convention, written: number | undefined): TakenOver[] {
  if (written === undefined || written <= 0 || (c.filter === 'share' && written >= 1)) return [];
  const hz: Readonly<Record<Convention['filter'], readonly [number, string]>> = {
    hz: [written, ''],
    seconds: [1 / (2 * Math.PI * written), 's: 1 ÷ (2π × it)'],
    share: [
      (written * c.loopHz) / ((1 - written) * 2 * Math.PI),
      `a step: it ÷ (1 − it) × ${shown(c.loopHz)} ÷ 2π`,
    ],
  };
  const [value, formula] = hz[c.filter];
  return [{ part: 'filter', key: 'gyro.cutoff', written, value: rounded(value), formula }];
}

/** What of another convention cannot be carried, in sentences. */
export function cannotCarry(c: Convention, written: Elsewhere, rotors: boolean): readonly string[] {
  return [
    ...(c.slopeOfError && written.d !== undefined
      ? [
          'Its D looks at the error, ours at what is measured: a sudden stick kicks no more, pushes are met as before.',
        ]
      : []),
    ...(c.speedMps === null && !rotors
      ? [
          'Its gains know nothing of speed: they are taken to be right at cruise, and go with speed from there by our law.',
        ]
      : []),
    ...(c.output === 'us'
      ? [
          'Microseconds mean a full command only with the ends that were set there: with others the surfaces moved more or less.',
        ]
      : []),
    ...(c.output === 'deg'
      ? ['Degrees of surface mean a full command only with the throw that this craft has there.']
      : []),
    ...((c.sums === 'time' || c.slopes === 'time') &&
    written.p === undefined &&
    (written.i !== undefined || written.d !== undefined)
      ? ['Times beside P say nothing without P: write it as well.']
      : []),
    ...(written.filter !== undefined && c.filter !== 'hz'
      ? ['Only the first low-pass of the gyro is taken; what else filters there is set at What shakes it.']
      : []),
  ];
}
