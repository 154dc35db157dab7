import { afterEach, describe, expect, it } from 'vitest';
import { inspectImage, writeImage } from '#core/formats/firmwareImage.ts';
import { readHistory } from '#core/formats/history.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { migrate, pathBetween } from '#core/settings/migration/migrate.ts';
import { catalogueOf, isPfadVersion } from '#firmware/releases.ts';
import { RigPort, sessionOver, until } from '../../testing/appSession.ts';
import { benchRig, type Rig } from '../../testing/benchRig.ts';
import { MemoryRows } from '../../testing/memoryRows.ts';
import { History } from '../history/History.ts';
import { BringingBack } from './BringingBack.ts';
import { Flashing } from './Flashing.ts';
import { ImageInHand } from './ImageInHand.ts';

/** The walk to another firmware, whole, without a browser: a board on a rig, a cable that can be pulled. */

let rig: Rig | null = null;
afterEach(() => {
  rig?.stop();
  rig = null;
});

const hexOf = (version: string, target = 'fell-f7') =>
  new TextEncoder().encode(
    writeImage(
      Uint8Array.from({ length: 12_000 }, (_, i) => (i * 31) & 255),
      { product: 'Pfad', target, version },
    ),
  );

/** @param storage of an earlier visit, after a reload */
function setUp(storage = new MemoryRows(), on?: Rig) {
  rig = on ?? benchRig();
  const port = new RigPort(rig);
  const files: string[] = [];
  const keeper = { history: null as History | null };
  const session = sessionOver(port, {
    met: (identity, values) => keeper.history!.keepMet(identity, values),
    written: (identity, values) => keeper.history!.keep('written', identity, values),
  });
  const { store } = session;
  const history = new History({
    store,
    storage,
    now: () => new Date().toISOString(),
    read: async (text) => readHistory(text),
    save: (name) => files.push(name),
    say: () => {},
  });
  keeper.history = history;
  const parts = {
    store,
    storage,
    session: session.session,
    history,
    fetch: () => Promise.reject(new TypeError('no network')),
    inspect: async (hex: Uint8Array, target?: string) => inspectImage(hex, target),
    carry: async (values: Values, from: string, to: string, chosen: Readonly<Record<string, number>>) => {
      const path = pathBetween(from, to);
      if (!path || !isPfadVersion(from) || !isPfadVersion(to)) return null;
      return migrate(values, from, to, path, catalogueOf(from), catalogueOf(to), chosen);
    },
    waitMs: 6000,
  };
  const image = new ImageInHand(parts);
  const back = new BringingBack(parts);
  const flashing = new Flashing(parts, image, back);
  const unwatch = flashing.watch();
  const take = (version: string, target?: string) => {
    const hex = hexOf(version, target);
    return image.chooseFile({
      name: `${version}.hex`,
      size: hex.length,
      arrayBuffer: async () => hex.buffer as ArrayBuffer,
    });
  };
  const firmware = () => store.getState().firmware;
  const board = () => store.getState().board;
  return {
    port,
    storage,
    files,
    store,
    session: session.session,
    history,
    image,
    back,
    flashing,
    unwatch,
    take,
    firmware,
    board,
  };
}

