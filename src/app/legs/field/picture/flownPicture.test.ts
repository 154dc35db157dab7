import { describe, expect, it } from 'vitest';
import { overlayConfigOf } from '#core/overlay/config.ts';
import { alarmIds } from '#core/overlay/items.ts';
import { newView, POSE_NUMBERS, ViewTape } from '#core/overlay/view.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { alarmsOver, endOf, poseAt, viewIndexAt } from './flownPicture.ts';

const LAUNCH_S = 14.2;
/** A flight of so many seconds, a view each: north at 15 m/s, turning a degree a second through north. */
function flown(seconds: number, more: (atS: number) => object = () => ({})) {
  const tape = new ViewTape();
  const poses: number[] = [];
  for (let s = 0; s <= seconds; s++) {
    tape.add({ ...newView(), atS: LAUNCH_S + s, armed: true, ...more(s) });
    const yaw = ((s - 5) * Math.PI) / 180;
    // As an attitude tells it: within half a turn of north.
    poses.push(s, 15 * s, 0, 100, 0, 0, yaw > Math.PI ? yaw - 2 * Math.PI : yaw);
  }
  return { tape: tape.packed(), poses: Float64Array.from(poses), moments: [], verdict: '' };
}

describe('a flight under an overlay', () => {
  const f = flown(400);

  it('ends where its last pose is', () => {
    expect(f.poses).toHaveLength(401 * POSE_NUMBERS);
    expect(endOf(f)).toBe(400);
    expect(endOf({ ...f, poses: new Float64Array(0) })).toBe(0);
  });

  it('is somewhere at every time between its moments, and stays at its ends', () => {
    expect(poseAt(f, 10.5).north).toBeCloseTo(157.5, 9);
    expect(poseAt(f, 399.99).north).toBeCloseTo(5999.85, 9);
    expect(poseAt(f, -3).north).toBe(0);
    expect(poseAt(f, 9999).north).toBe(6000);
    for (let s = 0; s < 400; s += 0.37) expect(poseAt(f, s).north).toBeCloseTo(15 * s, 8);
  });

  it('turns the short way through south, and never round by north', () => {
    // 184.5 degrees lie between 184 and, told as an attitude, -175.
    const yaw = poseAt(f, 185.5).yaw;
    expect(Math.cos(yaw)).toBeCloseTo(Math.cos((180.5 * Math.PI) / 180), 9);
    expect(Math.sin(yaw)).toBeCloseTo(Math.sin((180.5 * Math.PI) / 180), 9);
  });

  it('goes by the time since the launch, whatever the board’s own clock says', () => {
    expect(viewIndexAt(f, 0)).toBe(0);
    expect(viewIndexAt(f, 7.01)).toBe(7);
    expect(viewIndexAt(f, 7.99)).toBe(7);
    expect(viewIndexAt(f, 1e6)).toBe(400);
  });

  it('keeps an alarm on until it is well over, at whichever moment one looks', () => {
    const heights = [100, 125, 118, 114, 111, 109, 100, 118, 121, 60];
    const c = overlayConfigOf({
      ...pfadCatalogue.defaults(),
      'overlay.alarm.height.at': 120,
      'overlay.alarm.height.back': 10,
    });
    const states = alarmsOver(flown(9, (s) => ({ height: heights[s] })).tape, c);
    const on = states.map((s) => s[alarmIds.indexOf('height')]);
    expect(on).toEqual([false, true, true, true, true, false, false, false, true, false]);
  });
});
