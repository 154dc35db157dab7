import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { LostLink } from './lostLink.ts';

const settings = { noticeAfter: 1, guardFor: 2, steadyFor: 3, stickMove: 0.15 };

/** Runs for `seconds` in steps of 10 ms. */
function run(link: LostLink, seconds: number, alive: boolean, shift = 0): string {
  for (let k = 0; k < Math.round(seconds * 100); k++) link.step(alive, shift, 0.01);
  return link.state;
}

describe('the lost link', () => {
  it('is noticed after t1, guarded for t2, acted on then', () => {
    const link = new LostLink(settings);
    expect(run(link, 5, true)).toBe('fine');
    expect(run(link, 0.9, false)).toBe('fine');
    expect(run(link, 0.12, false)).toBe('noticed');
    expect(run(link, 0.2, false)).toBe('guarding');
    expect(run(link, 2, false)).toBe('acting');
    expect(run(link, 100, false)).toBe('acting');
  });

  it('is noticed at t1 after the last frame, not after the link was called dead', () => {
    const link = new LostLink({ noticeAfter: 0.8, guardFor: 1.5, steadyFor: 3, stickMove: 0.15 });
    let since = 0;
    let noticed = Number.NaN;
    for (let k = 0; k < 2000 && Number.isNaN(noticed); k++) {
      since += 0.001;
      if (link.step(since < 0.15, 0, 0.001, since) === 'noticed') noticed = since;
    }
    // Within a frame of 20 ms.
    expect(noticed).toBeGreaterThanOrEqual(0.8 - 1e-9);
    expect(noticed).toBeLessThan(0.82);
  });

  it('is simply fine again when the link comes back before anything was done', () => {
    const link = new LostLink(settings);
    run(link, 2, false);
    expect(run(link, 0.05, true)).toBe('fine');
  });

  it('gives control back only after a steady link and a moved stick', () => {
    const link = new LostLink(settings);
    run(link, 5, false);
    expect(run(link, 2, true, 1)).toBe('recovering');
    expect(run(link, 5, true, 0.05)).toBe('recovering');
    expect(run(link, 0.1, true, 0.2)).toBe('fine');
  });

  it('goes back to acting when the link fails while recovering, and counts anew', () => {
    const link = new LostLink(settings);
    run(link, 5, false);
    run(link, 2, true);
    expect(run(link, 0.1, false)).toBe('acting');
    expect(run(link, 2.5, true, 1)).toBe('recovering');
  });

  it('never acts unless the link was silent for t1 and t2 together', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.boolean(), fc.integer({ min: 1, max: 120 })), { maxLength: 30 }),
        (runs) => {
          const link = new LostLink(settings);
          let silent = 0;
          for (const [alive, steps] of runs) {
            for (let k = 0; k < steps; k++) {
              const before = link.state;
              silent = alive ? 0 : silent + 0.01;
              link.step(alive, 0, 0.01);
              if (before === 'guarding' && link.state === 'acting') expect(silent).toBeGreaterThan(3 - 1e-6);
            }
          }
        },
      ),
    );
  });
});
