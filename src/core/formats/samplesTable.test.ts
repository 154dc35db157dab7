import { describe, expect, it } from 'vitest';
import { readSamples, SamplesReader } from './samplesTable.ts';

const rows = Array.from({ length: 3000 }, (_, k) => `${k},${(Math.sin(k) * 50).toFixed(3)}`);
const text = `t_ms,came_dps\n${rows.join('\n')}\n`;

describe('a table of samples', () => {
  it('is the same whole or in pieces, wherever they are cut', () => {
    const whole = readSamples(text);
    if (!whole.ok) throw new Error(whole.why);
    expect(whole.table.rows).toBe(3000);
    for (const size of [1, 7, 4096]) {
      const reader = new SamplesReader();
      for (let at = 0; at < text.length; at += size) reader.push(text.slice(at, at + size));
      expect(reader.end()).toEqual(whole);
    }
  });

  it.each([
    ['semicolons', ';'],
    ['tabs', '\t'],
  ])('may part its cells by %s', (_name, separator) => {
    expect(readSamples(text.replaceAll(',', separator))).toEqual(readSamples(text));
  });

  it('may end its lines as Windows does, and begin with a mark of its encoding', () => {
    expect(readSamples(`\uFEFF${text.replaceAll('\n', '\r\n')}`)).toEqual(readSamples(text));
  });

  it('has the very numbers that its cells say, plain or not', () => {
    const cells = [
      '0',
      '-0.5',
      '12.3456789',
      '.5',
      '5.',
      ' 7 ',
      '1e3',
      '-2.5E-4',
      '123456789012345678',
      '0x10',
      '+3',
      '',
    ];
    const read = readSamples(`t_s\n${cells.map((c) => `${c},`).join('\n')}\n`);
    const said = cells.map((c) => (c === '' ? Number.NaN : Number(c)));
    expect(read.ok && [...read.table.columns.get('t')!]).toEqual(said);
  });

  it('tells what its columns are called where none is known', () => {
    expect(readSamples('Zeit;Soll;Ist\n1;2;3\n')).toMatchObject({
      ok: false,
      names: ['Zeit', 'Soll', 'Ist'],
    });
    const named = new Map([
      ['Zeit', 't_us'],
      ['Ist', 'came_radps'],
    ]);
    const read = readSamples('Zeit;Soll;Ist\n2000000;2;3\n', named);
    expect(read.ok && read.table.columns.get('t')![0]).toBe(2);
    expect(read.ok && read.table.columns.get('came')![0]).toBe(3);
  });

  it.each([
    ['nothing', '', /names no column/],
    ['a head alone', 't_s,came_dps', /has no samples/],
    ['a word among numbers', 't_s,came_dps\n0,1\n1,fast\n', /Line 3 has "fast" for came_dps/],
    ['one endless line', `t_s,came_dps\n0,${'1'.repeat(20_000)}`, /more than 10000 characters/],
    ['two columns of one name', 't_s,t_ms\n1,1\n', /two columns for t/],
    [
      'hundreds of columns',
      Array.from({ length: 300 }, (_, k) => `c${k}_s`).join(','),
      /more than 64 columns/,
    ],
  ])('of %s is refused with a sentence', (_name, content, why) => {
    const read = readSamples(content);
    expect(read.ok).toBe(false);
    expect(read.ok ? '' : read.why).toMatch(why);
  });
});
