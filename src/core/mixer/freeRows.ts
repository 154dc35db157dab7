import { clamp } from '../math/scalar.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';

/** Rows of a mix of one's own: each adds a part of something to one output, beside the craft's usual mix. */

export const MIX_ROWS = 30;

/**
 * What a row can take: commands after the loops (-1..1, throttle and flap 0..1), sticks as they come, how the craft lies (of a right
 * angle, right wing down and nose up positive), always one, the camera of a right angle down, or a channel of the receiver (1000 to 2000 us as -1..1).
 */
export const rowSources = [
  'roll',
  'pitch',
  'yaw',
  'throttle',
  'flap',
  'stick-roll',
  'stick-pitch',
  'stick-yaw',
  'stick-throttle',
  'bank',
  'nose',
  'always',
  'camera',
  'channel-5',
  'channel-6',
  'channel-7',
  'channel-8',
  'channel-9',
  'channel-10',
  'channel-11',
  'channel-12',
  'channel-13',
  'channel-14',
  'channel-15',
  'channel-16',
] as const;
export type RowSource = (typeof rowSources)[number];

export const sourceWords: Readonly<Record<RowSource, string>> = {
  roll: 'roll right',
  pitch: 'pitch up',
  yaw: 'yaw right',
  throttle: 'throttle',
  flap: 'flaps',
  'stick-roll': 'roll stick',
  'stick-pitch': 'pitch stick',
  'stick-yaw': 'yaw stick',
  'stick-throttle': 'throttle stick',
  bank: 'bank',
  nose: 'nose above the horizon',
  always: 'always',
  camera: 'camera as the route points it',
  ...(Object.fromEntries(
    rowSources.flatMap((s) => (s.startsWith('channel-') ? [[s, s.replace('-', ' ')]] : [])),
  ) as Record<Extract<RowSource, `channel-${string}`>, string>),
};

export interface FreeRow {
  /** From 1, as it stands among the settings. */
  readonly n: number;
  /** From 1. */
  readonly output: number;
  readonly source: RowSource;
  readonly weight: number;
  /** What it adds stays between these. */
  readonly low: number;
  readonly high: number;
  /** 0..0.9: softer about the middle. */
  readonly curve: number;
  /** Only while this channel is within its band, us; channel 0 is always. */
  readonly channel: number;
  readonly fromUs: number;
  readonly toUs: number;
}

const parts = ['to', 'from', 'weight', 'low', 'high', 'curve', 'channel', 'fromUs', 'toUs'] as const;

/** The rows that do something, as a board is set; none of a board that has no rows, or has them only in part. */
export function freeRowsOf(values: Values): FreeRow[] {
  const s = settingsOf(values);
  const rows: FreeRow[] = [];
  for (let n = 1; n <= MIX_ROWS; n++) {
    if (parts.some((p) => values[`mix.row.${n}.${p}`] === undefined)) continue;
    const output = s.number(`mix.row.${n}.to`);
    const weight = s.number(`mix.row.${n}.weight`);
    if (output < 1 || weight === 0) continue;
    rows.push({
      n,
      output,
      weight,
      source: s.choice(`mix.row.${n}.from`),
      low: s.number(`mix.row.${n}.low`),
      high: s.number(`mix.row.${n}.high`),
      curve: s.number(`mix.row.${n}.curve`),
      channel: s.number(`mix.row.${n}.channel`),
      fromUs: s.number(`mix.row.${n}.fromUs`),
      toUs: s.number(`mix.row.${n}.toUs`),
    });
  }
  return rows;
}

/** What a row makes of its source: soft about the middle by x (1 - c) + c x^3, times its weight, within its limits. */
export function rowGives(row: Pick<FreeRow, 'weight' | 'curve' | 'low' | 'high'>, x: number): number {
  const soft = row.curve === 0 ? x : x * (1 - row.curve) + row.curve * x * x * x;
  return clamp(row.weight * soft, row.low, row.high);
}

/** Settings of a row that is in use by nobody; null where all are taken. */
export function freeRowNumber(values: Values): number | null {
  for (let n = 1; n <= MIX_ROWS; n++) if (values[`mix.row.${n}.to`] === 0) return n;
  return null;
}
