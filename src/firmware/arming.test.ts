import { describe, expect, it } from 'vitest';
import type { Values } from '#core/settings/catalogue.ts';
import { demoValues } from '../testing/demoCraft.ts';
import { type ArmingView, armingBlockers } from './arming.ts';
import { compileConfig } from './config.ts';
import { Sticks } from './sticks.ts';

const ready: ArmingView = {
  linkAlive: true,
  sticks: new Sticks(),
  tilt: 0.02,
  hasFix: true,
  satellites: 12,
  servoRailV: 5,
  supplyV: 16,
  usedMah: 0,
  restartNeeded: false,
  storing: false,
  benchMoving: false,
  requestedMode: 'manual',
  switchSeenOff: true,
  turnsOver: false,
  switchRefused: false,
  still: true,
  imuAlive: true,
  baroAlive: true,
  compassHealthy: true,
  pitotAlive: true,
  launchReady: false,
};
const up = Object.assign(new Sticks(), { throttle: 0.4 });
const fitted: Values = {
  'battery.cells': 4,
  'pitot.fitted': true,
  'compass.fitted': true,
  'arm.needCompass': true,
  'arm.needStill': true,
  'arm.needFix': true,
  'arm.satellites': 6,
};
const blockers = (view: Partial<ArmingView>, change: Values = {}) =>
  armingBlockers(compileConfig({ ...demoValues('turnstone'), ...fitted, ...change }), {
    ...ready,
    ...view,
  });

describe('arming', () => {
  it('is free when all is well', () => {
    expect(blockers({})).toEqual([]);
  });

  const each: readonly (readonly [string, Partial<ArmingView>, Values])[] = [
    ['no-receiver', { linkAlive: false }, {}],
    ['throttle', { sticks: up }, {}],
    ['switch-on', { switchSeenOff: false }, {}],
    ['return-on', { requestedMode: 'return' }, {}],
    ['no-gyro', { imuAlive: false }, {}],
    ['no-barometer', { baroAlive: false }, {}],
    ['no-airspeed', { pitotAlive: false }, {}],
    ['no-compass', { compassHealthy: false }, {}],
    ['moving', { still: false }, {}],
    ['tilt', { tilt: 1.2 }, {}],
    ['no-fix', { hasFix: false }, {}],
    ['few-satellites', { satellites: 5 }, {}],
    ['no-battery', { servoRailV: 0.2 }, {}],
    ['battery-empty', { supplyV: 11 }, {}],
    ['battery-low', { supplyV: 13.4 }, { 'battery.low': 3.5 }],
    ['battery-used', { usedMah: 1e6 }, {}],
    ['restart', { restartNeeded: true }, {}],
    ['storing', { storing: true }, {}],
    ['bench', { benchMoving: true }, {}],
    ['no-switch', {}, { 'arm.channel': 0 }],
    ['no-motor', {}, { 'out.1.drives': 'nothing', 'out.2.drives': 'nothing' }],
  ];

  it.each(each)('is blocked by %s, and by that alone', (id, view, change) => {
    const found = blockers(view, change);
    expect(found.map((b) => b.id)).toEqual([id]);
    expect(found[0]!.why).toMatch(/^[A-Z0-9].*[.?]$/);
  });

  it('names all of them at once', () => {
    const all = Object.assign({}, ...each.map(([, view]) => view)) as Partial<ArmingView>;
    expect(blockers({ ...all, linkAlive: true }).length).toBeGreaterThan(12);
  });

  it('does not ask for what is not fitted, nor for what is not set', () => {
    expect(blockers({ pitotAlive: false }, { 'pitot.fitted': false })).toEqual([]);
    expect(blockers({ compassHealthy: false }, { 'compass.fitted': false })).toEqual([]);
    expect(blockers({ compassHealthy: false }, { 'arm.needCompass': false })).toEqual([]);
    expect(blockers({ still: false }, { 'arm.needStill': false })).toEqual([]);
    expect(blockers({ hasFix: false, satellites: 0 }, { 'arm.needFix': false })).toEqual([]);
  });

  it('puts up with throttle when a hand launch waits for its throw', () => {
    expect(blockers({ sticks: up, launchReady: true })).toEqual([]);
  });
});
