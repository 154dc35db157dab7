import { describe, expect, it } from 'vitest';
import { turnstone } from '#core/airframe/library.ts';
import { shaftHz } from '#core/airframe/shaftSpeed.ts';
import { fellF7 } from '#core/board/fellF7.ts';
import { Random } from '#core/math/random.ts';
import { FlightLog } from '#firmware/flightLog.ts';
import { aloft, prepared, run } from '../../testing/aloft.ts';
import { openGains, openLog, openShake, openTuning } from './openedLog.ts';

const craft = { airframe: turnstone, values: prepared(turnstone), pads: fellF7.pads };
const none = new Map<string, string>();
const open = (name: string, content: string | Uint8Array, named: ReadonlyMap<string, string> = none) =>
  openLog(new File([content as BlobPart], name), 'roll', named, craft, 16);

/** Turnstone with half of its roll gains, its stick thrown about, as its board logs it. */
function flownLog(): Uint8Array {
  const gains = { 'rate.roll.p': 0.5 * Number(craft.values['rate.roll.p']), 'rate.roll.forward': 0.3 };
  const f = aloft(turnstone, { change: { ...gains, 'log.rate': '50', 'log.loops': true }, heightM: 250 });
  const [log, random] = [new FlightLog(), new Random(3)];
  log.firmware = `Pfad ${f.pfad.version}`;
  log.settings = () => f.pfad.values;
  let k = 0;
  run(f, 80, () => {
    if (k++ % 700 === 0) f.radio.roll = 1.6 * (random.uniform() - 0.5);
    log.step(f.pfad.controller, 0.001);
  });
  return log.read(1, 0, 1e7)!;
}

const table = (head: string) => {
  const random = new Random(8);
  let [asked, came] = [0, 0];
  const rows = Array.from({ length: 12_000 }, (_, k) => {
    if (k % 150 === 0) asked = 300 * (random.uniform() - 0.5);
    came += (0.005 / 0.1) * (asked - came);
    return `${5 * k},${asked.toFixed(3)},${came.toFixed(3)}`;
  });
  return `${head}\n${rows.join('\n')}\n`;
};

describe('a log that is opened', () => {
  it('of a board is compared with what it was flown by, not with what is drafted', async () => {
    const opened = await open('flight.log', flownLog());
    expect(opened).toMatchObject({ kind: 'answer', ownSettings: true, gaps: 0, why: { agrees: true } });
    if (opened.kind !== 'answer') return;
    expect(opened.rateHz).toBeCloseTo(50, 0);
    expect(opened.speedMps).toBeGreaterThan(10);
    expect(opened.seconds).toBeCloseTo(80, 0);
  });

  it('of a table asks for its columns, and is read once they are named', async () => {
    const text = table('Zeit,Soll,Ist');
    expect(await open('a.csv', text)).toEqual({ kind: 'columns', names: ['Zeit', 'Soll', 'Ist'] });
    const named = new Map([
      ['Zeit', 't_ms'],
      ['Soll', 'asked_dps'],
      ['Ist', 'came_dps'],
    ]);
    const opened = await open('a.csv', text, named);
    expect(opened).toMatchObject({ kind: 'answer', ownSettings: false, speedMps: null });
    if (opened.kind === 'answer') expect((opened.askedMost * 180) / Math.PI).toBeCloseTo(144.3, 0);
  });

  it('of a table whose columns tell what they are asks nothing', async () => {
    expect(await open('a.csv', table('t_ms,asked_dps,came_dps'))).toMatchObject({ kind: 'answer' });
  });

  it.each([
    ['holiday.jpg', 'no log', none, /holiday\.jpg is no flight log of a board, and no table either/],
    ['a.csv', '', none, /a\.csv cannot be read\. Its first line names no column/],
    ['a.csv', table('Zeit,Soll,Ist'), new Map([['Zeit', 't_ms']]), /names no time or no rate/],
    [
      'rest.csv',
      `t_ms,asked_dps,came_dps\n${Array.from({ length: 9000 }, (_, k) => `${5 * k},0,0`).join('\n')}`,
      none,
      /sticks that rest/,
    ],
  ])('%s is refused with a sentence', async (name, content, named, why) => {
    const opened = await open(name, content, named);
    expect(opened.kind).toBe('refused');
    expect(opened.kind === 'refused' && opened.why).toMatch(why);
    expect(opened.kind === 'refused' && opened.why).toMatch(/Nothing was taken from it\.$/);
  });
});

