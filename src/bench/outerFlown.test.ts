import { describe, expect, it } from 'vitest';
import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import { avocet, flock, turnstone } from '#core/airframe/library.ts';
import { predictAll } from '#core/answers/outer/predict.ts';
import { figuresOfTrace, TRACE_S, type Trace, wanders } from '#core/answers/outer/trace.ts';
import { fellF7Model } from '#core/board/boards.ts';
import { fellF7 } from '#core/board/fellF7.ts';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { prepared } from '../testing/aloft.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { overHome } from '../testing/overHome.ts';
import { flyOuter } from './outerFlown.ts';

const scenario = overHome(8, 230, 2);

function both(airframe: Airframe, values: Values) {
  const truth = truthFromSettings(airframe, values);
  const flown = flyOuter({ airframe, board: fellF7Model, values, truth, site: torvholm, scenario });
  if ('refused' in flown) throw new Error(flown.refused);
  return predictAll(airframe, values, fellF7.pads).map(({ id, trace }) => ({
    id,
    said: trace!,
    came: flown.flown[id]!,
  }));
}

/** The farthest that two lines are from each other. */
const apart = (a: Float64Array, b: Float64Array): number =>
  a.reduce((m, x, k) => Math.max(m, Math.abs(x - b[k]!)), 0);

/** How far the farthest from its circle, once it is round. */
const offCircle = ({ north, east }: Trace, radius: number) =>
  north.reduce(
    (m, n, k) => (k < north.length / 3 ? m : Math.max(m, Math.abs(Math.hypot(n, east[k]!) - radius))),
    0,
  );

describe('what is promised of the outer loops is what is flown', () => {
  it.each(flock.map((a) => [a.name, a] as const))('%s', (_name, airframe) => {
    const values = prepared(airframe);
    const radius = values['loiter.radius'] as number;
    const rotors = isRotorcraft(airframe);
    for (const { id, said, came } of both(airframe, values)) {
      switch (id) {
        case 'bank': {
          const [a, b] = [said, came].map((t) => figuresOfTrace(t.bank, 0.349));
          expect(Math.abs(a!.thereS - b!.thereS)).toBeLessThan(0.25);
          expect(Math.abs(a!.over - b!.over)).toBeLessThan(0.12);
          break;
        }
        case 'height':
          expect(apart(said.height, came.height)).toBeLessThan(rotors ? 0.5 : 1.2);
          if (!rotors) expect(apart(said.speed, came.speed)).toBeLessThan(0.75);
          break;
        case 'speed':
          expect(apart(said.speed, came.speed)).toBeLessThan(0.35);
          expect(apart(said.height, came.height)).toBeLessThan(0.7);
          break;
        case 'path':
          // What is left at its end is where the satellites say it is.
          expect(apart(said.east, came.east)).toBeLessThan(3.5);
          break;
        case 'circle':
          expect(Math.abs(offCircle(said, radius) - offCircle(came, radius))).toBeLessThan(6);
          break;
        case 'go':
          expect(apart(said.speed, came.speed)).toBeLessThan(1);
          expect(apart(said.north, came.north)).toBeLessThan(4);
          break;
        case 'gusts':
          expect(wanders(came) / wanders(said)).toBeGreaterThan(0.5);
          expect(wanders(came) / wanders(said)).toBeLessThan(2.5);
      }
    }
  });

  it('also where they are set otherwise: a path that swings, heights that are hurried', () => {
    const values = prepared(turnstone, {
      'nav.damping': 0.6,
      'nav.period': 12,
      'nav.heightTime': 2.5,
      'level.time': 0.6,
    });
    for (const { id, said, came } of both(turnstone, values)) {
      if (id === 'path') {
        expect(Math.min(...said.east)).toBeLessThan(-1.5);
        expect(Math.min(...came.east) - Math.min(...said.east)).toBeLessThan(3);
        expect(apart(said.east, came.east)).toBeLessThan(4);
      }
      if (id === 'height') expect(apart(said.height, came.height)).toBeLessThan(2);
      if (id === 'bank') expect(apart(said.bank, came.bank)).toBeLessThan(0.05);
    }
  });
});

describe('a bank', () => {
  // Where the rate loop is fast beside it the level loop is of the first order: there within a tenth after T ln 10.
  it("is there after its levelling time and the loop's own", () => {
    const slow = prepared(avocet, { 'level.time': 0.8 });
    const [bank] = predictAll(avocet, slow, fellF7.pads);
    expect(Math.abs(figuresOfTrace(bank!.trace!.bank, 0.349).thereS - 0.8 * Math.log(10))).toBeLessThan(
      2 * TRACE_S + 0.15,
    );
  });
});
