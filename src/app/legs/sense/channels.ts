import { fitLine } from '#core/analysis/line.ts';
import { mean } from '#core/analysis/spread.ts';
import type { StreamSource } from '#core/wire/messages.ts';
import { telemetryGroups } from '#core/wire/telemetry.ts';
import type { StreamRing } from '#link/streamRing.ts';
import { live, recent } from '../../live/telemetry.ts';

/** One number of a board over time. */
export interface Channel {
  readonly id: string;
  /** Group or sensor, and which of its numbers. */
  readonly of: string;
  readonly field: string;
  /** The field in words. */
  readonly name: string;
  /** As it is shown, and what the board's number is multiplied by for it. */
  readonly unit: string;
  readonly factor: number;
  /** A sensor's raw samples, or what the board tells of itself. */
  readonly source: string | null;
}

/** Points of a drawing: a hundred a second. */
export const GRID_HZ = 100;
export const MOST_CHANNELS = 12;

/** Units of what the board tells, by the last word of a number's name. */
const units: readonly (readonly [RegExp, string])[] = [
  [/Rate$/, 'rad/s'],
  [/^(roll|pitch|yaw|course)$/, 'rad'],
  [/^pulses|channels/, 'µs'],
  [/V$/, 'V'],
  [/A$/, 'A'],
  [/Mah$/, 'mAh'],
  [/height|Distance|accuracy$/i, 'm'],
  [/speed|wind/i, 'm/s'],
  [/latitude|longitude/, '°'],
  [/Age$|S$/, 's'],
];

const unitOf = (field: string) => units.find(([pattern]) => pattern.test(field))?.[1] ?? '';

/** Angles are shown in degrees. */
const shownAs = (unit: string) =>
  unit.startsWith('rad') ? { unit: unit.replace('rad', '°'), factor: 180 / Math.PI } : { unit, factor: 1 };

/** `servoRailV` is the servo rail, `pulses.3` the third of the pulses. */
const wordsOf = (field: string) =>
  field
    .replace(/(?<=[a-z])(V|A|S|Mah)$/, '')
    .replace(/([a-z])([A-Z])/g, (_, a: string, b: string) => `${a} ${b.toLowerCase()}`)
    .replaceAll('.', ' ');

/** Groups that are lists of things, not numbers over time. */
const notPlotted = new Set(['status', 'sky']);

/** Every number of every group that is live now. */
export function toldChannels(): readonly Channel[] {
  return telemetryGroups.flatMap((group) => {
    const value = notPlotted.has(group) ? null : live(group);
    return value === null
      ? []
      : leaves(value).map((field) => ({
          id: `${group}.${field}`,
          of: group,
          field,
          name: wordsOf(field),
          ...shownAs(unitOf(field.split('.')[0] === 'wind' ? 'wind' : field)),
          source: null,
        }));
  });
}

export function streamChannels(streams: readonly StreamSource[]): readonly Channel[] {
  return streams.flatMap(({ source, fields, unit }) =>
    fields.map((field) => ({
      id: `raw ${source}.${field}`,
      of: source,
      field,
      name: wordsOf(field),
      ...shownAs(unit),
      source,
    })),
  );
}

/** Names of the numbers in what a group says: `roll`, `wind.north`, `pulses.3`. */
function leaves(value: unknown, at = ''): string[] {
  if (typeof value === 'number') return [at];
  if (typeof value !== 'object' || value === null) return [];
  return Object.entries(value).flatMap(([key, v]) => {
    const name = Array.isArray(value) ? String(Number(key) + 1) : key;
    return leaves(v, at === '' ? name : `${at}.${name}`);
  });
}

function numberAt(value: unknown, field: string): number {
  let now = value;
  for (const part of field.split('.')) {
    if (typeof now !== 'object' || now === null) return Number.NaN;
    now = Array.isArray(now) ? now[Number(part) - 1] : (now as Record<string, unknown>)[part];
  }
  return typeof now === 'number' ? now : Number.NaN;
}

/** Values of several channels at the same moments: the last that was said at each. */
export interface Table {
  /** s, the newest 0 */
  readonly times: Float64Array;
  readonly values: readonly Float64Array[];
}

/** @param rings of the sensors among the channels, by source */
export function tableOf(
  channels: readonly Channel[],
  rings: ReadonlyMap<string, StreamRing>,
  fields: ReadonlyMap<string, readonly string[]>,
  seconds: number,
): Table {
  const n = seconds * GRID_HZ;
  const times = Float64Array.from({ length: n }, (_, i) => (i - n + 1) / GRID_HZ);
  return { times, values: channels.map((c) => valuesOf(c, rings, fields, times)) };
}

function valuesOf(
  { source, field, of, factor }: Channel,
  rings: ReadonlyMap<string, StreamRing>,
  fields: ReadonlyMap<string, readonly string[]>,
  times: Float64Array,
): Float64Array {
  const out = new Float64Array(times.length).fill(Number.NaN);
  if (source !== null) {
    const ring = rings.get(source);
    const at = fields.get(source)?.indexOf(field) ?? -1;
    if (!ring || at < 0 || !(ring.dtS > 0)) return out;
    const span = Math.ceil(-times[0]! / ring.dtS) + 1;
    const all = ring.newest(at, span);
    for (let i = 0; i < times.length; i++) {
      const k = all.length - 1 + Math.round(times[i]! / ring.dtS);
      if (k >= 0 && k < all.length) out[i] = factor * all[k]!;
    }
    return out;
  }
  const said = recent(of as Parameters<typeof recent>[0], -times[0]! + 1);
  const newest = said.at(-1)?.atS ?? 0;
  let k = 0;
  for (let i = 0; i < times.length; i++) {
    const atS = newest + times[i]!;
    while (k + 1 < said.length && said[k + 1]!.atS <= atS) k++;
    if (k < said.length && said[k]!.atS <= atS) out[i] = factor * numberAt(said[k]!.value, field);
  }
  return out;
}

/** A table as text: a line a moment, names with units at its head. */
export function csvOf(channels: readonly Channel[], { times, values }: Table): string {
  const head = ['t_s', ...channels.map((c) => `${c.of} ${c.name}${c.unit === '' ? '' : ` (${c.unit})`}`)];
  const rows = Array.from(times, (t, i) =>
    [
      t.toFixed(2),
      ...values.map((v) => (Number.isNaN(v[i]!) ? '' : String(Number(v[i]!.toPrecision(7))))),
    ].join(','),
  );
  return `${head.join(',')}\n${rows.join('\n')}\n`;
}

/** How a value trembles: about a straight line through the window; NaN where there is too little. */
export function trembleOf(values: Float64Array): { readonly mean: number; readonly rms: number } {
  const at: number[] = [];
  const said: number[] = [];
  for (let i = 0; i < values.length; i++) {
    if (Number.isNaN(values[i]!)) continue;
    at.push(i);
    said.push(values[i]!);
  }
  const line = said.length < 10 ? null : fitLine(at, said);
  return line ? { mean: mean(said), rms: line.residual } : { mean: Number.NaN, rms: Number.NaN };
}
