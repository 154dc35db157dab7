import { describe, expect, it } from 'vitest';
import { Matrix3 } from '../math/matrix3.ts';
import { multiply, type Quat, quat, setTurn } from '../math/quaternion.ts';
import { Random } from '../math/random.ts';
import { DEG, GRAVITY } from '../math/scalar.ts';
import type { Triple } from '../math/triple.ts';
import { levelTrimFrom, mountedAndLevelled } from './levelTrim.ts';
import {
  angleBetweenDeg,
  attitudeOfMount,
  confirmNose,
  confirmWing,
  mountingFrom,
  mountingWords,
  squareMountings,
  whichWentWrong,
} from './mounting.ts';
import { poseIds } from './poses.ts';
import { corrected, fitPoses, forceOfPose, lookAtPose, type PoseTaken } from './sixPoses.ts';

/** Nothing here comes from the code under test: truths are drawn, and gravity is turned by rotation matrices. */
const inCraft = (rollDeg: number, pitchDeg: number): Triple => {
  const [r, p] = [rollDeg * DEG, pitchDeg * DEG];
  return [GRAVITY * Math.sin(p), -GRAVITY * Math.cos(p) * Math.sin(r), -GRAVITY * Math.cos(p) * Math.cos(r)];
};
const transposed = (q: Quat) => Matrix3.fromQuaternion(Float64Array.of(q[0]!, -q[1]!, -q[2]!, -q[3]!));

/** An accelerometer as they come: offsets to 0.5 m/s^2, scales to 3 %, noise of a mean over a second. */
class Chip {
  readonly offset: Triple;
  readonly scale: Triple;
  constructor(private readonly random: Random) {
    const within = (most: number) => most * (2 * random.uniform() - 1);
    this.offset = [within(0.5), within(0.5), within(0.5)];
    this.scale = [1 + within(0.03), 1 + within(0.03), 1 + within(0.03)];
  }
  says(force: Triple): Triple {
    return [0, 1, 2].map(
      (i) => force[i]! / this.scale[i]! + this.offset[i]! + 0.004 * this.random.normal(),
    ) as unknown as Triple;
  }
}

function drawn(seed: number) {
  const random = new Random(seed);
  const square = squareMountings[Math.floor(24 * random.uniform())]!;
  const axis = [random.normal(), random.normal(), random.normal()];
  const size = (8 * DEG * random.uniform()) / Math.hypot(...axis);
  const fine = setTurn(quat(), axis[0]! * size, axis[1]! * size, axis[2]! * size);
  const mount = multiply(quat(), fine, attitudeOfMount(square));
  const chip = new Chip(random);
  const toBoard = transposed(mount);
  const feels = (force: Triple) => chip.says(toBoard.times(force));
  return { random, square, mount, chip, feels };
}

const TRUTHS = 1000;

