/** What lamps and buzzer tell: one moment at a time, the gravest that holds, each with a rhythm of its own in light and in sound. */

/** From the gravest on. */
export const moments = [
  'find-me',
  'lost',
  'battery-empty',
  'battery-low',
  'returning',
  'armed',
  'flying',
  'no-radio',
  'no-fix',
  'blocked',
  'ready',
] as const;
export type Moment = (typeof moments)[number];

export type Colour = 'red' | 'amber' | 'green' | 'blue' | 'white' | 'off';
const colourBytes: Readonly<Record<Colour, readonly [number, number, number]>> = {
  red: [255, 0, 0],
  amber: [255, 110, 0],
  green: [0, 255, 0],
  blue: [0, 60, 255],
  white: [255, 255, 255],
  off: [0, 0, 0],
};

/** On, off, on, off, each in ms; begun anew at its end. No two moments have the same rhythm, so that colours are not needed. */
export type Rhythm = readonly number[];

export interface Pattern {
  readonly name: string;
  /** What it means, and what to do. */
  readonly means: string;
  readonly colour: Colour;
  readonly light: Rhythm;
  /** Null for silence. */
  readonly sound: { readonly hz: number; readonly rhythm: Rhythm } | null;
}

export const patterns: Readonly<Record<Moment, Pattern>> = {
  'find-me': {
    ...{
      name: 'Find me',
      means: 'It lies somewhere and wants to be found: go by the sound, and look for white.',
    },
    ...{
      colour: 'white',
      light: [60, 140, 60, 740],
      sound: { hz: 3100, rhythm: [120, 80, 120, 80, 120, 1480] },
    },
  },
  lost: {
    ...{ name: 'Link lost', means: 'Nothing comes from the transmitter: the board does what it is set to.' },
    ...{ colour: 'red', light: [500, 500], sound: { hz: 2700, rhythm: [500, 500] } },
  },
  'battery-empty': {
    ...{ name: 'Battery empty', means: 'Land now.' },
    ...{ colour: 'red', light: [100, 100], sound: { hz: 2700, rhythm: [100, 100] } },
  },
  'battery-low': {
    ...{ name: 'Battery low', means: 'Come home.' },
    ...{ colour: 'amber', light: [150, 150, 150, 1050], sound: { hz: 2700, rhythm: [150, 150, 150, 1050] } },
  },
  returning: {
    ...{ name: 'Comes home', means: 'It is on its way home by itself.' },
    ...{ colour: 'blue', light: [300, 200, 300, 200, 300, 1200], sound: null },
  },
  armed: {
    ...{ name: 'Armed', means: 'It is armed and has not flown yet: keep clear of the propellers.' },
    ...{ colour: 'red', light: [800, 200], sound: { hz: 2000, rhythm: [60, 1940] } },
  },
  flying: {
    ...{ name: 'Flies', means: 'Position lights: red to its left, green to its right, white behind.' },
    ...{ colour: 'white', light: [1000], sound: null },
  },
  'no-radio': {
    ...{ name: 'No radio', means: 'On the ground, the receiver hears no transmitter: switch it on.' },
    ...{ colour: 'amber', light: [80, 420], sound: { hz: 2000, rhythm: [80, 2920] } },
  },
  'no-fix': {
    ...{ name: 'Waits for the sky', means: 'No fix yet: leave it in the open.' },
    ...{ colour: 'blue', light: [100, 1900], sound: null },
  },
  blocked: {
    ...{
      name: 'Will not arm',
      means: 'Something stands against arming: look over the picture or plug it in.',
    },
    ...{ colour: 'amber', light: [600, 600], sound: null },
  },
  ready: {
    ...{ name: 'Ready', means: 'It would arm now, with a home.' },
    ...{ colour: 'green', light: [1700, 300], sound: null },
  },
};

/** What a board knows of itself, of which the moment follows. */
export interface Knows {
  readonly armed: boolean;
  readonly hasFlown: boolean;
  readonly returning: boolean;
  readonly linkAlive: boolean;
  readonly everHeard: boolean;
  /** Since the link was lost, s; nought while it lives. */
  readonly lostS: number;
  readonly batteryLow: boolean;
  readonly batteryEmpty: boolean;
  readonly hasFix: boolean;
  readonly blocked: boolean;
  /** Asked for by a switch. */
  readonly findAsked: boolean;
  /** On the ground after a flight, s; nought in the air. */
  readonly downS: number;
}

export interface FindMe {
  /** So long after a flight ended without anybody's hand; nought for never, s. */
  readonly afterDownS: number;
  /** So long after the link was lost on the ground; nought for never, s. */
  readonly afterLostS: number;
}

const isLater = (s: number, after: number): boolean => after > 0 && s >= after;

/** The gravest that holds. */
export function momentOf(k: Knows, find: FindMe): Moment {
  const ground = !k.armed || k.downS > 0;
  if (k.findAsked || (ground && (isLater(k.downS, find.afterDownS) || isLater(k.lostS, find.afterLostS))))
    return 'find-me';
  if (k.armed && !k.linkAlive) return 'lost';
  if (k.armed && k.batteryEmpty) return 'battery-empty';
  if (k.armed && k.batteryLow) return 'battery-low';
  if (k.armed && k.returning) return 'returning';
  if (k.armed) return k.hasFlown ? 'flying' : 'armed';
  if (!k.linkAlive) return 'no-radio';
  if (!k.hasFix) return 'no-fix';
  return k.blocked ? 'blocked' : 'ready';
}

/** Whether a rhythm is on, so long after it began, s. */
export function isOn(rhythm: Rhythm, sinceS: number): boolean {
  let whole = 0;
  for (let i = 0; i < rhythm.length; i++) whole += rhythm[i]!;
  let at = (1000 * sinceS) % whole;
  for (let i = 0; i < rhythm.length; i++) {
    if (at < rhythm[i]!) return i % 2 === 0;
    at -= rhythm[i]!;
  }
  return false;
}

/** Least time of a rhythm's two states, ms: what is shorter the eye takes for steady. */
export const LEAST_MS = 50;

/**
 * Colours of a strip: its first third to the left, its second to the right, the rest behind.
 * @param out three bytes a lamp
 * @param brightness 0..1
 */
export function paintStrip(moment: Moment, sinceS: number, brightness: number, out: Uint8Array): void {
  const n = Math.floor(out.length / 3);
  const p = patterns[moment];
  const on = isOn(p.light, sinceS);
  for (let i = 0; i < n; i++) {
    const side: Colour = i < n / 3 ? 'red' : i < (2 * n) / 3 ? 'green' : 'white';
    const colour = moment === 'flying' ? side : p.colour;
    const c = colourBytes[on ? colour : 'off'];
    for (let b = 0; b < 3; b++) out[3 * i + b] = Math.round(brightness * c[b]!);
  }
}
