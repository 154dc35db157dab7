import { afterEach, describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { LinkClient, LinkError } from '#link/client.ts';
import { lossyPair, noLosses } from '#link/lossyPair.ts';
import { benchRig, type Rig } from '../../testing/benchRig.ts';
import { demoCraft, demoValues, torvholm } from '../../testing/demoCraft.ts';
import { stickLearnt } from '../lessons/learnStick.ts';
import { craftLoaded } from '../store/craftSlice.ts';
import { craftOpened, initialSettings } from '../store/settingsSlice.ts';
import { siteTaken } from '../store/siteSlice.ts';
import { makeStore } from '../store/store.ts';
import { ProcedureRunner } from './ProcedureRunner.ts';

let rig: Rig;
afterEach(() => rig.stop());

/** A runner over a bench whose transmitter is on; time on the bench runs four times as fast. */
function setUp(losses = noLosses) {
  rig = benchRig(losses);
  const { controls } = rig.bench;
  controls.transmitter = true;
  rig.run(1);
  const store = makeStore();
  store.dispatch(craftLoaded({ ...demoCraft('turnstone'), proofs: [] }));
  store.dispatch(siteTaken({ site: torvholm, named: true }));
  const known = { version: '3.2', entries: pfadCatalogue.entries, rules: pfadCatalogue.rules };
  store.dispatch(craftOpened({ ...initialSettings, ...known, base: demoValues('turnstone') }));
  const cable = { client: rig.client as LinkClient | null };
  const runner = new ProcedureRunner({
    store,
    clock: { pause: (ms) => new Promise((resolve) => setTimeout(resolve, ms / 5)) },
    link: () => {
      if (!cable.client) throw new Error('No board is connected.');
      return cable.client;
    },
    lessons: { 'learn-stick': stickLearnt(store) },
  });
  const newest = () => store.getState().procedure.newest!;
  const until = (state: string) => expect.poll(() => newest()?.state, { timeout: 8000 }).toBe(state);
  const says = (text: string) => expect.poll(() => newest().says, { timeout: 8000 }).toContain(text);
  /** Another cable to the same board. */
  const again = () => {
    const [own, boards] = lossyPair(noLosses, 5);
    rig.bench.toCable = (bytes) => boards.send(bytes);
    boards.onBytes = (bytes) => rig.bench.fromCable(bytes);
    cable.client = new LinkClient(own);
  };
  return { store, runner, newest, until, says, cable, controls, again };
}

describe('a procedure on the board', () => {
  it.each([noLosses, { drop: 0.08, corrupt: 0.03, duplicate: 0.1, delayMs: 12 }])(
    'learns a stick, and what was found goes into the tray and is kept as seen (%j)',
    async (losses) => {
      const { store, runner, says, controls, newest } = setUp(losses);
      const ended = runner.begin('learn-stick', { stick: 'yaw' });
      await says('No stick has moved yet.');
      controls.stickRoll = 1;
      await ended;
      expect(newest()).toMatchObject({ state: 'done', progress: 1 });
      expect(newest().says).toContain('so it carries yaw');
      const { edits } = store.getState().settings;
      const base = demoValues('turnstone');
      // The two sticks trade places.
      expect(edits).toMatchObject({
        'rx.yaw.channel': base['rx.roll.channel'],
        'rx.roll.channel': base['rx.yaw.channel'],
      });
      expect(store.getState().craft.proofs.map((p) => p.id)).toEqual(['stick.yaw']);
    },
  );

  it('is refused in the board’s own sentence when the transmitter is off', async () => {
    const { runner, newest, controls } = setUp();
    controls.transmitter = false;
    rig.run(1);
    await runner.begin('learn-stick', { stick: 'roll' });
    expect(newest()).toMatchObject({ state: 'failed' });
    expect(newest().says).toContain('Switch the transmitter on');
  });

  it('fails with a reason: the receiver falls silent, two sticks move, nobody moves one', async () => {
    const { runner, newest, says, until, controls, store } = setUp();
    void runner.begin('learn-stick', { stick: 'roll' });
    await says('No stick has moved yet.');
    controls.transmitter = false;
    await until('failed');
    expect(newest().says).toContain('fell silent');
    controls.transmitter = true;
    rig.run(1);
    void runner.begin('learn-stick', { stick: 'roll' });
    await says('No stick has moved yet.');
    Object.assign(controls, { stickRoll: 1, stickPitch: 1 });
    await until('failed');
    expect(newest().says).toContain('moved both');
    Object.assign(controls, { stickRoll: 0, stickPitch: 0 });
    rig.run(1);
    void runner.begin('learn-stick', { stick: 'roll' });
    await says('No stick has moved yet.');
    rig.run(31);
    await until('failed');
    expect(newest().says).toContain('within 30 s');
    expect(store.getState().settings.edits).toEqual({});
  });

  it('is called off, and another one takes the place of the one before', async () => {
    const { runner, newest, says, until } = setUp();
    const first = runner.begin('learn-stick', { stick: 'roll' });
    await says('No stick has moved yet.');
    await runner.cancel();
    await first;
    expect(newest().state).toBe('cancelled');
    expect(rig.bench.pfad!.procedures.report(newest().run).state).toBe('cancelled');
    void runner.begin('learn-stick', { stick: 'roll' });
    await says('No stick has moved yet.');
    const before = newest().run;
    void runner.begin('learn-stick', { stick: 'pitch' });
    await says('No stick has moved yet.');
    expect(newest().asked).toEqual({ stick: 'pitch' });
    expect(rig.bench.pfad!.procedures.report(before).state).toBe('none');
    await runner.cancel();
    await until('cancelled');
  });

  it('goes on by itself while the cable is out, and its end is taken when the cable is back', async () => {
    const { runner, says, until, controls, cable, again } = setUp();
    void runner.begin('learn-stick', { stick: 'throttle' });
    await says('No stick has moved yet.');
    const gone = cable.client!;
    cable.client = null;
    gone.close();
    await until('away');
    controls.stickThrottle = 1;
    rig.run(1);
    again();
    await until('done');
    await says('so it carries throttle');
  });

  it('is over when the board restarted meanwhile, and says so', async () => {
    const { runner, says, until, cable, again, controls } = setUp();
    void runner.begin('learn-stick', { stick: 'roll' });
    await says('No stick has moved yet.');
    const gone = cable.client!;
    cable.client = null;
    gone.close();
    controls.usb = false;
    rig.run(0.2);
    controls.usb = true;
    rig.run(1);
    again();
    await until('failed');
    await says('restarted in the middle');
  });
});

describe('the board’s side of a procedure', () => {
  it('does one start once however often it is said, and not at all when it comes late', async () => {
    setUp();
    const ask = (run: number) =>
      rig.client.request('procedure-start', { run, kind: 'learn-stick', with: {} });
    await rig.client.request('hello', { link: 1 });
    const five = rig.client.acts.fresh();
    const six = rig.client.acts.fresh();
    await ask(five);
    await expect
      .poll(async () => (await rig.client.request('procedure-state', { run: five })).says)
      .toBe('No stick has moved yet.');
    rig.bench.controls.stickRoll = 0.6;
    await expect
      .poll(async () => (await rig.client.request('procedure-state', { run: five })).progress)
      .toBeGreaterThan(0.5);
    const { progress } = await rig.client.request('procedure-state', { run: five });
    await ask(five);
    expect((await rig.client.request('procedure-state', { run: five })).progress).toBeGreaterThanOrEqual(
      progress,
    );
    await ask(six);
    await expect(ask(five)).rejects.toMatchObject({ code: 'run-over' });
    expect(await rig.client.request('procedure-state', { run: five })).toMatchObject({ state: 'none' });
    await expect(
      rig.client.request('procedure-start', { run: rig.client.acts.fresh(), kind: 'dance', with: {} }),
    ).rejects.toBeInstanceOf(LinkError);
    expect(await rig.client.request('procedure-cancel', { run: six })).toMatchObject({ state: 'cancelled' });
    expect(await rig.client.request('procedure-cancel', { run: six })).toMatchObject({ state: 'cancelled' });
  });
});
