import { describe, expect, it } from 'vitest';
import { turnstone } from '../airframe/library.ts';
import { stallSpeed } from '../airframe/performance.ts';
import type { LoggedSeries } from '../formats/flightLog.ts';
import { eastOf, northOf } from '../navigation/earth.ts';
import { compared } from './compare.ts';
import { type Flown, flownOfLog, indexAt, lastsS, modeRuns, toldNames } from './flown.ts';
import { flownFile } from './flownFiles.ts';
import { inTheAir } from './inTheAir.ts';
import { openFlown } from './openFlown.ts';
import { drawnMah, fromHome } from './series.ts';
import { figuresOf, resistanceOf } from './summary.ts';
import { surprisesOf } from './surprises.ts';
import { readTrack } from './trackIn.ts';

const home = { lat: 61.9, lon: -12.43 };
const HZ = 10;
const CIRCLE_M = 200;
const SPEED = 16;

type Row = Partial<Record<(typeof toldNames)[number] | 'mode', number>>;

/** Ten seconds on the ground, a hundred on a circle, ten on the ground: by a closed form. */
function logged(change: (t: number) => Row = () => ({}), seconds = 120): LoggedSeries {
  const fields = ['seconds', 'mode', ...toldNames];
  const samples = Array.from({ length: seconds * HZ }, (_, k) => {
    const t = k / HZ;
    const flies = t >= 10 && t < seconds - 10;
    const turned = (flies ? (t - 10) * SPEED : 0) / CIRCLE_M;
    const usual: Row = {
      ...{ mode: 0, roll: flies ? 0.1 : 0, pitch: 0, yaw: turned },
      north: CIRCLE_M * Math.sin(turned),
      east: CIRCLE_M * (1 - Math.cos(turned)),
      ...{ height: flies ? 180 : 120, climb: 0, airspeed: flies ? SPEED : 0 },
      velocityNorth: flies ? SPEED * Math.cos(turned) : 0,
      velocityEast: flies ? SPEED * Math.sin(turned) : 0,
      ...{ windNorth: 0, windEast: 3, throttle: 0.5, supplyV: 15.5, currentA: 9, satellites: 14 },
      ...{ accuracy: 1.5, quality: 1, command: 0.3, shake: 4, compassOff: 0.05, homeNorth: 0, homeEast: 0 },
    };
    const row: Row = { ...usual, ...change(t) };
    return fields.map((f) => (f === 'seconds' ? 100 + t : row[f as keyof Row]!));
  });
  return {
    ...{ flight: 3, firmware: 'Pfad 3.2', fields, modes: ['level', 'return'], settings: {}, samples },
    ...{ decisions: [{ atS: 160, text: 'Mode: Return home.' }], gyro: [], origin: home },
  };
}

const flown = (change?: (t: number) => Row, seconds?: number): Flown => {
  const f = flownOfLog(logged(change, seconds), home, 'flight 3');
  if (typeof f === 'string') throw new Error(f);
  return f;
};
const judged = (f: Flown) =>
  surprisesOf(f, {
    airframe: turnstone,
    groundM: new Float64Array(f.seconds.length).fill(120),
    units: 'metric',
  });

