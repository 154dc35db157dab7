import { afterEach, describe, expect, it } from 'vitest';
import { imageCrc, inspectImage, writeImage } from '#core/formats/firmwareImage.ts';
import { Random } from '#core/math/random.ts';
import type { PfadVersion } from '#firmware/versions.ts';
import { benchRig, type Rig } from '../testing/benchRig.ts';
import { demoValues } from '../testing/demoCraft.ts';
import { greet } from './board.ts';
import { LinkClient, LinkError } from './client.ts';
import { flashImage } from './flash.ts';
import { lossyPair } from './lossyPair.ts';

let rig: Rig;
afterEach(() => rig.stop());

function imageOf(version: PfadVersion, bytes: number, target = 'fell-f7') {
  const random = new Random(bytes);
  const code = Uint8Array.from({ length: bytes }, () => Math.floor(256 * random.uniform()));
  const made = inspectImage(new TextEncoder().encode(writeImage(code, { product: 'Pfad', target, version })));
  if (!made.ok) throw new Error(made.why);
  return made;
}

const hello = (client: LinkClient) => client.request('hello', { link: 1 });

/** Into the loader, which may answer the request or already be there. */
async function enterLoader(client: LinkClient): Promise<void> {
  await client.request('enter-loader', {});
  while ((await hello(client)).firmware !== 'Loader') await new Promise((r) => setTimeout(r, 5));
}

/** A new cable to the same board, as after the old one was pulled. */
function plugAnew(r: Rig, seed: number): LinkClient {
  const [appEnd, boardEnd] = lossyPair({ drop: 0, corrupt: 0, duplicate: 0, delayMs: 0 }, seed);
  r.bench.toCable = (bytes) => boardEnd.send(bytes);
  boardEnd.onBytes = (bytes) => r.bench.fromCable(bytes);
  return new LinkClient(appEnd);
}

describe('flashing', () => {
  it('replaces the firmware, which then runs with its own settings and the old ones kept', async () => {
    rig = benchRig();
    const { bytes, info } = imageOf('3.2-rc1', 40_000);
    await enterLoader(rig.client);
    const seen: string[] = [];
    await flashImage(rig.client, bytes, info, { onProgress: (p) => seen.push(p.doing) });
    expect([...new Set(seen)]).toEqual(['erasing', 'writing', 'verifying']);
    await rig.client.request('loader-start', {});
    rig.run(0.05);
    const identity = await hello(rig.client);
    expect(identity).toMatchObject({ firmware: 'Pfad', version: '3.2-rc1', target: 'fell-f7' });
    expect(rig.bench.pfad!.catalogue.entry('return.reserve')).toBeDefined();
    // Names and scales differ: what 3.2 stored is left alone, not misread.
    expect(identity.note).toMatch(/stored by Pfad 3\.2 .* runs on its defaults/);
    const defaults = rig.bench.pfad!.catalogue.entry('return.height')!.default;
    expect(rig.bench.pfad!.values['return.height']).toBe(defaults);
  });

  it('wipes the settings when it is told to, and at no other time', async () => {
    rig = benchRig();
    const { bytes, info } = imageOf('3.1', 40_000);
    await enterLoader(rig.client);
    await flashImage(rig.client, bytes, info);
    expect(rig.flash.pages.some((p) => p.some((b) => b !== 0xff))).toBe(true);
    await flashImage(rig.client, bytes, info, { wipe: true });
    expect(rig.flash.pages.every((p) => p.every((b) => b === 0xff))).toBe(true);
    await rig.client.request('loader-start', {});
    rig.run(0.05);
    expect(rig.bench.pfad!.values).toEqual(rig.bench.pfad!.catalogue.defaults());
  });

  it('of 1 MB loses no block with one frame in twenty lost', { timeout: 120_000 }, async () => {
    rig = benchRig({ drop: 0.05, corrupt: 0, duplicate: 0, delayMs: 0 }, 3);
    const { bytes, info } = imageOf('3.1', 1024 * 1024);
    await enterLoader(rig.client);
    await flashImage(rig.client, bytes, info);
    expect(rig.bench.board.image.startable).toBe(true);
    expect(
      Buffer.from(rig.bench.board.image.bytes.subarray(0, bytes.length)).equals(Buffer.from(bytes)),
    ).toBe(true);
  });

  it('killed at twenty random points always comes up, goes on where it was, and ends whole with its settings', {
    timeout: 120_000,
  }, async () => {
    rig = benchRig();
    const random = new Random(11);
    const before = demoValues('turnstone');
    const images = [imageOf('3.0', 150_000), imageOf('3.2', 150_000)];
    let client = rig.client;
    let kills = 0;
    for (let round = 0; kills < 20; round++) {
      const { bytes, info } = images[round % 2]!;
      if ((await hello(client)).firmware === 'Pfad') await enterLoader(client);
      for (let whole = false; !whole; ) {
        const killAt = random.uniform() * 1.1;
        const flashing = flashImage(client, bytes, info, {
          onProgress: (p) => {
            const share = p.doing === 'erasing' ? 0.1 * (p.done / p.of) : 0.1 + 0.9 * (p.done / p.of);
            if (kills < 20 && share > killAt && rig.bench.controls.usb) {
              kills++;
              rig.bench.controls.usb = false;
              // In the middle of whatever the board does.
              rig.run(0.001 + 0.01 * random.uniform());
              client.close();
            }
          },
        });
        try {
          await flashing;
          whole = true;
        } catch (error) {
          expect(error).toBeInstanceOf(LinkError);
          rig.bench.controls.usb = true;
          rig.run(0.02);
          client = plugAnew(rig, kills);
          const { firmware } = await hello(client);
          expect(['Pfad', 'Loader']).toContain(firmware);
          // The loader stays by itself as long as there is nothing whole to start.
          if (firmware === 'Pfad') await enterLoader(client);
        }
      }
      await client.request('loader-start', {});
      rig.run(0.05);
      expect(await hello(client)).toMatchObject({ firmware: 'Pfad', version: info.version });
      expect(rig.bench.board.image.correct).toBe(true);
    }
    expect(kills).toBe(20);
    // Back on 3.2 it runs on the settings that it had all along.
    const { bytes, info } = images[1]!;
    await enterLoader(client);
    await flashImage(client, bytes, info);
    await client.request('loader-start', {});
    rig.run(0.05);
    expect(rig.bench.pfad!.values).toEqual(before);
    client.close();
  });
});

