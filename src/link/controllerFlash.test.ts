import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { controllerImage } from '#bench/releaseImages.ts';
import { inspectImage } from '#core/formats/firmwareImage.ts';
import type { Telemetry } from '#core/wire/telemetry.ts';
import { benchRig, type Rig } from '../testing/benchRig.ts';
import { LinkClient, LinkError } from './client.ts';
import { flashImage } from './flash.ts';
import { lossyPair, noLosses } from './lossyPair.ts';

let rig: Rig;
let link: LinkClient;
beforeEach(async () => {
  rig = benchRig(noLosses, 1, 'turnstone', undefined, { 'timer.1.sends': 'dshot300' });
  link = rig.client;
  rig.bench.controls.battery = true;
  rig.run(1.5);
  await link.request('hello', { link: 1 });
  await allow();
});
afterEach(() => rig.stop());

const allow = () => link.request('bench-allow', { propellersOff: true });
const image = (version = '16.4', target = 'kolk-30') => {
  const looked = inspectImage(new TextEncoder().encode(controllerImage(target, version)), target);
  if (!looked.ok) throw new Error(looked.why);
  return looked;
};
const on = (output: number) => rig.bench.readings!.controllers.find((c) => c.output === output)!;
const motorOf = (output: number) => {
  const { actuator } = rig.bench.plant.airframe.motors.map((m) => ({ actuator: m.id }))[
    output === 2 ? 0 : 1
  ]!;
  return rig.bench.plant.motors.find((m) => m.motor.id === actuator)!;
};

