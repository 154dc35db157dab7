import { type Catalogue, type SettingValue, sameValue, type Values } from './catalogue.ts';

export type Edits = Readonly<Record<string, SettingValue>>;

/** Edits waiting over what the board holds, with undo. Edits equal to the board's value fall away. */
export interface Draft {
  readonly edits: Edits;
  readonly past: readonly Edits[];
  readonly future: readonly Edits[];
}

export const emptyDraft: Draft = { edits: {}, past: [], future: [] };
const HISTORY = 200;

/** One waiting edit, as the tray shows it. */
export interface Change {
  readonly key: string;
  readonly was: SettingValue;
  readonly willBe: SettingValue;
}

export function stage(draft: Draft, base: Values, edits: Edits): Draft {
  const next: Record<string, SettingValue> = { ...draft.edits };
  for (const [key, value] of Object.entries(edits)) {
    if (sameValue(base[key], value)) delete next[key];
    else next[key] = value;
  }
  return remember(draft, next);
}

export function drop(draft: Draft, keys: readonly string[]): Draft {
  const next = Object.fromEntries(Object.entries(draft.edits).filter(([key]) => !keys.includes(key)));
  return remember(draft, next);
}

function remember(draft: Draft, next: Edits): Draft {
  const same =
    Object.keys(next).length === Object.keys(draft.edits).length &&
    Object.entries(next).every(([k, v]) => sameValue(draft.edits[k], v));
  if (same) return draft;
  return { edits: next, past: [...draft.past.slice(-HISTORY), draft.edits], future: [] };
}

export function undo(draft: Draft): Draft {
  const last = draft.past.at(-1);
  if (!last) return draft;
  return { edits: last, past: draft.past.slice(0, -1), future: [draft.edits, ...draft.future] };
}

export function redo(draft: Draft): Draft {
  const [next, ...rest] = draft.future;
  if (!next) return draft;
  return { edits: next, past: [...draft.past, draft.edits], future: rest };
}

/** The draft over a new board copy: what the board holds by now is no longer an edit, in history too. */
export function rebase(draft: Draft, base: Values): Draft {
  const keep = (edits: Edits): Edits =>
    Object.fromEntries(Object.entries(edits).filter(([k, v]) => !sameValue(base[k], v)));
  return { edits: keep(draft.edits), past: draft.past.map(keep), future: draft.future.map(keep) };
}

/** Board values with the edits laid over them. */
export function drafted(base: Values, edits: Edits): Values {
  return { ...base, ...edits };
}

/** The waiting edits in the catalogue's order. */
export function changesOf(catalogue: Catalogue, base: Values, edits: Edits): Change[] {
  const changes: Change[] = [];
  for (const entry of catalogue.entries) {
    const willBe = edits[entry.key];
    if (willBe === undefined) continue;
    changes.push({ key: entry.key, was: base[entry.key] ?? entry.default, willBe });
  }
  return changes;
}
