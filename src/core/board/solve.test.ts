import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { Random } from '../math/random.ts';
import { boards, cobbleF4Wing, fellF7Model, massifH7A, massifH7B } from './boards.ts';
import { type BusDevice, busDevices, type SerialDevice, serialDevices } from './deviceKinds.ts';
import { arrange } from './explain.ts';
import type { BoardModel } from './model.ts';
import { type Assignment, feasible, fits, padsOf, softProtocol, solve } from './solve.ts';
import {
  addressOf,
  needsFrames,
  needsOf,
  type OutputKind,
  outputKinds,
  protocolOf,
  type Wishes,
  wishesSchema,
} from './wishes.ts';

const wishes = (w: Partial<Wishes>): Wishes => ({ outputs: [], serial: [], buses: [], ...w });
const servos = (n: number, from = 1) =>
  Array.from({ length: n }, (_, i) => ({
    name: `servo ${from + i}`,
    kind: 'servo-pwm' as const,
    rateHz: 50,
  }));
const motors = (n: number) =>
  Array.from({ length: n }, (_, i) => ({ name: `motor ${i + 1}`, kind: 'dshot600' as const }));

/** Every rule of a board, checked on a finished assignment; written apart from the solver. */
function broken(board: BoardModel, w: Wishes, a: Assignment): string[] {
  const found: string[] = [];
  const pads = new Map<number, string>();
  const usePad = (n: number, protocol: string) => {
    if (pads.has(n)) found.push(`output ${n} twice`);
    if (!board.outputs.some((p) => p.output === n)) found.push(`no output ${n}`);
    pads.set(n, protocol);
  };
  if (a.outputs.length !== w.outputs.length || a.serial.length !== w.serial.length)
    found.push('some left out');
  for (const o of a.outputs) {
    usePad(o.output, protocolOf(o.wish));
    const timer = board.timers.find((t) => t.n === board.outputs.find((p) => p.output === o.output)!.timer)!;
    if (needsFrames(o.wish.kind) && !timer.frames) found.push(`timer ${timer.n} sends no frames`);
  }
  const ports = new Set<string>();
  for (const s of a.serial) {
    if (s.port !== null) {
      const port = board.ports.find((p) => p.name === s.port)!;
      if (ports.has(s.port) || s.port === w.linkPort) found.push(`${s.port} twice`);
      if (!fits(port, s.wish)) found.push(`${s.wish.device} on ${s.port}`);
      ports.add(s.port);
    } else {
      if (s.outputs.length !== padsOf(s.wish)) found.push('pads of a software port');
      const timers = s.outputs.map((o) => board.outputs.find((p) => p.output === o)!.timer);
      if (new Set(timers).size > 1) found.push('a software port on two timers');
      if (!board.timers.find((t) => t.n === timers[0])!.capture) found.push('cannot time edges');
      for (const o of s.outputs) usePad(o, softProtocol(s.wish));
    }
  }
  const used = new Map<string, number[]>();
  for (const b of a.buses) used.set(b.bus, [...(used.get(b.bus) ?? []), addressOf(b.wish)]);
  for (const [name, addresses] of used) {
    const bus = board.buses.find((b) => b.name === name)!;
    const all = [...addresses, ...(bus.kind === 'can' ? [] : bus.onBoard.map((d) => d.address))];
    if (new Set(all).size !== all.length) found.push(`addresses on ${name}`);
    if (bus.sharesPort !== undefined && (ports.has(bus.sharesPort) || bus.sharesPort === w.linkPort))
      found.push(`${name} and its port`);
    for (const p of board.outputs)
      if (p.timer === bus.takesTimer && pads.has(p.output)) found.push(`${name} and ${p.pad}`);
  }
  for (const b of a.buses)
    if (board.buses.find((x) => x.name === b.bus)!.kind !== b.wish.kind) found.push('kind of bus');
  for (const port of board.ports)
    if (
      ports.has(port.name) ||
      port.name === w.linkPort ||
      board.buses.some((b) => b.sharesPort === port.name && used.has(b.name))
    )
      for (const o of port.sharesOutputs ?? []) if (pads.has(o)) found.push(`${port.name} and output ${o}`);
  for (const t of board.timers) {
    const here = board.outputs
      .filter((p) => p.timer === t.n && pads.has(p.output))
      .map((p) => pads.get(p.output)!);
    if (new Set(here).size > 1) found.push(`timer ${t.n} with ${here.join(' and ')}`);
  }
  return found;
}

