import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { runCli as run } from '../testing/runCli.ts';

const dir = mkdtempSync(join(tmpdir(), 'wanderweg-'));
const file = (name: string, text: string) => {
  const path = join(dir, name);
  writeFileSync(path, text);
  return path;
};
const craft = 'demo/turnstone.wanderweg.json';
const calm = JSON.parse(readFileSync('demo/scenarios/calm.json', 'utf8')) as object;

describe('wanderweg check', () => {
  it('finds nothing in the craft put right', () => {
    expect(run('check', craft)).toMatchObject({ code: 0, out: 'Turnstone 1600: no findings.\n' });
  });

  it('exits 1 where flight is blocked, and tells all in JSON', () => {
    const { code, out } = run('check', 'demo/turnstone-as-found.wanderweg.json', '--json');
    expect(code).toBe(1);
    const result = JSON.parse(out) as { blocksFlight: boolean; findings: { id: string }[] };
    expect(result.blocksFlight).toBe(true);
    expect(result.findings.map((f) => f.id)).toContain('return-below-ridge');
  });

  it.each([
    ['a file that is not there', 'none.json', null],
    ['a file that is not JSON', 'x.json', 'hello'],
    [
      'a setting out of range',
      'y.json',
      readFileSync(craft, 'utf8').replace(/"nav.speed": [\d.]+/, '"nav.speed": 900'),
    ],
  ])('exits 2 with a sentence for %s', (_name, name, text) => {
    const path = text === null ? join(dir, name) : file(name, text);
    const { code, err, out } = run('check', path);
    expect(code).toBe(2);
    expect(out).toBe('');
    expect(err).toMatch(/\.\n$/);
    expect(err).not.toContain('at ');
  });
});

describe('wanderweg overlay', () => {
  it('draws what stands over the picture, and exits 0 where nothing is wrong with it', () => {
    const { code, out } = run('overlay', craft);
    expect(code).toBe(0);
    expect(out).toContain('system = "ouzel"');
    // Rows as wide as the grid, between two edges.
    expect(out.match(/^\|.{53}\|$/gm)).toHaveLength(20);
    expect(out).toContain('H1305m');
  });

  it('names what shares cells and what lies outside, and exits 1', () => {
    const { code, out } = run('overlay', 'demo/turnstone-as-found.wanderweg.json');
    expect(code).toBe(1);
    expect(out).toMatch(/^overlap {4}Arrow and mode share cells\. Return home takes 11/m);
    const told = JSON.parse(run('overlay', 'demo/turnstone-as-found.wanderweg.json', '--json').out) as {
      layouts: { problems: { kind: string }[]; picture: string[] }[];
    };
    expect(told.layouts[0]!.problems.map((p) => p.kind)).toContain('outside');
    expect(told.layouts[0]!.picture).toHaveLength(20);
  });

  it('carries it to another grid, and refuses one that is none', () => {
    const { code, out } = run('overlay', craft, '--system', 'analogue-525');
    expect(code).toBe(0);
    expect(out.match(/^\|.{30}\|$/gm)).toHaveLength(13);
    expect(run('overlay', craft, '--system', 'moon')).toMatchObject({ code: 2, out: '' });
    expect(run('overlay', 'demo/ruff.wanderweg.json')).toMatchObject({ code: 2, out: '' });
  });
});

describe('wanderweg before', () => {
  it('tells what is proven and what is to do, in the order of the walk, and exits 1 while anything is', () => {
    const { code, out } = run('before', craft);
    expect(code).toBe(1);
    expect(out).toMatch(/^At home\n {2}proven {3}Nothing stands in its way/);
    expect(out).toMatch(/to do {4}Tilt it to the right: Left aileron up, right aileron down\./);
    expect(out).toMatch(/Turnstone 1600: \d+ to do, next: The board has it\.\n$/);
    const told = JSON.parse(run('before', craft, '--json').out) as {
      left: number;
      lines: { id: string; place: string; state: string }[];
    };
    expect(told.left).toBeGreaterThan(10);
    expect(told.lines.map((l) => l.place)).toEqual([...told.lines.map((l) => l.place)].sort(byPlace));
  });

  it('begins with what blocks flight', () => {
    const { code, out } = run('before', 'demo/turnstone-as-found.wanderweg.json');
    expect(code).toBe(1);
    expect(out).toMatch(
      /BLOCKED {2}What stands in its way: .*The return height is 254 m below the highest ground/,
    );
  });

  it('exits 2 with a sentence for a file that is none', () => {
    expect(run('before', file('z.json', 'hello'))).toMatchObject({
      code: 2,
      err: expect.stringMatching(/is not JSON/),
    });
  });
});

const places = ['bench', 'strip', 'throw', 'first', 'landed'];
const byPlace = (a: string, b: string) => places.indexOf(a) - places.indexOf(b);