describe('a flight that was flown', () => {
  it('is columns in the order of time: what runs backwards is left out, what is missing counted', () => {
    const log = logged();
    const jumbled = [...log.samples];
    [jumbled[500], jumbled[501]] = [jumbled[501]!, jumbled[500]!];
    jumbled.splice(700, 60);
    const f = flownOfLog({ ...log, samples: jumbled }, home, 'x') as Flown;
    expect(f.dropped).toBe(1);
    expect(f.gaps).toBe(1);
    expect(f.seconds.every((s, i) => i === 0 || s > f.seconds[i - 1]!)).toBe(true);
    expect(lastsS(f)).toBeCloseTo(119.9, 6);
    expect(f.decisions[0]!.atS).toBe(60);
    expect(flownOfLog({ ...log, samples: [] }, home, 'x')).toContain('fewer than two moments');
    expect(flownOfLog({ ...log, fields: ['north'] }, home, 'x')).toBe('tells no time');
  });

  it('finds a moment by halving as by looking at each', () => {
    const f = flown();
    for (const t of [-1, 0, 0.05, 33.33, 119.9, 500]) {
      const last = f.seconds.findLastIndex((s) => s <= t);
      expect(indexAt(f.seconds, t)).toBe(Math.max(0, last));
    }
  });

  it('flies from its take-off to its landing, and tells figures as the closed form has them', () => {
    const f = flown((t) => ({ mode: t > 60 ? 1 : 0 }));
    const air = inTheAir(f)!;
    expect(f.seconds[air.from]).toBeCloseTo(10, 1);
    expect(f.seconds[air.to]).toBeCloseTo(109.9, 1);
    const figures = figuresOf(f);
    expect(figures.seconds).toBeCloseTo(99.9, 1);
    // A chord a moment is shorter than its arc by less than 1e-4.
    expect(figures.wayM).toBeCloseTo(SPEED * 99.9, -1);
    expect(figures).toMatchObject({ farthestM: 2 * CIRCLE_M, highestM: 60, windMps: 3, leastV: 15.5 });
    // 9 A for 119.9 s.
    expect(figures.drawnMah).toBe(Math.round((9 * 119.9) / 3.6));
    expect(drawnMah(f)!.at(-1)).toBeCloseTo((9 * 119.9) / 3.6, 6);
    expect(figures.stamp.length).toBe(120);
    expect(Math.max(...fromHome(f)!)).toBeCloseTo(2 * CIRCLE_M, 0);
    expect(modeRuns(f)).toEqual([
      { mode: 'level', from: 0, to: 601 },
      { mode: 'return', from: 601, to: 1200 },
    ]);
    expect(inTheAir(flown(() => ({ velocityNorth: 0, velocityEast: 0 })))).toBeNull();
  });

  it('tells the resistance of its battery by how the supply answers to the current', () => {
    const f = flown((t) => {
      const currentA = 8 + 6 * Math.sign(Math.sin(t));
      return { currentA, supplyV: 16.4 - 0.003 * t - 0.038 * currentA };
    });
    expect(resistanceOf(f)).toBeCloseTo(0.038, 3);
    expect(resistanceOf(flown())).toBeNull();
  });
});

describe('what surprised', () => {
  it('is nothing in a flight as one would wish it', () => {
    expect(judged(flown())).toEqual([]);
  });

  const within = (t: number) => t >= 50 && t < 54;
  const stall = stallSpeed(turnstone);
  it.each<[string, Row, RegExp]>([
    ['place', { satellites: 4 }, /4 satellites, good to 2 m; 7 and 4 m are wanted/],
    ['place', { accuracy: 9 }, /good to 9 m/],
    ['link', { quality: 0.2 }, /20 % was heard/],
    ['shake', { shake: 33 }, /33 m\/s² rms/],
    ['compass', { compassOff: -0.6 }, /34° off the heading it flew by, at 9 A/],
    ['stall', { airspeed: 1.05 * stall }, /at 6° of bank, where it stalls at/],
    ['saturated', { command: 1 }, /100 % of what roll, pitch or yaw can ask for/],
    ['sag', { supplyV: 12.8, currentA: 30 }, /3\.2 V a cell under 30 A; 3\.4 V is the least/],
    ['low', { height: 131 }, /11 m over it/],
  ])('names %s with its worst moment and its figure', (kind, row, words) => {
    const found = judged(flown((t) => (within(t) ? row : {})));
    expect(found.map((s) => s.kind)).toContain(kind);
    const s = found.find((x) => x.kind === kind)!;
    expect(s.words).toMatch(words);
    expect(s.fromS).toBeCloseTo(50, 0);
    expect(s.toS).toBeLessThan(54.2);
  });

  it('holds a stall against the bank, and what lasts a moment against nobody', () => {
    const speed = 1.25 * stall;
    const at = (roll: number, lastS: number) =>
      judged(flown((t) => (t >= 50 && t < 50 + lastS ? { airspeed: speed, roll } : {}))).map((s) => s.kind);
    expect(at(0, 4)).not.toContain('stall');
    // At 60 degrees it carries twice its weight: it stalls at 1.41 times the speed.
    expect(at(Math.PI / 3, 4)).toContain('stall');
    expect(at(Math.PI / 3, 0.2)).not.toContain('stall');
  });

  it('sees a jump of the place, a fence that is near or broken, and wind; once a kind, with when again', () => {
    const jumps = judged(flown((t) => (Math.abs(t - 50.05) < 0.01 || t === 50 ? { north: 900 } : {})));
    expect(jumps.find((s) => s.kind === 'jump')!.words).toMatch(/^by \d+ m from one moment to the next/);
    const f = flown();
    const fence = (radiusM: number) =>
      surprisesOf(f, {
        airframe: turnstone,
        plan: {
          ...{ points: [], end: 'return' },
          fences: [{ name: 'The field', keep: 'in', area: { ...home, radiusM }, fromM: 0, toM: 0 }],
        },
        groundM: new Float64Array(f.seconds.length),
        units: 'metric',
      }).find((s) => s.kind === 'fence');
    expect(fence(900)).toBeUndefined();
    expect(fence(2 * CIRCLE_M + 10)!.words).toBe('10 m of room were left');
    expect(fence(CIRCLE_M)!.words).toContain('it was outside The field');
    const wind = judged(flown((t) => (within(t % 40) || within((t % 40) + 10) ? { windNorth: 14 } : {})));
    expect(wind.every((s) => s.kind === 'wind')).toBe(true);
    const twice = judged(flown((t) => (within(t) || within(t - 30) ? { shake: 30 } : {})));
    expect(twice).toHaveLength(1);
    expect(twice[0]!.again).toHaveLength(1);
  });
});

