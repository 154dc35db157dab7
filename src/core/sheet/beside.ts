import { actuatorNames } from '../airframe/actuators.ts';
import type { Airframe } from '../airframe/airframe.ts';
import { boardTitle } from '../board/boardRef.ts';
import type { CraftFile } from '../formats/craftFile.ts';
import type { Catalogue, Values } from '../settings/catalogue.ts';
import { compareSettings } from '../settings/compare.ts';
import { valueTexts } from '../settings/valueText.ts';
import { formatNumber, formatQuantity, type UnitSystem } from '../units/units.ts';

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
    parts.push({ title: 'The craft', rows: craftRows(here.file.airframe, there.file.airframe, units) });
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
function craftRows(a: Airframe, b: Airframe, units: UnitSystem): BesideRow[] {
  const [x, y] = [flat(a, units), flat(b, units)];
  return [...new Set([...x.keys(), ...y.keys()])]
    .filter((k) => k !== 'name' && x.get(k) !== y.get(k))
    .map((k) => ({ what: k, here: x.get(k) ?? NONE, there: y.get(k) ?? NONE }));
}

/** How names of an airframe's numbers end, and the unit that says (`core/airframe/airframe.ts`); the longer ones first. */
const unitEnds = [
  ['RpmPerV', 'rpm/V'],
  ...([
    ['Mah', 'mah'],
    ['Ohm', 'ohm'],
    ['Mps', 'm/s'],
    ['Deg', 'deg'],
  ] as const),
  ...([
    ['M2', 'm2'],
    ['Kg', 'kg'],
    ['Mm', 'mm'],
    ['M', 'm'],
    ['A', 'a'],
    ['V', 'v'],
  ] as const),
] as const;

/** "wing, span" for each leaf, its value in the units that are read. */
function flat(value: unknown, units: UnitSystem, path = ''): Map<string, string> {
  const out = new Map<string, string>();
  const take = (item: unknown, at: string) => {
    for (const [k, v] of flat(item, units, at)) out.set(k, v);
  };
  if (Array.isArray(value)) {
    for (const [i, item] of value.entries()) {
      const id = (item as { id?: unknown } | null)?.id;
      // What has a name of its own needs none of its list.
      if (typeof id === 'string') take(item, actuatorNames[id as keyof typeof actuatorNames] ?? inWords(id));
      else take(item, path === '' ? String(i + 1) : `${path} ${i + 1}`);
    }
    return out;
  }
  if (typeof value === 'object' && value !== null) {
    for (const [key, item] of Object.entries(value)) {
      if (key === 'id') continue;
      const end = typeof item === 'number' ? unitEnds.find(([e]) => key.endsWith(e) && key !== e) : undefined;
      const name = inWords(end ? key.slice(0, -end[0].length) : key);
      const at = path === '' ? name : `${path}, ${name}`;
      if (end) out.set(at, formatQuantity(item as number, end[1], units));
      else take(item, at);
    }
    return out;
  }
  if (value !== undefined) out.set(path, typeof value === 'number' ? formatNumber(value) : String(value));
  return out;
}

/** "rootChord" as "root chord", "left-aileron" as "left aileron". */
const inWords = (key: string): string =>
  key.replaceAll('-', ' ').replace(/([A-Z])/g, (c) => ` ${c.toLowerCase()}`);