describe('the walk to another firmware', () => {
  it('keeps, writes, starts, hears, and brings the settings back in the words of the new version', async () => {
    const w = setUp();
    await w.session.connect();
    await w.take('3.2-rc1');
    expect(w.firmware().fault).toBeNull();
    // What will become of the settings can be read before anything is done.
    const before = await w.flashing.preview({});
    expect(before).toMatchObject({ from: '3.2', to: '3.2-rc1' });
    expect(before!.items.some((i) => i.kind === 'converted' || i.kind === 'renamed')).toBe(true);
    expect(w.board().identity).toMatchObject({ version: '3.2' });
    await w.flashing.flash();
    expect(await w.flashing.preview({})).toBeNull();
    expect(w.firmware().run).toEqual({ kind: 'runs' });
    expect(w.board().identity).toMatchObject({ version: '3.2-rc1' });
    await until(() => w.firmware().report !== null);
    await w.back.bring();
    expect(w.firmware().back).toMatchObject({ kind: 'done' });
    expect(rig!.bench.pfad!.values['return.height']).toBe(405);
    expect(w.store.getState().history.snapshots.map((s) => s.cause)).toEqual(['written', 'met', 'met']);
    expect(w.firmware().returning).toBeNull();
  });

  it('loses nothing wherever the cable is pulled, and goes on by itself when it is back', async () => {
    for (let pulled = 0; pulled < 20; pulled++) {
      const w = setUp();
      await w.session.connect();
      await w.take('3.2-rc1');
      // From keeping what is on it to hearing who answers: some hundred frames.
      w.port.pullAfter = 3 + pulled * pulled;
      void w.flashing.flash();
      await until(() => !w.port.inIt || w.firmware().run.kind === 'runs');
      if (!w.port.inIt) {
        await until(() => ['interrupted', 'failed', 'listening', 'runs'].includes(w.firmware().run.kind));
        w.port.plug();
        await until(() => ['ready', 'loader'].includes(w.board().link));
        await until(() => ['runs', 'failed'].includes(w.firmware().run.kind));
        // Where nothing was erased yet it is begun once more by the person.
        if (w.firmware().run.kind === 'failed') await w.flashing.flash();
      }
      await until(() => w.firmware().run.kind === 'runs');
      expect(w.board().identity?.version, `pulled after ${w.port.pullAfter}`).toBe('3.2-rc1');
      await until(() => w.firmware().report !== null);
      await w.back.bring();
      // Pulled while the settings came back, they come back when the person asks once more.
      if (w.firmware().back.kind === 'failed') {
        w.port.plug();
        await until(() => w.board().link === 'ready');
        await w.back.bring();
      }
      expect(w.firmware().back.kind, `pulled at ${pulled}`).toBe('done');
      expect(rig!.bench.pfad!.values['return.height'], `pulled at ${pulled}`).toBe(405);
      w.unwatch();
      rig!.stop();
    }
  }, 240_000);

  it('goes on after a reload in the middle, with the image and the settings of before', async () => {
    const first = setUp();
    await first.session.connect();
    await first.take('3.2-rc1');
    void first.flashing.flash();
    await until(
      () => first.firmware().run.kind === 'flashing' && (first.board().loader?.plan ?? null) !== undefined,
    );
    await until(() => (first.firmware().run as { done?: number }).done! > 3000);
    // The tab is gone.
    first.unwatch();
    first.session.disconnect();
    const on = rig!;
    const again = setUp(first.storage, on);
    await again.session.connect();
    expect(again.board().link).toBe('loader');
    await until(() => again.firmware().inHand !== null);
    expect(again.firmware().inHand?.name).toBe('3.2-rc1.hex');
    await again.flashing.flash();
    await until(() => again.firmware().run.kind === 'runs');
    await until(() => again.firmware().report !== null);
    await again.back.bring();
    expect(on.bench.pfad!.values['return.height']).toBe(405);
  });

  it('gives what is on the board as a file before anything is erased, where the browser keeps nothing', async () => {
    const w = setUp();
    w.storage.refuses = true;
    await w.session.connect();
    await w.take('3.2-rc1');
    await w.flashing.flash();
    expect(w.files).toEqual([expect.stringMatching(/wanderweg-history\.json$/)]);
    await until(() => w.firmware().report !== null);
  });

  it('refuses an image that is damaged, too large or for another board, and an absent service, in a sentence', async () => {
    const w = setUp();
    await w.session.connect();
    await w.take('3.1', 'massif-h7-b');
    expect(w.firmware().fault).toContain('cannot be used');
    await w.image.chooseFile({ name: 'x.hex', size: 1e9, arrayBuffer: async () => new ArrayBuffer(0) });
    expect(w.firmware().fault).toContain('no board here takes so much');
    expect(w.flashing.whyNotFlash()).toBe('Choose a firmware first.');
    await w.image.loadReleases();
    expect(w.firmware().fault).toContain('The release service does not answer');
    await w.flashing.flash();
    expect(w.firmware().run).toEqual({ kind: 'idle' });
    expect(rig!.bench.pfad).not.toBeNull();
  });
});
