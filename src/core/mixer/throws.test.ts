import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoValues } from '../../testing/demoCraft.ts';
import { proofWorld } from '../../testing/proofWorld.ts';
import { flock, turnstone } from '../airframe/library.ts';
import { PanelModel } from '../flight/panels.ts';
import { Servo } from '../flight/servo.ts';
import { DEG } from '../math/scalar.ts';
import { makeProof } from '../proofs/proofs.ts';
import { outputDriving } from './commanded.ts';
import { angleOfEdge, edgeOf, rodFor, surfaceAt } from './linkage.ts';
import {
  angleAt,
  angleRead,
  chordMmOf,
  describedLinkage,
  endsOf,
  HALF_TURN_MM,
  halfTurnsFor,
  playOf,
  servoTravel,
  throwFrom,
  throwsSeen,
  twin,
  usFor,
  wantedThrow,
} from './throws.ts';

const aileron = turnstone.surfaces.find((s) => s.id === 'left-aileron')!;
const chord = chordMmOf(turnstone, aileron)!;

describe('a surface that is measured by a ruler', () => {
  it('has the chord of its planform at its inner end', () => {
    const wing = turnstone.planforms.find((p) => p.id === 'wing')!;
    const at = wing.rootChordM + aileron.from * (wing.tipChordM - wing.rootChordM);
    expect(chord).toBeCloseTo(1000 * at * aileron.chordShare, 9);
  });

  it('as described goes as far as the craft is said to, to within the four bars’ unevenness', () => {
    for (const craft of flock)
      for (const s of craft.surfaces) {
        const l = describedLinkage(s);
        expect(surfaceAt(l, 0)).toBeCloseTo(0, 9);
        expect(Math.abs(surfaceAt(l, servoTravel(s)) / DEG - s.throwDeg)).toBeLessThan(1.5);
      }
  });

  it('is known in degrees over its travel from two readings to half a millimetre, whatever its rod and whichever way its pulse goes', () => {
    const half = (mm: number) => Math.round(mm * 2) / 2;
    fc.assert(
      fc.property(fc.double({ min: -9, max: 9, noNaN: true }), fc.boolean(), (offDeg, back) => {
        const l = { ...describedLinkage(aileron), rod: rodFor(describedLinkage(aileron), offDeg * DEG) };
        const sign = back ? -1 : 1;
        const truly = (us: number) => surfaceAt(l, (sign * servoTravel(aileron) * (us - 1500)) / 500);
        const readings = [1000, 2000].map((us) => ({
          us,
          angle: angleRead({ mm: half(edgeOf(truly(us), chord)) }, chord),
        }));
        const t = throwFrom(aileron, readings);
        if ('refused' in t) throw new Error(t.refused);
        expect(t.sign).toBe(sign);
        for (let us = 1000; us <= 2000; us += 50)
          expect(Math.abs(angleAt(t, us) - truly(us)) / DEG).toBeLessThan(1);
        expect(angleAt(t, usFor(t, 5 * DEG)) / DEG).toBeCloseTo(5, 6);
      }),
      { numRuns: 300 },
    );
  });

  it('comes flush by as many half turns of the clevis as it says', () => {
    const l = describedLinkage(aileron);
    const bent = { ...l, rod: l.rod - 7 * HALF_TURN_MM };
    const readings = [1100, 1900].map((us) => ({
      us,
      angle: surfaceAt(bent, (servoTravel(aileron) * (us - 1500)) / 500),
    }));
    const t = throwFrom(aileron, readings);
    if ('refused' in t) throw new Error(t.refused);
    expect(halfTurnsFor(t)).toBeCloseTo(7, 3);
  });

  it('takes two readings that lie apart', () => {
    expect(throwFrom(aileron, [{ us: 1500, angle: 0 }])).toHaveProperty('refused');
    expect(
      throwFrom(aileron, [
        { us: 1500, angle: 0 },
        { us: 1510, angle: 0.001 },
      ]),
    ).toHaveProperty('refused');
    expect(angleRead({ mm: 500 }, chord)).toBeNaN();
    expect(angleRead({ deg: 12 }, chord)).toBeCloseTo(12 * DEG, 12);
  });

  it('that was seen is told by the ends as they are set, until its output drives something else', () => {
    const world = proofWorld('turnstone');
    const output = outputDriving(world.values, 'left-aileron')!;
    const readings = [
      { us: 1000, angle: -20 * DEG },
      { us: 2000, angle: 24 * DEG },
    ];
    const proof = makeProof(
      { kind: 'throw', surface: 'left-aileron', output, readings },
      world,
      '2026-06-01',
    );
    const t = throwsSeen([proof], world).get('left-aileron')!;
    const set = { ...world.values, [`out.${output}.low`]: 1000, [`out.${output}.high`]: 2000 };
    expect(endsOf(t, set)!.up / DEG).toBeCloseTo(-20, 1);
    expect(endsOf(t, set)!.down / DEG).toBeCloseTo(24, 1);
    const elsewhere = { ...world, values: { ...world.values, [`out.${output}.drives`]: 'nothing' } };
    expect(throwsSeen([proof], elsewhere).size).toBe(0);
    expect(twin(turnstone, 'left-aileron')).toBe('right-aileron');
    expect(twin(turnstone, 'elevator')).toBeNull();
  });

  it('wants what rolls the craft as fast as it is set to: there the moments of the panel model cancel', () => {
    const wanted = wantedThrow(
      turnstone,
      { ...demoValues('turnstone'), 'rate.roll.max': 60 },
      'left-aileron',
    )!;
    expect(wanted).toMatchObject({ axis: 'roll', rateDeg: 60 });
    const panels = new PanelModel(turnstone);
    const d = new Float64Array(turnstone.surfaces.length);
    turnstone.surfaces.forEach((s, i) => {
      if (s.id === 'left-aileron') d[i] = wanted.angle;
      if (s.id === 'right-aileron') d[i] = -wanted.angle;
    });
    const roll = (p: number, deflections: Float64Array) => {
      panels.evaluate(
        Float64Array.of(wanted.speedMps * 0.995, 0, wanted.speedMps * 0.1),
        Float64Array.of(p, 0, 0),
        deflections,
      );
      return panels.moment[0]!;
    };
    const none = new Float64Array(d.length);
    const [driven, damped] = [roll(0, d) - roll(0, none), roll(60 * DEG, none) - roll(0, none)];
    expect(driven + damped).toBeLessThan(0.15 * driven);
    expect(driven + damped).toBeGreaterThan(-0.15 * driven);
  });
});

