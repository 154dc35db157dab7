import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import * as z from 'zod';
import { demoCraft, torvholm } from '../../testing/demoCraft.ts';
import { groundHeight } from '../flight/terrain.ts';
import { parseAsciiGrid } from '../site/asciiGrid.ts';
import { craftFileSchema, readCraftFile, writeCraftFile } from './craftFile.ts';
import { trackToGpx } from './gpx.ts';
import { parseScenario } from './scenario.ts';

const text = readFileSync('demo/turnstone.wanderweg.json', 'utf8');
const why = (t: string) => {
  const r = readCraftFile(t);
  return r.ok ? 'opened' : r.why;
};
const change = (edit: (craft: Record<string, unknown>) => void) => {
  const craft = JSON.parse(text) as Record<string, unknown>;
  edit(craft);
  return JSON.stringify(craft);
};

describe('a craft file', () => {
  it('comes back as it was saved, format and version first', () => {
    expect(writeCraftFile(demoCraft('turnstone'))).toBe(text);
    expect(Object.keys(JSON.parse(text)).slice(0, 2)).toEqual(['format', 'version']);
  });

  it('keeps fields it does not know, at any depth', () => {
    const changed = change((c) => {
      c.weatherNote = { by: 'a friend' };
      (c.airframe as Record<string, unknown>).paint = 'grey';
      ((c.airframe as { motors: Record<string, unknown>[] }).motors[0] as Record<string, unknown>).batch = 7;
    });
    const read = readCraftFile(changed);
    expect(read.ok).toBe(true);
    if (read.ok) expect(JSON.parse(writeCraftFile(read.craft))).toEqual(JSON.parse(changed));
  });

  it('that is not JSON says so and where', () => {
    expect(why('{"format": "wanderweg-craft",\n oops')).toMatch(
      /^The file is not JSON.*Nothing was changed\.$/,
    );
    expect(why('')).toContain('not JSON');
    expect(why('[1,2]')).toContain('not a craft');
    expect(why('{"format":"recipe"}')).toContain('not a craft');
  });

  it('with a NaN is refused', () => {
    expect(why(text.replace('"massKg": 2.1', '"massKg": NaN'))).toContain('not JSON');
    expect(why(change((c) => ((c.airframe as Record<string, unknown>).massKg = null)))).toContain(
      'airframe.massKg',
    );
  });

  it('of a newer version is left alone', () => {
    expect(why(change((c) => (c.version = 99)))).toBe(
      'The file was made by a newer Wanderweg (version 99; this one reads 3). It is left as it is. Open it with the newer one.',
    );
  });

  it('of 50 MB is not opened', () => {
    expect(why(`{"format":"wanderweg-craft","notes":"${'x'.repeat(50_000_000)}"}`)).toContain('50 MB');
  });

  it('with keys that reach into objects is refused, and nothing is reached into', () => {
    expect(why(text.replace('"notes":', '"__proto__": {"polluted": true}, "notes":'))).toContain('__proto__');
    expect(why(text.replace('"settings": {', '"settings": { "constructor": 1,'))).toContain('constructor');
    expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
    let deep = '1';
    for (let k = 0; k < 100; k++) deep = `{"a":${deep}}`;
    expect(why(text.replace('"notes":', `"deep": ${deep}, "notes":`))).toContain('nested too deeply');
  });
});

const scenario = (edit: object) =>
  parseScenario({ ...JSON.parse(readFileSync('demo/scenarios/calm.json', 'utf8')), ...edit }, torvholm);

describe('the published schema of craft files', () => {
  it('is the one the application checks by', () => {
    const published = JSON.parse(readFileSync('docs/craft.schema.json', 'utf8')) as unknown;
    expect(published).toEqual(JSON.parse(JSON.stringify(z.toJSONSchema(craftFileSchema, { io: 'input' }))));
  });
});

describe('a scenario', () => {
  it('fills in wind, events and limit when they are left out', () => {
    const parsed = parseScenario(
      {
        seed: 1,
        home: { lat: 61.883, lon: -12.43, heightM: 38 },
        outbound: { bearingDeg: 0, distanceM: 500, heightM: 100 },
      },
      torvholm,
    );
    expect(parsed.ok && parsed.scenario).toMatchObject({ wind: { speedMps: 0 }, events: [], limitS: 1500 });
  });

  it.each([
    ['outside Torvholm', { home: { lat: 48.1, lon: 11.5, heightM: 520 } }, 'outside the ground'],
    ['with 90 m/s of wind', { wind: { speedMps: 90, fromDeg: 0, gustMps: 0 } }, 'from 0 to 40 m/s'],
    ['under the ground', { home: { lat: 61.911, lon: -12.49, heightM: 10 } }, 'the ground there lies at'],
    ['with an unknown event', { events: [{ atS: 1, do: 'explode' }] }, 'link-lost'],
    ['with a field too many', { speed: 3 }, 'speed'],
    ['without a seed', { seed: undefined }, 'seed'],
  ])('%s is refused in a sentence', (_name, edit, part) => {
    const parsed = scenario(edit);
    expect(parsed.ok ? '' : parsed.why).toContain(part);
    expect(parsed.ok ? '' : parsed.why).toMatch(/Nothing was flown\.$/);
  });

  it('has its events in the order of time', () => {
    const parsed = scenario({
      events: [
        { atS: 50, do: 'link-back' },
        { atS: 20, do: 'link-lost' },
      ],
    });
    expect(parsed.ok && parsed.scenario.events.map((e) => e.atS)).toEqual([20, 50]);
  });
});

