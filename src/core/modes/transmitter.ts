import * as z from 'zod';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';
import { type Asked, bandAround, type SwitchInput } from './switchMap.ts';

/** More positions than this are a dial. */
const MOST_POSITIONS = 6;

/** What is known of a transmitter: its switches, by having been flicked. */
export const transmitterSchema = z.object({
  switches: z
    .array(
      z.object({
        channel: z.number().int().min(1).max(16),
        /** us, ascending */
        positions: z
          .array(z.number().int().min(500).max(2500))
          .min(2)
          .max(MOST_POSITIONS)
          .refine((at) => at.every((us, k) => k === 0 || us > at[k - 1]!), 'positions ascend'),
        /** It turns or slides without steps: `positions` are its ends. */
        dial: z.boolean().optional(),
        /** Two switches that the transmitter mixes on this channel: how many positions each has, the one that moves it farther first. */
        mixed: z.tuple([z.number().int().min(2).max(3), z.number().int().min(2).max(3)]).optional(),
        /** Noise of its pulse at rest, one sigma, us. */
        noiseUs: z.number().min(0).max(50).optional(),
        /** Where it lies (`placeNames`), when a hand goes to it, and whether it springs back; as a person says. */
        place: z.number().int().min(0).max(7).optional(),
        touched: z.enum(['ground', 'launch', 'flight']).optional(),
        springs: z.boolean().optional(),
      }),
    )
    .max(16),
});
export type Transmitter = z.infer<typeof transmitterSchema>;

/** Pulses nearer to each other are one position, us. */
const APART_US = 60;
/** At rest a pulse stays within so much of where it came to rest, us, for so long, s. */
const REST_US = 24;
const REST_S = 0.25;

/** What goes on step by step without a jump for so many frames and so far is turned, not flicked: frames, us. */
const TURNED_STEPS = 10;
const TURNED_US = 250;
/** The greatest step of what is turned, and the least, us. */
const STEP_MOST_US = 90;
const STEP_LEAST_US = 3;
/** Noise of a rest is known from so many pulses on: within a fifth, at nearly three sigma (1/sqrt(2 n)). */
const NOISE_FROM = 100;

/** One channel as it rests, moves and rests again. */
interface Watched {
  /** Where it came to rest, us, and since when, s. */
  restUs: number;
  sinceS: number;
  positions: number[];
  dial: boolean;
  /** The pulse before, us; for how many frames it went on one way, and since which pulse. */
  lastUs: number;
  steps: number;
  fromUs: number;
  /** Sums of the pulses of this rest, off where it came to rest. */
  count: number;
  sum: number;
  squares: number;
  noiseUs: number | undefined;
}

const watched = (positions: readonly number[], dial = false, noiseUs?: number): Watched => ({
  restUs: Number.NaN,
  sinceS: 0,
  positions: [...positions],
  dial,
  lastUs: Number.NaN,
  steps: 0,
  fromUs: 0,
  count: 0,
  sum: 0,
  squares: 0,
  noiseUs,
});

/**
 * Learns switches by watching channels: what rests, jumps and rests again is one, with the pulses that it rests at and their noise;
 * what is turned on and on without a jump, or rests at more places than a switch has, is a dial.
 */
export class FlickWatch {
  private readonly channels = new Map<number, Watched>();

  /** @param known what was learnt before @param not channels that carry no switch: sticks, and how well the receiver hears */
  constructor(
    known: readonly SwitchInput[],
    private readonly not: ReadonlySet<number>,
  ) {
    for (const { channel, positions, dial, noiseUs } of known)
      this.channels.set(channel, watched(positions, dial === true, noiseUs));
  }

  /** @returns what is known otherwise of a channel by this, or null */
  step(channels: ArrayLike<number>, atS: number): SwitchInput | null {
    let found: SwitchInput | null = null;
    for (let channel = 1; channel <= channels.length; channel++) {
      if (this.not.has(channel)) continue;
      const us = channels[channel - 1]!;
      const w = this.channels.get(channel) ?? watched([]);
      this.channels.set(channel, w);
      if (this.look(w, us, atS))
        found = {
          channel,
          positions: [...w.positions],
          ...(w.dial ? { dial: true } : {}),
          ...(w.noiseUs === undefined ? {} : { noiseUs: w.noiseUs }),
        };
    }
    return found;
  }

