import * as z from 'zod';
import { parsed } from '#core/parsed.ts';
import { sameValue, type Values } from '../settings/catalogue.ts';
import { settingValueSchema } from '../settings/catalogueSchema.ts';
import { fingerprintOf } from '../settings/fingerprint.ts';

/** Settings as they were on a board at some time, kept so that nothing a person had is ever lost. */

const HISTORY_FORMAT = 'wanderweg-history';
/** As much is written to a file as can be read from one. */
export const MAX_HISTORY_BYTES = 60_000_000;

const snapshotCauses = ['met', 'written', 'by-hand', 'before-flashing'] as const;
export type SnapshotCause = (typeof snapshotCauses)[number];
export const causeWords: Readonly<Record<SnapshotCause, string>> = {
  met: 'board met',
  written: 'written',
  'by-hand': 'kept by hand',
  'before-flashing': 'before flashing',
};

const text = (most: number) => z.string().max(most);

export const snapshotSchema = z.object({
  id: text(80).min(1),
  /** Names its settings; snapshots of the same settings share them. */
  content: text(80).min(1),
  /** When it was first and last seen so, RFC 3339. */
  at: z.iso.datetime({ offset: true }),
  lastAt: z.iso.datetime({ offset: true }),
  cause: z.enum(snapshotCauses),
  board: text(60),
  /** Make of the board by the name of its firmware builds; empty in what was kept before that was noted. */
  target: text(40).default(''),
  revision: text(20),
  serial: text(40),
  firmware: text(40),
  version: text(20),
  craft: text(80),
  /** Named set-up of the craft, such as "survey camera"; empty for the usual one. */
  setup: text(60).default(''),
  note: text(2000).default(''),
  /** How many settings, and how many bytes they take as text. */
  settings: z.number().int().min(0),
  bytes: z.number().int().min(0),
});
export type Snapshot = z.infer<typeof snapshotSchema>;

const contentSchema = z.record(text(60), settingValueSchema);

const historyFileSchema = z.object({
  format: z.literal(HISTORY_FORMAT),
  version: z.literal(1),
  snapshots: z.array(snapshotSchema).max(100_000),
  contents: z.record(text(80), contentSchema),
});

export type HistoryFile = Pick<z.infer<typeof historyFileSchema>, 'snapshots' | 'contents'>;

/** What is known of a board and craft when a snapshot is taken. */
export type SnapshotOf = Pick<
  Snapshot,
  'cause' | 'board' | 'target' | 'revision' | 'serial' | 'firmware' | 'version' | 'craft' | 'setup'
>;

/** A name for settings that differ from one another; equal settings have the same. */
export function contentName(values: Values): string {
  const keys = Object.keys(values);
  const backwards = Object.fromEntries(keys.map((k) => [[...k].reverse().join(''), values[k]!]));
  return `${keys.length}-${fingerprintOf(values)}${fingerprintOf(backwards)}`;
}

/**
 * The history after a board was seen to hold these settings. The same settings on the same board under the same
 * set-up make no second entry: the one there is was seen once more.
 * @param at RFC 3339
 */
export function remember(
  snapshots: readonly Snapshot[],
  of: SnapshotOf,
  values: Values,
  at: string,
): { readonly snapshot: Snapshot; readonly isNew: boolean } {
  const content = contentName(values);
  const last = newestOf(snapshots, of.serial);
  if (last?.content === content && last.setup === of.setup && of.cause !== 'by-hand')
    return { snapshot: { ...last, lastAt: at }, isNew: false };
  const snapshot: Snapshot = {
    ...of,
    id: `${at}/${of.serial}/${content}`.slice(0, 80),
    content,
    at,
    lastAt: at,
    note: '',
    settings: Object.keys(values).length,
    bytes: JSON.stringify(values).length,
  };
  return { snapshot, isNew: true };
}

