import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { turnstone } from '#core/airframe/library.ts';
import { shaftHz } from '#core/airframe/shaftSpeed.ts';
import { loopOf } from '#core/answers/chain.ts';
import { answerTo } from '#core/answers/stepAnswer.ts';
import { fellF7 } from '#core/board/fellF7.ts';
import { Random } from '#core/math/random.ts';
import { FlightLog } from '#firmware/flightLog.ts';
import { aloft, prepared, run } from '../testing/aloft.ts';
import { heardCommandLine } from '../testing/heard.ts';
import { main } from './main.ts';

const heard = heardCommandLine();
const folder = mkdtempSync(join(tmpdir(), 'wanderweg-logs-'));
const file = (name: string, content: string | Uint8Array) => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};
async function told(...argv: string[]) {
  heard.said = '';
  const code = await main([...argv, '--json']);
  return { code, answer: JSON.parse(heard.said) };
}

/** Turnstone in Level, its roll stick thrown about, logged by its board. */
function flownLog(): Uint8Array {
  const f = aloft(turnstone, { change: { 'log.rate': '50', 'log.loops': true }, heightM: 250 });
  const [log, random] = [new FlightLog(), new Random(3)];
  let k = 0;
  run(f, 80, () => {
    if (k++ % 700 === 0) f.radio.roll = 1.6 * (random.uniform() - 0.5);
    log.step(f.pfad.controller, 0.001);
  });
  return log.read(1, 0, 1e7)!;
}

describe('a log of a board', () => {
  let path = '';
  beforeAll(() => {
    path = file('flight.cbor', flownLog());
  });

  it('tells the answer that the model promised', async () => {
    const { code, answer } = await told('step', path, '--axis', 'roll');
    expect(code).toBe(0);
    expect(answer.rateHz).toBeCloseTo(50, 0);
    expect(answer.gaps).toBe(0);
    const values = prepared(turnstone);
    const loop = loopOf(turnstone, values, fellF7.pads, 'roll', values['nav.speed'] as number)!;
    // Sampled fifty times a second, what comes between two samples is not seen: compared from where it is up.
    const promised = answerTo(loop, 1, 0, 0.6);
    for (const { s, share } of answer.answer.filter((p: { s: number }) => p.s > 0.15 && p.s < 0.45)) {
      const said = promised.rates[Math.round(s / promised.stepS)]!;
      expect(Math.abs(share - said), `at ${s} s`).toBeLessThan(0.15);
    }
  });

  it('refuses a flight whose sticks rested, and says why', async () => {
    const f = aloft(turnstone, { change: { 'log.rate': '50', 'log.loops': true }, heightM: 200 });
    const log = new FlightLog();
    run(f, 40, () => log.step(f.pfad.controller, 0.001));
    const resting = file('resting.cbor', log.read(1, 0, 1e7)!);
    const { code, answer } = await told('step', resting, '--axis', 'roll');
    expect(code).toBe(1);
    expect(answer.refused).toMatch(/sticks that rest/);
  });

  it('is laid beside a craft: as described, and with rods that are not as long as described', async () => {
    const craft = 'demo/turnstone.wanderweg.json';
    const log = join(folder, 'thrown.csv');
    const built = JSON.parse(readFileSync(craft, 'utf8'));
    const loose = { armMm: 11, hornMm: 19.123, rodMm: 62, shaftAftMm: -62, shaftUpMm: -8.123 };
    built.bench.linkages = [{ surface: 'elevator', ...loose, armLeanDeg: 0, hornLeanDeg: 0, playDeg: 3 }];
    const real = file('loose.wanderweg.json', JSON.stringify(built));
    for (const [flown, code, kinds] of [
      [craft, 0, []],
      [real, 1, ['play']],
    ] as const) {
      expect((await told('answers', flown, '--axis', 'pitch', '--log', log)).answer.samples).toBe(60_000);
      const beside = await told('step', log, '--axis', 'pitch', '--craft', craft);
      expect(beside.code).toBe(code);
      expect(beside.answer.why.agrees).toBe(code === 0);
      expect(beside.answer.why.causes.map((c: { kind: string }) => c.kind)).toEqual(kinds);
    }
  });

  it('asks which axis where none is named', async () => {
    expect(await main(['step', path])).toBe(2);
    expect(heard.complained).toMatch(/Say which axis/);
  });

  it('has a spectrum of each axis', async () => {
    const { code, answer } = await told('spectrum', path);
    expect(code).toBe(0);
    expect(answer.spectra.map((s: { axis: string }) => s.axis)).toEqual(['roll', 'pitch', 'yaw']);
    for (const s of answer.spectra) expect(s.floorDegPerSPerRootHz).toBeGreaterThan(0);
  });

  it('with its raw gyro tells what shakes by throttle: the propeller, as its motor’s model turns it', async () => {
    const f = aloft(turnstone, { change: { 'log.rate': '10', 'log.gyro': true }, heightM: 300 });
    const log = new FlightLog();
    let k = 0;
    run(f, 60, () => {
      f.radio.throttle = Math.abs(((k++ / 12_000 + 1) % 2) - 1);
      log.step(f.pfad.controller, 0.001);
    });
    const { code, answer } = await told(
      'spectrum',
      file('swept.cbor', log.read(1, 0, 1e7)!),
      '--axis',
      'roll',
    );
    expect(code).toBe(0);
    const [roll] = answer.spectra;
    expect(roll.rateHz).toBe(1000);
    const high = roll.byThrottle.find((b: { throttle: number }) => b.throttle > 0.7);
    const said = shaftHz(turnstone, high.throttle, 18);
    expect(high.lines.some((l: { hz: number }) => Math.abs(l.hz / said - 1) < 0.15)).toBe(true);
  });

  it('without its loops is refused with what to do', async () => {
    const f = aloft(turnstone, { change: { 'log.rate': '10' } });
    const log = new FlightLog();
    run(f, 5, () => log.step(f.pfad.controller, 0.001));
    expect(await main(['step', file('bare.cbor', log.read(1, 0, 1e6)!), '--axis', 'roll'])).toBe(2);
    expect(heard.complained).toMatch(/switch "Log the loops" on/);
  });
});

