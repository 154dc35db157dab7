import { Decoder } from 'cbor-x';
import { z } from 'zod';
import { parsed } from '#core/parsed.ts';
import { settingValueSchema, type Values } from '#core/settings/catalogue.ts';

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
  /** One row a sample, in the order of `fields`; SI and radians. */
  readonly samples: readonly (readonly number[])[];
  /** s since power-on */
  readonly decisions: readonly { readonly atS: number; readonly text: string }[];
}

const headSchema = z.object({
  flight: z.number().int().positive(),
  firmware: z.string().max(40),
  fields: z.array(z.string().max(40)).min(1).max(255),
  modes: z.array(z.string().max(40)).max(64),
  settings: z.record(z.string().max(60), settingValueSchema).default({}),
});

/**
 * Reads a flight log: a CBOR sequence (RFC 8742) of a head, then arrays of numbers and `[seconds, text]` pairs.
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
  for (const item of items.slice(1)) {
    if (!Array.isArray(item)) continue;
    if (item.length === 2 && typeof item[0] === 'number' && typeof item[1] === 'string')
      decisions.push({ atS: item[0], text: item[1] });
    else if (item.length === width && item.every((x) => typeof x === 'number')) samples.push(item);
  }
  return { ...head.data, samples, decisions };
}
