import { describe, expect, it } from 'vitest';
import { Matrix3 } from '../math/matrix3.ts';
import { multiply, quat, setEuler, setTurn } from '../math/quaternion.ts';
import { Random } from '../math/random.ts';
import { DEG, GRAVITY, wrapPi } from '../math/scalar.ts';
import { norm, type Triple } from '../math/triple.ts';
import {
  COVERAGE_LEAST,
  type CompassFit,
  type CompassRefusal,
  calibratedField,
  type FieldSample,
  fitCompass,
} from './compassFit.ts';
import { FACETS, facetOf, facets, middleOf } from './coverage.ts';
import { interferenceFrom, runUpWith } from './interference.ts';
import { attitudeOfMount, type MountAngles } from './mounting.ts';

/** The field of Torvholm, about: 51.5 uT, 72 degrees below the horizon. */
const STRENGTH = 51.5;
const DIP = 72 * DEG;
const earth: Triple = [STRENGTH * Math.cos(DIP), 0, STRENGTH * Math.sin(DIP)];
const MODEL = { strength: STRENGTH, dip: DIP };

/** A compass as they come: hard iron to 60 uT, soft iron to 15 %, noise of 0.3 uT. */
class TrueCompass {
  readonly iron: Triple;
  readonly soft: Matrix3;
  constructor(
    readonly random: Random,
    private readonly mount: MountAngles = { rollDeg: 0, pitchDeg: 0, yawDeg: 0 },
  ) {
    const v = [random.normal(), random.normal(), random.normal()];
    const size = (60 * random.uniform()) / Math.hypot(...v);
    this.iron = v.map((x) => x * size) as unknown as Triple;
    const s = () => 0.15 * (2 * random.uniform() - 1);
    const [xy, xz, yz] = [s() / 3, s() / 3, s() / 3];
    this.soft = new Matrix3([
      [1 + s(), xy, xz],
      [xy, 1 + s(), yz],
      [xz, yz, 1 + s()],
    ]);
  }
  /** @param toBody earth to body */
  says(toBody: Matrix3, noise = 0.3): Triple {
    const m = attitudeOfMount(this.mount);
    const toCompass = Matrix3.fromQuaternion(Float64Array.of(m[0]!, -m[1]!, -m[2]!, -m[3]!));
    const f = this.soft.times(toCompass.times(toBody.times(earth)));
    return f.map((v, i) => v + this.iron[i]! + noise * this.random.normal()) as unknown as Triple;
  }
}

/** Turned as hands turn it: a wandering attitude. @param within how far from upright it is ever turned, rad */
function turned(compass: TrueCompass, samples: number, within = Math.PI): FieldSample[] {
  const { random } = compass;
  const out: FieldSample[] = [];
  let q = quat();
  const turn = quat();
  while (out.length < samples) {
    setTurn(turn, 0.25 * random.normal(), 0.25 * random.normal(), 0.25 * random.normal());
    const next = multiply(quat(), q, turn);
    const tilt = Math.acos(Math.max(-1, Math.min(1, 1 - 2 * (next[1]! ** 2 + next[2]! ** 2))));
    if (tilt > within) continue;
    q = next;
    const toBody = Matrix3.fromQuaternion(Float64Array.of(q[0]!, -q[1]!, -q[2]!, -q[3]!));
    const force = toBody.times([0, 0, -GRAVITY]).map((v) => v + 0.3 * random.normal());
    out.push({ field: compass.says(toBody), force: force as unknown as Triple });
  }
  return out;
}

const good = (fit: CompassFit | CompassRefusal): CompassFit => {
  if ('refused' in fit) throw new Error(fit.refused);
  return fit;
};

/** Rms of the heading of a craft that stands level, over all headings, by single samples. */
function trueHeadingError(compass: TrueCompass, fit: CompassFit): number {
  let sum = 0;
  const n = 144;
  for (let k = 0; k < n; k++) {
    const heading = (2 * Math.PI * k) / n;
    const q = setEuler(quat(), 0, 0, heading);
    const said = compass.says(Matrix3.fromQuaternion(Float64Array.of(q[0]!, -q[1]!, -q[2]!, -q[3]!)));
    const b = calibratedField(fit.calibration, said);
    sum += wrapPi(Math.atan2(-b[1], b[0]) - heading) ** 2;
  }
  return Math.sqrt(sum / n);
}

const TRUTHS = 1000;