describe('a table of other columns', () => {
  /** A first-order lag of 0.1 s under steps, in degrees a second, its time in milliseconds. */
  const table = (change: (k: number, row: string) => string | null = (_, row) => row) => {
    const random = new Random(8);
    let [asked, came] = [0, 0];
    const rows: string[] = [];
    for (let k = 0; k < 12_000; k++) {
      if (k % 150 === 0) asked = 300 * (random.uniform() - 0.5);
      came += (0.005 / 0.1) * (asked - came);
      const row = change(k, `${5 * k},${asked.toFixed(3)},${came.toFixed(3)}`);
      if (row !== null) rows.push(row);
    }
    return `Zeit,Soll,Ist\n${rows.join('\n')}\n`;
  };
  const map = ['--map', 'Zeit=t_ms,Soll=asked_dps,Ist=came_dps'];

  it('is read with a mapping', async () => {
    const { code, answer } = await told('step', file('a.csv', table()), ...map);
    expect(code).toBe(0);
    expect(answer.rateHz).toBeCloseTo(200, 3);
    // From a tenth to nine tenths of a first-order lag: ln 9 times its time.
    expect(answer.figures.riseS).toBeGreaterThan(0.9 * 0.1 * Math.log(9));
    expect(answer.figures.riseS).toBeLessThan(1.1 * 0.1 * Math.log(9));
    expect(answer.figures.reaches).toBeCloseTo(1, 1);
  });

  it('with gaps is read between them, and they are counted', async () => {
    const gappy = table((k, row) => (k % 4000 > 3950 ? null : row));
    const { code, answer } = await told('step', file('b.csv', gappy), ...map);
    expect(code).toBe(0);
    expect(answer.gaps).toBe(2);
  });

  it('with a clipped gyro is refused', async () => {
    const clipped = table((_, row) => {
      const [t, asked, came] = row.split(',').map(Number);
      return `${t},${asked},${Math.max(-70, Math.min(70, came!))}`;
    });
    const { code, answer } = await told('step', file('c.csv', clipped), ...map);
    expect(code).toBe(1);
    expect(answer.refused).toMatch(/end of its range/);
  });

  it.each([
    ['no mapping', table(), [], /names no column with a unit/],
    ['half a mapping', table(), ['--map', 'Zeit=t_ms'], /names no time or no rate/],
    ['a mapping that is none', table(), ['--map', 'Zeit'], /is not understood/],
    ['text', 'hello', map, /names no column/],
    ['time that stands still', `Zeit,Soll,Ist\n${'5,1,1\n'.repeat(100)}`, map, /time does not go on/],
    [
      'samples that come anyhow',
      table((k, row) => `${5 * k + 4 * Math.sin(9 * k)}${row.slice(row.indexOf(','))}`),
      map,
      /unevenly|time does not go on/,
    ],
  ])('of %s exits 2 with a sentence', async (_name, text, more, sentence) => {
    expect(await main(['step', file('d.csv', text), ...more])).toBe(2);
    expect(heard.complained).toMatch(sentence);
  });
});
