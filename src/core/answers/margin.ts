import { angleOf, sizeOf } from '../math/complex.ts';
import { DEG, wrapPi } from '../math/scalar.ts';
import { craftAt } from './axisModel.ts';
import { controllerAt, holdAt, type Loop, openLoopAt, throughAll } from './chain.ts';

/** What a part of the loop costs at the crossover. */
interface Share {
  readonly id: string;
  readonly name: string;
  /** Phase that it takes, degrees; a part that gives some is below zero. */
  readonly degrees: number;
}

/** Where what goes round the loop comes down to size one, and what is left there. */
interface Crossover {
  readonly hz: number;
  /** Degrees until it rings: 180 + phase there. */
  readonly degrees: number;
  /** The delay that would use them up, s. */
  readonly delayS: number;
  /** The greatest swing of the craft at this frequency whose correction servos are quick enough for, rad/s; infinite for motors. */
  readonly follows: number;
  /** What each part takes of 180 degrees; with what is left they add up to that. */
  readonly shares: readonly Share[];
}

export interface Margin {
  /** Null where the loop is so weak that it nowhere comes to size one: no delay makes it ring. */
  readonly crossover: Crossover | null;
  /** Where it rings once its gains are raised, Hz, and by how much they can be until then: NaN where never. */
  readonly ringsHz: number;
  readonly gainLeft: number;
}

/** What is slower than this is held by the level loop or the pilot, and no matter of ringing. */
const FROM_HZ = 0.3;
const MOST_HZ = 450;
const STEPS = 160;

/** Crossover, what is left there and what each part costs; and how far gains can go. Of several crossings the one with least left counts. */
export function marginOf(loop: Loop): Margin {
  // Pulses tell nothing of what is faster than half their rate.
  const top = Math.min(MOST_HZ, 0.4999 / loop.waitS);
  const at = (k: number) => FROM_HZ * (top / FROM_HZ) ** (k / STEPS);
  let last = openLoopAt(loop, at(0));
  let least: { hz: number; left: number } | null = null;
  let [ringsHz, gainLeft] = [Number.NaN, Number.NaN];
  for (let k = 1; k <= STEPS; k++) {
    const now = openLoopAt(loop, at(k));
    const [from, to] = [at(k - 1), at(k)];
    if (sizeOf(last) >= 1 && sizeOf(now) < 1) {
      const hz = between(from, to, (x) => sizeOf(openLoopAt(loop, x)) - 1);
      // From straight against the error: what is left until it comes round with it.
      const left = wrapPi(Math.PI + angleOf(openLoopAt(loop, hz)));
      if (!least || left < least.left) least = { hz, left };
    }
    // Through half a turn late, and still on its way to more.
    if (angleOf(last) < -1 && angleOf(now) > 1) {
      const hz = between(from, to, (x) => openLoopAt(loop, x).im);
      const gain = 1 / sizeOf(openLoopAt(loop, hz));
      if (!(gain >= gainLeft)) [ringsHz, gainLeft] = [hz, gain];
    }
    last = now;
  }
  // At half the rate of the pulses it can only go to and fro: it rings there if it rings nowhere slower.
  if (last.re < 0 && !(1 / sizeOf(last) >= gainLeft)) [ringsHz, gainLeft] = [top, 1 / sizeOf(last)];
  if (!least) return { crossover: null, ringsHz, gainLeft };
  const { hz, left } = least;
  const degrees = left / DEG;
  const shares = sharesAt(loop, hz, 180 - degrees);
  return {
    crossover: { hz, degrees, delayS: degrees / 360 / hz, follows: followsAt(loop, hz), shares },
    ringsHz,
    gainLeft,
  };
}

/** Where a function that changes its sign between two frequencies is zero, by halving. */
function between(from: number, to: number, f: (hz: number) => number): number {
  const sign = Math.sign(f(from));
  let [low, high] = [from, to];
  for (let k = 0; k < 24; k++) {
    const mid = Math.sqrt(low * high);
    if (Math.sign(f(mid)) === sign) low = mid;
    else high = mid;
  }
  return Math.sqrt(low * high);
}

/** A command that swings by so much is quickest as it passes its middle: there no quicker than the servo. */
function followsAt(loop: Loop, hz: number): number {
  const commanded = sizeOf(controllerAt(loop.gains, loop.shape, loop.times.gain, hz));
  return loop.slew / (2 * Math.PI * hz * commanded * sizeOf(throughAll(loop.filters, hz)));
}

/** What parts take, degrees; the craft takes what is left of the whole, however often its phase has gone round. */
function sharesAt(loop: Loop, hz: number, whole: number): readonly Share[] {
  const filters = loop.filters.map((f) => ({ id: f.id, name: f.name, degrees: -angleOf(f.at(hz)) / DEG }));
  const own = [
    ...filters,
    { id: 'loop', name: 'loop time', degrees: 360 * hz * loop.loopS },
    { id: 'wait', name: 'wait for the next pulse', degrees: -angleOf(holdAt(loop.waitS, hz)) / DEG },
    {
      id: 'gains',
      name: 'gains',
      degrees: -angleOf(controllerAt(loop.gains, loop.shape, loop.times.gain, hz)) / DEG,
    },
  ];
  const craft = whole - own.reduce((sum, s) => sum + s.degrees, 0);
  if (loop.model.moves === 'servos')
    return [...own, { id: 'craft', name: 'the craft itself', degrees: craft }];
  const lag = Math.atan2(2 * Math.PI * hz, -loop.model.motorPole) / DEG;
  const all = -angleOf(craftAt(loop.model, hz)) / DEG;
  // Where a motor's torque acts at once, as it does about yaw, its lag costs less than its pole alone.
  const motors = Math.min(lag, Math.max(0, all));
  return [
    ...own,
    { id: 'motors', name: 'motors', degrees: motors },
    { id: 'craft', name: 'the craft itself', degrees: craft - motors },
  ];
}