describe('Torvholm', () => {
  it('is as the map says: two ridges, a strip at 38 m, sea around', () => {
    expect(Math.max(...torvholm.terrain.heights)).toBeCloseTo(412, 0);
    expect(groundHeight(torvholm.terrain, 0, -2449)).toBeCloseTo(38, 0);
    expect(groundHeight(torvholm.terrain, 5900, 3500)).toBe(0);
    expect(groundHeight(torvholm.terrain, 90_000, 0)).toBe(0);
  });

  it('is refused as a grid when a line is short, with its number', () => {
    const grid = 'ncols 3\nnrows 2\nxllcenter 0\nyllcenter 0\ncellsize 10\n1 2 3\n4 5\n';
    expect(() => parseAsciiGrid(grid, torvholm.home)).toThrow('line 7: expected 3 heights, found 2');
    expect(() => parseAsciiGrid(grid.replace('4 5', '4 x 6'), torvholm.home)).toThrow('"x" is not a height');
  });

  it('is bilinear between its cells', () => {
    const grid = 'ncols 2\nnrows 2\nxllcenter 0\nyllcenter 0\ncellsize 10\n10 20\n30 40\n';
    const t = parseAsciiGrid(grid, torvholm.home);
    expect(groundHeight(t, 0, 9.999)).toBeCloseTo(10, 1);
    expect(groundHeight(t, 5, 5)).toBeCloseTo(25, 6);
  });
});

describe('a track as GPX', () => {
  it('has a point for each place, with height and time, and its name escaped', () => {
    const gpx = trackToGpx(
      'A <&> "B"',
      [
        {
          atS: 1.5,
          lat: 61.883,
          lon: -12.43,
          heightM: 120.26,
        },
      ],
      0,
    );
    expect(gpx).toContain('<gpx version="1.1"');
    expect(gpx).toContain('<name>A &lt;&amp;&gt; &quot;B&quot;</name>');
    expect(gpx).toContain(
      '<trkpt lat="61.8830000" lon="-12.4300000"><ele>120.3</ele><time>1970-01-01T00:00:01.500Z</time></trkpt>',
    );
  });
});

describe('a craft file of version 1', () => {
  it('has its wing, tail and fin put into the list', () => {
    const now = demoCraft('turnstone');
    const { planforms, launch, motors, ...rest } = now.airframe;
    const named = Object.fromEntries(
      planforms.map(({ id, pair, rootRightM, washoutDeg, zeroLiftDeg, sectionMoment, ...p }) => [id, p]),
    );
    const bare = motors.map(({ thrust, spin, ...m }) => m);
    const { gnss, receiver, fitted, mount, voltageScale, baroShielded, iron, ...bench } = now.bench!;
    const old = { ...now, version: 1, airframe: { ...rest, motors: bare, ...named }, bench };
    const read = readCraftFile(JSON.stringify(old));
    expect(read.ok).toBe(true);
    if (!read.ok) return;
    expect(read.craft.version).toBe(3);
    expect(read.craft.airframe.planforms).toEqual(planforms);
    expect(read.craft.bench!.gnssBaud).toBe(38400);
  });
});

describe('a craft file of version 2', () => {
  const now = demoCraft('turnstone');
  const wishes = { outputs: [], serial: [], buses: [] };
  const open = (change: object) => {
    const { board, wiring, ...rest } = now;
    const old = {
      ...rest,
      version: 2,
      board: { name: 'Fell F7', firmware: 'Pfad', version: '3.1' },
      ...change,
    };
    const read = readCraftFile(JSON.stringify(old));
    if (!read.ok) throw new Error(read.why);
    return read.craft;
  };

  it('named its board, which becomes the one of its target', () => {
    expect(open({}).board).toEqual({
      target: 'fell-f7',
      revision: '',
      firmware: 'Pfad',
      version: '3.1',
      serial: '',
    });
    const foreign = { name: 'Granite X1 (mine)', firmware: 'Other', version: '9' };
    expect(open({ board: foreign }).board.target).toBe('granite-x1-mine');
  });

  it('is for the board that it was wired to, where that was another', () => {
    const craft = open({ wiring: { target: 'massif-h7-b', wishes } });
    expect(craft.board.target).toBe('massif-h7-b');
    expect(craft.wiring).toEqual({ wishes });
  });
});