describe('two flights beside each other', () => {
  it('are laid over each other by take-off, or by likeness where that is much better', () => {
    const f = flown();
    expect(compared(f, f, 'metric')).toMatchObject({
      offsetS: 0,
      by: 'take-off',
      apartM: { mean: 0, most: 0 },
    });
    // The same flight, armed twenty seconds before.
    const late = flownOfLog(
      {
        ...logged(),
        samples: [...logged(() => ({}), 240).samples.slice(0, 1)].concat(
          logged().samples.map((s) => [s[0]! + 20, ...s.slice(1)]),
        ),
      },
      home,
      'late',
    ) as Flown;
    const c = compared(f, late, 'metric');
    expect(c.offsetS).toBeCloseTo(20, 0);
    expect(c.apartM!.mean).toBeLessThan(3);
  });

  it('tell what was other in figures', () => {
    const c = compared(
      flown(),
      flown(() => ({ currentA: 12, airspeed: 18 })),
      'metric',
    );
    const fact = (name: string) => c.facts.find((x) => x.name === name);
    expect(fact('drawn')!.share).toBeCloseTo(1 / 3, 2);
    expect(fact('mean airspeed')).toMatchObject({ second: '18 m/s' });
    expect(
      compared(
        flown(),
        flown(() => ({ currentA: Number.NaN })),
        'metric',
      ).facts.map((x) => x.name),
    ).not.toContain('mean current');
  });
});

describe('files of a flight', () => {
  const start = Date.UTC(2026, 5, 1, 9);
  const places = (f: Flown) =>
    Array.from(f.told.north!, (n, i) => [
      n + northOf(home.lat, f.origin.lat),
      f.told.east![i]! + eastOf(home.lat, home.lon, f.origin.lon),
    ]);

  it.each(['gpx', 'kml', 'geojson'] as const)('goes out as %s and comes in the same', (format) => {
    const f = flown();
    const text = flownFile(f, 'Turnstone & "friends"', format, start);
    const read = readTrack(text, `a.${format}`);
    if (format === 'kml') {
      // Lines of it stand in the air with the time of each as a whole: no moment of a place is told.
      expect(read).toMatchObject({ ok: false, why: expect.stringContaining('without times') });
      expect(text).toContain('<TimeSpan><begin>2026-06-01T09:00:00.000Z');
      return;
    }
    if (!read.ok) throw new Error(read.why);
    expect(read.startMs).toBe(start);
    expect(read.flown.seconds.length).toBe(f.seconds.length);
    const [a, b] = [places(f), places(read.flown)];
    for (let i = 0; i < a.length; i += 97)
      expect(Math.hypot(a[i]![0]! - b[i]![0]!, a[i]![1]! - b[i]![1]!)).toBeLessThan(0.05);
    // Speeds that follow from places agree with those that were told.
    expect(read.flown.told.velocityNorth![400]).toBeCloseTo(f.told.velocityNorth![400]!, 0);
  });

  it('goes out as a table that tells all, empty where a number is none', () => {
    const lines = flownFile(
      flown((t) => (t > 50 ? { compassOff: Number.NaN } : {})),
      'x',
      'csv',
      0,
    ).split('\r\n');
    expect(lines[0]!.split(',')).toEqual(['seconds', 'mode', 'lat', 'lon', ...toldNames]);
    expect(lines).toHaveLength(1202);
    const last = lines[1200]!.split(',');
    expect(last[1]).toBe('level');
    expect(last[lines[0]!.split(',').indexOf('compassOff')]).toBe('');
  });
});

