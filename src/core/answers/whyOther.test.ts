import { describe, expect, it } from 'vitest';
import { prepared } from '../../testing/aloft.ts';
import { avocet, turnstone } from '../airframe/library.ts';
import type { Stretch } from '../analysis/stepResponse.ts';
import { fellF7 } from '../board/fellF7.ts';
import { Random } from '../math/random.ts';
import { DEG } from '../math/scalar.ts';
import { type Loop, loopOf } from './chain.ts';
import { LoopRun } from './stepAnswer.ts';
import { type Cause, whyOther, withCause } from './whyOther.ts';

const LEAST = 3 * DEG;
const roll = loopOf(turnstone, prepared(turnstone), fellF7.pads, 'roll', 16)!;
const hover = loopOf(avocet, prepared(avocet), fellF7.pads, 'pitch', 0)!;

/** A log of a loop whose stick is thrown about, far and then little, with the noise of a gyro. */
function logged(loop: Loop, rateHz: number, seconds = 60, noise = 1 * DEG): Stretch {
  const [random, run] = [new Random(11), new LoopRun(loop)];
  const [asked, came]: [number[], number[]] = [[], []];
  let wish = 0;
  for (let k = 0; k < 1000 * seconds; k++) {
    if (k % 600 === 0) wish = (Math.floor(k / 6000) % 2 ? 0.4 : 2) * 2 * (random.uniform() - 0.5);
    run.step(wish, 0);
    if (k % (1000 / rateHz) === 0) {
      asked.push(wish);
      came.push(run.rate + noise * random.normal());
    }
  }
  return { asked: Float64Array.from(asked), came: Float64Array.from(came) };
}

describe('why a craft flew otherwise than promised', () => {
  it.each([
    [1000, roll],
    [50, roll],
    [1000, hover],
  ] as const)(
    'nothing has to be looked for where it flew as promised, at %i samples a second',
    (rateHz, loop) => {
      expect(whyOther(loop, [logged(loop, rateHz)], rateHz, LEAST)).toMatchObject({
        agrees: true,
        causes: [],
      });
    },
  );

  it.each<readonly [string, Loop, Pick<Cause, 'kind' | 'size'>, number]>([
    ['more inertia', roll, { kind: 'inertia', size: 2.4 }, 1000],
    ['more inertia', hover, { kind: 'inertia', size: 2.2 }, 1000],
    ['less throw', roll, { kind: 'throw', size: 0.6 }, 1000],
    ['less throw', roll, { kind: 'throw', size: 0.6 }, 50],
    ['smaller propellers', hover, { kind: 'throw', size: 0.45 }, 1000],
    ['slow servos', roll, { kind: 'servo', size: 0.15 }, 1000],
    ['slow servos', roll, { kind: 'servo', size: 0.15 }, 50],
    ['something late', roll, { kind: 'late', size: 0.06 }, 1000],
    ['something late', hover, { kind: 'late', size: 0.045 }, 1000],
    ['play', roll, { kind: 'play', size: 0.28 }, 1000],
    ['play', roll, { kind: 'play', size: 0.28 }, 50],
  ])('%s is found, and how much', (_name, loop, cause, rateHz) => {
    const why = whyOther(loop, [logged(withCause(loop, cause), rateHz)], rateHz, LEAST)!;
    expect(why.agrees).toBe(false);
    expect(why.causes[0]!.kind).toBe(cause.kind);
    expect(Math.abs(why.causes[0]!.size / cause.size - 1)).toBeLessThan(rateHz < 100 ? 0.2 : 0.15);
    expect(why.causes[0]!.explains).toBeGreaterThan(0.6);
  });

  it('names nothing for what is none of it', () => {
    const log = logged(roll, 1000);
    const random = new Random(5);
    // It turns by itself, as in gusts.
    let gust = 0;
    const came = log.came.map((x) => {
      gust += 0.01 * (random.normal() * 8 - gust);
      return x + gust;
    });
    expect(whyOther(roll, [{ asked: log.asked, came }], 1000, LEAST)).toMatchObject({
      agrees: false,
      causes: [],
    });
  });

  it('says nothing of a log that asks for nothing, or is short', () => {
    const rest = new Float64Array(60_000);
    expect(whyOther(roll, [{ asked: rest, came: rest }], 1000, LEAST)).toBeNull();
    const short = logged(roll, 1000, 8);
    expect(whyOther(roll, [short], 1000, LEAST)).toBeNull();
  });
});
