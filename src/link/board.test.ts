import { afterEach, describe, expect, it } from 'vitest';
import { BenchBoard, shelfFor } from '#bench/benchBoard.ts';
import { BenchWorld } from '#bench/benchWorld.ts';
import { Random } from '#core/math/random.ts';
import { type SettingValue, sameValue } from '#core/settings/catalogue.ts';
import { encodeFrame, MAX_FRAME_BYTES } from '#core/wire/frames.ts';
import { DEAD_MAN_MS } from '#core/wire/messages.ts';
import { benchRig, meet, type Rig } from '../testing/benchRig.ts';
import { demoCraft, demoValues, torvholm } from '../testing/demoCraft.ts';
import { writeEdits } from './board.ts';
import { LinkError } from './client.ts';
import { OutputHold } from './hold.ts';

let rig: Rig;
afterEach(() => rig.stop());

const bad = { drop: 0.05, corrupt: 0.03, duplicate: 0.05, delayMs: 8 };

describe('reading a board', () => {
  it('gives its identity, description, catalogue and every setting', async () => {
    rig = benchRig();
    const copy = await meet(rig.client);
    expect(copy.identity).toMatchObject({ board: 'Fell F7', firmware: 'Pfad', version: '3.2' });
    expect(copy.description.pads).toHaveLength(9);
    expect(copy.catalogue.entries).toHaveLength(copy.identity.settings);
    expect(copy.values).toEqual(demoValues('turnstone'));
  });

  it.each([1, 2, 3, 4])(
    'is right over a cable that loses, garbles, doubles and delays frames (seed %i)',
    async (seed) => {
      rig = benchRig(bad, seed);
      const copy = await meet(rig.client);
      expect(copy.values).toEqual(demoValues('turnstone'));
      const outcome = await writeEdits(rig.client, copy.identity.fingerprint, { 'return.height': 222 });
      expect(outcome.kind).toBe('written');
      expect(rig.bench.pfad!.values['return.height']).toBe(222);
    },
  );

  it('says in a sentence that the cable came out', async () => {
    rig = benchRig();
    const reading = meet(rig.client);
    rig.client.close();
    await expect(reading).rejects.toThrow('The cable came out');
  });
});

describe('writing settings', () => {
  it('writes all edits at once and reads them back', async () => {
    rig = benchRig();
    const copy = await meet(rig.client);
    const edits = Object.fromEntries(Array.from({ length: 9 }, (_, i) => [`out.${i + 1}.high`, 1900 + i]));
    const outcome = await writeEdits(rig.client, copy.identity.fingerprint, edits);
    expect(outcome).toMatchObject({ kind: 'written', restartNeeded: false });
    for (const [key, value] of Object.entries(edits)) expect(rig.bench.pfad!.values[key]).toBe(value);
  });

  it('refuses the whole write by key and reason when one edit is wrong, and changes nothing', async () => {
    rig = benchRig();
    const copy = await meet(rig.client);
    const edits = { 'return.height': 300, 'rx.roll.channel': 1, 'nav.speed': 900 };
    const outcome = await writeEdits(rig.client, copy.identity.fingerprint, edits);
    expect(outcome.kind).toBe('refused');
    expect(outcome.kind === 'refused' && outcome.refusals.map((r) => r.key)).toEqual(['nav.speed']);
    expect(rig.bench.pfad!.values).toEqual(copy.values);
  });

  it('enforces rules between settings', async () => {
    rig = benchRig();
    const copy = await meet(rig.client);
    const outcome = await writeEdits(rig.client, copy.identity.fingerprint, { 'rx.yaw.channel': 1 });
    expect(outcome.kind === 'refused' && outcome.refusals[0]!.why).toContain(
      'Two sticks cannot be on one receiver channel',
    );
  });

  it('refuses edits made on settings the board no longer holds', async () => {
    rig = benchRig();
    const copy = await meet(rig.client);
    await writeEdits(rig.client, copy.identity.fingerprint, { 'return.height': 300 });
    await expect(writeEdits(rig.client, copy.identity.fingerprint, { 'return.height': 310 })).rejects.toThrow(
      'Read them again',
    );
  });

  it('says that a restart is needed, and uses the new value after it', async () => {
    rig = benchRig();
    const copy = await meet(rig.client);
    const outcome = await writeEdits(rig.client, copy.identity.fingerprint, { 'gyro.cutoff': 60 });
    expect(outcome).toMatchObject({ kind: 'written', restartNeeded: true });
    expect(rig.bench.pfad!.controller.config.filters.lowPassHz).toBe(80);
    await rig.client.request('restart', {});
    rig.run(0.1);
    expect(rig.bench.pfad!.controller.config.filters.lowPassHz).toBe(60);
  });

  it('leaves all of the old or all of the new settings when power goes at any moment of the write', async () => {
    rig = benchRig();
    const before = demoValues('turnstone');
    const craft = demoCraft('turnstone');
    const edits: Record<string, SettingValue> = {
      'return.height': 250,
      'out.3.high': 1950,
      'loiter.radius': 120,
    };
    const seen = new Set<string>();
    for (let steps = 0; steps < 260; steps += 3) {
      const board = BenchBoard.fresh(shelfFor('fell-f7')[0]!, before);
      const bench = new BenchWorld(craft.airframe, craft.bench!, board, 1, torvholm);
      bench.controls.usb = true;
      for (let k = 0; k < 5; k++) bench.step();
      expect(bench.pfad!.commit(edits).state).toBe('storing');
      for (let k = 0; k < steps; k++) bench.step();
      bench.controls.usb = false;
      bench.step();
      bench.controls.usb = true;
      bench.step();
      const now = bench.pfad!.values;
      const changed = Object.keys(before).filter((k) => !sameValue(before[k], now[k]));
      expect(changed.length === 0 || changed.sort().join() === Object.keys(edits).sort().join()).toBe(true);
      seen.add(changed.length === 0 ? 'old' : 'new');
    }
    expect([...seen].sort()).toEqual(['new', 'old']);
  });
});