describe('a flight beside its tuning', () => {
  it('tells by which settings it was flown and how what was asked for answered', async () => {
    const opened = await openTuning(new File([flownLog() as BlobPart], 'flight.log'));
    if (opened.kind !== 'tuning') throw new Error(opened.why);
    expect(opened.values['rate.roll.forward']).toBe(0.3);
    expect(opened.values['rate.pitch.p']).toBe(craft.values['rate.pitch.p']);
    expect(Object.keys(opened.values).some((k) => k.startsWith('arm.'))).toBe(false);
    expect(opened.answers.roll!.riseS).toBeGreaterThan(0.01);
    expect(opened.answers.roll!.riseS).toBeLessThan(0.4);
    expect(opened.speedMps).toBeGreaterThan(10);
    expect(opened.moved).toEqual([]);
  });

  it('says what was not flown as it is written: gains that were found, and dials', async () => {
    const dial = { 'dial.1.channel': 9, 'dial.1.moves': 'roll', 'dial.1.by': 'dial' };
    const tune = { 'tune.channel': 8, 'tune.axes': 'roll' };
    const f = aloft(turnstone, {
      change: { ...dial, ...tune, 'log.rate': '50', 'log.loops': true },
      heightM: 250,
    });
    const log = new FlightLog();
    log.settings = () => f.pfad.values;
    f.radio.throttle = 0.55;
    f.radio.switchChannel = 8;
    f.radio.switchUs = 2000;
    const random = new Random(3);
    let k = 0;
    run(f, 60, () => {
      if (k++ % 700 === 0 && k > 20_000) f.radio.roll = 1.6 * (random.uniform() - 0.5);
      log.step(f.pfad.controller, 0.001);
    });
    const opened = await openTuning(new File([log.read(1, 0, 1e7)! as BlobPart], 'flight.log'));
    if (opened.kind !== 'tuning') throw new Error(opened.why);
    expect(opened.moved).toEqual([expect.stringMatching(/^Found gains of roll: P 0\.\d+/)]);
  });

  it('is none of a table, nor of bytes that are no log', async () => {
    for (const name of ['a.csv', 'b.log'])
      expect(await openTuning(new File(['t_ms,asked_dps\n1,2\n'], name))).toMatchObject({
        kind: 'refused',
        why: expect.stringMatching(/is no flight log of a board.*Nothing was taken from it\.$/),
      });
  });
});

describe('what shook, in a board’s own log', () => {
  const logged = (change: object, seconds = 30) => {
    const f = aloft(turnstone, { change: { 'log.rate': '10', ...change }, heightM: 250 });
    const log = new FlightLog();
    f.radio.throttle = 0.7;
    run(f, seconds, () => log.step(f.pfad.controller, 0.001));
    return new File([log.read(1, 0, 1e7)! as BlobPart], 'flight.log');
  };

  it('is the raw gyro about each axis, by throttle', async () => {
    const opened = await openShake(logged({ 'log.gyro': true }), none);
    if (opened.kind !== 'shake') throw new Error('it is told');
    expect(opened.spectra).toHaveLength(3);
    expect(opened.rateHz).toBe(1000);
    expect(opened.seconds).toBeCloseTo(30, 0);
    const band = opened.spectra[0]!.bands[13]!;
    const hz = shaftHz(turnstone, 0.7, 20);
    const at = (x: number) => band.density[Math.round(x / band.stepHz)]!;
    expect(Math.max(at(0.95 * hz), at(hz), at(1.05 * hz))).toBeGreaterThan(5 * at(0.6 * hz));
  });

  it('is refused with what to do where it was not logged, and where it is too short', async () => {
    expect(await openShake(logged({}), none)).toMatchObject({
      why: expect.stringMatching(/switch "Log the raw gyro" on/),
    });
    expect(await openShake(logged({ 'log.gyro': true }, 0.3), none)).toMatchObject({
      why: expect.stringMatching(/is too short/),
    });
  });
});

describe('a loop in a table', () => {
  /** P of 0.2 and feed-forward of 0.1 on a wing, its command in the unit that its column says. */
  const loop = (head: string, full: number, seconds = 30) => {
    const rows = [head];
    let [rate, wish] = [0, 0];
    for (let k = 0; k < 200 * seconds; k++) {
      if (k % 100 === 0) wish = 2 * Math.sin(1 + (k / 100) ** 2);
      const given = 0.1 * wish + 0.2 * (wish - rate);
      rows.push([k / 200, wish, rate, full * given].map((x) => x.toFixed(5)).join());
      rate += (40 * given - 10 * rate) / 200;
    }
    return rows.join('\n');
  };
  const openLoop = (text: string, named: ReadonlyMap<string, string> = none) =>
    openGains(new File([text], 'loop.csv'), named);

  it.each([
    ['given_share', 1],
    ['given_pct', 100],
  ])('tells its gains: %s', async (column, full) => {
    const opened = await openLoop(loop(`t_s,asked_radps,came_radps,${column}`, full));
    if (opened.kind !== 'gains') throw new Error('refused');
    expect(opened.gains.p.value).toBeCloseTo(0.2, 2);
    expect(opened.gains.forward.value).toBeCloseTo(0.1, 2);
  });

  it('is read in microseconds once its columns are named', async () => {
    const text = loop('a,b,c,d', 500);
    expect(await openLoop(text)).toMatchObject({ kind: 'columns' });
    const named = new Map([
      ['a', 't_s'],
      ['b', 'asked_radps'],
      ['c', 'came_radps'],
      ['d', 'given_us'],
    ]);
    const opened = await openLoop(text, named);
    if (opened.kind !== 'gains') throw new Error('refused');
    expect(opened.gains.p.value).toBeCloseTo(0.2, 2);
  });

  it('is refused where it is too short, or its commands are of another unit', async () => {
    const head = 't_s,asked_radps,came_radps,given_share';
    expect(await openLoop(loop(head, 1, 5))).toMatchObject({
      kind: 'refused',
      why: expect.stringContaining('tells no gains'),
    });
    expect(await openLoop(loop(head, 100))).toMatchObject({
      kind: 'refused',
      why: expect.stringContaining('say that they are in per cent or microseconds'),
    });
  });
});
