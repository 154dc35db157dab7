import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Rehearsal } from '#bench/rehearsal.ts';
import { windAtHeight } from '#core/flight/wind.ts';
import { usualScenario } from '#core/formats/scenario.ts';
import { lastSeenSchema } from '#core/search/lastSeen.ts';
import type { Telemetry } from '#core/wire/telemetry.ts';
import { flyableDemo, torvholm } from '../../../../testing/demoCraft.ts';
import { clearTelemetry, takeTelemetry } from '../../../live/telemetry.ts';
import { fromBoard, fromRehearsal, toBeTyped } from './lastWord.ts';

const { home } = torvholm;
const scenario = usualScenario(home);
const navigation: Telemetry['navigation'] = {
  satellites: 12,
  hasFix: true,
  latitude: home.lat + 0.01,
  longitude: home.lon,
  height: home.heightM + 80,
  groundSpeed: 14,
  course: 1.2,
  airspeed: 15,
  homeSet: true,
  homeDistance: 1110,
};
type Estimates = Telemetry['estimates'];
const estimates = (wind: Partial<Estimates['wind']>, accuracy = 2.5): Estimates =>
  ({
    position: { health: 'good', accuracy },
    wind: { health: 'good', north: 0, east: 0, ...wind },
  }) as unknown as Estimates;
const charge = (leftMah: number | null) => ({ leftMah }) as unknown as Telemetry['charge'];

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['performance'] });
  clearTelemetry();
});
afterEach(() => vi.useRealTimers());

describe('what is known last of a craft, from its board', () => {
  it('is nothing without a place, or where the board is no longer heard', () => {
    expect(fromBoard(scenario, home)).toBeNull();
    takeTelemetry('navigation', { ...navigation, hasFix: false }, 1);
    expect(fromBoard(scenario, home)).toBeNull();
    takeTelemetry('navigation', navigation, 2);
    expect(fromBoard(scenario, home)).toMatchObject({
      lat: navigation.latitude,
      speedMps: 14,
      courseRad: 1.2,
    });
    vi.advanceTimersByTime(2000);
    expect(fromBoard(scenario, home)).toBeNull();
  });

  it('climbs as its height went, over the last seconds only', () => {
    for (let s = 0; s <= 10; s++)
      takeTelemetry('navigation', { ...navigation, height: s < 6 ? 500 : 300 - 3 * s }, s);
    expect(fromBoard(scenario, home)!.climbMps).toBeCloseTo(-3, 9);
  });

  it('feels the wind that it flies in, told for ten metres; else the day’s', () => {
    takeTelemetry('navigation', navigation, 1);
    expect(fromBoard(scenario, home)).toMatchObject({ windMps: scenario.wind.speedMps });
    // It blows to the south and east: from the north-west.
    takeTelemetry('estimates', estimates({ north: -3, east: 3 }), 1);
    const seen = fromBoard(scenario, home)!;
    expect(seen.windFromRad).toBeCloseTo(-Math.PI / 4, 9);
    expect(windAtHeight(seen.windMps, 80)).toBeCloseTo(Math.hypot(3, 3), 6);
    takeTelemetry('estimates', estimates({ health: 'lost', north: -3, east: 3 }), 2);
    expect(fromBoard(scenario, home)).toMatchObject({ windMps: scenario.wind.speedMps });
  });

  it('has the battery that its board counts, and none where it counts none', () => {
    takeTelemetry('navigation', navigation, 1);
    expect(fromBoard(scenario, home)).not.toHaveProperty('batteryShare');
    takeTelemetry('charge', charge(1500), 1);
    takeTelemetry('power', { supplyV: 15, currentA: 9, usedMah: 3500, servoRailV: 5 }, 1);
    expect(fromBoard(scenario, home)!.batteryShare).toBeCloseTo(0.3, 9);
    takeTelemetry('charge', charge(null), 2);
    expect(fromBoard(scenario, home)).not.toHaveProperty('batteryShare');
  });

  it('is something that a search takes, however bad the accuracy', () => {
    takeTelemetry('navigation', navigation, 1);
    for (const [i, accuracy] of [0, 3, 1e6].entries()) {
      takeTelemetry('estimates', estimates({}, accuracy), 2 + i);
      expect(lastSeenSchema.safeParse(fromBoard(scenario, home)).success, String(accuracy)).toBe(true);
    }
  });
});

describe('what is known last of a craft, from a rehearsal', () => {
  const fly = (events: (typeof scenario)['events']) => {
    const flown = { ...scenario, limitS: 150, events };
    const flight = new Rehearsal({ ...flyableDemo('turnstone'), scenario: flown, site: torvholm });
    while (!flight.advance(1000));
    return { result: flight.result!, flown };
  };

  it('is where its link was lost, and how it flew there', () => {
    const { result, flown } = fly([{ atS: 60, do: 'link-lost' }]);
    const { seen, by } = fromRehearsal(result, flown);
    expect(by).toContain('where its link was lost');
    const noticed = result.lostLink.find((s) => s.state === 'noticed')!;
    expect(noticed.atS).toBeGreaterThan(60);
    const near = result.track.find((p) => p.atS >= noticed.atS)!;
    expect([seen.lat, seen.lon, seen.heightM]).toEqual([near.lat, near.lon, near.heightM]);
    expect(seen.windMps).toBe(flown.wind.speedMps);
    expect(Math.abs(seen.climbMps)).toBeLessThan(6);
    expect(lastSeenSchema.parse(seen)).toEqual(seen);
  });

  it('is its end where the link held', () => {
    const { result, flown } = fly([]);
    const { seen, by } = fromRehearsal(result, flown);
    expect(by).toBe('the end of the rehearsal');
    const last = result.track.at(-1)!;
    expect([seen.lat, seen.lon]).toEqual([last.lat, last.lon]);
  });
});

it('a beginning for what is typed is above home, and something that a search takes', () => {
  const seen = toBeTyped(scenario, home);
  expect(seen).toMatchObject({ lat: home.lat, lon: home.lon, speedMps: 0 });
  expect(seen.heightM).toBeGreaterThan(home.heightM);
  expect(lastSeenSchema.parse(seen)).toEqual(seen);
});