/**
 * Tries every place for every wish, one after the other, with nothing clever: for small boards only.
 * @param pinned what is soldered to an output or a port has to stay there
 */
function bruteForce(board: BoardModel, w: Wishes, pinned = false): boolean {
  const receivers = w.serial.filter((s) => s.device.startsWith('receiver')).length;
  const singles = w.serial
    .filter((s) => needsOf(s).single && !s.device.startsWith('receiver'))
    .map((s) => s.device);
  if (receivers > 1 || new Set(singles).size !== singles.length) return false;
  const protocols = new Map<number, string>();
  const used = new Set<string>(w.linkPort === undefined ? [] : [w.linkPort]);
  const timerOf = (n: number) => board.outputs.find((p) => p.output === n)!.timer;
  const pinsUsed = (port: string) =>
    used.has(port) || board.buses.some((b) => b.sharesPort === port && used.has(b.name));
  const outputTaken = (n: number) =>
    used.has(`output ${n}`) ||
    board.ports.some((p) => pinsUsed(p.name) && p.sharesOutputs?.includes(n)) ||
    board.buses.some((b) => used.has(b.name) && b.takesTimer === timerOf(n));
  const withPads = (pads: readonly number[], protocol: string, then: () => boolean): boolean => {
    if (new Set(pads).size !== pads.length || pads.some(outputTaken)) return false;
    const before = new Map(protocols);
    for (const n of pads) {
      const t = timerOf(n);
      if ((protocols.get(t) ?? protocol) !== protocol) {
        protocols.clear();
        for (const [k, v] of before) protocols.set(k, v);
        return false;
      }
      protocols.set(t, protocol);
      used.add(`output ${n}`);
    }
    const ok = then();
    for (const n of pads) used.delete(`output ${n}`);
    protocols.clear();
    for (const [k, v] of before) protocols.set(k, v);
    return ok;
  };
  const addresses = new Map<string, number[]>();
  const outputs = (i: number): boolean => {
    const o = w.outputs[i];
    if (!o) return true;
    return board.outputs.some((p) => {
      const timer = board.timers.find((t) => t.n === p.timer)!;
      if (needsFrames(o.kind) && !timer.frames) return false;
      if (pinned && o.output !== undefined && o.output !== p.output) return false;
      return withPads([p.output], protocolOf(o), () => outputs(i + 1));
    });
  };
  const serial = (i: number): boolean => {
    const s = w.serial[i];
    if (!s) return outputs(0);
    const onPort = board.ports.some((p) => {
      const bus = board.buses.find((b) => b.sharesPort === p.name);
      if (used.has(p.name) || !fits(p, s) || (bus && used.has(bus.name))) return false;
      if (pinned && s.port !== undefined && s.port !== p.name) return false;
      if (p.sharesOutputs?.some((o) => used.has(`output ${o}`))) return false;
      used.add(p.name);
      const ok = serial(i + 1);
      used.delete(p.name);
      return ok;
    });
    if (onPort) return true;
    if (pinned && s.port !== undefined) return false;
    const needs = needsOf(s);
    if (s.device !== 'receiver-pulse-train' && (needs.baud > 19200 || needs.inverted)) return false;
    const capture = board.outputs.filter((p) => board.timers.find((t) => t.n === p.timer)!.capture);
    const sets =
      padsOf(s) === 1
        ? capture.map((p) => [p.output])
        : capture.flatMap((p) => capture.filter((q) => q.timer === p.timer).map((q) => [p.output, q.output]));
    return sets.some((pads) => withPads(pads, softProtocol(s), () => serial(i + 1)));
  };
  const buses = (i: number): boolean => {
    const b = w.buses[i];
    if (!b) return serial(0);
    return board.buses.some((bus) => {
      const there = addresses.get(bus.name) ?? (bus.kind === 'can' ? [] : bus.onBoard.map((d) => d.address));
      if (bus.kind !== b.kind || there.includes(addressOf(b))) return false;
      if (bus.sharesPort !== undefined && bus.sharesPort === w.linkPort) return false;
      const first = !used.has(bus.name);
      used.add(bus.name);
      addresses.set(bus.name, [...there, addressOf(b)]);
      const ok = buses(i + 1);
      addresses.set(bus.name, there);
      if (first) used.delete(bus.name);
      return ok;
    });
  };
  return buses(0);
}

