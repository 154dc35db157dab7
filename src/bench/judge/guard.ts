import type { Plant } from '#core/flight/plant.ts';

/** Beyond these no craft of ours goes: m/s, rad/s, m. */
const SPEED_MOST = 220;
const RATE_MOST = 400;
const FAR_MOST = 200_000;

/**
 * A numerical guard: what cannot be in a plant's state, in a sentence with its figures, so that it can be reported.
 * Null when all is well.
 */
export function impossibleIn(plant: Plant): string | null {
  const p = plant.position;
  const v = plant.velocity;
  const w = plant.rates;
  const q = plant.attitude;
  // One sum that is not finite where any of its parts is not.
  const sum =
    p[0]! +
    p[1]! +
    p[2]! +
    v[0]! +
    v[1]! +
    v[2]! +
    w[0]! +
    w[1]! +
    w[2]! +
    q[0]! +
    q[1]! +
    q[2]! +
    q[3]! +
    plant.battery.voltage +
    plant.battery.usedWh;
  const far = p[0]! * p[0]! + p[1]! * p[1]! + p[2]! * p[2]! > FAR_MOST * FAR_MOST;
  const fast = v[0]! * v[0]! + v[1]! * v[1]! + v[2]! * v[2]! > SPEED_MOST * SPEED_MOST;
  const spun = w[0]! * w[0]! + w[1]! * w[1]! + w[2]! * w[2]! > RATE_MOST * RATE_MOST;
  if (Number.isFinite(sum) && !far && !fast && !spun) return null;
  const what = !Number.isFinite(sum)
    ? 'a number that is none'
    : far
      ? 'too far away'
      : fast
        ? 'too fast'
        : 'turning too fast';
  const show = (a: ArrayLike<number>) => Array.from(a, (x) => x.toPrecision(5)).join(' ');
  return `Please report it: ${what}; position ${show(p)} m, velocity ${show(v)} m/s, rates ${show(w)} rad/s, attitude ${show(q)}, battery ${plant.battery.voltage.toPrecision(5)} V.`;
}
