import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { turnstone } from '#core/airframe/library.ts';
import { eastOf, northOf } from '#core/navigation/earth.ts';
import { FlightLog } from '#firmware/flightLog.ts';
import { aloft, run } from '../testing/aloft.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { heardCommandLine } from '../testing/heard.ts';
import { main } from './main.ts';

const heard = heardCommandLine();
const CRAFT = 'demo/turnstone.wanderweg.json';
const folder = mkdtempSync(join(tmpdir(), 'wanderweg-search-'));
const file = (name: string, content: string | Uint8Array) => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};

describe('wanderweg search', () => {
  let path = '';
  let last = { north: 0, east: 0 };
  beforeAll(() => {
    const f = aloft(turnstone, { change: { 'log.rate': '50' }, heightM: 120 });
    const log = new FlightLog();
    run(f, 40, () => log.step(f.pfad.controller, 0.001));
    last = { north: f.plant.position[0]!, east: f.plant.position[1]! };
    path = file('lost.cbor', log.read(1, 0, 1e7)!);
  });

  it('says where it was last, what may have come of it, and where to walk first', async () => {
    expect(await main(['search', path, '--craft', CRAFT])).toBe(0);
    const { home } = torvholm;
    const [, lat, lon] = /Last seen at ([-\d.]+), ([-\d.]+), (\d+) m above the sea/.exec(heard.said)!;
    // As well as the receiver knows it and five digits tell it.
    expect(Math.abs(northOf(home.lat, Number(lat)) - last.north)).toBeLessThan(20);
    expect(Math.abs(eastOf(home.lat, home.lon, Number(lon)) - last.east)).toBeLessThan(20);
    const shares = [...heard.said.matchAll(/^ +(\d+) % {2}/gm)].map((m) => Number(m[1]));
    expect(shares.length).toBeGreaterThan(2);
    expect(shares.reduce((a, b) => a + b, 0)).toBeGreaterThan(90);
    const found = [...heard.said.matchAll(/found by then in (\d+) %/g)].map((m) => Number(m[1]));
    expect(found.length).toBeGreaterThan(3);
    expect(found).toEqual([...found].sort((a, b) => a - b));
  });

  it('gives a map that any program for maps reads, the same each time', async () => {
    const once = async () => {
      heard.said = '';
      expect(await main(['search', path, '--craft', CRAFT, '--json'])).toBe(0);
      return heard.said;
    };
    const text = await once();
    expect(JSON.parse(text)).toMatchObject({ type: 'FeatureCollection' });
    expect(await once()).toBe(text);
  });

  it('says in a sentence why there is nothing to search by, and reads nothing else', async () => {
    const craftless = [
      [file('a.cbor', 'hello'), /no track that is known: .*Nothing was taken/],
      [file('b.cbor', readFileSync(path).subarray(0, 40)), /Nothing was/],
      [join(folder, 'nowhere.cbor'), /nowhere\.cbor/],
    ] as const;
    for (const [log, words] of craftless) {
      heard.complained = '';
      expect(await main(['search', log, '--craft', CRAFT]), log).toBe(2);
      expect(heard.complained).toMatch(words);
      expect(heard.said).toBe('');
    }
    expect(await main(['search', path])).toBe(2);
  });
});

describe('wanderweg sheet', () => {
  it('writes a page of its own that needs nothing from outside, and never over the craft', async () => {
    const out = join(folder, 'turnstone.html');
    expect(await main(['sheet', CRAFT, '--out', out])).toBe(0);
    const html = readFileSync(out, 'utf8');
    expect(html).toMatch(/^<!doctype html>/i);
    expect(html).toContain('Turnstone');
    expect(html).not.toMatch(/(?:src|href)="https?:/);
    expect(html).not.toContain('<script');
    const copy = file('own.wanderweg.json', readFileSync(CRAFT));
    expect(await main(['sheet', copy, '--out', copy])).toBe(2);
    expect(readFileSync(copy, 'utf8')).toBe(readFileSync(CRAFT, 'utf8'));
  });
});