describe('firmware of motor controllers, through the board', () => {
  it('is written, verified and started one by one; memory stays, and the other runs on', async () => {
    on(1).write('timing', 22);
    const { bytes, info } = image();
    expect(await link.request('loader-state', { to: 1 })).toMatchObject({ target: 'kolk-30', plan: null });
    await flashImage(link, bytes, info, { to: 1 });
    // In its loader it answers nobody.
    expect([on(1).answers, on(2).answers]).toEqual([false, true]);
    await link.request('loader-start', { to: 1 });
    expect([on(1).version, on(2).version]).toEqual(['16.4', '16.2']);
    expect(on(1).read()).toMatchObject({ timing: 22 });
    expect(rig.bench.controllers.find((c) => c.version === '16.4')?.settings.timing).toBe(22);
  });

  it('goes on where it was when the battery is pulled in the middle, and turns nothing meanwhile', async () => {
    const { bytes, info } = image();
    let told = 0;
    const cut = flashImage(link, bytes, info, {
      to: 2,
      onProgress: (p) => {
        told++;
        if (p.doing === 'writing' && p.done > p.of / 2) rig.bench.controls.battery = false;
      },
    });
    const error = await cut.then(
      () => null,
      (e: unknown) => e,
    );
    expect(error).toBeInstanceOf(LinkError);
    expect(error).toMatchObject({ code: 'silent' });
    const then = told;
    rig.bench.controls.battery = true;
    rig.run(0.5);
    // Leave lapsed with the battery.
    await expect(link.request('loader-state', { to: 2 })).rejects.toMatchObject({ code: 'propellers' });
    await allow();
    // Nothing goes on by itself behind the back of whoever was told that it stopped.
    await new Promise((r) => setTimeout(r, 200));
    expect(told).toBe(then);
    const { whole } = await link.request('loader-state', { to: 2 });
    const done = whole.reduce((n, w) => n + w, 0);
    expect(done).toBeGreaterThan(whole.length / 3);
    expect(done).toBeLessThan(whole.length);
    await expect(link.request('loader-start', { to: 2 })).rejects.toMatchObject({ code: 'not-verified' });
    // Nothing turns that motor, whatever is asked.
    await link.request('bench-move', { output: 2, run: 999_999 }).catch(() => {});
    rig.run(0.25);
    expect(motorOf(2).omega).toBeLessThan(1);
    let least = bytes.length;
    await flashImage(link, bytes, info, { to: 2, onProgress: (p) => (least = Math.min(least, p.done)) });
    expect(least).toBeGreaterThanOrEqual(1024 * done);
    await link.request('loader-start', { to: 2 });
    expect(on(2).version).toBe('16.4');
  });

  it('goes on over another cable when the first is pulled in the middle', async () => {
    const { bytes, info } = image();
    const cut = flashImage(link, bytes, info, {
      to: 1,
      onProgress: (p) => {
        if (p.doing === 'writing' && p.done > p.of / 2) link.close();
      },
    });
    await expect(cut).rejects.toMatchObject({ fault: 'closed' });
    const [appEnd, boardEnd] = lossyPair(noLosses, 9);
    rig.bench.toCable = (b) => boardEnd.send(b);
    boardEnd.onBytes = (b) => rig.bench.fromCable(b);
    link = new LinkClient(appEnd);
    await link.request('hello', { link: 1 });
    await allow();
    const { whole } = await link.request('loader-state', { to: 1 });
    expect(whole.reduce((n, w) => n + w, 0)).toBeGreaterThan(whole.length / 3);
    await flashImage(link, bytes, info, { to: 1 });
    await link.request('loader-start', { to: 1 });
    expect(on(1).version).toBe('16.4');
    link.close();
  });

  it('is refused for another model, for what hangs on no output, by pulses, and without leave', async () => {
    const { bytes, info } = image('16.4', 'kolk-50');
    await expect(flashImage(link, bytes, info, { to: 1 })).rejects.toThrow(
      'The image is for kolk-50; this controller is kolk-30. Nothing was erased.',
    );
    expect(on(1).version).toBe('16.2');
    await expect(link.request('loader-state', { to: 5 })).rejects.toMatchObject({ code: 'no-output' });
    await link.request('bench-allow', { propellersOff: false });
    await expect(link.request('loader-state', { to: 1 })).rejects.toMatchObject({ code: 'propellers' });
    await expect(link.request('loader-state', {})).rejects.toMatchObject({ code: 'in-firmware' });
    rig.stop();
    rig = benchRig(noLosses, 1, 'turnstone', undefined, { 'timer.1.sends': 'pulses' });
    link = rig.client;
    rig.bench.controls.battery = true;
    rig.run(1.5);
    await link.request('hello', { link: 1 });
    await allow();
    await expect(link.request('loader-state', { to: 1 })).rejects.toMatchObject({ code: 'silent' });
  });

  it('damaged on its way is not started, and written once more', async () => {
    const { bytes, info } = image();
    const wrong = bytes.slice();
    wrong[9000]! ^= 4;
    await expect(flashImage(link, wrong, info, { to: 1 })).rejects.toThrow('its checksum differs');
    await expect(link.request('loader-start', { to: 1 })).rejects.toMatchObject({ code: 'not-verified' });
    await flashImage(link, bytes, info, { to: 1 });
    await link.request('loader-start', { to: 1 });
    expect(on(1).answers).toBe(true);
  });

  it('from 16.4 on they tell speed, temperature and current', async () => {
    expect(on(1).tells).toBe(false);
    const { bytes, info } = image();
    await flashImage(link, bytes, info, { to: 1 });
    await link.request('loader-start', { to: 1 });
    const seen: Telemetry['motors'][] = [];
    link.onTelemetry = (group, value) => {
      if (group === 'motors') seen.push(value as Telemetry['motors']);
    };
    await link.request('subscribe', { group: 'motors', hz: 20 });
    for (const unit of rig.bench.plant.motors) unit.omega = 200;
    rig.run(0.3);
    await new Promise((r) => setTimeout(r, 50));
    expect(seen.length).toBeGreaterThan(2);
    expect(seen[0]!.map((m) => m.output)).toEqual([1]);
    expect(Math.max(...seen.map(([m]) => m!.rpm))).toBeGreaterThan(300);
    expect(seen.at(-1)![0]!.degC).toBeGreaterThan(20);
  });
});
