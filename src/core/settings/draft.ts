import { type Catalogue, type SettingValue, sameValue, type Values } from './catalogue.ts';

/** Settings that wait to be written over what the board holds. */
export type Edits = Readonly<Record<string, SettingValue>>;

/** One waiting edit, as the tray shows it. */
export interface Change {
  readonly key: string;
  readonly was: SettingValue;
  readonly willBe: SettingValue;
}

/** The edits with more laid over them; those equal to the board's value fall away. The same ones where nothing changes. */
export function stage(edits: Edits, base: Values, more: Edits): Edits {
  const next: Record<string, SettingValue> = { ...edits };
  for (const [key, value] of Object.entries(more)) {
    if (sameValue(base[key], value)) delete next[key];
    else next[key] = value;
  }
  return sameEdits(edits, next) ? edits : next;
}

/** The edits without some of them. The same ones where nothing changes. */
export function drop(edits: Edits, keys: readonly string[]): Edits {
  const next = Object.fromEntries(Object.entries(edits).filter(([key]) => !keys.includes(key)));
  return sameEdits(edits, next) ? edits : next;
}

function sameEdits(a: Edits, b: Edits): boolean {
  const keys = Object.keys(b);
  return keys.length === Object.keys(a).length && keys.every((k) => k in a && sameValue(a[k], b[k]));
}

/** The edits over a new board copy: what the board holds by now is no longer one. */
export function rebase(edits: Edits, base: Values): Edits {
  return drop(
    edits,
    Object.keys(edits).filter((k) => sameValue(base[k], edits[k])),
  );
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