describe('tracks of others', () => {
  /** Sentences as a receiver writes them, with their sums. */
  const sentence = (body: string) => {
    const sum = [...body].reduce((x, c) => x ^ c.charCodeAt(0), 0);
    return `$${body}*${sum.toString(16).toUpperCase().padStart(2, '0')}\r\n`;
  };
  const nmea = (clock: readonly string[]) =>
    clock
      .map(
        (t, k) =>
          sentence(
            `GNRMC,${t},A,6154.${String(10 + k).padStart(5, '0')},N,01225.80000,W,20.0,10.0,010626,,,A`,
          ) +
          sentence(
            `GNGGA,${t},6154.${String(10 + k).padStart(5, '0')},N,01225.80000,W,1,11,0.9,150.0,M,0.0,M,,`,
          ),
      )
      .join('');

  it('come as NMEA, over midnight, and with time that runs backwards', () => {
    const read = readTrack(nmea(['235958.00', '235959.00', '000000.00', '000001.00']), 'a.nmea');
    if (!read.ok) throw new Error(read.why);
    expect(read.startMs).toBeNull();
    expect(Array.from(read.flown.seconds)).toEqual([0, 1, 2, 3]);
    expect(read.flown.told.satellites![0]).toBe(11);
    const back = readTrack(nmea(['100000.00', '100001.00', '095950.00', '100002.00']), 'a.nmea');
    expect(back.ok && back.flown.dropped).toBe(1);
  });

  it.each([
    ['', /no track that is known/],
    ['holiday', /no track that is known/],
    ['<gpx', /damaged/],
    ['<!DOCTYPE x [<!ENTITY a "b">]><gpx/>', /definitions of its own/],
    ['<svg xmlns="http://www.w3.org/2000/svg"/>', /XML of another kind: svg/],
    ['{"type":', /broken off or damaged/],
    ['{"type":"FeatureCollection","features":null}', /holds no track/],
    [
      '{"type":"FeatureCollection","features":[{"geometry":{"type":"LineString","coordinates":[[1,2],[3,4]]}}]}',
      /a line without times/,
    ],
    [
      '$GNRMC,100000.00,A,6154.00,N,01225.80000,W,20.0,10.0,010626,,,A*00\r\n',
      /none is whole: 1 are damaged|none is whole/,
    ],
  ])('are refused with a sentence and nothing taken: %s', (text, why) => {
    const read = readTrack(text, 'a');
    expect(read.ok).toBe(false);
    expect(!read.ok && read.why).toMatch(why);
    expect(!read.ok && read.why).toMatch(/Nothing was taken\.$/);
  });

  it('are opened by what they are, and bytes that are nothing are told', () => {
    expect(
      openFlown(new TextEncoder().encode(nmea(['100000.00', '100001.00'])), 'a.bin', home),
    ).toMatchObject({ ok: true, flight: null });
    expect(openFlown(Uint8Array.of(0xa1, 1, 2, 3), 'a.log', home)).toMatchObject({
      ok: false,
      why: expect.stringContaining('no board that is known'),
    });
    expect(openFlown(Uint8Array.of(0, 1, 2, 3), 'a.log', home)).toMatchObject({ ok: false });
    expect(openFlown(new Uint8Array(0), 'a.log', home)).toMatchObject({ ok: false });
  });
});
