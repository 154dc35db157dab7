import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { settingsFromToml } from '#core/settings/text.ts';
import { catalogueOf } from '#firmware/releases.ts';
import { runCli } from '../testing/runCli.ts';

const dir = mkdtempSync(join(tmpdir(), 'wanderweg-'));
const file = (name: string, text: string) => {
  const path = join(dir, name);
  writeFileSync(path, text);
  return path;
};

describe('wanderweg migrate', () => {
  const old = file('old.toml', 'speed.home = 54\npack.cells = 4\npack.low = 14.0\nlost.do = "home"\n');

  it('reports every setting with its formula and both values', () => {
    const { code, out } = runCli('migrate', old, '--from', '2.8', '--to', '3.1', '--json');
    expect(code).toBe(0);
    const report = JSON.parse(out) as { items: { kind: string; from: unknown[]; to: unknown[] }[] };
    expect(report.items).toContainEqual({
      kind: 'converted',
      from: [{ key: 'pack.low', value: 14, unit: 'v' }],
      to: [{ key: 'battery.low', value: 3.5, unit: 'v' }],
      formula: 'V of the pack / cells',
      why: 'Voltage marks are for one cell since 3.0.',
    });
  });

  it('exits 1 where a person has to decide', () => {
    const asks = file('asks.toml', 'return.satellites = 5\n');
    const { code, out } = runCli('migrate', asks, '--from', '2.8', '--to', '3.1');
    expect(code).toBe(1);
    expect(out).toContain('To decide: keep 5, or take 6.');
  });

  it('writes settings that the new version reads', () => {
    const out = join(dir, 'new.toml');
    runCli('migrate', old, '--from', '2.8', '--to', '3.1', '--out', out);
    const read = settingsFromToml(catalogueOf('3.1'), readFileSync(out, 'utf8'));
    expect(read).toMatchObject({ ok: true, values: { 'return.speed': 15, 'lost.action': 'return' } });
  });

  it.each([
    ['a version that is not there', ['--from', '2.7', '--to', '3.1'], 'There is no Pfad 2.7'],
    ['settings of another version', ['--from', '3.1', '--to', '3.0'], 'line 1'],
  ])('exits 2 with a sentence for %s', (_name, args, words) => {
    const { code, err, out } = runCli('migrate', old, ...args);
    expect([code, out]).toEqual([2, '']);
    expect(err).toContain(words);
  });
});

describe('wanderweg diff', () => {
  it('tells only what differs between two craft, in groups', () => {
    const { code, out } = runCli(
      'diff',
      'demo/turnstone.wanderweg.json',
      'demo/turnstone-as-found.wanderweg.json',
    );
    expect(code).toBe(1);
    expect(out).toMatch(/Way home\n(?: {2}.*\n)* {2}return\.height: \d+ \| \d+ m\n/);
    expect(out).toMatch(/\d+ differences\.\n$/);
  });

  it('finds none between a file and itself, nor between a craft and its text', () => {
    const craft = 'demo/turnstone.wanderweg.json';
    expect(runCli('diff', craft, craft)).toMatchObject({ code: 0, out: 'No differences.\n' });
    const a = file('a.toml', 'return.height = 100\n');
    const b = file('b.toml', '[return]\nheight = 100.0\n');
    expect(runCli('diff', a, b)).toMatchObject({ code: 0 });
  });

  it('gives JSON with meaning and unit', () => {
    const a = file('a2.toml', 'return.height = 100\n');
    const b = file('b2.toml', 'return.height = 120\nreturn.speed = 15\n');
    expect(JSON.parse(runCli('diff', a, b, '--json').out)).toEqual([
      { key: 'return.height', a: 100, b: 120, label: 'Return height', unit: 'm' },
      { key: 'return.speed', a: null, b: 15, label: 'Return speed', unit: 'm/s' },
    ]);
  });
});
