import * as z from 'zod';
import { airframeSchema } from '#core/airframe/airframe.ts';
import { boardRefSchema } from '#core/board/boardRef.ts';
import { type CraftFile, craftFileSchema, MAX_CRAFT_BYTES, readCraftFile } from '#core/formats/craftFile.ts';
import { type Scenario, scenarioSchema } from '#core/formats/scenario.ts';
import { parsed } from '#core/parsed.ts';
import { settingValueSchema } from '#core/settings/catalogueSchema.ts';
import type { RowChange, Rows } from '../store/database.ts';
import { MOST_STEPS, type Work } from '../store/timeline.ts';

/**
 * Craft as this browser keeps them, side by side. A record that cannot be read is put aside as it is, offered as a file
 * and never written over; one that is let go can be had back.
 */

const editsSchema = z.record(z.string().max(60), settingValueSchema);
const workSchema = z.object({
  edits: editsSchema,
  airframe: airframeSchema.nullable(),
  name: z.string().max(80),
  wiring: craftFileSchema.shape.wiring,
  board: boardRefSchema.optional(),
});
const stepsSchema = z.array(workSchema).max(MOST_STEPS);

/** How far a craft is on its walk, for lists. */
const waySchema = z.object({
  /** Stations that are seen and still true, or set on the board. */
  done: z.number().int().min(0),
  of: z.number().int().min(0),
});
export type Way = z.infer<typeof waySchema>;

/** One craft's row. What can be done without is let fall where it is damaged, before the craft is. */
const recordSchema = z.object({
  id: z.string().min(1).max(40),
  /** Counts its changes. */
  rev: z.number().int().min(0),
  /** RFC 3339 */
  savedAt: z.string(),
  /** The text of its file. */
  craft: z.string().max(MAX_CRAFT_BYTES),
  /** The craft that comes with the product, with honest mistakes. */
  demo: z.boolean().catch(false),
  baseFrom: z.enum(['file', 'board']).catch('file'),
  scenario: scenarioSchema.nullable().catch(null),
  past: stepsSchema.catch([]),
  future: stepsSchema.catch([]),
  way: waySchema.catch({ done: 0, of: 0 }),
});
export type CraftRecord = z.infer<typeof recordSchema>;

/** A craft read whole. */
export interface KeptCraft {
  readonly record: CraftRecord;
  readonly craft: CraftFile;
}

/** Something that another thing took the place of, or that was let go. */
const replacedSchema = z.object({
  id: z.string(),
  kind: z.enum(['craft', 'site']),
  name: z.string(),
  at: z.string(),
  /** What became of it, in a few words. */
  why: z.string(),
  /** The craft's record, or the text of the site. */
  what: z.union([recordSchema, z.string()]),
});
export type Replaced = z.infer<typeof replacedSchema>;

/** Something that could not be read, as it is. */
export interface Aside {
  readonly id: string;
  readonly at: string;
  readonly why: string;
  readonly raw: unknown;
}

/** So many that were replaced can be had back. */
export const MOST_REPLACED = 20;

export interface Listed {
  readonly crafts: readonly KeptCraft[];
  readonly replaced: readonly Replaced[];
  readonly aside: readonly Aside[];
}

type ReadRecord = { ok: true; kept: KeptCraft } | { ok: false; why: string };

function readRecord(raw: unknown): ReadRecord {
  const result = parsed(recordSchema, raw);
  if (!result.success) return { ok: false, why: 'What the browser kept of it is damaged.' };
  const read = readCraftFile(result.data.craft);
  if (!read.ok)
    return { ok: false, why: read.why.replace(/ (Nothing was changed|It was not opened)\.$/, '') };
  return { ok: true, kept: { record: withSharedParts(result.data, read.craft), craft: read.craft } };
}

/** Steps between which the craft did not change have the same object for it again, as before they were kept. */
function withSharedParts(record: CraftRecord, { airframe, wiring }: CraftFile): CraftRecord {
  const known = new Map<string, unknown>([airframe, wiring].map((part) => [JSON.stringify(part), part]));
  const shared = <T>(part: T): T => {
    const text = JSON.stringify(part);
    if (!known.has(text)) known.set(text, part);
    return known.get(text) as T;
  };
  const steps = (list: CraftRecord['past']) =>
    list.map((work) => ({
      ...work,
      edits: shared(work.edits),
      airframe: shared(work.airframe),
      wiring: shared(work.wiring),
    }));
  return { ...record, past: steps(record.past), future: steps(record.future) };
}

/** The one craft that versions before 5 kept, as the first of several. */
function fromBefore(raw: unknown, at: string): unknown {
  const { craft, past, future, baseFrom, scenario } = (raw ?? {}) as Record<string, unknown>;
  const read = typeof craft === 'string' ? readCraftFile(craft) : null;
  const works = (list: unknown): Work[] =>
    read?.ok && Array.isArray(list)
      ? list.slice(-MOST_STEPS).map((edits) => ({
          edits,
          airframe: read.craft.airframe,
          name: read.craft.name,
          wiring: read.craft.wiring,
          board: read.craft.board,
        }))
      : [];
  return {
    id: 'first',
    rev: 0,
    savedAt: at,
    craft,
    demo: false,
    baseFrom,
    scenario,
    past: works(past),
    future: works(future),
    way: { done: 0, of: 0 },
  };
}

export class CraftRecords {
  constructor(
    private readonly rows: Rows,
    /** RFC 3339 */
    private readonly now: () => string,
    private readonly newId: () => string,
  ) {}

