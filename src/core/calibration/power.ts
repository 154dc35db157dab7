import { fitLine } from '../analysis/line.ts';
import { clamp } from '../math/scalar.ts';

/** What a cell may have at rest, V: from flat but alive to just charged. */
const CELL_V = { least: 3.2, most: 4.23 } as const;
const LIKELY_V = 4;
const MOST_CELLS = 14;

/** Every number of cells that a voltage at rest may be, the likeliest (most batteries on a bench are charged) first. */
export function cellsFrom(volts: number): readonly number[] {
  const found: number[] = [];
  for (let n = 1; n <= MOST_CELLS; n++)
    if (volts / n >= CELL_V.least && volts / n <= CELL_V.most) found.push(n);
  return found.sort((a, b) => Math.abs(volts / a - LIKELY_V) - Math.abs(volts / b - LIKELY_V));
}

export type ScaleFound =
  | { readonly scale: number; readonly offByShare: number }
  | { readonly refused: string };

/**
 * The voltage scale that makes the board say what a meter says.
 * @param boardV mean of what the board says under its scale now @param meterV the meter's @param scale the board's now
 * @param spread of the board's readings meanwhile, V
 */
export function voltageScaleFrom(boardV: number, meterV: number, scale: number, spread: number): ScaleFound {
  if (!(boardV > 2))
    return { refused: 'The board measures no battery. Connect it, and read the meter again.' };
  if (spread > 0.01 * boardV)
    return { refused: 'The voltage moves: something draws current. Stop it and read the meter again.' };
  const found = (scale * meterV) / boardV;
  const offByShare = boardV / meterV - 1;
  if (!(Math.abs(offByShare) <= 0.2))
    return {
      refused: `The meter says ${meterV.toFixed(2)} V and the board ${boardV.toFixed(2)} V. No divider is off by so much: is the meter on this battery, and on volts?`,
    };
  return { scale: found, offByShare };
}

/** One honest reading of current: what the board says under its settings now, and what was known to flow. A. */
export interface CurrentReading {
  readonly boardA: number;
  readonly knownA: number;
}

export type CurrentFound = { readonly scale: number; readonly offset: number } | { readonly refused: string };

/** What the firmware does: known = scale x (raw - offset). */
const rawOf = (boardA: number, scale: number, offset: number) => boardA / scale + offset;

/** Scale and offset of the current from two readings, the first with nothing flowing or little. */
export function currentFrom(
  first: CurrentReading,
  second: CurrentReading,
  now: { readonly scale: number; readonly offset: number },
): CurrentFound {
  const raw = [first, second].map((r) => rawOf(r.boardA, now.scale, now.offset)) as [number, number];
  const span = second.knownA - first.knownA;
  if (!(Math.abs(span) >= 2))
    return { refused: 'The two readings have to lie 2 A apart at least. Load it more.' };
  if (!((raw[1] - raw[0]) / span > 0.05))
    return { refused: 'The board’s current did not follow the load. Is the load behind its sensor?' };
  const scale = span / (raw[1] - raw[0]);
  const offset = raw[0] - first.knownA / scale;
  if (!(scale > 0.5 && scale < 2) || Math.abs(offset) > 5)
    return {
      refused: `That would need a scale of ${scale.toFixed(2)} and an offset of ${offset.toFixed(1)} A. One of the readings is wrong.`,
    };
  return { scale, offset };
}

/** The scale from what a charger put back, where the board counted. mAh. */
export function currentScaleFromCharge(countedMah: number, chargedMah: number, scale: number): CurrentFound {
  if (!(chargedMah >= 200) || !(countedMah > 0))
    return {
      refused: 'Fly or run more out of it first: below 200 mAh a charger’s own error is the greater.',
    };
  const found = (scale * chargedMah) / countedMah;
  if (!(found > 0.5 && found < 2))
    return {
      refused:
        'The charger put back so much else than the board counted that one of them saw another battery.',
    };
  return { scale: found, offset: Number.NaN };
}

/** Sag of a battery under load: volts per ampere, from a run-up, and one sigma. */
export interface Sag {
  readonly ohms: number;
  readonly sigma: number;
  /** With nothing flowing, V. */
  readonly restV: number;
  readonly mostA: number;
}

export function sagFrom(
  volts: readonly number[],
  amps: readonly number[],
): Sag | { readonly refused: string } {
  const mostA = amps.reduce((a, b) => Math.max(a, b), 0);
  const leastA = amps.reduce((a, b) => Math.min(a, b), mostA);
  const line = mostA - leastA >= 4 ? fitLine(amps, volts) : null;
  if (!line) return { refused: 'Sag shows only under load: run the motors up until 4 A more flow.' };
  if (!(line.slope < 0))
    return {
      refused: 'The voltage did not fall under load. Is this the battery that the current comes from?',
    };
  return { ohms: -line.slope, sigma: line.slopeSigma, restV: line.at0, mostA };
}

/** A cell's voltage with nothing flowing, by the charge that is left (0 to 1): of lithium polymer, as in `flight/battery.ts`. */
export interface DischargePoint {
  readonly used: number;
  readonly volts: number;
}

/**
 * A battery's own discharge under a steady load.
 * @param open a cell's voltage by charge left, 0 to 1 @param ohms of the whole battery
 */
export function dischargeUnder(
  open: (left: number) => number,
  { cells, ohms, amps }: { readonly cells: number; readonly ohms: number; readonly amps: number },
  points = 101,
): readonly DischargePoint[] {
  return Array.from({ length: points }, (_, i) => {
    const used = i / (points - 1);
    return { used, volts: open(1 - used) - (ohms * amps) / cells };
  });
}

/** The share of its charge that is used when a cell under this load falls to a mark; 1 where it never does. */
export function usedAtMark(curve: readonly DischargePoint[], mark: number): number {
  for (let i = 1; i < curve.length; i++) {
    const [a, b] = [curve[i - 1]!, curve[i]!];
    if (b.volts > mark) continue;
    if (a.volts <= mark) return a.used;
    return a.used + ((a.volts - mark) / (a.volts - b.volts)) * (b.used - a.used);
  }
  return clamp(curve.at(-1)?.used ?? 1, 0, 1);
}
