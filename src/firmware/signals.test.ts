import { afterEach, describe, expect, it } from 'vitest';
import { benchRig, type Rig } from '../testing/benchRig.ts';

let rig: Rig;
afterEach(() => rig.stop());
const signals = () => rig.bench.pfad!.signals;

describe('lamps and buzzer on the board', () => {
  it('tell radio, sky and readiness as they come, and the lost link once armed', () => {
    rig = benchRig(undefined, 1, 'turnstone', undefined, {
      'light.lamps': 9,
      'light.output': 7,
      'find.afterLost': 5,
    });
    const { controls } = rig.bench;
    Object.assign(controls, { battery: true, transmitter: false });
    rig.run(2);
    expect(signals().moment).toBe('no-radio');
    expect(signals().lamps).toHaveLength(27);
    controls.transmitter = true;
    rig.run(2);
    expect(signals().moment).toBe('no-fix');
    controls.outdoors = true;
    rig.run(45);
    expect(['ready', 'blocked']).toContain(signals().moment);
    expect(signals().moment).toBe(rig.bench.pfad!.controller.blockers().length > 0 ? 'blocked' : 'ready');
    // The transmitter goes off on the ground: after a while it calls.
    controls.transmitter = false;
    rig.run(4);
    expect(signals().moment).toBe('no-radio');
    rig.run(3);
    expect(signals().moment).toBe('find-me');
    let heard = 0;
    for (let k = 0; k < 100; k++) {
      rig.run(0.02);
      if (signals().toneHz > 0) heard++;
    }
    expect(heard).toBeGreaterThan(10);
    expect(heard).toBeLessThan(60);
    controls.transmitter = true;
    rig.run(2);
    expect(signals().moment).not.toBe('find-me');
  });

  it('calls by a switch, with the motors where it may, and is silent where there is no buzzer', () => {
    rig = benchRig(undefined, 1, 'turnstone', undefined, {
      'find.channel': 7,
      'find.motors': true,
      'timer.1.sends': 'dshot600',
      'sound.buzzer': false,
    });
    Object.assign(rig.bench.controls, { battery: true, transmitter: true, returnSwitch: true });
    let [sang, heard, onBench] = [0, 0, 0];
    for (let k = 0; k < 150; k++) {
      rig.run(0.02);
      if (signals().motorsSing) sang++;
      if (rig.bench.motorsSing) onBench++;
      if (signals().toneHz > 0) heard++;
    }
    expect(signals().moment).toBe('find-me');
    expect(sang).toBeGreaterThan(10);
    expect(heard).toBe(0);
    // What the controllers were told is what is heard on the bench; without the battery they say nothing.
    expect(onBench).toBe(sang);
    rig.bench.controls.battery = false;
    rig.run(1);
    expect(rig.bench.motorsSing).toBe(false);
  });
});
