import { describe, expect, it } from 'vitest';
import { BenchBoard, shelfFor } from '#bench/benchBoard.ts';
import { type BenchControls, BenchWorld } from '#bench/benchWorld.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import type { SelfTest } from '#core/wire/messages.ts';
import { selfTestSchema } from '#core/wire/messages.ts';
import { demoCraft, demoValues, torvholm } from '../testing/demoCraft.ts';
import { SelfTester } from './selfTest.ts';

const craft = demoCraft('turnstone');

interface Options {
  readonly board?: string;
  readonly truth?: Partial<BenchTruth>;
  readonly controls?: Partial<BenchControls>;
  readonly settings?: Readonly<Record<string, number | string | boolean>>;
  readonly seconds?: number;
}

/** What a board tells some seconds after it was plugged in. */
function told({ board = 'Fell', truth, controls, settings, seconds = 3 }: Options = {}): SelfTest {
  const targets: Record<string, string> = {
    Fell: 'fell-f7',
    Cobble: 'cobble-f4-wing',
    Massif: 'massif-h7-b',
  };
  const from = shelfFor(targets[board]!)[0]!;
  const world = new BenchWorld(
    craft.airframe,
    { ...craft.bench!, ...truth },
    BenchBoard.fresh(from, { ...demoValues('turnstone'), ...settings }),
    5,
    torvholm,
  );
  Object.assign(world.controls, { usb: true, ...controls });
  world.step();
  const tester = new SelfTester(world.pfad!, world.readings!);
  for (let k = 0; k < 1000 * seconds; k++) {
    world.step();
    if (k % 50 === 0) tester.listen();
  }
  return selfTestSchema.parse(tester.report());
}

const item = (t: SelfTest, what: string) => t.items.find((i) => i.what === what)!;

describe('what a board hears', () => {
  it('is every chip, sensor and receiver where all is well, with the firmware of those that tell', () => {
    const t = told({ controls: { battery: true } });
    expect(t.settled).toBe(true);
    expect(t.items.filter((i) => i.state !== 'answers')).toEqual([]);
    expect(item(t, 'GNSS receiver')).toMatchObject({ product: 'Lode', version: '4.10' });
    expect(t.items.filter((i) => i.product === 'Kolk')).toHaveLength(2);
  });

  it('is not settled before it listened long enough', () => {
    expect(told({ seconds: 0.3 }).settled).toBe(false);
  });

  it('lacks what lives on the battery while that is out, and says so', () => {
    const t = told();
    expect(item(t, 'airspeed sensor')).toMatchObject({ on: 'I2C 2', state: 'silent' });
    expect(item(t, 'airspeed sensor').says).toMatch(/power only with the battery in/);
    expect(item(t, 'motor controllers').state).toBe('silent');
    expect(item(t, 'barometer').state).toBe('answers');
  });

  it('tells a device that is not there from one without power', () => {
    const fitted = { airspeed: false, compass: false, rangefinder: false, flow: false };
    const t = told({ controls: { battery: true }, truth: { fitted } });
    expect(item(t, 'airspeed sensor').says).toMatch(/look at its plug/);
  });

  it('tells a device that answers unasked', () => {
    const t = told({ controls: { battery: true }, settings: { 'pitot.fitted': false } });
    expect(item(t, 'airspeed sensor').says).toMatch(/it is not used/);
  });

  it('tells swapped wires, a wrong speed and a right one apart', () => {
    const gnss = craft.bench!.gnss;
    expect(item(told(), 'GNSS receiver').state).toBe('answers');
    expect(item(told({ settings: { 'gnss.baud': '115200' } }), 'GNSS receiver').state).toBe('garbage');
    const crossed = item(told({ truth: { gnss: { ...gnss, swapped: true } } }), 'GNSS receiver');
    expect(crossed.state).toBe('crossed');
    expect(crossed.says).toMatch(/its two signal wires are swapped/);
  });

  it('says of a device that is soldered where nobody listens, or dead, that nothing is heard on either pad', () => {
    const t = told({ truth: { ports: { receiver: 2, gnss: 5 } } });
    expect(item(t, 'GNSS receiver')).toMatchObject({
      state: 'silent',
      says: expect.stringContaining('either of the two pads'),
    });
    // Once its port is set for it, it is heard there.
    const set = told({
      truth: { ports: { receiver: 2, gnss: 5 } },
      settings: { 'port.3.use': 'free', 'port.5.use': 'gnss' },
    });
    expect(item(set, 'GNSS receiver')).toMatchObject({ on: 'port 5', state: 'answers' });
  });

  it('tells a silent receiver from one that speaks another protocol', () => {
    expect(item(told({ controls: { transmitter: false } }), 'receiver').state).toBe('silent');
    const sbus = told({ truth: { receiver: { protocol: 'sbus', onLoss: 'stop' } } });
    expect(item(sbus, 'receiver').state).toBe('garbage');
  });

  it('knows two gyros, a second processor and the card on Massif', () => {
    const none = told({ board: 'Massif' });
    expect(none.items.filter((i) => /gyro/.test(i.what)).map((i) => i.state)).toEqual(['answers', 'answers']);
    expect(item(none, 'second processor')).toMatchObject({ product: 'Beiboot' });
    expect(item(none, 'memory card').says).toMatch(/put one in before the field/);
    expect(item(told({ board: 'Massif', controls: { card: 'in' } }), 'memory card').state).toBe('answers');
    expect(item(told({ board: 'Massif', controls: { card: 'full' } }), 'memory card').says).toMatch(
      /Settings are not on the card; they are safe/,
    );
  });

  it.each([
    ['in', true],
    ['out', false],
    ['full', false],
  ] as const)('keeps its word about the card: with it %s, a flight is logged: %s', (card, logged) => {
    const from = shelfFor('massif-h7-b')[0]!;
    const board = BenchBoard.fresh(from, demoValues('turnstone'));
    const world = new BenchWorld(craft.airframe, craft.bench!, board, 5, torvholm);
    Object.assign(world.controls, { usb: true, battery: true, outdoors: true, card });
    // Until it has a fix, and then armed.
    for (let k = 0; k < 40_000; k++) world.step();
    world.controls.armSwitch = true;
    for (let k = 0; k < 3000; k++) world.step();
    expect(world.pfad!.controller.armed).toBe(true);
    expect(board.log.list().length > 0).toBe(logged);
  });

  it('names the chip that draws over the picture on Cobble', () => {
    expect(item(told({ board: 'Cobble' }), 'overlay chip')).toMatchObject({
      product: 'Tafel',
      version: '1.3',
    });
  });
});

