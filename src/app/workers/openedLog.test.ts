import { describe, expect, it } from 'vitest';
import { turnstone } from '#core/airframe/library.ts';
import { fellF7 } from '#core/board/fellF7.ts';
import { Random } from '#core/math/random.ts';
import { FlightLog } from '#firmware/flightLog.ts';
import { aloft, prepared, run } from '../../testing/aloft.ts';
import { openLog } from './openedLog.ts';

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