describe('a compass that is turned through all directions', () => {
  it(`is right within 1.5 degrees rms, and says how right within a factor of two, ${TRUTHS} times of ${TRUTHS}`, () => {
    let worst = 0;
    let apart = 1;
    for (let seed = 0; seed < TRUTHS; seed++) {
      const compass = new TrueCompass(new Random(seed));
      const fit = good(fitCompass(turned(compass, 900), MODEL));
      expect(fit.coverage, `truth ${seed}`).toBeGreaterThan(0.9);
      const truly = trueHeadingError(compass, fit);
      worst = Math.max(worst, truly / DEG);
      apart = Math.max(apart, truly / fit.headingError, fit.headingError / truly);
    }
    expect(worst).toBeLessThan(1.5);
    expect(apart).toBeLessThan(2);
  });

  it('measures strength and dip of the field against which the model of the earth is held', () => {
    for (let seed = 0; seed < 50; seed++) {
      const compass = new TrueCompass(new Random(seed + 9000));
      const fit = good(fitCompass(turned(compass, 900), null));
      // The mean of the soft iron's three directions cannot be told from a stronger earth.
      const m = compass.soft.rows;
      const det =
        m[0][0] * (m[1][1] * m[2][2] - m[1][2] ** 2) -
        m[0][1] * (m[0][1] * m[2][2] - m[1][2] * m[0][2]) +
        m[0][2] * (m[0][1] * m[1][2] - m[1][1] * m[0][2]);
      expect(fit.strength / (STRENGTH * Math.cbrt(det))).toBeCloseTo(1, 2);
      expect(Math.abs(fit.dip - DIP) / DEG).toBeLessThan(1);
      expect(Math.abs(fit.ironSize - norm(compass.iron))).toBeLessThan(0.5);
    }
  });

  it('is told how it lies to the board by the same turning', () => {
    for (const [i, mount] of [
      { rollDeg: 0, pitchDeg: 0, yawDeg: 0 },
      { rollDeg: 180, pitchDeg: 0, yawDeg: 90 },
      { rollDeg: 0, pitchDeg: 90, yawDeg: 180 },
      { rollDeg: -90, pitchDeg: 0, yawDeg: -90 },
    ].entries()) {
      const fit = good(fitCompass(turned(new TrueCompass(new Random(70 + i), mount), 600), MODEL));
      expect(fit.alignment).toEqual({ square: mount, clear: true });
    }
  });

  it(`is always refused below ${100 * COVERAGE_LEAST} % of the globe`, () => {
    for (let seed = 0; seed < 300; seed++) {
      const random = new Random(seed + 100);
      const samples = turned(new TrueCompass(random), 400, 0.3 + 0.5 * random.uniform());
      expect(fitCompass(samples, MODEL), `truth ${seed}`).toMatchObject({
        code: expect.stringMatching(/coverage|shape|metal|not-earth/),
      });
    }
    expect(fitCompass([], MODEL)).toMatchObject({ code: 'coverage' });
    const still = Array.from({ length: 500 }, () => ({ field: [10, 2, 40] as Triple, force: null }));
    expect(fitCompass(still, MODEL)).toHaveProperty('refused');
  });

  it('leaves out a screwdriver that came by, and refuses where metal stays', () => {
    const compass = new TrueCompass(new Random(4));
    const samples = turned(compass, 900);
    const passing = samples.map((s, i) =>
      i > 400 && i < 430 ? { ...s, field: s.field.map((v) => v + 25) as unknown as Triple } : s,
    );
    expect(trueHeadingError(compass, good(fitCompass(passing, MODEL))) / DEG).toBeLessThan(1.6);
    const swaying = samples.map((s, i) => ({
      ...s,
      field: s.field.map((v, k) => v + (k === 0 ? 14 * Math.sin(i / 9) : 0)) as unknown as Triple,
    }));
    expect(fitCompass(swaying, MODEL)).toMatchObject({ code: 'metal' });
  });

  it('refuses a field that cannot be the earth’s', () => {
    const doubled = turned(new TrueCompass(new Random(5)), 700).map((s) => ({
      ...s,
      field: s.field.map((v) => 2 * v) as unknown as Triple,
    }));
    expect(fitCompass(doubled, null)).toMatchObject({ code: 'not-earth' });
    const weak = turned(new TrueCompass(new Random(6)), 700).map((s) => ({
      ...s,
      field: s.field.map((v) => 0.65 * v) as unknown as Triple,
    }));
    expect(fitCompass(weak, MODEL)).toMatchObject({ code: 'not-earth' });
  });
});

