import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { flashWith } from '#bench/flashImage.ts';
import { fellF7Model } from '#core/board/boards.ts';
import { fingerprintOf } from '#core/settings/fingerprint.ts';
import { isActing } from '#core/wire/acts.ts';
import { encodeFrame, FrameReader, MAX_FRAME_BYTES } from '#core/wire/frames.ts';
import { answerSchemas, type RequestKind } from '#core/wire/messages.ts';
import { telemetryGroups, telemetrySchemas } from '#core/wire/telemetry.ts';
import { demoValues } from '../testing/demoCraft.ts';
import { BoardLink } from './boardLink.ts';
import { FlightLog } from './flightLog.ts';
import { Pfad } from './pfad.ts';
import { Readings } from './readings.ts';

interface FromBoard {
  t: 'ok' | 'no' | 'tm';
  id: number;
  a?: unknown;
  why?: string;
  g?: string;
  v?: unknown;
  code?: string;
}

let pfad: Pfad;
let link: BoardLink;
let readings: Readings;
let answers: FromBoard[];
let longest: number;

beforeEach(() => {
  readings = new Readings();
  pfad = new Pfad(fellF7Model, flashWith(demoValues('turnstone')), 'TEST-1', 'power on', new FlightLog());
  answers = [];
  longest = 0;
  const reader = new FrameReader((m) => answers.push(m as FromBoard));
  link = new BoardLink(pfad, readings, (bytes) => {
    longest = Math.max(longest, bytes.length);
    reader.push(bytes);
  });
});

const say = (message: unknown): FromBoard | undefined => {
  answers.length = 0;
  link.reader.push(encodeFrame(message));
  return answers[0];
};
/** With the next number where it is a command that acts. */
const ask = (message: unknown): FromBoard | undefined => {
  const { t } = (message ?? {}) as { t?: unknown };
  return say(isActing(String(t)) ? { ...(message as object), act: next() } : message);
};
const next = () => [pfad.acts.key, pfad.acts.after + 1];
const run = (seconds: number) => {
  for (let k = 0; k < seconds * 1000; k++) {
    pfad.step(readings);
    if (k % 5 === 0) link.pump();
  }
};

const requests: readonly (readonly [RequestKind, object])[] = [
  ['hello', { link: 1 }],
  ['describe', {}],
  ['catalogue', { from: 0 }],
  ['catalogue', { from: 9999 }],
  ['rules', {}],
  ['values', { from: 0 }],
  ['values', { from: 9999 }],
  ['write-status', { session: 4 }],
  ['subscribe', { group: 'status', hz: 10 }],
  ['bench-allow', { propellersOff: true }],
  ['bench-stop', {}],
  ['restart', {}],
  ['decisions', { from: 0 }],
  ['log-list', {}],
];

