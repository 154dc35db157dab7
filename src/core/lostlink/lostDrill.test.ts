import { describe, expect, it } from 'vitest';
import { aloft, onGround, prepared, run } from '../../testing/aloft.ts';
import { turnstone } from '../airframe/library.ts';
import { branchesOf } from './branches.ts';
import { type DrillTimes, drillOff, LostDrill } from './lostDrill.ts';

/** A board on the ground whose transmitter goes off and on, heard as the link tells it: frames at 25 Hz, itself at 10 Hz. */
function drill(offS: number, moveAt: number | null): { times: DrillTimes | null; drill: LostDrill } {
  const f = onGround(turnstone, { 'lost.notice': 0.8, 'lost.guard': 1.5, 'lost.steady': 3 });
  const c = f.pfad.controller;
  const watch = new LostDrill();
  let times: DrillTimes | null = null;
  let tick = 0;
  const tell = () => {
    tick++;
    if (tick % 40 === 0) watch.heard(c.uptimeS, c.input.frameAge);
    if (tick % 100 === 0) times ??= watch.look({ atS: c.uptimeS, lost: c.lost.state });
  };
  run(f, 1, tell);
  f.radio.on = false;
  run(f, offS, tell);
  f.radio.on = true;
  run(f, 1, tell);
  if (moveAt !== null) {
    run(f, moveAt, tell);
    f.radio.roll = 0.5;
  }
  run(f, 5, tell);
  return { times, drill: watch };
}

const drawn = { noticeS: 0.8, actsS: 2.3, steadyS: 3 };

describe('the drill of a lost link', () => {
  it('measures the times of the board against the drawing', () => {
    const { times } = drill(4, 0.2);
    expect(times!.noticedS).toBeCloseTo(0.8, 0);
    expect(Math.abs(times!.noticedS - 0.8)).toBeLessThan(0.15);
    expect(Math.abs(times!.actsS - 2.3)).toBeLessThan(0.2);
    expect(times!.backS).toBeGreaterThan(2.8);
    expect(drillOff(times!, drawn)).toEqual([]);
  });

  it('tells times that are not the drawn ones', () => {
    const { times } = drill(4, 0.2);
    expect(drillOff(times!, { noticeS: 2, actsS: 2.3, steadyS: 3 })).toEqual(['noticed']);
    expect(drillOff(times!, { noticeS: 0.8, actsS: 5, steadyS: 9 })).toEqual(['acts', 'back']);
  });

  it('is no drill when the link comes back before the board acts, or no stick is moved', () => {
    expect(drill(1.6, 0.2).times).toBeNull();
    const still = drill(4, null);
    expect(still.times).toBeNull();
    expect(still.drill.now.state).toBe('recovering');
  });

  it('begins anew with the board', () => {
    const watch = new LostDrill();
    watch.heard(100, 0.01);
    watch.look({ atS: 100, lost: 'fine' });
    watch.look({ atS: 101, lost: 'noticed' });
    watch.heard(2, 0.01);
    expect(watch.now).toMatchObject({ state: 'unknown', noticedS: null });
  });
});

describe('branches of a lost link', () => {
  const words = (change: Parameters<typeof prepared>[1], rotors = false) =>
    branchesOf(prepared(turnstone, change), rotors, 'metric');

  it('ask what the firmware asks', () => {
    expect(words({ 'lost.near': 150 }).asks.map((b) => b.id)).toEqual([
      'armed',
      'flown',
      'can-return',
      'far',
    ]);
    expect(words({ 'lost.near': 0 }).asks.map((b) => b.id)).toEqual(['armed', 'flown', 'can-return']);
    expect(words({ 'lost.action': 'cut' }).asks.map((b) => b.id)).toEqual(['armed', 'flown']);
    expect(words({ 'lost.action': 'nothing' }).last).toMatch(/last commands/);
  });

  it('are as it flies: on the ground the motors stop, in the air it returns', () => {
    const ground = onGround(turnstone, { 'lost.guard': 0.5 });
    ground.radio.arm = true;
    run(ground, 1);
    ground.radio.on = false;
    run(ground, 3);
    expect(ground.pfad.controller.pilot).toBe('cut');
    const air = aloft(turnstone, { change: { 'lost.guard': 0.5 } });
    run(air, 5);
    air.radio.on = false;
    run(air, 3);
    expect(air.pfad.controller.pilot).toBe('return');
  });

  it('near home it keeps its height', () => {
    const air = aloft(turnstone, {
      change: { 'lost.near': 500, 'return.height': 300, 'return.climb': 'climb-first' },
    });
    run(air, 3);
    air.radio.on = false;
    run(air, 5);
    expect(air.pfad.controller.home.phase).not.toBe('climbing');
  });
});