/** A small board by chance: up to five outputs on up to three timers, up to three ports, perhaps CAN. */
function smallBoard(random: Random): BoardModel {
  const int = (n: number) => Math.floor(random.uniform() * n);
  const timers = Array.from({ length: 1 + int(3) }, (_, i) => ({
    n: i + 1,
    frames: random.uniform() < 0.7,
    capture: random.uniform() < 0.6,
  }));
  const outputs = Array.from({ length: 1 + int(5) }, (_, i) => ({
    output: i + 1,
    pad: `S${i + 1}`,
    timer: 1 + int(timers.length),
    xMm: 0,
    yMm: 0,
  }));
  const ports = Array.from({ length: 1 + int(3) }, (_, i) => ({
    name: `port ${i + 1}`,
    xMm: 0,
    yMm: 0,
    mostBaud: [57600, 115200, 921600][int(3)]!,
    inverts: random.uniform() < 0.4,
    halfDuplex: random.uniform() < 0.7,
    ...(random.uniform() < 0.4 ? { sharesOutputs: [1 + int(outputs.length)] } : {}),
  }));
  return {
    target: 'small',
    name: 'Small',
    revision: 'A',
    flashBytes: 65536,
    rails: [],
    spots: [],
    batteryMostV: 20,
    ownA: 0.1,
    logsTo: 'chip',
    parts: [],
    widthMm: 10,
    heightMm: 10,
    outputs,
    timers,
    ports,
    buses: [
      {
        name: 'I2C 1',
        kind: 'i2c',
        xMm: 0,
        yMm: 0,
        onBoard: random.uniform() < 0.5 ? [{ device: 'barometer', address: 0x76 }] : [],
        ...(random.uniform() < 0.4 ? { sharesPort: ports[int(ports.length)]!.name } : {}),
      },
      ...(random.uniform() < 0.6
        ? [
            {
              name: 'CAN 1',
              kind: 'can' as const,
              xMm: 0,
              yMm: 0,
              onBoard: [],
              takesTimer: 1 + int(timers.length),
            },
          ]
        : []),
    ],
  };
}

function someWishes(random: Random, board: BoardModel, most: readonly [number, number, number]): Wishes {
  const int = (n: number) => Math.floor(random.uniform() * n);
  const pick = <T>(of: readonly T[]) => of[int(of.length)]!;
  const kinds: readonly OutputKind[] = outputKinds;
  return wishesSchema.parse({
    outputs: Array.from({ length: int(most[0] + 1) }, (_, i) => ({
      name: `output ${i}`,
      kind: pick(kinds),
      ...(random.uniform() < 0.4 ? { output: 1 + int(board.outputs.length) } : {}),
    })),
    serial: Array.from({ length: int(most[1] + 1) }, () => ({
      device: pick(Object.keys(serialDevices) as SerialDevice[]),
      ...(random.uniform() < 0.3 ? { baud: 9600 } : {}),
      ...(random.uniform() < 0.3 ? { port: pick(board.ports).name } : {}),
    })),
    buses: Array.from({ length: int(most[2] + 1) }, () => ({
      device: pick(Object.keys(busDevices) as BusDevice[]),
      kind: pick(['i2c', 'can'] as const),
    })),
    ...(random.uniform() < 0.3 ? { linkPort: 'port 1' } : {}),
  });
}