describe('a servo with a rod that was measured', () => {
  const l = describedLinkage(aileron);
  const settle = (servo: Servo, share: number) => {
    servo.share = share;
    for (let k = 0; k < 2000; k++) servo.step(0.001);
    return servo.deflection;
  };

  it('stands where the four bars put it, flush or not', () => {
    const off = { ...l, rod: rodFor(l, 8 * DEG) };
    const servo = new Servo(aileron, { linkage: off, play: 0 });
    expect(servo.deflection / DEG).toBeCloseTo(8, 3);
    for (const share of [-1, -0.4, 0.3, 1])
      expect(settle(servo, share)).toBeCloseTo(surfaceAt(off, share * servoTravel(aileron)), 4);
  });

  it('stops where it binds', () => {
    const short = { ...l, arm: 20, horn: 9, rod: rodFor({ ...l, arm: 20, horn: 9 }) };
    const servo = new Servo(aileron, { linkage: short, play: 0 });
    const end = settle(servo, 1);
    expect(Number.isFinite(end)).toBe(true);
    expect(settle(servo, 0.95)).toBeCloseTo(end, 6);
  });

  it('has the play that its servo was built with, read by a ruler from both sides', () => {
    for (const playDeg of [0, 1, 2, 3.5]) {
      const servo = new Servo(aileron, { linkage: describedLinkage(aileron), play: playDeg * DEG });
      const bring = (share: number) => {
        servo.share = share;
        for (let k = 0; k < 1000; k++) servo.step(0.001);
        const mm = Math.round(2 * edgeOf(servo.deflection, chord)) / 2;
        return angleOfEdge(mm, chord);
      };
      bring(-1);
      const below = { us: 1500, angle: bring(0), from: 'below' as const };
      const high = { us: 2000, angle: bring(1) };
      const above = { us: 1500, angle: bring(0), from: 'above' as const };
      const low = { us: 1000, angle: bring(-1) };
      const play = playOf([low, below, above, high])! / DEG;
      // A ruler is read to half a millimetre, twice: about half a degree at this chord.
      expect(Math.abs(play - playDeg), `${playDeg}`).toBeLessThan(0.6);
      const t = throwFrom(aileron, [low, below, above, high]);
      // In the middle of its play it is where the rod alone would have it.
      if ('refused' in t) throw new Error(t.refused);
      expect(Math.abs(angleAt(t, 1500) / DEG)).toBeLessThan(1);
      expect(playOf([low, below, high])).toBeNull();
    }
  });
});
