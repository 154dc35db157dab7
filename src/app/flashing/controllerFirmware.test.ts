import { afterEach, describe, expect, it } from 'vitest';
import { controllerImage } from '#bench/releaseImages.ts';
import { kolkTargets } from '#core/controllers/kolk.ts';
import { inspectImage } from '#core/formats/firmwareImage.ts';
import type { Release, ReleaseImage } from '#core/formats/releases.ts';
import { noLosses } from '#link/lossyPair.ts';
import { benchRig, type Rig } from '../../testing/benchRig.ts';
import { firmwareChanged } from '../store/firmwareSlice.ts';
import { makeStore } from '../store/store.ts';
import { ControllerFirmware } from './ControllerFirmware.ts';
import type { ImageInHand } from './ImageInHand.ts';
import type { FlashParts } from './parts.ts';

let rig: Rig;
afterEach(() => rig.stop());

/** Controllers on the first two outputs, on frames, with leave; releases as the service has them. */
async function setUp(models: readonly string[] = kolkTargets) {
  rig = benchRig(noLosses, 1, 'turnstone', undefined, { 'timer.1.sends': 'dshot300' });
  const { client, bench } = rig;
  bench.controls.battery = true;
  rig.run(1.5);
  await client.request('hello', { link: 1 });
  const allow = () => client.request('bench-allow', { propellersOff: true });
  await allow();
  const store = makeStore();
  const images = models.map(
    (target): ReleaseImage => ({ target, file: `${target}.hex`, size: 1, sha256: '' }),
  );
  const release: Release = {
    product: 'Kolk',
    version: '16.4',
    channel: 'stable',
    date: '2026-09-21',
    notes: [],
    limits: [],
    parts: [],
    images,
  };
  store.dispatch(
    firmwareChanged({ catalogue: { format: 'wanderweg-releases', version: 1, releases: [release] } }),
  );
  let reads = 0;
  const parts = {
    store,
    session: { openLink: () => client },
    inspect: (hex: Uint8Array, target?: string) => Promise.resolve(inspectImage(hex, target)),
  } as unknown as FlashParts;
  const image = {
    loadReleases: () => Promise.resolve(),
    fetched: (_: string, { target }: ReleaseImage) =>
      Promise.resolve(new TextEncoder().encode(controllerImage(target, '16.4'))),
  } as unknown as ImageInHand;
  const firmware = new ControllerFirmware(parts, image, () => reads++);
  const versions = () => bench.readings!.controllers.map((c) => c.version);
  return {
    firmware,
    bench,
    versions,
    allow,
    now: () => store.getState().firmware.controllers,
    reads: () => reads,
  };
}

describe('controllers brought to another firmware', () => {
  it('one after another, and read again once all of them run it', async () => {
    const { firmware, versions, now, reads } = await setUp();
    await firmware.bring([1, 2], '16.4');
    expect(versions()).toEqual(['16.4', '16.4']);
    expect(now()).toEqual({ kind: 'done', version: '16.4', count: 2 });
    expect(reads()).toBe(1);
  });

  it('with the battery out in the middle say which are left, and go on with these', async () => {
    const { firmware, bench, versions, allow, now, reads } = await setUp();
    const all = firmware.bring([1, 2], '16.4');
    while (!(now().kind === 'writing' && (now() as { share: number }).share > 0.2))
      await new Promise((r) => setTimeout(r, 1));
    bench.controls.battery = false;
    await all;
    const run = now();
    expect(run).toMatchObject({ kind: 'interrupted', output: 1, left: [1, 2] });
    expect(reads()).toBe(0);
    bench.controls.battery = true;
    rig.run(0.5);
    await allow();
    await firmware.bring(run.kind === 'interrupted' ? run.left : [], '16.4');
    expect(versions()).toEqual(['16.4', '16.4']);
    expect(now()).toMatchObject({ kind: 'done', count: 2 });
  });

  it('of a model that there is no image for are left as they are, with the reason', async () => {
    const { firmware, versions, now } = await setUp(['kolk-50']);
    await firmware.bring([1], '16.4');
    expect(now()).toMatchObject({
      kind: 'failed',
      left: [1],
      why: 'There is no firmware 16.4 for kolk-30, which hangs on output 1. Nothing was erased.',
    });
    expect(versions()).toEqual(['16.2', '16.2']);
  });
});
