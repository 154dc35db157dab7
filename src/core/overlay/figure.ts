import { displayOf, type UnitId, type UnitSystem } from '../units/units.ts';

/** What a figure turns into when it does not fit its cells. */
export const outgrownWays = ['coarser', 'most', 'dashes'] as const;
export type Outgrown = (typeof outgrownWays)[number];

export interface FigureShape {
  readonly unit: UnitId;
  /** Letters behind the number, where they are others than the unit's own. */
  readonly letters?: string;
  /** Cells before the point, a sign included. */
  readonly whole: number;
  readonly decimals: number;
  /** A larger unit to go to, with its letter and how many of the usual ones it has, by system of units. */
  readonly larger?: Readonly<Record<UnitSystem, readonly [letters: string, of: number]>>;
}

/** Of lengths: kilometres, miles (5280 ft), nautical miles (1852 m). */
export const LARGER_LENGTHS: NonNullable<FigureShape['larger']> = {
  metric: ['k', 1000],
  imperial: ['M', 5280],
  aviation: ['N', 1852 / 0.3048],
};

const cellsOf = (f: FigureShape): number => f.whole + (f.decimals > 0 ? f.decimals + 1 : 0);
const lettersOf = (f: FigureShape, units: UnitSystem): string => f.letters ?? displayOf(f.unit, units).symbol;

/** Cells that a figure takes at most, its unit included. */
export const figureColumns = (f: FigureShape, units: UnitSystem): number =>
  cellsOf(f) + lettersOf(f, units).length;

/**
 * A number in its cells, its unit behind it; never longer or shorter than `figureColumns`.
 * @param value SI, in `shape.unit`; NaN where nobody knows it
 */
export function figure(value: number, shape: FigureShape, units: UnitSystem, outgrown: Outgrown): string {
  const cells = cellsOf(shape);
  const letters = lettersOf(shape, units);
  const dashes = `${'-'.repeat(cells)}${letters}`;
  if (!Number.isFinite(value)) return dashes;
  const shown = value * displayOf(shape.unit, units).factor;
  const plain = fitted(shown, shape.decimals, shape.decimals, cells);
  if (plain !== null) return plain + letters;
  if (outgrown === 'dashes') return dashes;
  const most = (10 ** (cells - (shown < 0 ? 1 : 0)) - 1) * Math.sign(shown);
  if (outgrown === 'most') return (fitted(most, 0, 0, cells) ?? '-'.repeat(cells)) + letters;
  const rounded = fitted(shown, shape.decimals, 0, cells);
  if (rounded !== null) return rounded + letters;
  const larger = shape.larger?.[units];
  if (!larger) return dashes;
  // The larger unit's letter stands where the usual one stands.
  const unit = larger[0].padEnd(letters.length).slice(0, letters.length);
  const far = fitted(shown / larger[1], 2, 0, cells);
  return far === null ? dashes : far + unit;
}

/** With as many decimals as fit, from `decimals` down to `least`; null where none do. */
function fitted(value: number, decimals: number, least: number, cells: number): string | null {
  for (let d = decimals; d >= least; d--) {
    const text = value.toFixed(d).replace(/^-(0(?:\.0+)?)$/, '$1');
    if (text.length <= cells) return text.padStart(cells);
  }
  return null;
}
