import { clamp } from '../math/scalar.ts';

export type Chemistry = 'lipo' | 'li-ion';

/** Rested cell voltage at 0, 10 ... 100 % charge: a flat middle and a steep foot. Ours, rounded. */
const OPEN_CIRCUIT_V: Readonly<Record<Chemistry, readonly number[]>> = {
  lipo: [3.27, 3.61, 3.69, 3.73, 3.77, 3.8, 3.84, 3.9, 3.98, 4.08, 4.2],
  // Falls more evenly and may go lower.
  'li-ion': [2.8, 3.18, 3.35, 3.45, 3.53, 3.61, 3.69, 3.78, 3.89, 4.03, 4.18],
};

/** One cell without load. Charge and voltage are fields: given to a call they would go on the heap in every step. */
class Cell {
  /** State of charge, 0 to 1. */
  charge = 1;
  /** V at that charge, after `rest`. */
  voltage = 0;
  private readonly curve: readonly number[];

  constructor(chemistry: Chemistry) {
    this.curve = OPEN_CIRCUIT_V[chemistry];
  }

  rest(): void {
    const x = clamp(this.charge, 0, 1) * 10;
    const i = Math.min(9, Math.floor(x));
    const low = this.curve[i]!;
    this.voltage = low + (this.curve[i + 1]! - low) * (x - i);
  }
}

/** Rested voltage of one cell. @param charge state of charge, 0 to 1. @returns V */
export function openCircuitV(chemistry: Chemistry, charge: number): number {
  const cell = new Cell(chemistry);
  cell.charge = charge;
  cell.rest();
  return cell.voltage;
}

/** A pack: open-circuit curve less current times internal resistance. Temperature is left out. */
export class Battery {
  usedAs = 0;
  usedWh = 0;
  voltage: number;
  /** Drawn in the next step, A. A field, since a number given to a call is put on the heap in every step. */
  currentA = 0;
  private readonly cell: Cell;

  constructor(
    readonly chemistry: Chemistry,
    readonly cells: number,
    readonly capacityAs: number,
    readonly resistanceOhm: number,
  ) {
    this.cell = new Cell(chemistry);
    this.cell.rest();
    this.voltage = cells * this.cell.voltage;
  }

  /** Draws `currentA` for `dt` seconds; afterwards `voltage` is that at the terminals. */
  step(dt: number): void {
    const { currentA } = this;
    this.usedAs += currentA * dt;
    this.cell.charge = 1 - this.usedAs / this.capacityAs;
    this.cell.rest();
    const open = this.cells * this.cell.voltage;
    this.voltage = Math.max(0, open - currentA * this.resistanceOhm);
    this.usedWh += (this.voltage * currentA * dt) / 3600;
  }

  get empty(): boolean {
    return this.usedAs >= this.capacityAs;
  }
}
