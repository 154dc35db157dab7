import { clamp } from '../math/scalar.ts';

/** Rested LiPo cell voltage at 0, 10 ... 100 % charge; the usual flat middle and steep foot. Ours, rounded. */
const LIPO_OPEN_CIRCUIT_V = [3.27, 3.61, 3.69, 3.73, 3.77, 3.8, 3.84, 3.9, 3.98, 4.08, 4.2];

/** Rested voltage of one LiPo cell. @param charge state of charge, 0 to 1. @returns V */
export function lipoOpenCircuitV(charge: number): number {
  const x = clamp(charge, 0, 1) * 10;
  const i = Math.min(9, Math.floor(x));
  const low = LIPO_OPEN_CIRCUIT_V[i]!;
  return low + (LIPO_OPEN_CIRCUIT_V[i + 1]! - low) * (x - i);
}

/** A pack: open-circuit curve less current times internal resistance. Temperature is left out. */
export class Battery {
  usedAs = 0;
  usedWh = 0;
  voltage: number;
  currentA = 0;

  constructor(
    readonly cells: number,
    readonly capacityAs: number,
    readonly resistanceOhm: number,
  ) {
    this.voltage = cells * lipoOpenCircuitV(1);
  }

  /** Draws `currentA` for `dt` seconds; afterwards `voltage` is that at the terminals. */
  draw(currentA: number, dt: number): void {
    this.currentA = currentA;
    this.usedAs += currentA * dt;
    const open = this.cells * lipoOpenCircuitV(1 - this.usedAs / this.capacityAs);
    this.voltage = Math.max(0, open - currentA * this.resistanceOhm);
    this.usedWh += (this.voltage * currentA * dt) / 3600;
  }

  get empty(): boolean {
    return this.usedAs >= this.capacityAs;
  }
}