  /** Everything kept, the last worked on first. What cannot be read is put aside on the way. */
  async list(): Promise<Listed> {
    await this.adopt();
    const crafts: KeptCraft[] = [];
    for (const raw of await this.rows.all('crafts')) {
      const read = readRecord(raw);
      if (read.ok) crafts.push(read.kept);
      else await this.putAside(raw, read.why);
    }
    crafts.sort((a, b) => (a.record.savedAt < b.record.savedAt ? 1 : -1));
    const replaced = (await this.rows.all('replaced')).flatMap((r) => parsed(replacedSchema, r).data ?? []);
    replaced.sort((a, b) => (a.at < b.at ? 1 : -1));
    return { crafts, replaced, aside: (await this.rows.all('aside')) as Aside[] };
  }

  /** A craft of an older form of the store is taken over, once. */
  private async adopt(): Promise<void> {
    const key = 'before version 5';
    const raw = await this.rows.get('desk', key);
    if (raw === undefined) return;
    const record = fromBefore(raw, this.now());
    const read = readRecord(record);
    const kept = read.ok
      ? ({ in: 'crafts', put: record } as const)
      : asideRow(this.newId(), this.now(), read.why, raw);
    await this.rows.write([kept, { in: 'desk', delete: key }]);
  }

  private async putAside(raw: unknown, why: string): Promise<void> {
    const id = (raw as { id?: unknown } | null)?.id;
    await this.rows.write([
      asideRow(this.newId(), this.now(), why, raw),
      ...(typeof id === 'string' ? [{ in: 'crafts', delete: id } as const] : []),
    ]);
  }

  /** One craft; null where there is none of that id, or one that cannot be read. */
  async load(id: string): Promise<KeptCraft | null> {
    const raw = await this.rows.get('crafts', id);
    const read = raw === undefined ? null : readRecord(raw);
    return read?.ok ? read.kept : null;
  }

  /**
   * Keeps a craft as it is now.
   * @param after its count when it was last read or kept here; null for a new one
   * @returns its count now; null where somebody else has kept another since, and nothing was written
   */
  async keep(record: Omit<CraftRecord, 'rev' | 'savedAt'>, after: number | null): Promise<number | null> {
    const rev = (after ?? -1) + 1;
    const row = { ...record, rev, savedAt: this.now() };
    return (await this.rows.swap('crafts', row, after)) ? rev : null;
  }

  /** Takes a craft from the list; it can be had back for a while. Its flights stay until then. */
  async letGo(id: string, why: string): Promise<void> {
    const kept = await this.load(id);
    if (!kept) return;
    await this.replace('craft', kept.craft.name, why, kept.record, [{ in: 'crafts', delete: id }]);
  }

  /** Remembers what something took the place of, together with the change that does so. */
  async replace(
    kind: Replaced['kind'],
    name: string,
    why: string,
    what: Replaced['what'],
    changes: readonly RowChange[] = [],
  ): Promise<void> {
    const put: Replaced = { id: this.newId(), kind, name, at: this.now(), why, what };
    const old = (await this.rows.all('replaced')) as { id: string; at: string; what: unknown }[];
    old.sort((a, b) => (a.at < b.at ? 1 : -1));
    const lost = old.slice(MOST_REPLACED - 1);
    const logs = lost.length > 0 ? await this.rows.keys('logs') : [];
    const gone = lost.flatMap(({ id, what }): RowChange[] => {
      const craft = (what as { id?: unknown } | null)?.id;
      if (typeof craft !== 'string') return [{ in: 'replaced', delete: id }];
      const own = logs.filter((log) => log.startsWith(`${craft}/`));
      return [
        { in: 'replaced', delete: id },
        { in: 'flights', delete: craft },
        ...own.flatMap((log) => [
          { in: 'logs', delete: log } as const,
          { in: 'logBytes', delete: log } as const,
        ]),
      ];
    });
    await this.rows.write([{ in: 'replaced', put }, ...changes, ...gone]);
  }

  /** Brings a craft back into the list; under another id where its own is in use. @returns the id, or null for none */
  async bringBack(id: string): Promise<string | null> {
    const result = parsed(replacedSchema, await this.rows.get('replaced', id));
    if (!result.success || typeof result.data.what === 'string') return null;
    const record = result.data.what;
    const own = (await this.rows.get('crafts', record.id)) === undefined ? record.id : this.newId();
    await this.rows.write([
      { in: 'crafts', put: { ...record, id: own, savedAt: this.now() } },
      { in: 'replaced', delete: id },
    ]);
    return own;
  }

  async forget(from: 'replaced' | 'aside', id: string): Promise<void> {
    await this.rows.write([{ in: from, delete: id }]);
  }
}

const asideRow = (id: string, at: string, why: string, raw: unknown): RowChange => ({
  in: 'aside',
  put: { id, at, why, raw } satisfies Aside,
});

/** A craft without its flights, as it is kept. */
export function recordOf(
  id: string,
  craft: string,
  rest: Pick<CraftRecord, 'demo' | 'baseFrom' | 'way'> & {
    readonly scenario: Scenario;
    readonly past: readonly Work[];
    readonly future: readonly Work[];
  },
): Omit<CraftRecord, 'rev' | 'savedAt'> {
  return {
    ...rest,
    id,
    craft,
    past: [...rest.past] as CraftRecord['past'],
    future: [...rest.future] as CraftRecord['future'],
  };
}
