import type { BoardDescription } from '#core/board/description.ts';
import {
  Catalogue,
  type Refusal,
  type SettingValue,
  sameValue,
  type Values,
} from '#core/settings/catalogue.ts';
import type { SettingEntry } from '#core/settings/catalogueSchema.ts';
import type { Edits } from '#core/settings/draft.ts';
import { fingerprintOf } from '#core/settings/fingerprint.ts';
import { type Identity, LINK_VERSION, type RequestKind } from '#core/wire/messages.ts';
import { type LinkClient, LinkError } from './client.ts';

/** All that is read of a board when it is met. */
export interface BoardCopy {
  readonly identity: Identity;
  readonly description: BoardDescription;
  readonly catalogue: Catalogue;
  readonly values: Values;
  /** Settings whose entry could not be read at all. */
  readonly unreadable: number;
}

/** Whether a board says that it can be asked for this. */
export const canDo = (identity: Identity, kind: RequestKind): boolean => identity.can.requests.includes(kind);

const PUT_ITEMS = 48;
const MAX_SETTINGS = 5000;

/** Who is there: a firmware, or the loader. @throws LinkError for a board that speaks another link */
export async function greet(client: LinkClient): Promise<Identity> {
  const identity = await client.request('hello', { link: LINK_VERSION });
  if (identity.link !== LINK_VERSION) {
    throw new LinkError(
      'refused',
      `The board speaks version ${identity.link} of the link; this application speaks ${LINK_VERSION}. Nothing was changed.`,
    );
  }
  return identity;
}

/** Reads everything that a board with a firmware holds. @param onProgress share read, 0..1 */
export async function readBoard(
  client: LinkClient,
  identity: Identity,
  onProgress: (share: number) => void,
): Promise<BoardCopy> {
  const { board, revision, target } = identity;
  const description = canDo(identity, 'describe')
    ? await client.request('describe', {})
    : { board, revision, target, pads: [], ports: [] };
  const entries = new Map<string, SettingEntry>();
  let read = 0;
  const total = Math.min(identity.settings, MAX_SETTINGS);
  while (read < total) {
    const page = await client.request('catalogue', { from: read });
    if (page.entries.length === 0) break;
    read += page.entries.length;
    for (const e of page.entries) if (e) entries.set(e.key, { ...e, label: e.label || e.key });
    onProgress((0.7 * read) / total);
  }
  const { rules } = canDo(identity, 'rules') ? await client.request('rules', {}) : { rules: [] };
  const values = await readValues(client);
  onProgress(1);
  const catalogue = new Catalogue(
    [...entries.values()],
    rules.filter((r) => r !== null),
  );
  return { identity, description, catalogue, values, unreadable: read - entries.size };
}

/** Every setting as the board holds it now. */
export async function readValues(client: LinkClient): Promise<Values> {
  const values: Record<string, SettingValue> = {};
  let read = 0;
  for (;;) {
    const page = await client.request('values', { from: read });
    for (const [key, value] of page.items) values[key] = value;
    read += page.items.length;
    if (page.items.length === 0 || read >= Math.min(page.total, MAX_SETTINGS)) return values;
  }
}

export type WriteOutcome =
  | { readonly kind: 'written'; readonly values: Values; readonly restartNeeded: boolean }
  | { readonly kind: 'refused'; readonly refusals: readonly Refusal[] }
  /** The board holds something else than was sent; nothing is claimed. */
  | { readonly kind: 'differs'; readonly values: Values; readonly keys: readonly string[] };

const STORE_POLL_MS = 40;
const STORE_LIMIT_MS = 8000;

/**
 * Writes edits all together: begin, put, commit, wait until stored, read back, compare.
 * @throws LinkError when the board is silent or the link closes; then nothing is known, and the board has either
 *   all edits or none
 */
export async function writeEdits(
  client: LinkClient,
  baseFingerprint: string,
  edits: Edits,
): Promise<WriteOutcome> {
  const items = Object.entries(edits);
  const session = client.acts.fresh();
  await client.request('write-begin', { session, base: baseFingerprint });
  for (let part = 0; part * PUT_ITEMS < items.length; part++) {
    await client.request('write-put', {
      session,
      part,
      items: items.slice(part * PUT_ITEMS, (part + 1) * PUT_ITEMS),
    });
  }
  const commit = await client.request('write-commit', {
    session,
    count: items.length,
    sum: fingerprintOf(edits),
  });
  if (commit.state === 'refused') return { kind: 'refused', refusals: commit.refusals };
  let restartNeeded = false;
  for (let waited = 0; ; waited += STORE_POLL_MS) {
    const status = await client.request('write-status', { session });
    restartNeeded = status.restartNeeded;
    if (status.state === 'stored') break;
    if (status.state === 'failed' || status.state === 'none')
      throw new LinkError(
        'refused',
        status.state === 'failed'
          ? 'The flash of the board did not take the settings. What it held before stands; nothing of this was stored. Try once more; a board that says so again is worn out.'
          : 'The board does not know of the write any more: it was restarted in the middle. Read its settings again before you go on.',
      );
    if (waited > STORE_LIMIT_MS)
      throw new LinkError(
        'silent',
        'The board has not finished storing. Read its settings again before you go on.',
      );
    await new Promise((resolve) => setTimeout(resolve, STORE_POLL_MS));
  }
  const values = await readValues(client);
  const keys = items.filter(([k, v]) => !sameValue(values[k], v)).map(([k]) => k);
  return keys.length === 0 ? { kind: 'written', values, restartNeeded } : { kind: 'differs', values, keys };
}
