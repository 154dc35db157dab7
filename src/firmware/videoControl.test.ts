import { afterEach, describe, expect, it } from 'vitest';
import { benchRig, type Rig } from '../testing/benchRig.ts';

let rig: Rig;
afterEach(() => rig.stop());
const port = { 'port.5.use': 'video-control', 'video.band': 'f', 'video.channel': 4, 'video.power': '800' };

describe('the video transmitter on a port', () => {
  it('goes where it is told, with what it has; least power until it is armed; silent without the battery', () => {
    rig = benchRig(undefined, 1, 'turnstone', undefined, { ...port, 'video.quiet': false });
    rig.run(2);
    expect(rig.bench.pfad!.video.told).toBeNull();
    rig.bench.controls.battery = true;
    rig.run(2);
    // It has 600 mW at most, and says so.
    expect(rig.bench.pfad!.video.told).toEqual({ mhz: 5800, mw: 600 });
    rig.bench.controls.battery = false;
    rig.run(4);
    expect(rig.bench.pfad!.video.told).toBeNull();
    rig.stop();
    rig = benchRig(undefined, 1, 'turnstone', undefined, port);
    rig.bench.controls.battery = true;
    rig.run(2);
    expect(rig.bench.pfad!.video.told).toEqual({ mhz: 5800, mw: 25 });
  });

  it('is not told anything where no port is for it', () => {
    rig = benchRig();
    rig.bench.controls.battery = true;
    rig.run(2);
    expect(rig.bench.pfad!.video).toMatchObject({ byPort: false, told: null });
  });
});
