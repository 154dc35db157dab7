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
  pct: 0.01,
  share: 1,
};

const MOST_ROWS = 4_000_000;
const MOST_COLUMNS = 64;
const MOST_LINE = 10_000;
/** What parts cells; the one that its first line has most of. */
const SEPARATORS = [',', ';', '\t'] as const;

export type ReadSamples =
  | { readonly ok: true; readonly table: SamplesTable }
  | {
      readonly ok: false;
      readonly why: string;
      /** What its first line names, where that could be read. */
      readonly names?: readonly string[];
    };

/** A column that is known, as it grows. */
interface Column {
  readonly at: number;
  readonly name: string;
  readonly factor: number;
  cells: Float64Array;
}

/** Reads samples piece by piece, so that a file of hundreds of megabytes is never whole in memory. See `readSamples`. */
export class SamplesReader {
  private rest = '';
  private line = 0;
  private separator: string = ',';
  private head: readonly string[] = [];
  private columns: Column[] = [];
  /** The same by their place in a line. */
  private byPlace: (Column | undefined)[] = [];
  private stepAt = -1;
  private readonly steps: string[] = [];
  private rows = 0;
  private why: string | null = null;

  constructor(private readonly named: ReadonlyMap<string, string> = new Map()) {}

  /** What its first line names, as far as that was read. */
  get names(): readonly string[] {
    return this.head;
  }

  /** It is not worth reading on. */
  get failed(): boolean {
    return this.why !== null;
  }

  push(text: string): void {
    if (this.why !== null) return;
    const lines = (this.rest + text).split('\n');
    this.rest = lines.pop()!;
    for (const line of lines) this.take(line);
    if (this.rest.length > MOST_LINE && this.why === null) this.take(this.rest);
  }

  end(): ReadSamples {
    if (this.rest !== '' || this.line === 0) this.take(this.rest);
    this.rest = '';
    if (this.why === null && this.rows === 0) this.fail('It has no samples.');
    if (this.why !== null)
      return { ok: false, why: this.why, ...(this.head.length > 0 ? { names: this.head } : {}) };
    const columns = new Map(this.columns.map((c) => [c.name, c.cells.slice(0, this.rows)]));
    const steps = this.stepAt < 0 ? new Array<string>(this.rows).fill('') : this.steps;
    return { ok: true, table: { rows: this.rows, columns, steps } };
  }

  private fail(why: string): void {
    this.why ??= `${why} Nothing was read.`;
  }

  private take(raw: string): void {
    if (this.why !== null) return;
    this.line++;
    const line = raw.endsWith('\r') ? raw.slice(0, -1) : raw;
    if (raw.length > MOST_LINE) this.fail(`Line ${this.line} has more than ${MOST_LINE} characters.`);
    else if (this.line === 1) this.takeHead(line.replace(/^\uFEFF/, ''));
    else if (this.rows >= MOST_ROWS) this.fail(`It has more than ${MOST_ROWS} lines.`);
    else if (line.trim() !== '') this.takeRow(line);
  }

  private takeRow(line: string): void {
    if (this.columns[0]!.cells.length === this.rows)
      for (const c of this.columns) {
        const more = new Float64Array(2 * this.rows);
        more.set(c.cells);
        c.cells = more;
      }
    for (const c of this.columns) c.cells[this.rows] = Number.NaN;
    let step = '';
    for (let at = 0, from = 0; from <= line.length; at++) {
      const next = line.indexOf(this.separator, from);
      const to = next < 0 ? line.length : next;
      const column = this.byPlace[at];
      if (column) {
        const value = decimal(line, from, to);
        if (value === null) {
          const cell = line.slice(from, to).trim().slice(0, 40);
          this.fail(`Line ${this.line} has "${cell}" for ${this.head[at]}, which is no number.`);
          return;
        }
        column.cells[this.rows] = value * column.factor;
      }
      if (at === this.stepAt) step = stepOf(line.slice(from, to));
      from = to + 1;
    }
    if (this.stepAt >= 0) this.steps.push(step);
    this.rows++;
  }

  private takeHead(line: string): void {
    const count = (separator: string) => line.split(separator).length;
    this.separator = SEPARATORS.reduce((most, s) => (count(s) > count(most) ? s : most));
    this.head = line.split(this.separator).map((c) => c.trim());
    if (this.head.length > MOST_COLUMNS) {
      this.head = [];
      this.fail(`It has more than ${MOST_COLUMNS} columns.`);
    }
    const names = this.head.map((c) => (this.named.get(c) ?? c).toLowerCase());
    this.columns = names.flatMap((name, at) => {
      const split = name.lastIndexOf('_');
      const factor = units[name.slice(split + 1)];
      return split > 0 && factor !== undefined
        ? [{ at, name: name.slice(0, split), factor, cells: new Float64Array(1024) }]
        : [];
    });
    for (const c of this.columns) this.byPlace[c.at] = c;
    this.stepAt = names.indexOf('step');
    if (this.columns.length === 0)
      this.fail(
        'Its first line names no column with a unit, such as t_s, ax_mps2, gx_dps, mx_ut or current_a.',
      );
    const twice = this.columns.find((c, i) => this.columns.findIndex((x) => x.name === c.name) !== i);
    if (twice) this.fail(`It has two columns for ${twice.name}.`);
  }
}

/**
 * Reads samples as text of cells parted by commas, semicolons or tabs: a header that names columns and their units
 * (`t_s,ax_mps2,...,mx_ut,current_a,step`), then a line a sample. Columns whose unit is not known are left out.
 * @param named what columns of other names are, with their units: `Soll` is `asked_dps`
 */
export function readSamples(text: string, named?: ReadonlyMap<string, string>): ReadSamples {
  const reader = new SamplesReader(named);
  reader.push(text);
  return reader.end();
}

const [ZERO, NINE, POINT, MINUS] = [48, 57, 46, 45] as const;
/** Digits that a number holds exactly. */
const EXACT_DIGITS = 15;

/** The number in a part of a line: NaN where there is none, null where what is there is no number. */
function decimal(line: string, from: number, to: number): number | null {
  const minus = line.charCodeAt(from) === MINUS && from < to;
  let [whole, digits, point] = [0, 0, -1];
  let k = minus ? from + 1 : from;
  for (; k < to; k++) {
    const code = line.charCodeAt(k);
    if (code >= ZERO && code <= NINE) {
      whole = 10 * whole + (code - ZERO);
      digits++;
    } else if (code === POINT && point < 0) point = digits;
    else break;
  }
  // Most cells are plain; one division rounds as `Number` does.
  if (k === to && digits > 0 && digits <= EXACT_DIGITS) {
    const size = point < 0 ? whole : whole / 10 ** (digits - point);
    return minus ? -size : size;
  }
  const cell = line.slice(from, to).trim();
  if (cell === '') return Number.NaN;
  const value = Number(cell);
  return Number.isFinite(value) ? value : null;
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
