import * as z from 'zod';
import { parsed } from '#core/parsed.ts';
import { decodeCbor, encodeCbor } from '#core/wire/frames.ts';
import type { Part, RowChange, Rows } from '../store/database.ts';

/** All that this browser keeps, as one file (CBOR, RFC 8949), and back: for another device, or for the day when this one is gone. */

const FORMAT = 'wanderweg-everything';
export const MOST_BYTES = 500_000_000;

/** How the desk looks is this device's own. */
const parts = [
  'crafts',
  'flights',
  'replaced',
  'aside',
  'bench',
  'snapshots',
  'contents',
  'firmware',
  'sites',
  'conventions',
  'tunings',
  'logs',
  'logBytes',
] as const satisfies readonly Part[];

/** Rows of these belong to a craft: their key begins with its id. */
const hangOn: readonly Part[] = ['flights', 'bench', 'logs', 'logBytes'];

const rowSchema = z.object({ key: z.string().min(1).max(300), value: z.unknown() });
const fileSchema = z.object({
  format: z.literal(FORMAT),
  version: z.literal(1),
  at: z.string().max(40),
  parts: z.partialRecord(z.enum(parts), z.array(rowSchema).max(100_000)),
});

export async function packEverything(rows: Rows, at: string): Promise<Uint8Array> {
  const all: Partial<Record<Part, { key: string; value: unknown }[]>> = {};
  for (const part of parts) {
    const kept = [];
    for (const key of await rows.keys(part)) kept.push({ key, value: await rows.get(part, key) });
    all[part] = kept;
  }
  return encodeCbor({ format: FORMAT, version: 1, at, parts: all });
}

export type BroughtBack =
  | {
      readonly ok: true;
      readonly added: number;
      readonly same: number;
      /** Other things that are here already, otherwise than in the file: they stay. */
      readonly stayed: number;
      /** Names of craft that were changed on both sides: each is here twice now. */
      readonly twice: readonly string[];
    }
  | { readonly ok: false; readonly why: string };

/**
 * Brings in what a file holds and this browser does not. Nothing that is here is written over: a craft that was changed on both
 * sides is put beside its other self, under a name that says so. All of it or nothing.
 */
export async function bringBack(rows: Rows, bytes: Uint8Array, newId: () => string): Promise<BroughtBack> {
  const read = parsed(fileSchema, decodeCbor(bytes));
  if (!read.success) {
    const newer =
      (decodeCbor(bytes) as { format?: unknown; version?: unknown } | undefined)?.format === FORMAT;
    return {
      ok: false,
      why: newer
        ? 'The file was written by a newer Wanderweg, or is damaged. Nothing was changed.'
        : 'This is no file of all that a browser kept. Nothing was changed.',
    };
  }
  const changes: RowChange[] = [];
  const twice: string[] = [];
  /** Craft that come under another id, with what hangs on them. */
  const moved = new Map<string, string>();
  let same = 0;
  let stayed = 0;
  for (const { key, value } of read.data.parts.crafts ?? []) {
    const here = await rows.get('crafts', key);
    if (here === undefined) changes.push({ in: 'crafts', put: value, key });
    else if (craftOf(here) === craftOf(value)) same++;
    else {
      const id = newId();
      moved.set(key, id);
      const renamed = beside(value, id);
      twice.push(renamed.name);
      changes.push({ in: 'crafts', put: renamed.record, key: id });
    }
  }
  for (const part of parts) {
    if (part === 'crafts') continue;
    for (const { key, value } of read.data.parts[part] ?? []) {
      const owner = hangOn.includes(part) ? key.split('/')[0]! : '';
      const id = moved.get(owner);
      if (id !== undefined) {
        const renamed = id + key.slice(owner.length);
        const put = part === 'logs' ? { ...(value as object), id: renamed } : value;
        changes.push({ in: part, put, key: renamed });
        continue;
      }
      const here = await rows.get(part, key);
      if (here === undefined) changes.push({ in: part, put: value, key });
      else if (equal(here, value)) same++;
      else stayed++;
    }
  }
  if (changes.length > 0) await rows.write(changes);
  return { ok: true, added: changes.length, same, stayed, twice };
}

/** The text of a craft's file: what tells two states of it apart. */
const craftOf = (record: unknown): string => {
  const { craft } = (record ?? {}) as { craft?: unknown };
  return typeof craft === 'string' ? craft : '';
};

function beside(record: unknown, id: string): { readonly record: unknown; readonly name: string } {
  const text = craftOf(record);
  try {
    const craft = JSON.parse(text) as { name?: unknown };
    const name = `${String(craft.name).slice(0, 60)}, brought in`;
    return { name, record: { ...(record as object), id, rev: 0, craft: JSON.stringify({ ...craft, name }) } };
  } catch {
    // It is put aside, as it is, when the list is read.
    return { name: 'one that cannot be read', record: { ...(record as object), id, rev: 0 } };
  }
}

function equal(a: unknown, b: unknown): boolean {
  const [x, y] = [encodeCbor(a), encodeCbor(b)];
  return x.length === y.length && x.every((byte, i) => byte === y[i]);
}

/** What became of it, in a sentence. */
export function broughtBackWords({ added, same, stayed, twice }: Extract<BroughtBack, { ok: true }>): string {
  return [
    added === 0
      ? 'Nothing new was in it.'
      : `${added} ${added === 1 ? 'thing was' : 'things were'} brought in.`,
    same > 0 ? `${same} were here already.` : '',
    stayed > 0 ? `${stayed} are here otherwise than in the file, and stay as they are here.` : '',
    twice.length > 0
      ? `Changed on both sides, and kept side by side: ${twice.slice(0, 5).join('; ')}${twice.length > 5 ? ' and others' : ''}. Look at both and let one go.`
      : '',
  ]
    .filter(Boolean)
    .join(' ');
}