describe('the solver against brute force', () => {
  it('finds a way exactly where there is one, on a thousand small boards with wishes by chance', () => {
    const random = new Random(77);
    let possible = 0;
    for (let k = 0; k < 1000; k++) {
      const board = smallBoard(random);
      const w = someWishes(random, board, k % 2 === 0 ? [4, 3, 2] : [3, 2, 1]);
      const truth = bruteForce(board, w);
      const found = solve(board, w);
      expect(found !== null, JSON.stringify({ board, w })).toBe(truth);
      expect(feasible(board, w)).toBe(truth);
      if (found) {
        possible++;
        expect(broken(board, w, found)).toEqual([]);
      }
    }
    // Both answers have to come up for this to say anything.
    expect(possible).toBeGreaterThan(200);
    expect(possible).toBeLessThan(800);
  });

  it('names wishes that do collide, none of them in vain, and an offer that helps', () => {
    const random = new Random(78);
    let seen = 0;
    for (let k = 0; seen < 150 && k < 1000; k++) {
      const board = smallBoard(random);
      const w = someWishes(random, board, [4, 3, 2]);
      const answer = arrange(board, w);
      if (answer.ok) continue;
      seen++;
      const { wishes: set, sentence, offer } = answer.collision;
      const only = (list: typeof set): Wishes => ({
        ...w,
        outputs: list.flatMap((x) => (x.of === 'outputs' ? [x.wish] : [])),
        serial: list.flatMap((x) => (x.of === 'serial' ? [x.wish] : [])),
        buses: list.flatMap((x) => (x.of === 'buses' ? [x.wish] : [])),
      });
      expect(bruteForce(board, only(set))).toBe(false);
      for (const x of set) expect(bruteForce(board, only(set.filter((y) => y !== x)))).toBe(true);
      expect(sentence).toMatch(/^.+ cannot (all )?be had on Small revision A: .+\.$/);
      expect(offer).not.toBeNull();
      expect(broken(board, offer!.wishes, offer!.assignment)).toEqual([]);
    }
    expect(seen).toBe(150);
  });

  it('moves as little of what is soldered as can be', () => {
    const random = new Random(79);
    for (let k = 0; k < 200; k++) {
      const board = smallBoard(random);
      const w = someWishes(random, board, [3, 2, 1]);
      const found = solve(board, w);
      if (!found) continue;
      // As hard wishes: the least number that have to be let go, by trying all subsets.
      const soldered = [
        ...w.outputs.flatMap((o, i) => (o.output !== undefined ? [{ of: 'outputs' as const, i }] : [])),
        ...w.serial.flatMap((s, i) => (s.port !== undefined ? [{ of: 'serial' as const, i }] : [])),
      ];
      let least = soldered.length;
      for (let mask = 0; mask < 1 << soldered.length; mask++) {
        const kept = soldered.filter((_, i) => mask & (1 << i));
        if (soldered.length - kept.length >= least) continue;
        if (keeps(board, w, kept)) least = soldered.length - kept.length;
      }
      expect(found.moved, JSON.stringify({ board, w })).toBe(least);
    }
  });
});

/** Whether these wishes can stay just where they are: the pads and ports of each are made its alone. */
function keeps(
  board: BoardModel,
  w: Wishes,
  kept: readonly { of: 'outputs' | 'serial'; i: number }[],
): boolean {
  const held = {
    ...w,
    outputs: w.outputs.map((o, i) =>
      kept.some((k) => k.of === 'outputs' && k.i === i) ? o : { ...o, output: undefined },
    ),
    serial: w.serial.map((s, i) =>
      kept.some((k) => k.of === 'serial' && k.i === i) ? s : { ...s, port: undefined },
    ),
  } as Wishes;
  return bruteForce(board, held, true);
}

describe('the boards', () => {
  it.each(boards.map((b) => [`${b.name} ${b.revision}`, b] as const))('%s: names fit together', (_n, b) => {
    for (const p of b.outputs) expect(b.timers.some((t) => t.n === p.timer)).toBe(true);
    expect(new Set(b.outputs.map((p) => p.output)).size).toBe(b.outputs.length);
    for (const bus of b.buses)
      if (bus.sharesPort) expect(b.ports.some((p) => p.name === bus.sharesPort)).toBe(true);
    for (const at of [...b.outputs, ...b.ports, ...b.buses]) {
      expect(at.xMm).toBeLessThan(b.widthMm);
      expect(at.yMm).toBeLessThan(b.heightMm);
    }
  });

  it('are as the scenario says', () => {
    const counts = boards.map((b) => [b.outputs.length, b.timers.length, b.ports.length]);
    expect(counts).toEqual([
      [7, 4, 4],
      [9, 5, 6],
      [12, 5, 7],
      [12, 5, 7],
    ]);
  });
});

