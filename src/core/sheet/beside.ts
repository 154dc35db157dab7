import { actuatorNames } from '../airframe/actuators.ts';
import type { Airframe } from '../airframe/airframe.ts';
import { boardTitle } from '../board/boardRef.ts';
import type { CraftFile } from '../formats/craftFile.ts';
import type { Catalogue, Values } from '../settings/catalogue.ts';
import { compareSettings } from '../settings/compare.ts';
import { valueTexts } from '../settings/valueText.ts';
import { formatNumber, type UnitSystem } from '../units/units.ts';

/** Two set-ups beside each other: only what is other. */

interface BesideRow {
  readonly what: string;
  readonly here: string;
  readonly there: string;
}

export interface BesidePart {
  readonly title: string;
  readonly rows: readonly BesideRow[];
}

/** One side: a craft's file, or only its settings as they were kept. */
export interface SetUpSide {
  readonly values: Values;
  readonly file: Pick<CraftFile, 'airframe' | 'board' | 'plan' | 'site'> | null;
}

const NONE = '–';

/** Parts of the sheet that are not alike, empty where all is. */
export function setUpsBeside(
  here: SetUpSide,
  there: SetUpSide,
  catalogue: Catalogue,
  units: UnitSystem,
): readonly BesidePart[] {
  const settings = new Map<string, BesideRow[]>();
  for (const d of compareSettings(here.values, there.values, catalogue)) {
    const [a, b] = valueTexts(d.entry, d.a, d.b, units);
    const group = d.entry?.group ?? 'Not known here';
    const rows = settings.get(group) ?? [];
    rows.push({
      what: d.entry?.label ?? d.key,
      here: d.a === undefined ? NONE : a,
      there: d.b === undefined ? NONE : b,
    });
    settings.set(group, rows);
  }
  const parts: BesidePart[] = [];
  if (here.file && there.file) {
    parts.push({ title: 'The craft', rows: craftRows(here.file.airframe, there.file.airframe) });
    const rows: BesideRow[] = [];
    const [a, b] = [boardTitle(here.file.board), boardTitle(there.file.board)];
    if (a !== b) rows.push({ what: 'board', here: a, there: b });
    if (here.file.site !== there.file.site)
      rows.push({ what: 'site', here: here.file.site ?? NONE, there: there.file.site ?? NONE });
    const points = (f: NonNullable<SetUpSide['file']>) =>
      f.plan ? `${f.plan.points.length} points, ${f.plan.fences.length} fences` : 'none';
    if (JSON.stringify(here.file.plan ?? null) !== JSON.stringify(there.file.plan ?? null))
      rows.push({ what: 'route', here: points(here.file), there: points(there.file) });
    parts.push({ title: 'Board, site and route', rows });
  }
  return [...parts, ...[...settings].map(([title, rows]) => ({ title, rows }))].filter(
    (p) => p.rows.length > 0,
  );
}

/** Every number and word of two craft that is not alike, by where it stands. */
function craftRows(a: Airframe, b: Airframe): BesideRow[] {
  const [x, y] = [flat(a), flat(b)];
  return [...new Set([...x.keys(), ...y.keys()])]
    .filter((k) => k !== 'name' && x.get(k) !== y.get(k))
    .map((k) => ({ what: k, here: x.get(k) ?? NONE, there: y.get(k) ?? NONE }));
}

/** "main wing, span m" for each leaf. */
function flat(value: unknown, path = ''): Map<string, string> {
  const out = new Map<string, string>();
  if (Array.isArray(value)) {
    for (const [i, item] of value.entries()) {
      const id = (item as { id?: unknown } | null)?.id;
      const name =
        typeof id === 'string' ? (actuatorNames[id as keyof typeof actuatorNames] ?? id) : String(i + 1);
      for (const [k, v] of flat(item, path === '' ? name : `${path} ${name}`)) out.set(k, v);
    }
    return out;
  }
  if (typeof value === 'object' && value !== null) {
    for (const [key, item] of Object.entries(value)) {
      if (key === 'id') continue;
      for (const [k, v] of flat(item, path === '' ? inWords(key) : `${path}, ${inWords(key)}`)) out.set(k, v);
    }
    return out;
  }
  if (value !== undefined) out.set(path, typeof value === 'number' ? formatNumber(value) : String(value));
  return out;
}

/** "spanM" as "span m". */
const inWords = (key: string): string => key.replace(/([A-Z])/g, (c) => ` ${c.toLowerCase()}`);
