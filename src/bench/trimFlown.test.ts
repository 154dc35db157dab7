import { describe, expect, it } from 'vitest';
import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import { avocet, flock, turnstone } from '#core/airframe/library.ts';
import { fellF7Model } from '#core/board/boards.ts';
import { TRIM_FLOWN_S } from '#core/calibration/surfaceTrim.ts';
import { type BenchTruth, truthFromSettings } from '#core/formats/benchTruth.ts';
import { aloft, prepared, run } from '../testing/aloft.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { overHome } from '../testing/overHome.ts';
import { flyTrim } from './trimFlown.ts';

const scenario = overHome(3, 0, 0.5);

function trimmed(airframe: Airframe, change: Partial<BenchTruth> = {}) {
  const values = prepared(airframe);
  const truth = { ...truthFromSettings(airframe, values), ...change };
  return flyTrim({ airframe, board: fellF7Model, values, truth, site: torvholm, scenario });
}

const wings = flock.filter((a) => !isRotorcraft(a));

describe('trim learnt in level flight', () => {
  it.each(wings.map((a) => [a.name, a] as const))(
    'is what the panel model says of pitch, and leaves nothing to hold: %s',
    (_name, airframe) => {
      const flown = trimmed(airframe);
      if ('refused' in flown) throw new Error(flown.refused);
      expect(flown.seconds).toBeGreaterThanOrEqual(TRIM_FLOWN_S);
      expect(Math.abs(flown.learnt.pitch - flown.modelPitch!)).toBeLessThan(0.045);
      expect(Math.abs(flown.left.roll)).toBeLessThan(0.004);
      expect(Math.abs(flown.left.pitch)).toBeLessThan(0.004);
    },
  );

  it('takes out a rod that is too long', () => {
    const rod = { armMm: 11, hornMm: 19.123, rodMm: 63.5, shaftAftMm: -62, shaftUpMm: -8.123 };
    const bent = { surface: 'elevator', ...rod, armLeanDeg: 0, hornLeanDeg: 0, playDeg: 0.3 } as const;
    const [straight, flown] = [trimmed(turnstone), trimmed(turnstone, { linkages: [bent] })];
    if ('refused' in flown || 'refused' in straight) throw new Error('it flies');
    expect(Math.abs(flown.learnt.pitch - straight.learnt.pitch)).toBeGreaterThan(0.1);
    expect(Math.abs(flown.left.pitch)).toBeLessThan(0.01);
  });

  it('is nothing of rotors', () => {
    expect(trimmed(avocet)).toEqual({ refused: 'Rotors have no surfaces to trim.' });
  });
});

describe('what the board learns of its trim', () => {
  it('counts no turns', () => {
    const f = aloft(turnstone, { heightM: 200 });
    const { controller } = f.pfad;
    f.radio.throttle = 0.5;
    f.radio.roll = 0.8;
    run(f, 4);
    const turning = controller.trim.seconds;
    run(f, 6);
    expect(controller.trim.seconds - turning).toBeLessThan(0.5);
    f.radio.roll = 0;
    run(f, 12);
    expect(controller.trim.seconds).toBeGreaterThan(turning + 2);
  });
});