describe('the globe', () => {
  it(`has ${FACETS} facets of one area, and each holds its own middle`, () => {
    const random = new Random(1);
    const hits = new Float64Array(FACETS);
    const n = 48_000;
    for (let k = 0; k < n; k++) hits[facetOf([random.normal(), random.normal(), random.normal()])]!++;
    for (let f = 0; f < FACETS; f++) {
      expect(Math.abs(hits[f]! / (n / FACETS) - 1)).toBeLessThan(0.1);
      expect(facetOf(middleOf(f))).toBe(f);
    }
    expect(facets).toHaveLength(FACETS);
  });
});

describe('interference of the motors’ current', () => {
  const felt = (perAmp: Triple, mostA: number, random = new Random(3)) => {
    const amps = Array.from({ length: 600 }, (_, i) => mostA * (0.5 - 0.5 * Math.cos(i / 60)));
    const fields = amps.map(
      (a) => [16, -3, 49].map((v, i) => v + perAmp[i]! * a + 0.3 * random.normal()) as unknown as Triple,
    );
    return [fields, amps] as const;
  };
  const run = (perAmp: Triple, mostA: number) => interferenceFrom(...felt(perAmp, mostA), 16);
  it('is found within its own sigma, and judged by what it does to a heading', () => {
    const found = run([0.06, -0.02, 0.1], 30);
    if ('refused' in found) throw new Error(found.refused);
    for (const [i, k] of [0.06, -0.02, 0.1].entries())
      expect(Math.abs(found.perAmp[i]! - k)).toBeLessThan(5 * found.sigma);
    expect(found.verdict).toBe('corrected');
    expect(found.headingLeft).toBeLessThan(0.3 * found.headingAtMost);
    expect(run([0.004, 0, 0], 30)).toMatchObject({ verdict: 'small' });
    expect(run([0.4, 0.3, 0.2], 30)).toMatchObject({ verdict: 'move-it' });
    // A craft that flies on less is judged by that, however far it is run up; and the other way round.
    const judged = (mostA: number, flightA: number) =>
      interferenceFrom(...felt([0.4, 0.3, 0.2], mostA), 16, flightA);
    for (const mostA of [8, 15, 30]) {
      expect(judged(mostA, 9)).toMatchObject({ verdict: 'corrected' });
      expect(judged(mostA, 25)).toMatchObject({ verdict: 'move-it' });
    }
  });
  it('counts as taken out only with the coefficients that are in use', () => {
    const perAmp: Triple = [0.06, -0.02, 0.1];
    const [fields, amps] = felt(perAmp, 30);
    const withSet = (set: Triple) => {
      const found = runUpWith(fields, amps, set, 16);
      if ('refused' in found) throw new Error(found.refused);
      return found;
    };
    // By the largest part at the most current: atan(|perAmp| 30 A / 16 uT).
    const whole = Math.atan2(Math.hypot(...perAmp) * 30, 16);
    const untaught = withSet([0, 0, 0]);
    expect(untaught.takenOut).toBe(false);
    expect(untaught.left.headingAtMost).toBeCloseTo(whole, 1);
    const taught = withSet(perAmp);
    expect(taught.takenOut).toBe(true);
    expect(taught.raw.headingAtMost).toBeCloseTo(whole, 1);
    expect(taught.left.headingAtMost).toBeLessThan(1 * DEG);
    // Of the wrong sign, they make it twice as bad.
    const wrong = withSet(perAmp.map((k) => -k) as unknown as Triple);
    expect(wrong.takenOut).toBe(false);
    expect(wrong.left.headingAtMost).toBeGreaterThan(whole);
    expect(runUpWith(...felt(perAmp, 1), perAmp, 16)).toHaveProperty('refused');
  });
  it('says nothing without current, or of a craft that turned', () => {
    expect(run([0.1, 0, 0], 1)).toHaveProperty('refused');
    const turning = Array.from(
      { length: 300 },
      (_, i) => [16 * Math.cos(i / 20), 16 * Math.sin(i / 20), 49] as Triple,
    );
    expect(
      interferenceFrom(
        turning,
        turning.map((_, i) => i / 10),
        16,
      ),
    ).toHaveProperty('refused');
  });
});
