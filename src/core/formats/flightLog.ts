import { Decoder } from 'cbor-x';
import { z } from 'zod';
import { DIALS_SAY } from '#core/control/dials.ts';
import { FOUND_SAYS } from '#core/control/identify.ts';
import type { Place } from '#core/navigation/earth.ts';
import { parsed } from '#core/parsed.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { settingValueSchema } from '#core/settings/catalogueSchema.ts';
import { unpackGyro } from './gyroTrace.ts';

const decoder = new Decoder({ useRecords: false, mapsAsObjects: true });

/** A flight as a board logs it: the names of the numbers, the numbers, what the board decided in words. */
export interface LoggedSeries {
  readonly flight: number;
  readonly firmware: string;
  readonly fields: readonly string[];
  /** Names behind the numbers of the field `mode`. */
  readonly modes: readonly string[];
  /** Settings unlike the firmware's defaults that it was flown by; empty where the log does not tell them. */
  readonly settings: Values;
  /** What metres north and east are counted from; not told by older logs. */
  readonly origin?: Place | undefined;
  /** One row a sample, in the order of `fields`; SI and radians. */
  readonly samples: readonly (readonly number[])[];
  /** s since power-on */
  readonly decisions: readonly { readonly atS: number; readonly text: string }[];
  /** The gyro before its filters, in stretches without a gap; empty where it was not logged. */
  readonly gyro: readonly GyroStretch[];
}

interface GyroStretch {
  /** Of its first sample, since power-on, s. */
  readonly fromS: number;
  readonly stepS: number;
  /** Roll, pitch, yaw, rad/s. */
  readonly axes: readonly Float64Array[];
}

const headSchema = z.object({
  flight: z.number().int().positive(),
  firmware: z.string().max(40),
  fields: z.array(z.string().max(40)).min(1).max(255),
  modes: z.array(z.string().max(40)).max(64),
  settings: z.record(z.string().max(60), settingValueSchema).default({}),
  origin: z.object({ lat: z.number().min(-90).max(90), lon: z.number().min(-180).max(180) }).optional(),
});

/** What of a flight was not flown as it is written, in the board's words: gains that it found, and dials off their middle. */
export const movedInFlight = ({ decisions, settings }: LoggedSeries): readonly string[] =>
  decisions
    .map((d) => d.text)
    .filter(
      (text) =>
        text.startsWith(DIALS_SAY) || (text.startsWith(FOUND_SAYS) && settings['tune.flies'] !== false),
    );

/**
 * Reads a flight log: a CBOR sequence (RFC 8742) of a head, then arrays of numbers, `[seconds, text]` pairs and blocks of the raw gyro.
 * An end that was cut short, as when the battery goes, costs the last item only.
 * @returns null for bytes that are no flight log
 */
export function readFlightLog(bytes: Uint8Array): LoggedSeries | null {
  const items: unknown[] = [];
  try {
    decoder.decodeMultiple(bytes, (item: unknown) => {
      items.push(item);
    });
  } catch {
    // What came before the cut is already there.
  }
  const head = parsed(headSchema, items[0]);
  if (!head.success) return null;
  const width = head.data.fields.length;
  const samples: number[][] = [];
  const decisions: { atS: number; text: string }[] = [];
  const blocks: GyroStretch[] = [];
  for (const item of items.slice(1)) {
    if (!Array.isArray(item)) continue;
    if (item.length === 2 && typeof item[0] === 'number' && typeof item[1] === 'string')
      decisions.push({ atS: item[0], text: item[1] });
    else if (item.length === 3 && item[2] instanceof Uint8Array) {
      const axes = unpackGyro(item[2]);
      const [fromS, stepS] = item as [unknown, unknown];
      if (axes && typeof fromS === 'number' && typeof stepS === 'number' && stepS > 0)
        blocks.push({ fromS, stepS, axes });
    } else if (item.length === width && item.every((x) => typeof x === 'number')) samples.push(item);
  }
  return { ...head.data, samples, decisions, gyro: joined(blocks) };
}

/** Blocks that follow each other without a gap, as one stretch. */
function joined(blocks: readonly GyroStretch[]): GyroStretch[] {
  const runs: GyroStretch[][] = [];
  for (const block of blocks) {
    const before = runs.at(-1)?.at(-1);
    const ends = before ? before.fromS + before.axes[0]!.length * before.stepS : Number.NaN;
    if (before?.stepS === block.stepS && Math.abs(block.fromS - ends) < 0.5 * block.stepS)
      runs.at(-1)!.push(block);
    else runs.push([block]);
  }
  return runs.map((run) => ({
    fromS: run[0]!.fromS,
    stepS: run[0]!.stepS,
    axes: [0, 1, 2].map((i) => {
      const all = new Float64Array(run.reduce((n, b) => n + b.axes[i]!.length, 0));
      let at = 0;
      for (const b of run) {
        all.set(b.axes[i]!, at);
        at += b.axes[i]!.length;
      }
      return all;
    }),
  }));
}