describe('how a board is mounted', () => {
  it('has 24 square ways, no two of them alike', () => {
    for (const [i, a] of squareMountings.entries())
      for (const b of squareMountings.slice(i + 1))
        expect(angleBetweenDeg(attitudeOfMount(a), attitudeOfMount(b))).toBeGreaterThan(89);
    expect(squareMountings).toHaveLength(24);
  });

  it(`is told by two gestures, with a chip nobody has taught yet, ${TRUTHS} times of ${TRUTHS}; its fine angle once it is taught`, () => {
    let worstFine = 0;
    for (let seed = 0; seed < TRUTHS; seed++) {
      const { random, square, mount, feels } = drawn(seed);
      const lift = 25 + 40 * random.uniform();
      const flat = feels(inCraft(0, 0));
      const up = feels(inCraft(0, lift));
      expect(mountingFrom(flat, up)?.square, `truth ${seed}`).toEqual(square);
      const taken = Object.fromEntries(
        poseIds.map((id) => [id, feels(forceOfPose[id].map((v) => v * GRAVITY) as unknown as Triple)]),
      ) as PoseTaken;
      const fit = fitPoses(taken);
      if ('refused' in fit) throw new Error(fit.refused);
      const c = fit.calibration;
      const taught = mountingFrom(corrected(c, flat), corrected(c, up))!;
      worstFine = Math.max(worstFine, angleBetweenDeg(taught.attitude, mount));
    }
    expect(worstFine).toBeLessThan(0.5);
  });

  it('is confirmed by the wing, whichever way the board sits', () => {
    for (let seed = 0; seed < 100; seed++) {
      const { feels } = drawn(seed);
      const found = mountingFrom(feels(inCraft(0, 0)), feels(inCraft(0, 35)))!;
      expect(confirmWing(found.attitude, feels(inCraft(30, 4))).kind).toBe('fits');
      expect(confirmWing(found.attitude, feels(inCraft(-30, 0))).kind).toBe('opposite');
      expect(confirmWing(found.attitude, feels(inCraft(2, 40))).kind).toBe('other-axis');
      expect(confirmWing(found.attitude, feels(inCraft(3, 0))).kind).toBe('too-little');
      expect(confirmNose(found.attitude, feels(inCraft(0, 30))).kind).toBe('fits');
    }
  });

  it('tells what a person confused, once the nose is lifted again', () => {
    for (let seed = 0; seed < 100; seed++) {
      const { feels } = drawn(seed);
      const [flat, up, down] = [inCraft(0, 0), inCraft(0, 30), inCraft(0, -30)].map(feels) as [
        Triple,
        Triple,
        Triple,
      ];
      const [right, left] = [inCraft(30, 0), inCraft(-30, 0)].map(feels) as [Triple, Triple];
      const again = feels(inCraft(0, 35));
      expect(whichWentWrong(flat, down, right, again)).toBe('nose-was-lowered');
      expect(whichWentWrong(flat, up, left, again)).toBe('left-wing-went-down');
      expect(whichWentWrong(flat, right, up, again)).toBe('nose-and-wing-changed-places');
    }
  });

  it('says nothing when the nose was hardly lifted', () => {
    expect(mountingFrom(inCraft(0, 0), inCraft(0, 5))).toBeNull();
    expect(mountingFrom(inCraft(0, 0), inCraft(0, 170))).toBeNull();
  });

  it('is said in words that a person can check by looking', () => {
    expect(mountingWords({ rollDeg: 0, pitchDeg: 0, yawDeg: 0 })).toEqual({
      lies: 'flat',
      arrow: 'arrow to the nose',
    });
    expect(mountingWords({ rollDeg: 180, pitchDeg: 0, yawDeg: 0 }).lies).toBe('flat, chips down');
    // On edge: rolled a quarter, then turned to the left.
    expect(mountingWords({ rollDeg: -90, pitchDeg: 0, yawDeg: -90 })).toEqual({
      lies: 'on edge, chips to the tail',
      arrow: 'arrow to the left wing',
    });
    expect(mountingWords({ rollDeg: 0, pitchDeg: 90, yawDeg: 0 }).arrow).toBe('arrow up');
  });
});

