import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { heardCommandLine } from '../testing/heard.ts';
import { longLog } from '../testing/longLog.ts';
import { main } from './main.ts';

const heard = heardCommandLine();
const CRAFT = 'demo/turnstone.wanderweg.json';
const folder = mkdtempSync(join(tmpdir(), 'wanderweg-log-'));
const file = (name: string, content: string | Uint8Array) => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};
const log = file('flight.cbor', longLog(120));

describe('wanderweg log', () => {
  it('tells a flight in words and figures; what surprised only with its craft', async () => {
    expect(await main(['log', log])).toBe(0);
    expect(heard.said).toMatch(/^Flight 1 on Pfad 3\.2: 2:00, 1200 samples of \d+ numbers\.\n/);
    // Sixteen metres a second for two minutes.
    expect(heard.said).toMatch(/In the air 2:00, 1\.9 km flown, 1\d{2,3} m from home at most/);
    expect(heard.said).not.toContain('surprise');
    heard.said = '';
    expect(await main(['log', log, '--craft', CRAFT])).toBe(0);
    expect(heard.said).toContain('Nothing surprised.');
  });

  it('writes what other programs read, and reads it again; lays one beside another', async () => {
    const gpx = join(folder, 'flight.gpx');
    expect(await main(['log', log, '--out', gpx])).toBe(0);
    expect(readFileSync(gpx, 'utf8').match(/<trkpt /g)).toHaveLength(1200);
    heard.said = '';
    expect(await main(['log', gpx, '--with', log])).toBe(0);
    expect(heard.said).toMatch(/^Track: 2:00, 1200 samples/);
    expect(heard.said).toMatch(/apart by [01] m in the mean/);
    const csv = join(folder, 'flight.csv');
    expect(await main(['log', log, '--out', csv])).toBe(0);
    expect(readFileSync(csv, 'utf8').split('\r\n')[0]).toContain('seconds,mode,lat,lon,roll');
    heard.said = '';
    expect(await main(['log', log, '--with', log, '--json'])).toBe(0);
    expect(JSON.parse(heard.said)).toMatchObject({
      flight: 1,
      beside: { offsetS: 0 },
      figures: { wayM: 1918 },
    });
  });

  it('refuses with a sentence what it cannot read or write, and writes over nothing that it read', async () => {
    for (const [args, words] of [
      [['log', file('no.cbor', 'hello')], /no track that is known/],
      [['log', log, '--out', join(folder, 'a.docx')], /ends in none of gpx, kml, geojson, csv/],
      [
        [
          'log',
          file('again.gpx', readFileSync(join(folder, 'flight.gpx'))),
          '--out',
          join(folder, 'again.gpx'),
        ],
        /would be written over/,
      ],
      [['log', join(folder, 'nowhere.cbor')], /no file/],
    ] as const) {
      heard.complained = '';
      expect(await main([...args])).toBe(2);
      expect(heard.complained).toMatch(words);
    }
  });
});

describe('wanderweg telemetry', () => {
  it('says what is told, how it appears and whether there is room; exit code 1 where there is not', async () => {
    expect(await main(['telemetry', CRAFT])).toBe(0);
    expect(heard.said).toContain('Place: latitude, longitude, height');
    expect(heard.said).toMatch(/\d+ of 120 bytes a second are asked for\./);
    const craft = JSON.parse(readFileSync(CRAFT, 'utf8'));
    const much = file(
      'much.wanderweg.json',
      JSON.stringify({ ...craft, settings: { ...craft.settings, 'tell.attitude.rate': 10 } }),
    );
    heard.said = '';
    expect(await main(['telemetry', much, '--json'])).toBe(1);
    const told = JSON.parse(heard.said) as { fitting: Record<string, number>; share: number };
    expect(told.share).toBeLessThan(1);
    expect(told.fitting['tell.attitude.rate']).toBeLessThan(10);
    const oneWay = file(
      'sbus.wanderweg.json',
      JSON.stringify({ ...craft, settings: { ...craft.settings, 'rx.protocol': 'sbus' } }),
    );
    heard.said = '';
    expect(await main(['telemetry', oneWay])).toBe(1);
    expect(heard.said).toContain('has no way back');
  });
});