describe('the loader', () => {
  it('refuses an image for another board, or too large, before anything is erased', async () => {
    rig = benchRig();
    await enterLoader(rig.client);
    const other = imageOf('3.1', 8000, 'massif-h7-b');
    await expect(flashImage(rig.client, other.bytes, other.info)).rejects.toThrow(
      'The image is for massif-h7-b; this board is fell-f7. Nothing was erased.',
    );
    const { bytes, info } = imageOf('3.1', 8000);
    await expect(flashImage(rig.client, bytes, { ...info, size: 4_000_000 })).rejects.toThrow(
      'Nothing was erased',
    );
    expect(rig.bench.board.image.startable).toBe(true);
    await rig.client.request('loader-start', {});
    rig.run(0.05);
    expect((await hello(rig.client)).firmware).toBe('Pfad');
  });

  it('does not start what is not verified, and says when the checksum differs', async () => {
    rig = benchRig();
    await enterLoader(rig.client);
    const { bytes, info } = imageOf('3.1', 8000);
    const wrong = bytes.slice();
    wrong[5000]! ^= 1;
    await expect(flashImage(rig.client, wrong, info)).rejects.toThrow('its checksum differs');
    await expect(rig.client.request('loader-start', {})).rejects.toThrow('no verified firmware');
    // The right image is then written from the start.
    await flashImage(rig.client, bytes, info);
    await rig.client.request('loader-start', {});
    rig.run(0.05);
    expect((await hello(rig.client)).firmware).toBe('Pfad');
  });

  it('writes by itself over a cable that loses four frames of ten', { timeout: 120_000 }, async () => {
    rig = benchRig();
    await enterLoader(rig.client);
    const [appEnd, boardEnd] = lossyPair({ drop: 0.4, corrupt: 0, duplicate: 0.05, delayMs: 1 }, 4);
    rig.bench.toCable = (bytes) => boardEnd.send(bytes);
    boardEnd.onBytes = (bytes) => rig.bench.fromCable(bytes);
    const client = new LinkClient(appEnd);
    const { bytes, info } = imageOf('3.1', 6000);
    await flashImage(client, bytes, info);
    expect(rig.bench.board.image.startable).toBe(true);
  });

  it('starts nothing that is not what was announced, or for another board, or no image at all', async () => {
    rig = benchRig();
    await enterLoader(rig.client);
    const { info } = imageOf('3.1', 8000);
    await expect(flashImage(rig.client, new Uint8Array(0), { ...info, size: 0, crc: 0 })).rejects.toThrow(
      'An image of 0 bytes is none',
    );
    const random = new Random(3);
    const nonsense = Uint8Array.from({ length: 8000 }, () => Math.floor(256 * random.uniform()));
    const other = imageOf('3.1', 8000, 'cobble-f4-wing').bytes;
    const older = imageOf('2.8', 8000).bytes;
    const attacks: readonly (readonly [Uint8Array, RegExp])[] = [
      [nonsense, /says other things of itself/],
      [other, /says that it is for cobble-f4-wing; this board is fell-f7/],
      [older, /says other things of itself/],
    ];
    for (const [bytes, words] of attacks) {
      // Announced as something for this board, with the checksum of what is really sent.
      const plan = { ...info, crc: imageCrc(bytes) };
      await expect(flashImage(rig.client, bytes, plan)).rejects.toThrow(words);
      await expect(rig.client.request('loader-start', {})).rejects.toThrow('no verified firmware');
      expect(rig.bench.board.image.startable).toBe(false);
    }
  });

  it('comes up by its button, and by itself when flash has gone bad', async () => {
    rig = benchRig();
    const { controls } = rig.bench;
    const restart = async (prepare: () => void) => {
      controls.usb = false;
      rig.run(0.002);
      prepare();
      controls.usb = true;
      rig.run(0.02);
      return (await hello(rig.client)).firmware;
    };
    expect(
      await restart(() => {
        rig.bench.controls.loaderButton = true;
      }),
    ).toBe('Loader');
    expect(
      await restart(() => {
        rig.bench.controls.loaderButton = false;
      }),
    ).toBe('Pfad');
    expect(
      await restart(() => {
        rig.bench.board.image.bytes[2000]! ^= 1;
      }),
    ).toBe('Loader');
  });

  it('knows nothing of settings, and the firmware nothing of blocks', async () => {
    rig = benchRig();
    await expect(rig.client.request('loader-verify', {})).rejects.toThrow('Enter the loader first');
    await enterLoader(rig.client);
    await expect(rig.client.request('values', { from: 0 })).rejects.toThrow('The loader is running');
    expect((await greet(rig.client)).firmware).toBe('Loader');
  });
});
