import { type Catalogue, type SettingValue, sameValue, type Values } from './catalogue.ts';
import type { SettingEntry } from './catalogueSchema.ts';

/** A setting that two sets of settings do not have alike. */
export interface Difference {
  readonly key: string;
  /** Undefined where that side does not have it. */
  readonly a: SettingValue | undefined;
  readonly b: SettingValue | undefined;
  /** What it means, where the catalogue knows it. */
  readonly entry: SettingEntry | undefined;
}

/** Only what differs, in the catalogue's order, then what no catalogue knows by key. */
export function compareSettings(a: Values, b: Values, catalogue: Catalogue): Difference[] {
  const found: Difference[] = [];
  for (const entry of catalogue.entries) {
    const { key } = entry;
    if (!sameValue(a[key], b[key])) found.push({ key, a: a[key], b: b[key], entry });
  }
  const others = new Set([...Object.keys(a), ...Object.keys(b)].filter((k) => !catalogue.entry(k)));
  for (const key of [...others].sort())
    if (!sameValue(a[key], b[key])) found.push({ key, a: a[key], b: b[key], entry: undefined });
  return found;
}