describe('wishes on real boards', () => {
  it('Turnstone on a Fell F7: motors and servos on timers of their own', () => {
    const a = solve(
      fellF7Model,
      wishes({
        outputs: [...motors(2), ...servos(4)],
        serial: [{ device: 'gnss' }, { device: 'receiver-crsf' }],
      }),
    )!;
    expect(a.moved).toBe(0);
    expect(a.timers.filter((t) => t.protocol === 'DShot 600')).toHaveLength(1);
  });

  it('CAN on Massif B takes the middle outputs, on A the last ones', () => {
    const w = wishes({ outputs: [...motors(4), ...servos(4)], buses: [{ device: 'flow', kind: 'can' }] });
    expect(solve(massifH7A, w)).not.toBeNull();
    const onB = solve(massifH7B, w)!;
    expect(onB.outputs.some((o) => o.output >= 5 && o.output <= 8)).toBe(false);
    const more = wishes({ ...w, outputs: [...motors(3), ...servos(5)] });
    const answer = arrange(massifH7B, more);
    expect(answer.ok).toBe(false);
    if (answer.ok) return;
    expect(answer.collision.sentence).toContain('CAN 1 takes timer 3 and with it S5, S6, S7 and S8');
    expect(answer.collision.offer!.change).toMatch(/by I2C instead of CAN/);
  });

  it('an inverted receiver goes where levels can be turned', () => {
    const a = solve(cobbleF4Wing, wishes({ serial: [{ device: 'gnss' }, { device: 'receiver-sbus' }] }))!;
    expect(a.serial[1]!.port).toBe('port 2');
  });

  it('the port that carries the link is nobody’s', () => {
    const four = [
      { device: 'gnss' },
      { device: 'overlay' },
      { device: 'telemetry' },
      { device: 'camera' },
    ] as const;
    expect(solve(cobbleF4Wing, wishes({ serial: [...four] }))).not.toBeNull();
    const answer = arrange(cobbleF4Wing, wishes({ serial: [...four], linkPort: 'port 1' }));
    expect(answer.ok).toBe(false);
    if (!answer.ok) expect(answer.collision.sentence).toContain('since port 1 carries this link');
  });

  it('two compasses need two buses, and the second bus lies on a port', () => {
    const two = wishes({
      buses: [
        { device: 'compass', kind: 'i2c' },
        { device: 'compass', kind: 'i2c' },
      ],
    });
    expect(new Set(solve(fellF7Model, two)!.buses.map((b) => b.bus)).size).toBe(2);
    expect(arrange(cobbleF4Wing, two)).toMatchObject({ ok: false });
  });

  it('leaves one soldered on a timer of its own there, though the others would have room for it', () => {
    const outputs = servos(3).map((o, i) => ({ ...o, output: [3, 4, 8][i]! }));
    const a = solve(fellF7Model, wishes({ outputs }))!;
    expect(a.outputs.map((o) => o.output)).toEqual([3, 4, 8]);
    expect(a.moved).toBe(0);
  });

  it('leaves what is soldered, and moves only what must', () => {
    const soldered = [...motors(2), ...servos(4)].map((o, i) => ({ ...o, output: [1, 2, 3, 4, 5, 6][i]! }));
    expect(solve(fellF7Model, wishes({ outputs: soldered }))!.moved).toBe(0);
    const strip = { name: 'LED strip', kind: 'led' as const, output: 3 };
    const a = solve(fellF7Model, wishes({ outputs: [...soldered, strip] }))!;
    expect(a.moved).toBe(1);
    expect(a.outputs.at(-1)!.output).toBeGreaterThan(6);
  });

  it('is quick: twelve outputs and twelve devices on Massif', () => {
    const full = wishes({
      outputs: [...motors(4), ...servos(6), { name: 'strip', kind: 'led' }, { name: 'light', kind: 'led' }],
      serial: [
        { device: 'gnss' },
        { device: 'receiver-crsf' },
        { device: 'telemetry' },
        { device: 'camera' },
        { device: 'rangefinder' },
        { device: 'overlay' },
      ],
      buses: [
        { device: 'compass', kind: 'i2c' },
        { device: 'airspeed', kind: 'i2c' },
        { device: 'temperature', kind: 'i2c' },
        { device: 'battery-monitor', kind: 'i2c' },
        { device: 'rangefinder', kind: 'i2c' },
        { device: 'flow', kind: 'i2c' },
      ],
    });
    const a = solve(massifH7A, full);
    expect(a && broken(massifH7A, full, a)).toEqual([]);
  });

  it('are read from the demo file', () => {
    const raw = JSON.parse(readFileSync('demo/wishes/massif-survey.json', 'utf8'));
    expect(wishesSchema.safeParse(raw).success).toBe(true);
  });
});
