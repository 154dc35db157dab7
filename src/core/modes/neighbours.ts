import type { Values } from '../settings/catalogue.ts';
import { modeName } from './modes.ts';
import { armsIn, askedIn, bandsOf, maskAt } from './switchMap.ts';
import type { Transmitter } from './transmitter.ts';

/** Where switches lie in the hands, when they are touched, and what is dangerous about that. */

/** Places of switches on the transmitter as it is drawn, by number, from the thumb of each hand outwards. */
export const placeNames = [
  'left shoulder, outer',
  'right shoulder, outer',
  'left shoulder, inner',
  'right shoulder, inner',
  'left edge',
  'right edge',
  'left of the middle',
  'right of the middle',
] as const;

/** Which places a thumb or finger brushes on the way to another: neighbours along each side. */
const besides: readonly (readonly [number, number])[] = [
  [4, 0],
  [0, 2],
  [2, 6],
  [5, 1],
  [1, 3],
  [3, 7],
];

export const touchedWhen = ['ground', 'launch', 'flight'] as const;
export type Touched = (typeof touchedWhen)[number];

export interface Danger {
  readonly kind: 'beside' | 'springs' | 'stops-in-flight';
  readonly channel: number;
  readonly sentence: string;
}

type Switch = Transmitter['switches'][number];

/** Everything that positions of a switch ask for. */
const asksOf = (values: Values, { channel, positions }: Switch) => {
  const bands = bandsOf(values);
  return [...new Set(positions.flatMap((us) => askedIn(maskAt(bands, channel, us))))];
};

/** What is dangerous about where switches lie, how they move and when they are touched; of what a person said of them only. */
export function dangersOf(values: Values, { switches }: Transmitter): Danger[] {
  const bands = bandsOf(values);
  const stops = (s: Switch) =>
    s.positions.some((us) => armsIn(maskAt(bands, s.channel, us))) &&
    s.positions.some((us) => !armsIn(maskAt(bands, s.channel, us)));
  const dangers: Danger[] = [];
  for (const s of switches) {
    const asks = asksOf(values, s);
    if (s.springs) {
      const first = asks[0];
      if (first !== undefined)
        dangers.push({
          kind: 'springs',
          channel: s.channel,
          sentence: `Channel ${s.channel} springs back by itself: ${first === 'arm' ? 'the craft disarms, and its motors stop,' : `${modeName(first)} ends`} as soon as it is let go. Give it to a switch that stays.`,
        });
    }
    if (!stops(s)) continue;
    if (s.touched === 'flight')
      dangers.push({
        kind: 'stops-in-flight',
        channel: s.channel,
        sentence: `Channel ${s.channel} stops the motors, and is among those that are touched in flight.`,
      });
    for (const other of switches) {
      if (other === s || s.place === undefined || other.place === undefined) continue;
      const near = besides.some(
        ([a, b]) => (a === s.place && b === other.place) || (b === s.place && a === other.place),
      );
      const modes = asksOf(values, other);
      if (!near || (modes.length === 0 && other.touched !== 'flight')) continue;
      const what = modes.filter((m) => m !== 'arm').map(modeName);
      dangers.push({
        kind: 'beside',
        channel: s.channel,
        sentence: `Channel ${s.channel} stops the motors and lies beside channel ${other.channel}${what.length > 0 ? `, which asks for ${what.join(' and ')}` : ', which is touched in flight'}: a thumb that reaches for the one brushes the other. Arm with a switch that lies apart.`,
      });
    }
  }
  return dangers;
}

/** Channels of the switches that are touched at a time, ascending. */
export const touchedAt = ({ switches }: Transmitter, when: Touched): readonly number[] =>
  switches.filter((s) => s.touched === when).map((s) => s.channel);

/** The place at which each switch is drawn: its own where it was said, else the first that is free; -1 where there is none. */
export function placesFor(switches: readonly { readonly place?: number | undefined }[]): readonly number[] {
  const taken = new Set(switches.flatMap((s) => s.place ?? []));
  let next = 0;
  return switches.map((s) => {
    if (s.place !== undefined) return s.place;
    while (taken.has(next)) next++;
    return next < placeNames.length ? next++ : -1;
  });
}
