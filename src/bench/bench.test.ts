import { afterEach, describe, expect, it } from 'vitest';
import { attitudeOf } from '#core/calibration/poses.ts';
import { DEG } from '#core/math/scalar.ts';
import { writeEdits } from '#link/board.ts';
import { benchRig, meet, type Rig } from '../testing/benchRig.ts';

let rig: Rig;
afterEach(() => rig.stop());

const surface = (id: string) =>
  rig.bench.wiring.surfaces[rig.bench.plant.airframe.surfaces.findIndex((s) => s.id === id)]!;
const blockers = () => rig.bench.pfad!.controller.blockers().map((b) => b.id);

describe('the demo bench as found', () => {
  it('moves the elevator the wrong way, and the right way once the output is reversed', async () => {
    rig = benchRig(undefined, 1, 'turnstone-as-found');
    const c = rig.bench.controls;
    c.battery = true;
    const copy = await meet(rig.client);
    // Put the sticks in order first: the receiver has throttle first.
    const sticks = { 'rx.throttle.channel': 1, 'rx.roll.channel': 2, 'rx.pitch.channel': 3 };
    await writeEdits(rig.client, copy.identity.fingerprint, sticks);
    c.stickPitch = 0.8;
    rig.run(0.5);
    expect(surface('elevator')).toBeGreaterThan(0.3);
    const now = await rig.client.request('hello', { link: 1 });
    await writeEdits(rig.client, now.fingerprint, { 'out.4.reversed': true });
    rig.run(0.5);
    expect(surface('elevator')).toBeLessThan(-0.3);
  });

  it('has the motors on each other’s pads', async () => {
    rig = benchRig(undefined, 1, 'turnstone-as-found');
    rig.bench.controls.battery = true;
    // The motor controllers wake up first.
    rig.run(1);
    await rig.client.request('bench-allow', { propellersOff: true });
    await rig.client.request('bench-move', { output: 1, run: 1 });
    rig.run(0.2);
    const [left, right] = rig.bench.plant.motors;
    expect(rig.bench.pfad!.values['out.1.drives']).toBe('left-motor');
    expect(left!.omega).toBe(0);
    expect(right!.omega).toBeGreaterThan(50);
  });

  it('reads the throttle stick on the roll channel and says so among the blockers', () => {
    rig = benchRig(undefined, 1, 'turnstone-as-found');
    rig.bench.controls.battery = true;
    rig.run(1);
    expect(blockers()).toContain('throttle');
    expect(rig.bench.pfad!.controller.sticks.roll).toBeLessThan(-0.9);
  });
});

describe('the bench put right', () => {
  it('opposes a tilt with every surface in Level', () => {
    rig = benchRig();
    const c = rig.bench.controls;
    c.battery = true;
    c.attitudeSwitch = 1;
    rig.run(4);
    Object.assign(c, { support: 'hands', pose: attitudeOf(25, 0, 23) });
    rig.run(3);
    expect(rig.bench.pfad!.controller.mode).toBe('level');
    // The chip sits on the board by less than a degree askew.
    expect(Math.abs(rig.bench.pfad!.controller.attitude.roll / DEG - 25)).toBeLessThan(1.5);
    // Right wing down: left aileron up (negative), right aileron down.
    expect(surface('left-aileron')).toBeLessThan(-0.1);
    expect(surface('right-aileron')).toBeGreaterThan(0.05);
    c.pose = attitudeOf(0, 25, 23);
    rig.run(3);
    expect(surface('elevator')).toBeGreaterThan(0.1);
  });

  it('names every blocker, and arms when none is left', () => {
    rig = benchRig();
    const c = rig.bench.controls;
    c.transmitter = false;
    Object.assign(c, { support: 'propped', pose: attitudeOf(58, 0, 23) });
    rig.run(3);
    expect(blockers()).toEqual(expect.arrayContaining(['no-receiver', 'tilt', 'no-battery', 'no-fix']));
    Object.assign(c, {
      transmitter: true,
      support: 'table',
      battery: true,
      outdoors: true,
      stickThrottle: 0.5,
    });
    rig.run(4);
    expect(blockers()).toEqual(expect.arrayContaining(['throttle', 'no-fix']));
    c.stickThrottle = 0;
    rig.run(14);
    expect(blockers()).toEqual([]);
    c.armSwitch = true;
    rig.run(0.2);
    expect(rig.bench.pfad!.controller.armed).toBe(true);
  });

  it('does not arm with a switch that was on at start', () => {
    rig = benchRig();
    const c = rig.bench.controls;
    rig.bench.controls.usb = false;
    rig.run(0.01);
    Object.assign(c, { usb: true, battery: true, outdoors: true, armSwitch: true });
    rig.run(20);
    expect(blockers()).toEqual(['switch-on']);
  });

  it('does not arm by a switch that was left on, once what was in the way is gone', () => {
    rig = benchRig();
    const c = rig.bench.controls;
    Object.assign(c, { usb: true, battery: true, outdoors: true, stickThrottle: 0.5 });
    rig.run(20);
    c.armSwitch = true;
    rig.run(1);
    c.stickThrottle = 0;
    rig.run(3);
    expect(rig.bench.pfad!.controller.armed).toBe(false);
    expect(blockers()).toEqual(['switch-again']);
    c.armSwitch = false;
    rig.run(0.3);
    expect(blockers()).toEqual([]);
    c.armSwitch = true;
    rig.run(0.3);
    expect(rig.bench.pfad!.controller.armed).toBe(true);
  });

  it('notices a transmitter switched off, and stops the motors of a craft that has not flown', () => {
    rig = benchRig();
    const c = rig.bench.controls;
    Object.assign(c, { battery: true, outdoors: true });
    rig.run(18);
    c.armSwitch = true;
    rig.run(0.2);
    c.stickThrottle = 0.4;
    rig.run(1);
    expect(rig.bench.plant.motors[0]!.omega).toBeGreaterThan(100);
    c.transmitter = false;
    rig.run(1.2);
    expect(rig.bench.pfad!.controller.lost.state).not.toBe('fine');
    rig.run(3);
    expect(rig.bench.pfad!.controller.lost.state).toBe('acting');
    expect(rig.bench.plant.duties[0]).toBe(0);
  });

  it('moves no servo from USB alone', () => {
    rig = benchRig();
    rig.bench.controls.stickRoll = 1;
    rig.run(1);
    expect(surface('left-aileron')).toBe(0);
    rig.bench.controls.battery = true;
    rig.run(0.5);
    expect(surface('left-aileron')).toBeGreaterThan(0.4);
  });

  it('refuses to write and to move outputs while armed', async () => {
    rig = benchRig();
    Object.assign(rig.bench.controls, { battery: true, outdoors: true });
    rig.run(18);
    rig.bench.controls.armSwitch = true;
    rig.run(0.2);
    const hello = await rig.client.request('hello', { link: 1 });
    const outcome = await writeEdits(rig.client, hello.fingerprint, { 'return.height': 300 });
    expect(outcome.kind === 'refused' && outcome.refusals[0]!.why).toContain('armed');
    await expect(rig.client.request('bench-allow', { propellersOff: true })).rejects.toThrow('armed');
    await expect(rig.client.request('restart', {})).rejects.toThrow('armed');
  });
});