describe('six still poses', () => {
  it(`leave under 0.02 m/s^2 in any attitude, ${TRUTHS} times of ${TRUTHS}`, () => {
    let worst = 0;
    for (let seed = 0; seed < TRUTHS; seed++) {
      const { random, chip } = drawn(seed);
      // Held as people hold: up to 20 degrees off each pose.
      const taken = Object.fromEntries(
        poseIds.map((id) => {
          const lean = setTurn(quat(), 0.2 * random.normal(), 0.2 * random.normal(), 0.2 * random.normal());
          const force = Matrix3.fromQuaternion(lean)
            .times(forceOfPose[id])
            .map((v) => v * GRAVITY);
          return [id, chip.says(force as unknown as Triple)];
        }),
      ) as PoseTaken;
      const fit = fitPoses(taken);
      if ('refused' in fit) throw new Error(`truth ${seed}: ${fit.refused}`);
      const { offset, scale } = fit.calibration;
      // Against the truth, in directions that were not among the poses, without noise.
      for (let k = 0; k < 20; k++) {
        const v = [random.normal(), random.normal(), random.normal()];
        const n = Math.hypot(...v);
        const size = Math.hypot(
          ...v.map(
            (c, i) => scale[i]! * ((c / n) * (GRAVITY / chip.scale[i]!) + chip.offset[i]! - offset[i]!),
          ),
        );
        worst = Math.max(worst, Math.abs(size - GRAVITY));
      }
    }
    expect(worst).toBeLessThan(0.02);
  });

  it('are taken in any order, each once, and none between two', () => {
    const level = attitudeOfMount({ rollDeg: -90, pitchDeg: 0, yawDeg: -90 });
    const look = (rollDeg: number, pitchDeg: number, taken = {}) =>
      lookAtPose({ force: transposed(level).times(inCraft(rollDeg, pitchDeg)) }, level, taken);
    expect(look(92, 3)).toMatchObject({ kind: 'taken', pose: 'right-down' });
    expect(look(180, 0)).toMatchObject({ kind: 'taken', pose: 'back' });
    expect(look(0, -80)).toMatchObject({ kind: 'taken', pose: 'nose-down' });
    expect(look(45, 0)).toMatchObject({ kind: 'refused', code: 'between' });
    expect(look(0, 0, { flat: [0, 0, 0] })).toMatchObject({ kind: 'refused', code: 'repeated' });
    expect(lookAtPose({ force: [0, 0, -13] }, level, {})).toMatchObject({
      kind: 'refused',
      code: 'not-gravity',
    });
  });

  it('say so when they cannot be of one chip that works', () => {
    const at = (k: number) =>
      Object.fromEntries(
        poseIds.map((id) => [id, forceOfPose[id].map((v) => v * GRAVITY)]),
      ) as unknown as Record<string, Triple> & { k?: typeof k };
    const pushed = { ...at(0), flat: [0, 0, -12.9] as Triple } as unknown as PoseTaken;
    expect(fitPoses(pushed)).toHaveProperty('refused');
    const same = Object.fromEntries(poseIds.map((id) => [id, [0, 0, -GRAVITY]])) as unknown as PoseTaken;
    expect(fitPoses(same)).toHaveProperty('refused');
  });
});

describe('what level means', () => {
  it(`is told within 0.3 degrees for every mounting, ${TRUTHS} times of ${TRUTHS}`, () => {
    let worst = 0;
    for (let seed = 0; seed < TRUTHS; seed++) {
      const random = new Random(seed + 5000);
      const mount = attitudeOfMount(squareMountings[seed % 24]!);
      const cruise = inCraft(6 * (random.uniform() - 0.5), 10 * (random.uniform() - 0.3));
      const noisy = cruise.map((v) => v + 0.012 * random.normal()) as unknown as Triple;
      const trim = levelTrimFrom(noisy)!;
      const whole = mountedAndLevelled(mount, trim);
      // What the board feels in the true cruise attitude, told by trim and mounting, has to be straight down.
      const told = Matrix3.fromQuaternion(whole).times(transposed(mount).times(cruise));
      worst = Math.max(worst, Math.atan2(Math.hypot(told[0], told[1]), -told[2]) / DEG);
    }
    expect(worst).toBeLessThan(0.3);
  });

  it('holds no yaw, and is refused where nobody flies level', () => {
    const trim = levelTrimFrom(inCraft(3, 5))!;
    expect(trim.pitchDeg).toBeGreaterThan(4.5);
    expect(levelTrimFrom(inCraft(0, 40))).toBeNull();
    expect(levelTrimFrom(inCraft(0, 0))).toEqual({ rollDeg: 0, pitchDeg: 0 });
  });
});
