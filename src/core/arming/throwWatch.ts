/** A push along the nose has to last for this long to be a throw, s: a knock does not. */
const FELT_S = 0.06;

/** Feels a throw: a push along the nose above a threshold for long enough. The firmware's own rule, and what a screen shows of it. */
export class ThrowWatch {
  private felt = 0;

  clear(): void {
    this.felt = 0;
  }

  /** @param push specific force along the nose, m/s^2 @param threshold the same @returns whether it is a throw by now */
  step(push: number, threshold: number, dt: number): boolean {
    this.felt = push > threshold ? this.felt + dt : Math.max(0, this.felt - dt);
    return this.felt >= FELT_S;
  }
}

/** What was felt in a run of samples. */
export interface ThrowTold {
  /** s after the first sample; null for no throw. */
  readonly atS: number | null;
  readonly mostMps2: number;
  /** Longest time above the threshold, s. */
  readonly longestS: number;
}

/** When a throw is felt in a run of samples, s after the first; null for none, with the longest push that was too short. */
export function throwIn(pushes: ArrayLike<number>, threshold: number, dt: number): ThrowTold {
  const watch = new ThrowWatch();
  let [atS, most, run, longest] = [null as number | null, 0, 0, 0];
  for (let k = 0; k < pushes.length; k++) {
    most = Math.max(most, pushes[k]!);
    run = pushes[k]! > threshold ? run + dt : 0;
    longest = Math.max(longest, run);
    if (watch.step(pushes[k]!, threshold, dt) && atS === null) atS = k * dt;
  }
  return { atS, mostMps2: most, longestS: longest };
}
