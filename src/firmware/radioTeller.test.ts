import { afterEach, describe, expect, it } from 'vitest';
import { telemetrySchemas } from '#core/wire/telemetry.ts';
import { benchRig, type Rig } from '../testing/benchRig.ts';

let rig: Rig;
afterEach(() => rig.stop());

describe('what the board tells the transmitter', () => {
  it('comes to its screen as true bytes, is no more than there is room for, and stays when the power goes', () => {
    rig = benchRig();
    const { controls } = rig.bench;
    Object.assign(controls, { transmitter: true, outdoors: true, battery: true });
    rig.run(40);
    const shown = rig.bench.shownBack;
    expect(shown.map((s) => s.id)).toEqual(expect.arrayContaining(['place', 'battery', 'mode', 'climb']));
    const place = shown.find((s) => s.id === 'place')!;
    const { epoch } = rig.bench.pfad!.controller.sensing.nmea;
    expect(place.told.lat).toBeCloseTo(epoch.lat, 4);
    expect(place.told.satellites).toBeGreaterThan(5);
    const { teller } = rig.bench.pfad!;
    expect(teller.perS).toBeGreaterThan(40);
    expect(teller.perS).toBeLessThanOrEqual(120);
    // Carried indoors it loses the sky: the place that came stays, and is not overwritten by none.
    controls.outdoors = false;
    rig.run(20);
    expect(rig.bench.pfad!.controller.position.hasFix).toBe(false);
    const last = rig.bench.shownBack.find((s) => s.id === 'place')!;
    expect(last.told.lat).toBeCloseTo(place.told.lat!, 4);
    Object.assign(controls, { usb: false, battery: false });
    rig.run(10);
    const kept = rig.bench.shownBack.find((s) => s.id === 'place')!;
    expect(kept.told.lat).toBe(last.told.lat);
    expect(kept.ageS).toBeGreaterThan(8);
  });

  it('goes over the air only while the transmitter is on, and not at all from a wire that goes one way', () => {
    rig = benchRig();
    rig.bench.controls.transmitter = false;
    rig.run(5);
    expect(rig.bench.shownBack).toEqual([]);
    rig.stop();
    rig = benchRig(undefined, 1, 'turnstone', undefined, { 'rx.protocol': 'sbus' });
    rig.bench.controls.transmitter = true;
    rig.run(5);
    expect(rig.bench.pfad!.teller.sent).toBe(0);
  });

  it('is told over the link as well, the last frame of each kind', () => {
    rig = benchRig();
    rig.bench.controls.transmitter = true;
    rig.run(5);
    const { last, perS } = rig.bench.pfad!.teller;
    const value = telemetrySchemas.tells.parse({
      perS,
      frames: Uint8Array.from(last.flatMap((f) => [...f])),
    });
    expect(value.frames.length).toBeGreaterThan(40);
  });
});