describe('the board’s end of the link', () => {
  it.each(requests)('answers %s %j by its schema, under the same id, in one frame', (t, body) => {
    const answer = ask({ t, id: 77, ...body });
    expect(answer).toMatchObject({ t: 'ok', id: 77 });
    // Nothing of it has to be read leniently.
    expect(answerSchemas[t].parse(answer!.a)).toEqual(answer!.a);
    expect(longest).toBeLessThan(MAX_FRAME_BYTES);
  });

  it('refuses what it does not know in a sentence, when the id can be read', () => {
    expect(ask({ t: 'launch', id: 3 })).toMatchObject({ t: 'no', id: 3, code: 'unknown-request' });
    expect(ask({ t: 'subscribe', id: 3, group: 'mood', hz: 1 })).toMatchObject({ code: 'unknown-group' });
    expect(ask({ t: 'values', id: 3, from: 'x' })).toMatchObject({ t: 'no', id: 3 });
    expect(ask({ t: 'values' })).toBeUndefined();
    expect(ask(null)).toBeUndefined();
    expect(ask([1, 2])).toBeUndefined();
  });

  it('changes nothing and throws nothing, whatever well-formed message comes', () => {
    const before = pfad.fingerprint;
    const kinds = fc.constantFrom(
      'hello',
      'values',
      'write-begin',
      'write-put',
      'write-commit',
      'bench-move',
      'subscribe',
      'describe',
    );
    const message = fc.record({
      t: kinds,
      id: fc.oneof(fc.integer(), fc.string()),
      from: fc.oneof(fc.integer(), fc.jsonValue()),
      session: fc.oneof(fc.integer({ min: 0, max: 9 }), fc.jsonValue()),
      part: fc.oneof(fc.integer(), fc.jsonValue()),
      items: fc.jsonValue(),
      count: fc.jsonValue(),
      sum: fc.jsonValue(),
      base: fc.jsonValue(),
      group: fc.jsonValue(),
      hz: fc.jsonValue(),
      output: fc.jsonValue(),
      run: fc.jsonValue(),
    });
    fc.assert(
      fc.property(message, (m) => {
        ask(m);
        run(0.01);
        expect(pfad.fingerprint).toBe(before);
        expect(pfad.controller.bench.output).toBe(0);
      }),
      { numRuns: 300 },
    );
  });

  it('stores a write once, however often its parts are repeated and in whichever order', () => {
    const edits = { 'return.height': 222, 'loiter.radius': 150 };
    const [a, b] = Object.entries(edits);
    const sum = fingerprintOf(edits);
    expect(ask({ t: 'write-begin', id: 1, session: 8, base: pfad.fingerprint })?.t).toBe('ok');
    for (const part of [1, 0, 1, 0])
      ask({ t: 'write-put', id: 2, session: 8, part, items: [part === 0 ? a : b] });
    expect(ask({ t: 'write-commit', id: 3, session: 8, count: 2, sum })?.a).toEqual({
      state: 'storing',
      refusals: [],
    });
    expect(ask({ t: 'write-commit', id: 3, session: 8, count: 2, sum })?.a).toEqual({
      state: 'storing',
      refusals: [],
    });
    expect(ask({ t: 'write-status', id: 4, session: 8 })?.a).toMatchObject({ state: 'storing' });
    run(1);
    expect(ask({ t: 'write-status', id: 4, session: 8 })?.a).toMatchObject({ state: 'stored' });
    expect(pfad.values).toMatchObject(edits);
    // A repeat under a new number answers as the first did; a late one is refused. Neither stores anything anew.
    expect(ask({ t: 'write-commit', id: 3, session: 8, count: 2, sum })?.t).toBe('ok');
    expect(pfad.storing).toBe(false);
    const act = [pfad.acts.key, pfad.acts.after];
    expect(say({ t: 'write-commit', id: 3, session: 8, count: 2, sum, act })?.code).toBe('late');
    expect(pfad.storing).toBe(false);
  });

  it('stores nothing when a part is missing', () => {
    const edits = { 'return.height': 222, 'loiter.radius': 150 };
    ask({ t: 'write-begin', id: 1, session: 8, base: pfad.fingerprint });
    ask({ t: 'write-put', id: 2, session: 8, part: 0, items: [['return.height', 222]] });
    const answer = ask({ t: 'write-commit', id: 3, session: 8, count: 2, sum: fingerprintOf(edits) });
    expect(answer).toMatchObject({ t: 'no' });
    expect(answer!.why).toContain('Nothing was written');
    expect(pfad.values['return.height']).toBe(405);
  });

  it('does not know a write that was never begun', () => {
    expect(ask({ t: 'write-put', id: 1, session: 5, part: 0, items: [] })?.t).toBe('no');
    expect(ask({ t: 'write-commit', id: 1, session: 5, count: 0, sum: '' })?.t).toBe('no');
    expect(ask({ t: 'write-status', id: 1, session: 5 })?.a).toMatchObject({ state: 'none' });
  });

  it.each(telemetryGroups)(
    'sends %s at about the rate asked for, by its schema, until told to stop',
    (group) => {
      ask({ t: 'subscribe', id: 1, group, hz: 10 });
      answers.length = 0;
      run(2);
      expect(answers.length).toBeGreaterThanOrEqual(19);
      expect(answers.length).toBeLessThanOrEqual(21);
      for (const m of answers) expect(telemetrySchemas[group].safeParse(m.v).success).toBe(true);
      ask({ t: 'subscribe', id: 2, group, hz: 0 });
      answers.length = 0;
      run(1);
      expect(answers).toEqual([]);
    },
  );
});

