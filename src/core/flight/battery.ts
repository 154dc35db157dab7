import { clamp } from '../math/scalar.ts';
import type { MotorUnit } from './propulsion.ts';

export type Chemistry = 'lipo' | 'li-ion';

/** Rested cell voltage at 0, 10 ... 100 % charge: a flat middle and a steep foot. Ours, rounded. */
const OPEN_CIRCUIT_V: Readonly<Record<Chemistry, readonly number[]>> = {
  lipo: [3.27, 3.61, 3.69, 3.73, 3.77, 3.8, 3.84, 3.9, 3.98, 4.08, 4.2],
  // Falls more evenly and may go lower.
  'li-ion': [2.8, 3.18, 3.35, 3.45, 3.53, 3.61, 3.69, 3.78, 3.89, 4.03, 4.18],
};

/** Resistance of a collapsed cell over that of a whole one. Ours. */
const DEAD_CELL = 4;

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

/**
 * Voltage of a source behind a resistance that gives so much power: the upper root of v (open - v) = watts ohm.
 * More than it gives at all: half the open voltage, where it gives most.
 */
export function loadedV(open: number, watts: number, ohm: number): number {
  const room = open * open - 4 * watts * ohm;
  return 0.5 * (open + (room > 0 ? Math.sqrt(room) : 0));
}

/** Charge of a cell that shows this voltage at rest, 0 to 1. @param voltage V */
export function chargeAtRest(chemistry: Chemistry, voltage: number): number {
  const curve = OPEN_CIRCUIT_V[chemistry];
  if (voltage <= curve[0]!) return 0;
  const i = curve.findIndex((v) => v >= voltage);
  if (i < 0) return 1;
  return (i - 1 + (voltage - curve[i - 1]!) / (curve[i]! - curve[i - 1]!)) / 10;
}

/**
 * A pack: open-circuit curve less current times internal resistance. Temperature is left out. Who draws from it is
 * solved together with it: `share` gives the voltage at which the motors' currents make just that voltage.
 */
export class Battery {
  usedAs = 0;
  usedWh = 0;
  voltage: number;
  /** Drawn in the next step, A. A field, since a number given to a call is put on the heap in every step. */
  currentA = 0;
  private readonly cell: Cell;
  private open: number;

  constructor(
    readonly chemistry: Chemistry,
    public cells: number,
    readonly capacityAs: number,
    public resistanceOhm: number,
  ) {
    this.cell = new Cell(chemistry);
    this.cell.rest();
    this.open = cells * this.cell.voltage;
    this.voltage = this.open;
  }

  /**
   * Solves V = V_open - R (house + motors' currents at V) for the terminals, by Newton steps from the last voltage,
   * which keeps the branch the pack is on. Currents are those of `MotorUnit.step`: (d V - k w)/R_m while the bridge
   * feeds, its limit's power over V while it limits.
   */
  share(duties: Float64Array, motors: readonly MotorUnit[], houseA: number): void {
    const open = this.open;
    const r = this.resistanceOhm;
    let v = this.voltage;
    for (let go = 0; go < 12; go++) {
      // Of the motors: begun from a number that was handed in, each sum would go on the heap.
      let current = 0;
      let slope = 0;
      for (let i = 0; i < motors.length; i++) {
        const m = motors[i]!;
        const duty = duties[i]!;
        if (m.burnt || m.failed || duty <= 0.01) continue;
        const back = m.omega * m.torqueConstant;
        const drive = (duty * v - back) / m.resistanceOhm;
        if (drive <= 0) continue;
        if (drive > m.maxCurrentA) {
          const power = m.maxCurrentA * (back + m.maxCurrentA * m.resistanceOhm);
          current += power / v;
          slope -= power / (v * v);
        } else {
          current += duty * drive;
          slope += (duty * duty) / m.resistanceOhm;
        }
      }
      const off = open - r * (houseA + current) - v;
      const steep = 1 + r * slope;
      // Where limits make the curve fall the fixed point itself is the safe step.
      const by = off / (steep > 0.3 ? steep : 1);
      v += by;
      if (v < 0.005 * open) v = 0.005 * open;
      if (by < 1e-7 && by > -1e-7) {
        this.voltage = v;
        return;
      }
    }
    this.halve(duties, motors, houseA);
  }

  /**
   * The same by halving, for a pack that standing motors all but short: there the curve has corners that Newton steps
   * jump over. Without voltage nothing is drawn, at the rested voltage too much, so there is a place between.
   */
  private halve(duties: Float64Array, motors: readonly MotorUnit[], houseA: number): void {
    let low = 0;
    let high = this.open;
    for (let go = 0; go < 50; go++) {
      const v = 0.5 * (low + high);
      let current = 0;
      for (let i = 0; i < motors.length; i++) {
        const m = motors[i]!;
        const duty = duties[i]!;
        if (m.burnt || m.failed || duty <= 0.01) continue;
        const back = m.omega * m.torqueConstant;
        const drive = (duty * v - back) / m.resistanceOhm;
        if (drive <= 0) continue;
        const limit = m.maxCurrentA;
        current += drive > limit ? (limit * (back + limit * m.resistanceOhm)) / v : duty * drive;
      }
      if (this.open - this.resistanceOhm * (houseA + current) > v) low = v;
      else high = v;
    }
    this.voltage = 0.5 * (low + high);
  }

  /** Draws `currentA` for `dt` seconds; afterwards `voltage` is that at the terminals. */
  step(dt: number): void {
    const { currentA } = this;
    this.voltage = Math.max(0, this.open - currentA * this.resistanceOhm);
    this.usedWh += (this.voltage * currentA * dt) / 3600;
    this.usedAs += currentA * dt;
    this.cell.charge = 1 - this.usedAs / this.capacityAs;
    this.cell.rest();
    this.open = this.cells * this.cell.voltage;
  }

  /** A cell collapses: its voltage is gone, and what is left of it resists. @param ohm of one whole cell */
  loseCell(ohm: number): void {
    if (this.cells <= 1) return;
    this.cells -= 1;
    this.resistanceOhm += DEAD_CELL * ohm;
    this.step(0);
  }

  /** Has this charge from now on. @param share 0 to 1. @returns what went in, As */
  charge(share: number): number {
    const before = this.usedAs;
    this.usedAs = (1 - share) * this.capacityAs;
    this.currentA = 0;
    this.step(0);
    return before - this.usedAs;
  }

  /** Rested voltage of the pack now, V. */
  get openV(): number {
    return this.open;
  }

  get empty(): boolean {
    return this.usedAs >= this.capacityAs;
  }
}
