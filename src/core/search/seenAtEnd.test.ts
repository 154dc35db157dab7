import { describe, expect, it } from 'vitest';
import { windAtHeight } from '../flight/wind.ts';
import { flownOfLog } from '../flown/flown.ts';
import type { LoggedSeries } from '../formats/flightLog.ts';
import { latitudeAt, longitudeAt } from '../navigation/earth.ts';
import { seenAtEnd } from './seenAtEnd.ts';

const home = { lat: 61.9, lon: -12.43 };
const fields = [
  'seconds',
  'mode',
  'north',
  'east',
  'height',
  'velocityNorth',
  'velocityEast',
  'climb',
  'windNorth',
  'windEast',
  'throttle',
  'currentA',
];
const sample = (change: Record<string, number> = {}) => {
  const usual: Record<string, number> = {
    ...{
      seconds: 10,
      mode: 1,
      north: 300,
      east: -400,
      height: 150,
      velocityNorth: 0,
      velocityEast: 12,
      climb: -1,
    },
    ...{ windNorth: 0, windEast: 8, throttle: 0.4, currentA: 36 },
    ...change,
  };
  return fields.map((f) => usual[f]!);
};
const log = (samples: readonly (readonly number[])[], more: Partial<LoggedSeries> = {}): LoggedSeries => ({
  ...{ flight: 1, firmware: 'Pfad 3.2', fields, modes: ['level', 'return'], settings: {}, samples },
  ...{ decisions: [], gyro: [], ...more },
});

const seen = (l: LoggedSeries, about = home, capacity?: number) => {
  const flown = flownOfLog(l, about, 'a log');
  return typeof flown === 'string' ? null : seenAtEnd(flown, capacity);
};

describe('what a flight knew last', () => {
  it('is its last sample that tells a place, from its own origin', () => {
    const last = seen(
      log([sample(), sample({ seconds: 11 }), sample({ seconds: 12, north: Number.NaN })], { origin: home }),
      { lat: 0, lon: 0 },
    )!;
    expect(last).toMatchObject({ heightM: 150, speedMps: 12, climbMps: -1, returning: true, throttle: 0.4 });
    expect(last.lat).toBeCloseTo(latitudeAt(home.lat, 300), 9);
    expect(last.lon).toBeCloseTo(longitudeAt(home.lat, home.lon, -400), 9);
    expect(last.courseRad).toBeCloseTo(Math.PI / 2, 9);
    // It blows to the east: from the west; told for 10 m above the ground.
    expect(last.windFromRad).toBeCloseTo(-Math.PI / 2, 9);
    expect(last.windMps).toBeCloseTo(8 / windAtHeight(1, 100), 9);
  });

  it('tells what is left in the battery by the charge that went through', () => {
    // 36 A for 10 s are 100 mAh.
    const last = seen(
      log([sample({ seconds: 0 }), sample({ seconds: 5 }), sample({ seconds: 10 })]),
      home,
      1000,
    )!;
    // A gap of ten seconds and more counts nothing, one of five does.
    expect(last.batteryShare).toBeCloseTo(0.9, 9);
  });

  it('is nothing where no place is told, or one that is nowhere on earth', () => {
    const two = (change = {}) => [sample(change), sample({ seconds: 11, ...change })];
    expect(seen(log([]))).toBeNull();
    expect(seen(log([sample()]))).toBeNull();
    expect(seen(log(two(), { fields: ['seconds'] }))).toBeNull();
    expect(seen(log(two({ north: 1e9 })))).toBeNull();
    expect(seen(log(two({ climb: 1e9, height: -1e9, velocityEast: 1e9 })))).toMatchObject({
      ...{ climbMps: 60, heightM: -100, speedMps: 120 },
    });
  });
});