describe('a board that starts', () => {
  it('runs on its defaults, and says so, when what is stored contradicts itself', () => {
    const bad = new Pfad(fellF7Model, flashWith({ 'rx.roll.channel': 2 }), 'x', 'power on');
    expect(bad.note).toContain('defaults');
    expect(bad.values['rx.roll.channel']).toBe(1);
  });

  it('leaves out stored settings that it does not know or that are out of range', () => {
    const odd = new Pfad(
      fellF7Model,
      flashWith({ 'no.such': 1, 'return.height': 9999, 'loiter.radius': 90 }),
      'x',
      'power on',
    );
    expect(odd.values['return.height']).toBe(60);
    expect(odd.values['loiter.radius']).toBe(90);
    expect(odd.values['no.such']).toBeUndefined();
  });
});

describe('decisions and the flight log over the link', () => {
  it('are read from where one left off, in parts that fit a frame', () => {
    const { journal } = pfad.controller;
    for (let k = 0; k < 90; k++) journal.say(k, `Decision ${k}.`);
    const first = ask({ t: 'decisions', id: 1, from: 0 })!.a as { total: number; items: { text: string }[] };
    expect([first.total, first.items.length, first.items[0]!.text]).toEqual([90, 64, 'Decision 0.']);
    const rest = ask({ t: 'decisions', id: 2, from: 64 })!.a as { items: { text: string }[] };
    expect([rest.items.length, rest.items.at(-1)!.text]).toEqual([26, 'Decision 89.']);
    expect((ask({ t: 'decisions', id: 3, from: 90 })!.a as { items: unknown[] }).items).toEqual([]);
    expect(longest).toBeLessThan(MAX_FRAME_BYTES);
  });

  it('gives a flight byte for byte, and says so when there is none', () => {
    pfad.controller.armed = true;
    run(6);
    pfad.controller.armed = false;
    run(0.1);
    const list = ask({ t: 'log-list', id: 4 })!.a as {
      flights: { flight: number; bytes: number; whole: boolean }[];
    };
    expect(list.flights).toHaveLength(1);
    const { flight, bytes, whole } = list.flights[0]!;
    expect(whole).toBe(true);
    let read = new Uint8Array(0);
    while (read.length < bytes) {
      const part = answerSchemas['log-read'].parse(
        ask({ t: 'log-read', id: 5, flight, from: read.length, count: 100_000 })!.a,
      );
      expect(part.bytes.length).toBeLessThanOrEqual(4096);
      read = Uint8Array.from([...read, ...part.bytes]);
    }
    expect(read).toEqual(pfad.log!.read(flight, 0, bytes));
    expect(ask({ t: 'log-read', id: 6, flight: 99, from: 0, count: 10 })).toMatchObject({
      t: 'no',
      why: 'There is no flight 99 on the board.',
    });
  });
});

describe('leave to move outputs', () => {
  const allowed = () => pfad.controller.bench.allowed;

  it('ends when nobody is heard over the link any more, and stays while somebody is', () => {
    ask({ t: 'bench-allow', id: 1, propellersOff: true });
    for (let s = 0; s < 8; s++) {
      run(1);
      ask({ t: 'hello', id: 2 + s, link: 1 });
    }
    expect(allowed()).toBe(true);
    run(5);
    expect(allowed()).toBe(false);
    expect(ask({ t: 'bench-move', id: 20, output: 1, run: 1 })).toMatchObject({
      t: 'no',
      code: 'propellers',
    });
  });
});

