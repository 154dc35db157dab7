import type { Airframe } from '../../airframe/airframe.ts';
import { thrustAt } from '../../airframe/performance.ts';
import { rememberedOf } from '../../airframe/remembered.ts';
import { clamp } from '../../math/scalar.ts';

const DUTIES = 11;
const SPEEDS = 6;

/** Thrust of all motors, N, between points of throttle and of speed along their shafts: motors are slow to settle. */
export class ThrustTable {
  private readonly table: Float64Array;

  constructor(
    airframe: Airframe,
    private readonly from: number,
    private readonly to: number,
  ) {
    this.table = Float64Array.from({ length: DUTIES * SPEEDS }, (_, k) => {
      const duty = Math.floor(k / SPEEDS) / (DUTIES - 1);
      return thrustAt(airframe, duty, from + ((to - from) * (k % SPEEDS)) / (SPEEDS - 1)).thrust;
    });
  }

  at(duty: number, speed: number): number {
    const d = clamp(duty, 0, 1) * (DUTIES - 1);
    const v = clamp((speed - this.from) / (this.to - this.from), 0, 1) * (SPEEDS - 1);
    const [i, j] = [Math.min(DUTIES - 2, Math.floor(d)), Math.min(SPEEDS - 2, Math.floor(v))];
    const [x, y] = [d - i, v - j];
    const t = this.table;
    const low = t[i * SPEEDS + j]! * (1 - y) + t[i * SPEEDS + j + 1]! * y;
    const high = t[(i + 1) * SPEEDS + j]! * (1 - y) + t[(i + 1) * SPEEDS + j + 1]! * y;
    return low * (1 - x) + high * x;
  }
}

const known = rememberedOf<ThrustTable>();

/** @param from @param to speeds along the shafts, m/s */
export const thrustTable = (airframe: Airframe, from: number, to: number): ThrustTable =>
  known(airframe, `${from} ${to}`, () => new ThrustTable(airframe, from, to));