  private look(w: Watched, us: number, atS: number): boolean {
    const turned = this.turns(w, us);
    if (w.dial) return reaches(w, us) || turned;
    if (turned) return true;
    if (!(Math.abs(us - w.restUs) <= REST_US)) {
      Object.assign(w, { restUs: us, sinceS: atS, count: 0, sum: 0, squares: 0 });
      return false;
    }
    const off = us - w.restUs;
    w.count++;
    w.sum += off;
    w.squares += off * off;
    if (atS - w.sinceS < REST_S) return false;
    w.steps = 0;
    const at = Math.round(w.restUs + w.sum / w.count);
    const known = w.positions.some((p) => Math.abs(p - at) < APART_US);
    if (known) return this.settles(w);
    if (at < 500 || at > 2500) return false;
    if (w.positions.length >= MOST_POSITIONS) return becomesDial(w, at);
    w.positions = [...w.positions, at].sort((a, b) => a - b);
    return w.positions.length > 1;
  }

  /** The noise of a rest, once it is known for the first time or is greater than before. */
  private settles(w: Watched): boolean {
    if (w.count % NOISE_FROM !== 0 || w.positions.length < 2) return false;
    const mean = w.sum / w.count;
    const noise = Math.round(10 * Math.sqrt(Math.max(0, w.squares / w.count - mean * mean))) / 10;
    if (w.noiseUs !== undefined && noise <= 1.5 * w.noiseUs) return false;
    w.noiseUs = noise;
    return true;
  }

  /** Whether it was turned far enough by now to be a dial. */
  private turns(w: Watched, us: number): boolean {
    const by = us - w.lastUs;
    const before = w.lastUs;
    w.lastUs = us;
    const way = Math.sign(by);
    // A hand that pauses for a moment turns on; one that rests has ended.
    if (!(Math.abs(by) >= STEP_LEAST_US)) return false;
    if (Math.abs(by) > STEP_MOST_US || (w.steps !== 0 && Math.sign(w.steps) !== way)) {
      w.steps = 0;
      return false;
    }
    if (w.steps === 0) w.fromUs = before;
    w.steps += way;
    if (w.dial || Math.abs(w.steps) < TURNED_STEPS || Math.abs(us - w.fromUs) < TURNED_US) return false;
    return becomesDial(w, us, w.fromUs);
  }
}

function becomesDial(w: Watched, ...seen: readonly number[]): boolean {
  const all = [...w.positions, ...seen].map(Math.round);
  w.dial = true;
  w.positions = [Math.min(...all), Math.max(...all)];
  return true;
}

/** A dial that goes farther than it was known to. */
function reaches(w: Watched, us: number): boolean {
  const [low, high] = [w.positions[0]!, w.positions.at(-1)!];
  const at = Math.round(us);
  if (at < 500 || at > 2500 || (at > low - REST_US && at < high + REST_US)) return false;
  w.positions = [Math.min(low, at), Math.max(high, at)];
  return true;
}

/** Which position each of two mixed switches has at a position of their channel, from 0. */
export function mixedAt(mixed: readonly [number, number], position: number): readonly [number, number] {
  return [Math.floor(position / mixed[1]), position % mixed[1]];
}

const keyOf = (asks: Asked) => (asks === 'arm' ? ('arm' as const) : (`mode.${asks}` as const));

/** Positions of a switch between which something is asked for, -1 where it is not. */
function spanOf(values: Values, asks: Asked, { channel, positions }: SwitchInput): readonly [number, number] {
  const s = settingsOf(values);
  const key = keyOf(asks);
  if (s.number(`${key}.channel`) !== channel) return [-1, -1];
  const [from, to] = [s.number(`${key}.from`), s.number(`${key}.to`)];
  const within = positions.map((us) => us >= from && us <= to);
  return [within.indexOf(true), within.lastIndexOf(true)];
}

function edits(
  asks: Asked,
  { channel, positions }: SwitchInput,
  from: number,
  to: number,
): Record<string, number> {
  const key = keyOf(asks);
  const { fromUs, toUs } = bandAround(positions, from, to);
  return { [`${key}.channel`]: channel, [`${key}.from`]: fromUs, [`${key}.to`]: toUs };
}

/**
 * Edits that let a position ask for something, its bounds half way to the neighbours. On the switch that it is on already it is
 * asked for by the positions between as well: a band has no holes.
 */
export function askAt(values: Values, asks: Asked, input: SwitchInput, position: number) {
  const [first, last] = spanOf(values, asks, input);
  return first < 0
    ? edits(asks, input, position, position)
    : edits(asks, input, Math.min(first, position), Math.max(last, position));
}

/** Edits after which a position asks no more for something; of what is left on both sides the greater part stays. */
export function askNoMore(values: Values, asks: Asked, input: SwitchInput, position: number) {
  const [first, last] = spanOf(values, asks, input);
  if (first < 0 || position < first || position > last) return {};
  const [below, above] = [position - first, last - position];
  if (below === 0 && above === 0) return { [`${keyOf(asks)}.channel`]: 0 };
  return below >= above ? edits(asks, input, first, position - 1) : edits(asks, input, position + 1, last);
}