describe('outputs of a board', () => {
  it('are as many as it has pads: Cobble leaves what hangs on its eighth unmoved, Massif drives a twelfth', () => {
    const pulses = (target: string, output: number) => {
      const from = shelfFor(target)[0]!;
      const values = { ...demoValues('turnstone'), [`out.${output}.drives`]: 'elevator' };
      const world = new BenchWorld(craft.airframe, craft.bench!, BenchBoard.fresh(from, values), 5, torvholm);
      world.controls.usb = true;
      for (let k = 0; k < 300; k++) world.step();
      return world.pfad!.controller.pulses[output - 1]!;
    };
    expect(pulses('cobble-f4-wing', 8)).toBe(0);
    expect(pulses('fell-f7', 8)).toBeGreaterThan(900);
    expect(pulses('massif-h7-b', 12)).toBeGreaterThan(900);
  });
});

describe('frames instead of pulses', () => {
  it('turn motors, and leave servos where they are', () => {
    const outcome = (sends: string) => {
      const values = { ...demoValues('turnstone'), 'timer.2.sends': sends };
      const world = new BenchWorld(
        craft.airframe,
        craft.bench!,
        BenchBoard.fresh(shelfFor('fell-f7')[0]!, values),
        5,
        torvholm,
      );
      Object.assign(world.controls, { usb: true, battery: true, stickPitch: 1 });
      for (let k = 0; k < 1500; k++) world.step();
      const elevator = craft.airframe.surfaces.findIndex((s) => s.id === 'elevator');
      return Math.abs(world.wiring.surfaces[elevator]!);
    };
    expect(outcome('pulses')).toBeGreaterThan(0.3);
    expect(outcome('dshot600')).toBe(0);
  });
});

describe('the port that carries the link', () => {
  it('is not given away, whatever else is written with it', () => {
    const board = BenchBoard.fresh(shelfFor('fell-f7')[0]!, demoValues('turnstone'));
    const world = new BenchWorld(craft.airframe, craft.bench!, board, 5, torvholm);
    world.controls.usb = true;
    world.step();
    const result = world.pfad!.commit({ 'port.1.use': 'free', 'return.height': 300 });
    expect(result).toEqual({
      state: 'refused',
      refusals: [
        { key: 'port.1.use', code: 'carries-link', why: expect.stringContaining('carries this very link') },
      ],
    });
    expect(world.pfad!.commit({ 'return.height': 300 }).state).toBe('storing');
  });
});
