import { type ChildProcessWithoutNullStreams, spawn } from 'node:child_process';
import { afterEach, describe, expect, it } from 'vitest';
import { Rehearsal } from '#bench/rehearsal.ts';
import { massifH7B } from '#core/board/boards.ts';
import type { BoardModel } from '#core/board/model.ts';
import { planPrint } from '#core/plan/packPlan.ts';
import { EMPTY_PLAN } from '#core/plan/plan.ts';
import { noLosses } from '#link/lossyPair.ts';
import type { Transport } from '#link/transport.ts';
import { RigPort, sessionOver, until } from '../../testing/appSession.ts';
import { benchRig, type Rig } from '../../testing/benchRig.ts';
import { torvholm } from '../../testing/demoCraft.ts';
import { pointAt, routeOf } from '../../testing/plans.ts';
import { planChanged } from '../store/craftSlice.ts';
import { loadRules } from '../store/rules.ts';
import { selectFindings, selectLayout, toFly } from '../store/selectors.ts';
import { staged } from '../store/settingsSlice.ts';
import { SerialBoardPort, type SerialLike, type SerialsLike } from './ports/serialPort.ts';

let rig: Rig | null = null;
afterEach(() => {
  rig?.stop();
  rig = null;
});

describe('a session with a board', () => {
  it('meets, keeps what it met, writes and keeps what it wrote', async () => {
    rig = benchRig();
    const { store, session, kept, board } = sessionOver(new RigPort(rig));
    await session.connect();
    expect(board()).toMatchObject({ link: 'ready', through: 'a rig' });
    store.dispatch(staged({ 'return.height': 230 }));
    await session.write();
    expect(board().write).toMatchObject({ kind: 'written', count: 1 });
    expect(store.getState().settings.base['return.height']).toBe(230);
    expect(store.getState().settings.edits).toEqual({});
    expect(kept).toEqual(['met FF7-0419-22', 'written FF7-0419-22']);
  });

  it('reads again what the board changed by its own sticks, keeps it, and leaves what waits alone', async () => {
    rig = benchRig();
    const { controls } = rig.bench;
    Object.assign(controls, { battery: true, transmitter: true, stickThrottle: 0 });
    rig.run(1);
    const { store, session, kept, said, board } = sessionOver(new RigPort(rig));
    await session.connect();
    store.dispatch(staged({ 'return.height': 230 }));
    Object.assign(controls, { stickYaw: -1, stickPitch: -1 });
    await until(() => store.getState().settings.base['set.active'] === '2');
    expect(store.getState().settings.edits).toEqual({ 'return.height': 230 });
    await until(() => said.length > 0);
    expect(said.join(' ')).toContain('A setting was changed on the board itself');
    expect(kept.at(-1)).toBe('written FF7-0419-22');
    // What waits is written over that, without a word of other settings.
    Object.assign(controls, { stickYaw: 0, stickPitch: 0 });
    await session.write();
    expect(board().write).toMatchObject({ kind: 'written', count: 1 });
    expect(store.getState().settings.base).toMatchObject({ 'return.height': 230, 'set.active': '2' });
    // A write from here is none of the board's own changes.
    expect(said).toHaveLength(1);
  });

  it('ends in a state that says what is so, wherever the cable is pulled, and goes on when it is back', async () => {
    let writes = 0;
    for (let frames = 0; frames < 72; frames += 2) {
      rig = benchRig();
      const port = new RigPort(rig);
      const { store, session, board } = sessionOver(port);
      port.pullAfter = frames;
      await session.connect();
      if (board().link === 'ready') {
        // Reading took fewer frames: it is pulled while it writes.
        writes++;
        store.dispatch(staged({ 'return.height': 235, 'return.speed': 14 }));
        await session.write();
        expect(['failed', 'written'], `pulled after ${frames}`).toContain(board().write.kind);
        if (board().write.kind === 'failed')
          expect(store.getState().settings.edits, `pulled after ${frames}`).toHaveProperty('return.height');
      }
      await until(() => (!port.inIt ? board().link === 'unplugged' : true));
      port.plug();
      await until(() => board().link === 'ready');
      // Either all of the write is on it or none.
      const { base } = store.getState().settings;
      expect([base['return.height'] === 235, base['return.speed'] === 14]).toSatisfy(
        ([a, b]: boolean[]) => a === b,
      );
      session.disconnect();
      rig.stop();
    }
    rig = null;
    expect(writes).toBeGreaterThan(3);
  }, 120_000);

  it('reads route and fences, writes them and reads them back; a pulled cable leaves the one or the other', async () => {
    rig = benchRig();
    const port = new RigPort(rig);
    const { store, session, board } = sessionOver(port);
    const plan = routeOf([pointAt(500, 0), pointAt(900, 300)]);
    await session.writePlan(plan);
    expect(board().planWrite).toMatchObject({
      kind: 'failed',
      why: expect.stringMatching(/No board is connected/),
    });
    await session.connect();
    await until(() => board().plan !== null);
    expect(board().plan).toEqual(EMPTY_PLAN);
    store.dispatch(planChanged(plan));
    await session.writePlan(plan);
    expect(board().planWrite).toEqual({ kind: 'written' });
    expect(planPrint(board().plan!)).toBe(planPrint(plan));
    const longer = routeOf(Array.from({ length: 90 }, (_, i) => pointAt(100 + 20 * i, 0)));
    const writing = session.writePlan(longer);
    port.pull();
    await writing;
    expect(board().planWrite).toMatchObject({
      kind: 'failed',
      why: expect.stringMatching(/either the new one or the one before/),
    });
    await until(() => board().link === 'unplugged');
    expect(board().plan).toBeNull();
    port.plug();
    await until(() => board().link === 'ready' && board().plan !== null);
    expect([planPrint(plan), planPrint(longer)]).toContain(planPrint(board().plan!));
  });

  it('meets a board again that restarts, and does not wait for one whose cable is out', async () => {
    rig = benchRig();
    const port = new RigPort(rig);
    const { session, board } = sessionOver(port);
    await session.connect();
    const { uptimeS } = board().identity!;
    rig.bench.onPower = (running) => {
      if (!running) queueMicrotask(() => (port as unknown as { end: Transport }).end?.close());
    };
    await session.restart();
    await until(() => board().link === 'ready' && board().identity!.restartCause.includes('restart'));
    expect(uptimeS).toBeGreaterThanOrEqual(0);
    port.pull();
    await until(() => board().link === 'unplugged');
    expect(board()).toMatchObject({ fault: null, waiting: null });
  });

  it('lets go of what was on one port when it goes over to another', async () => {
    rig = benchRig();
    const [one, two] = [new RigPort(rig), new RigPort(rig)];
    const { session, board } = sessionOver(one);
    await session.connect();
    session.usePort(two);
    expect(board().link).toBe('unplugged');
    one.onAppear();
    await session.connect();
    expect(board().link).toBe('ready');
    expect(session.port).toBe(two);
  });
});

