import { afterEach, describe, expect, it } from 'vitest';
import { benchRig, type Rig } from '../testing/benchRig.ts';

let rig: Rig;
afterEach(() => rig.stop());

const setUp = (change = {}) => {
  rig = benchRig(undefined, 1, 'turnstone', undefined, change);
  const { controls } = rig.bench;
  Object.assign(controls, { battery: true, transmitter: true, stickThrottle: 0 });
  rig.run(2);
  return controls;
};
const value = (key: string) => rig.bench.pfad!.values[key];
const said = () => rig.bench.pfad!.controller.journal.decisions.map((d) => d.text).join(' ');

describe('what the sticks change on the ground', () => {
  it('is stored, said, and there after the power was away', () => {
    const controls = setUp();
    Object.assign(controls, { stickYaw: -1, stickPitch: -1 });
    rig.run(3);
    expect(value('set.active')).toBe('2');
    expect(said()).toContain('By stick: next control set (set 2).');
    Object.assign(controls, { stickYaw: 0, stickPitch: 0 });
    rig.run(0.5);
    Object.assign(controls, { stickYaw: 1, stickPitch: 1 });
    rig.run(3);
    expect(value('mount.levelPitch')).toBe(Number(0.5));
    Object.assign(controls, { usb: false, battery: false });
    rig.run(1);
    Object.assign(controls, { battery: true });
    rig.run(1);
    expect(value('set.active')).toBe('2');
  });

  it('is nothing while the arming switch is on, without a radio, or switched off', () => {
    const controls = setUp();
    Object.assign(controls, { armSwitch: true, stickYaw: -1, stickPitch: -1 });
    rig.run(3);
    expect(value('set.active')).toBe('1');
    rig.stop();
    const off = setUp({ 'hand.gestures': false });
    Object.assign(off, { stickYaw: -1, stickPitch: -1 });
    rig.run(3);
    expect(value('set.active')).toBe('1');
  });

  it('opens a menu over the picture, which is gone through by the right stick and goes away when it is armed', () => {
    const controls = setUp({ 'overlay.system': 'analogue-525', 'return.height': 120 });
    const shown = () => {
      const { overlay, controller } = rig.bench.pfad!;
      overlay.draw(controller);
      return String.fromCharCode(...overlay.cells);
    };
    expect(shown()).not.toContain('ON THE GROUND');
    Object.assign(controls, { stickYaw: -1, stickRoll: -1 });
    rig.run(2);
    expect(shown()).toContain('> Control set');
    Object.assign(controls, { stickYaw: 0, stickRoll: 0 });
    rig.run(0.3);
    const push = (change: object) => {
      Object.assign(controls, change);
      rig.run(0.4);
      Object.assign(controls, { stickRoll: 0, stickPitch: 0 });
      rig.run(0.4);
    };
    push({ stickPitch: 1 });
    expect(shown()).toContain('> Return height');
    push({ stickRoll: 1 });
    push({ stickRoll: 1 });
    expect(value('return.height')).toBe(140);
    expect(shown()).toContain('140m');
    controls.armSwitch = true;
    rig.run(0.5);
    expect(shown()).not.toContain('ON THE GROUND');
  });

  it('calls when it is asked to', () => {
    const controls = setUp();
    Object.assign(controls, { stickYaw: -1, stickRoll: 1 });
    rig.run(3);
    expect(rig.bench.pfad!.signals.moment).toBe('find-me');
    Object.assign(controls, { stickYaw: 0, stickRoll: 0 });
    rig.run(12);
    expect(rig.bench.pfad!.signals.moment).not.toBe('find-me');
  });
});
