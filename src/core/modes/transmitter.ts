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
const REST_US = 12;
const REST_S = 0.25;

/** One channel as it rests, moves and rests again. */
interface Watched {
  /** Where it came to rest, us, and since when, s. */
  restUs: number;
  sinceS: number;
  readonly positions: number[];
}

/** Learns switches by watching channels: what rests, jumps and rests again is one, with the pulses that it rests at. */
export class FlickWatch {
  private readonly watched = new Map<number, Watched>();

  /** @param known what was learnt before @param sticks channels that carry sticks */
  constructor(
    known: readonly SwitchInput[],
    private readonly sticks: ReadonlySet<number>,
  ) {
    for (const { channel, positions } of known)
      this.watched.set(channel, {
        restUs: Number.NaN,
        sinceS: 0,
        positions: [...positions],
      });
  }

  /** @returns the switch that got another position by this, or null */
  step(channels: ArrayLike<number>, atS: number): SwitchInput | null {
    let found: SwitchInput | null = null;
    for (let channel = 1; channel <= channels.length; channel++) {
      if (this.sticks.has(channel)) continue;
      const us = channels[channel - 1]!;
      let w = this.watched.get(channel);
      if (!w) {
        w = { restUs: us, sinceS: atS, positions: [] };
        this.watched.set(channel, w);
      }
      if (!(Math.abs(us - w.restUs) <= REST_US)) {
        w.restUs = us;
        w.sinceS = atS;
        continue;
      }
      if (atS - w.sinceS < REST_S) continue;
      const at = Math.round(w.restUs);
      if (at < 500 || at > 2500 || w.positions.some((p) => Math.abs(p - at) < APART_US)) continue;
      if (w.positions.length >= MOST_POSITIONS) continue;
      w.positions.push(at);
      w.positions.sort((a, b) => a - b);
      if (w.positions.length > 1) found = { channel, positions: [...w.positions] };
    }
    return found;
  }
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