describe('a board that nobody here knows', () => {
  const granite: BoardModel = {
    ...massifH7B,
    target: 'granite-x1',
    name: 'Granite X1',
    revision: '4',
    outputs: massifH7B.outputs.slice(0, 3),
  };

  it('is what it says it is: drawn, wired, checked and flown by that', async () => {
    rig = benchRig(noLosses, 1, 'turnstone', granite);
    const { store, session, said, board } = sessionOver(new RigPort(rig));
    await session.connect();
    expect(board()).toMatchObject({ link: 'ready', identity: { target: 'granite-x1', board: 'Granite X1' } });
    expect(said).toEqual(['Turnstone 1600 is for Granite X1 from now on: that is the board on the cable.']);
    await loadRules(store);
    const state = store.getState();
    expect(selectLayout(state)).toEqual(granite);
    expect(toFly(state)!.board).toEqual(granite);
    // The craft has more surfaces than this board has outputs.
    expect(selectFindings(state).map((f) => f.id)).toContain('output-not-there.4');
    const { result } = new Rehearsal({
      airframe: state.craft.airframe!,
      board: toFly(state)!.board!,
      values: toFly(state)!.values,
      truth: state.craft.file!.bench!,
      scenario: { ...state.rehearsal.scenario, limitS: 10 },
      site: torvholm,
    });
    expect(result).toBeNull();
  });
});