describe('the board of a craft', () => {
  const on = (target: string, change: object = {}) => {
    const whole = JSON.parse(readFileSync(craft, 'utf8')) as { board: object; settings: object };
    return file(
      `${target}.json`,
      JSON.stringify({
        ...whole,
        board: { ...whole.board, target },
        settings: { ...whole.settings, ...change },
      }),
    );
  };

  it('is the one its findings are about', () => {
    const tenth = { 'out.4.drives': 'nothing', 'out.10.drives': 'elevator' };
    const cannot = run('check', on('fell-f7', tenth));
    expect(cannot.code).toBe(1);
    expect(cannot.out).toContain('Output 10 drives the elevator, and Fell F7 has no output 10');
    expect(run('check', on('massif-h7-b', tenth)).out).not.toContain('output 10');
  });

  it('is told when nobody here knows it, before anything is flown', () => {
    const result = run('rehearse', on('granite-x1'), file('calm.json', JSON.stringify(calm)), '--once');
    expect(result.code).toBe(2);
    expect(result.err).toContain('is for a board "granite-x1", which is not known here');
  });
});

describe('wanderweg rehearse', () => {
  it('flies home, exits 0, and writes result and track', () => {
    const gpx = join(dir, 'out.gpx');
    const { code, out } = run('rehearse', craft, 'demo/scenarios/calm.json', '--json', '--gpx', gpx);
    expect(code).toBe(0);
    const result = JSON.parse(out) as {
      verdict: string;
      track: unknown[];
      lostLink: { atS: number; state: string }[];
      others: { seed: number; verdict: string }[];
      luck: string | null;
    };
    expect(result.verdict).toBe('home');
    expect(Object.keys(result)).toEqual([
      'verdict',
      'reason',
      'cause',
      'causeAtS',
      'settings',
      'margins',
      'near',
      'seconds',
      'endDistanceM',
      'closestM',
      'usedWh',
      'lostLink',
      'decisions',
      'track',
      'others',
      'luck',
    ]);
    expect(result.others).toHaveLength(4);
    expect(result.luck).toBeNull();
    expect(result.lostLink.find((s) => s.state === 'acting')!.atS).toBeGreaterThan(180);
    expect(readFileSync(gpx, 'utf8').match(/<trkpt /g)).toHaveLength(result.track.length);
  });

  it('flies over a terrain tile of one’s own, and refuses one that is none', () => {
    const short = file(
      'over-tile.json',
      JSON.stringify({
        ...calm,
        outbound: { bearingDeg: 90, distanceM: 400, heightM: 80 },
        events: [],
        limitS: 20,
      }),
    );
    const tile = run('rehearse', craft, short, '--json', '--terrain', 'demo/terrain/N61W013.hgt');
    expect((JSON.parse(tile.out) as { verdict: string }).verdict).toBe('timeout');
    const none = run('rehearse', craft, short, '--terrain', 'README.md');
    expect(none.code).toBe(2);
    expect(none.err).toMatch(/README\.md cannot be used as terrain: .*Nothing was flown\./);
  });

  it('writes the flight log of the board, which tells how it went', () => {
    const brief = file(
      'brief.json',
      JSON.stringify({ ...calm, events: [{ atS: 20, do: 'link-lost' }], limitS: 40 }),
    );
    const log = join(dir, 'flight.cbor');
    expect(run('rehearse', craft, brief, '--log', log).code).toBe(1);
    const { code, out } = run('log', log);
    expect(code).toBe(0);
    expect(out).toMatch(/^Flight 1 on Pfad 3\.2: 0:4\d, 4\d\d samples of \d+ numbers\.\n/);
    expect(out).toMatch(/ 0:2\d {2}Nothing from the transmitter for .* s: the link is lost\.\n/);
    const all = JSON.parse(run('log', log, '--json').out) as {
      told: Record<string, number[]>;
      settings: Record<string, unknown>;
    };
    // What it was flown by, as far as it is not the firmware's own default.
    const flown = JSON.parse(readFileSync(craft, 'utf8')).settings;
    expect(all.settings['return.height']).toBe(flown['return.height']);
    expect(Object.keys(all.settings).length).toBeLessThan(200);
    const height = all.told.height!;
    expect(height.at(-1)! - height[0]!).toBeGreaterThan(20);
    expect(run('log', craft)).toMatchObject({ code: 2, err: expect.stringContaining('holds no track') });
  });

  it('exits 1 when it does not come home', () => {
    const { code, out } = run(
      'rehearse',
      craft,
      file('short.json', JSON.stringify({ ...calm, events: [], limitS: 15 })),
    );
    expect(code).toBe(1);
    expect(out).toMatch(/^Still out\./);
  });

  it.each([
    ['outside Torvholm', { home: { lat: 10, lon: 10, heightM: 0 } }, 'Torvholm'],
    ['in 90 m/s of wind', { wind: { speedMps: 90, fromDeg: 0, gustMps: 0 } }, '40 m/s'],
  ])('exits 2 for a scenario %s', (_name, edit, part) => {
    const { code, err } = run('rehearse', craft, file('bad.json', JSON.stringify({ ...calm, ...edit })));
    expect(code).toBe(2);
    expect(err).toContain(part);
  });

  it('says how it is used', () => {
    expect(run().code).toBe(2);
    expect(run('--help').code).toBe(0);
    expect(run('dance').code).toBe(2);
    expect(run('check', craft, '--nonsense').code).toBe(2);
  });
});
