import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { torvholm } from '../../testing/demoCraft.ts';
import { longLog } from '../../testing/longLog.ts';
import { turnstone } from '../airframe/library.ts';
import { seenAtEnd } from '../search/seenAtEnd.ts';
import { compared } from './compare.ts';
import { groundUnder, trackPoints } from './flown.ts';
import { flownFile } from './flownFiles.ts';
import { flownFormats } from './flownFormats.ts';
import { openFlown } from './openFlown.ts';
import { seriesOf } from './series.ts';
import { figuresOf } from './summary.ts';
import { surprisesOf } from './surprises.ts';

const whole = longLog(60);

/** All that is done with a flight; throws where any of it does. */
function lookedOver(bytes: Uint8Array): number | string {
  const opened = openFlown(bytes, 'a log', torvholm.home);
  if (!opened.ok) return opened.why;
  const { flown } = opened;
  const groundM = groundUnder(flown, torvholm);
  const figures = figuresOf(flown);
  surprisesOf(flown, { airframe: turnstone, groundM, units: 'metric' });
  seriesOf(flown, groundM);
  compared(flown, flown, 'imperial');
  trackPoints(flown, groundM);
  seenAtEnd(flown, 5000);
  for (const format of flownFormats) flownFile(flown, 'x', format, 0);
  expect(Number.isFinite(figures.seconds)).toBe(true);
  return flown.seconds.length;
}

describe('a log that is not as it should be', () => {
  it('is opened as far as it came, wherever it was cut', () => {
    const all = lookedOver(whole) as number;
    expect(all).toBe(600);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: whole.length }), (at) => {
        const got = lookedOver(whole.slice(0, at));
        if (typeof got === 'string') expect(got).toMatch(/Nothing was taken\.$/);
        else expect(got).toBeLessThanOrEqual(all);
      }),
      { numRuns: 60 },
    );
  });

  it('says why, or shows what can be read, whatever bytes were turned over', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: whole.length - 1 }), fc.integer({ min: 0, max: 255 })), {
          minLength: 1,
          maxLength: 8,
        }),
        (turned) => {
          const bad = whole.slice();
          for (const [at, byte] of turned) bad[at] = byte;
          const got = lookedOver(bad);
          if (typeof got === 'string') expect(got).toMatch(/Nothing was taken\.$/);
        },
      ),
      { numRuns: 60 },
    );
  }, 60_000);
});