/** A browser's serial port, joined to a board process by its standard input and output. */
class FakeSerial extends EventTarget implements SerialLike {
  readable: ReadableStream<Uint8Array> | null = null;
  writable: WritableStream<Uint8Array> | null = null;
  busy = false;
  baudRate = 0;
  private run: ChildProcessWithoutNullStreams | null = null;

  async open({ baudRate }: { baudRate: number }): Promise<void> {
    if (this.busy) throw new DOMException('Failed to open serial port.', 'NetworkError');
    if (this.readable) throw new DOMException('The port is already open.', 'InvalidStateError');
    this.baudRate = baudRate;
    const run = spawn(process.execPath, ['bin/wanderweg.mjs', 'board'], { stdio: 'pipe' });
    this.run = run;
    await new Promise((resolve) => run.stderr.once('data', resolve));
    this.readable = new ReadableStream({
      start: (c) => {
        run.stdout.on('data', (d: Buffer) => {
          try {
            c.enqueue(new Uint8Array(d));
          } catch {
            // Nobody reads it any more.
          }
        });
        run.on('exit', () => {
          try {
            c.error(new DOMException('The device has been lost.', 'NetworkError'));
          } catch {
            // Closed before.
          }
        });
      },
    });
    // What is sent into a cable that was just pulled goes nowhere.
    run.stdin.on('error', () => {});
    this.writable = new WritableStream({
      write: (bytes) => void run.stdin.write(bytes),
    });
  }

  async close(): Promise<void> {
    this.readable = null;
    this.writable = null;
    this.run?.kill();
  }

  /** The cable is pulled. */
  pull(): void {
    this.run?.kill('SIGKILL');
  }

  getInfo() {
    return { usbVendorId: 0x1209, usbProductId: 0x0417 };
  }
}

class FakeSerials extends EventTarget implements SerialsLike {
  ports: FakeSerial[] = [new FakeSerial()];
  async getPorts() {
    return this.ports;
  }
  async requestPort() {
    return this.ports[0]!;
  }
}

describe('a board on a serial port', () => {
  it('is met and written; pulled out it is gone, plugged in again it is met by itself', async () => {
    const serials = new FakeSerials();
    const first = serials.ports[0]!;
    const port = new SerialBoardPort(serials, first, 115_200);
    const { store, session, board } = sessionOver(port);
    try {
      await session.connect();
      expect(board()).toMatchObject({ link: 'ready', through: 'USB, 115200 baud' });
      expect(first.baudRate).toBe(115_200);
      store.dispatch(staged({ 'return.height': 240 }));
      await session.write();
      expect(board().write).toMatchObject({ kind: 'written' });
      serials.ports = [];
      first.pull();
      await until(() => board().link === 'unplugged');
      expect(board().fault).toBe('The link dropped.');
      // It comes back as another object of the browser's, with the same make.
      const again = new FakeSerial();
      serials.ports = [again];
      const event = new Event('connect');
      Object.defineProperty(event, 'target', { value: again });
      serials.dispatchEvent(event);
      await until(() => board().link === 'ready');
    } finally {
      session.disconnect();
      port.forget();
      for (const p of [first, ...serials.ports]) p.pull();
    }
  }, 90_000);

  it('that another program has is refused with what to do', async () => {
    const serials = new FakeSerials();
    serials.ports[0]!.busy = true;
    const { session, board } = sessionOver(new SerialBoardPort(serials, serials.ports[0]!, 57_600));
    await session.connect();
    expect(board().link).toBe('unplugged');
    expect(board().fault).toMatch(/another program has it.*Close the other program/);
  });
});