describe('commands that come late, or once more', () => {
  const moving = () => pfad.controller.bench.output;
  const frame = (message: object) => ({ ...message, act: next() });

  it('do nothing: a leave after it was taken back, a move after its stop, a move once more', () => {
    const allow = frame({ t: 'bench-allow', id: 1, propellersOff: true });
    say(allow);
    ask({ t: 'bench-allow', id: 2, propellersOff: false });
    expect(say(allow)?.code).toBe('late');
    expect(pfad.controller.bench.allowed).toBe(false);

    ask({ t: 'bench-allow', id: 3, propellersOff: true });
    const move = frame({ t: 'bench-move', id: 4, output: 1, run: pfad.acts.after });
    say(move);
    expect(moving()).toBe(1);
    const late = frame({ t: 'bench-move', id: 5, output: 1, run: (move.act as number[])[1]! - 1 });
    pfad.acts.after += 1;
    ask({ t: 'bench-stop', id: 6 });
    expect(say(late)?.code).toBe('late');
    expect(moving()).toBe(0);
    // Once more, over and over, does not make a move longer.
    const held = frame({ t: 'bench-move', id: 7, output: 1, run: pfad.acts.after });
    say(held);
    for (let k = 0; k < 20; k++) {
      run(0.1);
      say(held);
      if (k > 3) expect(moving()).toBe(0);
    }
  });

  it('cannot lock holds out with a number beyond the order', () => {
    ask({ t: 'bench-allow', id: 1, propellersOff: true });
    for (const huge of [2 ** 53 - 1, 2 ** 32, 0xffffffff, pfad.acts.after + 5])
      expect(ask({ t: 'bench-move', id: 2, output: 1, run: huge })?.t).toBe('no');
    expect(ask({ t: 'bench-move', id: 3, output: 1, run: pfad.acts.after })?.t).toBe('ok');
    expect(ask({ t: 'procedure-start', id: 4, run: 0xffffffff, kind: 'learn-stick', with: {} })?.t).toBe(
      'no',
    );
  });

  it('of another run of the board, or without number, do nothing', () => {
    for (const act of [undefined, [pfad.acts.key + 1, 9], [0, 9], [pfad.acts.key, 0]]) {
      expect(say({ t: 'bench-allow', id: 1, propellersOff: true, act })?.t).toBe('no');
      expect(say({ t: 'restart', id: 2, act })?.t).toBe('no');
    }
    expect(pfad.controller.bench.allowed).toBe(false);
    expect(link.restartWanted).toBe(false);
  });

  it('do not drop the write that is open', () => {
    const old = frame({ t: 'write-begin', id: 1, session: 1, base: pfad.fingerprint });
    say(old);
    ask({ t: 'write-begin', id: 2, session: 2, base: pfad.fingerprint });
    expect(say(old)?.code).toBe('late');
    expect(ask({ t: 'write-status', id: 3, session: 2 })?.a).toMatchObject({ state: 'open' });
  });

  it('a write ends a hold: what an output does may be another thing from then on', () => {
    ask({ t: 'bench-allow', id: 1, propellersOff: true });
    const hold = pfad.acts.after;
    ask({ t: 'bench-move', id: 2, output: 3, run: hold });
    expect(moving()).toBe(3);
    const edits = { 'return.height': 222 };
    ask({ t: 'write-begin', id: 3, session: 9, base: pfad.fingerprint });
    ask({ t: 'write-put', id: 4, session: 9, part: 0, items: Object.entries(edits) });
    ask({ t: 'write-commit', id: 5, session: 9, count: 1, sum: fingerprintOf(edits) });
    expect(moving()).toBe(0);
    expect(ask({ t: 'bench-move', id: 6, output: 3, run: hold })?.code).toBe('hold-over');
  });
});