describe('moving outputs on the bench', () => {
  it('needs the propellers confirmed off', async () => {
    rig = benchRig();
    await expect(rig.client.request('bench-move', { output: 3, run: 1 })).rejects.toThrow(
      'propellers are off',
    );
    expect(rig.bench.pfad!.controller.bench.output).toBe(0);
  });

  it('stops within 300 ms of board time once the link goes quiet', async () => {
    rig = benchRig();
    rig.bench.controls.battery = true;
    // The motor controllers wake up first.
    rig.run(1);
    await rig.client.request('bench-allow', { propellersOff: true });
    await rig.client.request('bench-move', { output: 1, run: rig.client.acts.fresh() });
    const world = rig.bench;
    expect(world.pfad!.controller.bench.output).toBe(1);
    const start = world.pfad!.uptimeS;
    rig.run(0.05);
    expect(world.plant.duties[1]).toBeGreaterThan(0.05);
    // The motor itself has to be without drive by then, not only the command gone.
    while (world.plant.duties[1] !== 0) rig.run(0.001);
    expect(world.pfad!.uptimeS - start).toBeLessThanOrEqual(DEAD_MAN_MS / 1000);
  });

  it('does not start again from a replay of an old hold', async () => {
    rig = benchRig();
    await rig.client.request('bench-allow', { propellersOff: true });
    const run = rig.client.acts.fresh();
    await rig.client.request('bench-move', { output: 1, run });
    rig.run(0.4);
    await expect(rig.client.request('bench-move', { output: 1, run })).rejects.toThrow('This hold has ended');
    await rig.client.request('bench-move', { output: 1, run: rig.client.acts.fresh() });
    expect(rig.bench.pfad!.controller.bench.output).toBe(1);
  });

  it('runs while held and ends at release', async () => {
    rig = benchRig();
    await rig.client.request('bench-allow', { propellersOff: true });
    const hold = new OutputHold(rig.client);
    hold.start(3);
    await new Promise((r) => setTimeout(r, 60));
    expect(rig.bench.pfad!.controller.bench.output).toBe(3);
    hold.stop();
    await new Promise((r) => setTimeout(r, 60));
    expect(rig.bench.pfad!.controller.bench.output).toBe(0);
  });
});

describe('what must never crash either end', () => {
  it('answers as before after 1 MB of noise, half frames and wrong checksums', async () => {
    rig = benchRig();
    const random = new Random(5);
    const noise = Uint8Array.from({ length: 1_000_000 }, () => Math.floor(random.uniform() * 256));
    const whole = encodeFrame({ t: 'hello', id: 1, link: 1 });
    const wrong = whole.slice();
    wrong[3] = wrong[3]! ^ 0x10;
    rig.bench.fromCable(noise);
    rig.bench.fromCable(whole.subarray(0, 9));
    rig.bench.fromCable(wrong);
    rig.bench.fromCable(new Uint8Array(3 * MAX_FRAME_BYTES).fill(7));
    rig.bench.fromCable(Uint8Array.of(0));
    rig.boardEnd.send(noise);
    const identity = await rig.client.request('hello', { link: 1 });
    expect(identity.board).toBe('Fell F7');
    expect(rig.bench.link!.reader.counts.tooLong).toBeGreaterThan(0);
    expect(rig.bench.link!.reader.counts.damaged).toBeGreaterThan(0);
  });

  it('refuses a well-formed request with wrong contents, naming no fault of its own', async () => {
    rig = benchRig();
    await expect(rig.client.request('values', { from: -1 })).rejects.toThrow(LinkError);
  });
});
