import { DEG, GRAVITY } from '../math/scalar.ts';
import type { Triple } from '../math/triple.ts';

/** Recorded samples: columns in SI, and the step of a lesson that each row belongs to. */
export interface SamplesTable {
  readonly rows: number;
  /** By what they measure: `t`, `ax`, `gz`, `mx`, `current`, `voltage`. Empty cells are NaN. */
  readonly columns: ReadonlyMap<string, Float64Array>;
  /** Name of the step of each row; all empty where there is no such column. */
  readonly steps: readonly string[];
}

/** Units that the end of a column's name may tell, and what makes them SI (fields stay in uT). */
const units: Readonly<Record<string, number>> = {
  s: 1,
  ms: 1e-3,
  us: 1e-6,
  mps2: 1,
  g: GRAVITY,
  dps: DEG,
  radps: 1,
  ut: 1,
  gauss: 100,
  a: 1,
  v: 1,
  mah: 1,
};

const MOST_ROWS = 2_000_000;
const MOST_COLUMNS = 64;

/**
 * Reads samples as comma-separated text: a header that names columns and their units (`t_s,ax_mps2,...,mx_ut,current_a,step`),
 * then a line a sample. Columns whose unit is not known are left out.
 * @param named what columns of other names are, with their units: `Soll` is `asked_dps`
 */
export function readSamples(
  text: string,
  named: ReadonlyMap<string, string> = new Map(),
): { readonly ok: true; readonly table: SamplesTable } | { readonly ok: false; readonly why: string } {
  const lines = text.split(/\r?\n/);
  const head = (lines[0] ?? '')
    .replace(/^\uFEFF/, '')
    .split(',')
    .map((c) => (named.get(c.trim()) ?? c.trim()).toLowerCase());
  if (head.length > MOST_COLUMNS || lines.length > MOST_ROWS)
    return {
      ok: false,
      why: `It has more than ${MOST_COLUMNS} columns or ${MOST_ROWS} lines. Nothing was read.`,
    };
  const known = head.flatMap((name, at) => {
    const split = name.lastIndexOf('_');
    const factor = units[name.slice(split + 1)];
    return split > 0 && factor !== undefined ? [{ at, name: name.slice(0, split), factor }] : [];
  });
  if (known.length === 0)
    return {
      ok: false,
      why: 'Its first line names no column with a unit, such as t_s, ax_mps2, gx_dps, mx_ut or current_a. Nothing was read.',
    };
  const twice = known.find((c, i) => known.findIndex((x) => x.name === c.name) !== i);
  if (twice) return { ok: false, why: `It has two columns for ${twice.name}. Nothing was read.` };
  const stepAt = head.indexOf('step');
  const filled = lines
    .map((line, i) => ({ line, i }))
    .slice(1)
    .filter(({ line }) => line.trim() !== '');
  const columns = new Map(known.map((c) => [c.name, new Float64Array(filled.length)]));
  const steps: string[] = [];
  for (const [row, { line, i }] of filled.entries()) {
    const cells = line.split(',');
    for (const { at, name, factor } of known) {
      const cell = cells[at]?.trim() ?? '';
      const value = cell === '' ? Number.NaN : Number(cell);
      if (cell !== '' && !Number.isFinite(value))
        return {
          ok: false,
          why: `Line ${i + 1} has "${cell.slice(0, 40)}" for ${head[at]}, which is no number. Nothing was read.`,
        };
      columns.get(name)![row] = value * factor;
    }
    steps.push(stepAt < 0 ? '' : stepOf(cells[stepAt] ?? ''));
  }
  if (filled.length === 0) return { ok: false, why: 'It has no samples. Nothing was read.' };
  return { ok: true, table: { rows: filled.length, columns, steps } };
}

/** `Nose up`, `nose_up` and `nose-up` are one step. */
const stepOf = (cell: string) =>
  cell
    .trim()
    .toLowerCase()
    .replace(/[\s_]+/g, '-');

/** Three columns of a row as one; null where one of them is missing or empty. */
export function tripleAt(
  { columns }: SamplesTable,
  names: readonly [string, string, string],
  row: number,
): Triple | null {
  const value = names.map((n) => columns.get(n)?.[row] ?? Number.NaN);
  return value.every(Number.isFinite) ? [value[0]!, value[1]!, value[2]!] : null;
}