/** The newest snapshot of a board, by its serial. */
export function newestOf(snapshots: readonly Snapshot[], serial: string): Snapshot | undefined {
  let newest: Snapshot | undefined;
  for (const s of snapshots) if (s.serial === serial && (!newest || s.lastAt > newest.lastAt)) newest = s;
  return newest;
}

/** Bytes that a history takes: each content once. */
export function historyBytes(snapshots: readonly Snapshot[]): number {
  const contents = new Map(snapshots.map((s) => [s.content, s.bytes]));
  let sum = 400 * snapshots.length;
  for (const bytes of contents.values()) sum += bytes;
  return sum;
}

/** Which may go: all but the newest few of each board, those with a note, and those of a named set-up. */
export function prunable(snapshots: readonly Snapshot[], keepOfEach: number): Snapshot[] {
  const seen = new Map<string, number>();
  const newestFirst = [...snapshots].sort((a, b) => (a.lastAt < b.lastAt ? 1 : -1));
  return newestFirst.filter((s) => {
    const n = (seen.get(s.serial) ?? 0) + 1;
    seen.set(s.serial, n);
    return n > keepOfEach && s.note === '' && s.setup === '';
  });
}

/** Snapshots in which every word of the query is found: craft, board, version, set-up, cause or note. */
export function searchHistory(snapshots: readonly Snapshot[], query: string): Snapshot[] {
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return [...snapshots];
  return snapshots.filter((s) => {
    const hay =
      `${s.craft} ${s.board} ${s.revision} ${s.serial} ${s.firmware} ${s.version} ${s.setup} ${s.note} ${causeWords[s.cause]} ${s.at.slice(0, 10)}`.toLowerCase();
    return words.every((w) => hay.includes(w));
  });
}

export function writeHistory(file: HistoryFile): string {
  const used = new Set(file.snapshots.map((s) => s.content));
  const contents = Object.fromEntries(Object.entries(file.contents).filter(([k]) => used.has(k)));
  return `${JSON.stringify({ format: HISTORY_FORMAT, version: 1, snapshots: file.snapshots, contents })}\n`;
}

export type ReadHistory =
  | { readonly ok: true; readonly history: HistoryFile }
  | { readonly ok: false; readonly why: string };

/** Reads an exported history. Nothing is taken from a file that is not right as a whole. */
export function readHistory(textOfFile: string): ReadHistory {
  const fail = (why: string): ReadHistory => ({ ok: false, why: `${why} Nothing was taken from it.` });
  if (textOfFile.length > MAX_HISTORY_BYTES)
    return fail(
      `The file has ${(textOfFile.length / 1e6).toFixed(0)} MB; at most ${MAX_HISTORY_BYTES / 1e6} MB are read.`,
    );
  let raw: unknown;
  try {
    raw = JSON.parse(textOfFile, (key, value: unknown) => (key === '__proto__' ? undefined : value));
  } catch {
    return fail('The file is not JSON, so it cannot be a history.');
  }
  const result = parsed(historyFileSchema, raw);
  if (!result.success) {
    const issue = result.error.issues[0]!;
    if (issue.path[0] === 'format' || issue.path.length === 0)
      return fail(`The file is JSON but no history: its format is not "${HISTORY_FORMAT}".`);
    return fail(`In the file, ${issue.path.join('.')} is not right: ${issue.message}.`);
  }
  const { snapshots, contents } = result.data;
  for (const s of snapshots) {
    const values = contents[s.content];
    if (!values) return fail(`In the file, the settings of the snapshot of ${s.at} are missing.`);
    if (contentName(values) !== s.content)
      return fail(`In the file, the settings of the snapshot of ${s.at} were changed.`);
  }
  // Settings that no snapshot names are nobody's.
  const used = Object.fromEntries(snapshots.map((s) => [s.content, contents[s.content]!]));
  return { ok: true, history: { snapshots, contents: used } };
}

/** Keys that two sets of settings do not have alike. */
export function changedKeys(a: Values, b: Values): string[] {
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].filter((k) => !sameValue(a[k], b[k]));
}
