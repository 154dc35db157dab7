import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '../../firmware/catalogue.ts';
import { prepared } from '../../testing/aloft.ts';
import { demoCraft, torvholm } from '../../testing/demoCraft.ts';
import { avocet, knot, turnstone } from '../airframe/library.ts';
import { truthFromSettings } from '../formats/benchTruth.ts';
import { parseScenario, type Scenario } from '../formats/scenario.ts';
import type { Values } from '../settings/catalogue.ts';
import { type FailCell, failCellSchema, pairOf } from './failCell.ts';
import { canFail, endOf, type FailWorld, failScenario, failsAt, faultName } from './failTable.ts';
import { faultIds, phaseIds } from './ids.ts';
import { isFresh, pairPrint, pairsOf, pairsToFly } from './prints.ts';
import { remediesOf } from './remedies.ts';

const scenario: Scenario = {
  seed: 7,
  home: torvholm.home,
  wind: { speedMps: 5, fromDeg: 230, gustMps: 1 },
  outbound: { bearingDeg: 50, distanceM: 2500, heightM: 120 },
  events: [{ atS: 180, do: 'link-lost' }],
  limitS: 1500,
};
const worldOf = (airframe = turnstone, change: Values = {}): FailWorld => {
  const values = prepared(airframe, change);
  return { airframe, values, truth: truthFromSettings(airframe, values), site: torvholm, scenario };
};
const TARGET = 'fell-f7';
const flown = (world: FailWorld): Record<string, FailCell> =>
  Object.fromEntries(
    pairsOf(world).map((p) => [
      pairOf(p),
      {
        ...p,
        print: pairPrint(world, TARGET, p),
        verdict: 'home' as const,
        reason: 'Circles.',
        seconds: 300,
        decisions: [],
      },
    ]),
  );

describe('the table of failures', () => {
  it('has at least twelve rows by five for a craft with everything, and leaves out what a craft has not', () => {
    const craft = demoCraft('turnstone');
    const turn: FailWorld = { ...worldOf(), truth: craft.bench! };
    expect(new Set(pairsOf(turn).map((p) => p.fault)).size).toBeGreaterThanOrEqual(12);
    expect(phaseIds).toHaveLength(5);
    const world = worldOf(avocet);
    expect(canFail('surface', world)).toBe(false);
    expect(pairsOf(world).map((p) => p.fault)).not.toContain('airspeed');
  });

  it('every pair is a flight that can be read, in which it fails and the link is lost', () => {
    for (const airframe of [turnstone, knot, avocet]) {
      const world = worldOf(airframe);
      for (const fault of faultIds)
        for (const phase of phaseIds) {
          const s = failScenario(world, fault, phase);
          const read = parseScenario(s, torvholm);
          expect(read.ok, `${fault} ${phase}`).toBe(true);
          expect(s.events.filter((e) => e.do === 'link-lost')).toHaveLength(1);
          if (fault === 'nothing' || fault === 'receiver') continue;
          expect(
            s.events.some((e) => e.atS === failsAt(phase) && (e.do === 'fault' || e.do === 'wind')),
          ).toBe(true);
          // It has to live with it for a while before it is home.
          expect(Math.max(...s.events.map((e) => e.atS))).toBeGreaterThan(failsAt(phase) + 100);
        }
    }
  });

  it('blows as fast as the craft flies at the height it flies at', () => {
    const wind = failScenario(worldOf(turnstone, { 'return.speed': 18 }), 'wind', 'out').events.find(
      (e) => e.do === 'wind',
    );
    expect(wind?.do === 'wind' && wind.fromDeg).toBe(230);
    expect(wind?.do === 'wind' && wind.speedMps).toBeGreaterThan(10);
  });

  it('names its rows by the craft', () => {
    expect(faultName('motor', turnstone)).toBe('one motor stops');
    expect(faultName('motor', knot)).not.toBe(faultName('motor', avocet));
  });

  it('sorts ends into home, down and lost', () => {
    expect([endOf('home'), endOf('elsewhere'), endOf('terrain')]).toEqual(['home', 'down', 'lost']);
  });
});

describe('what an edit makes stale', () => {
  const world = worldOf();
  const cells = flown(world);
  const toFly = (change: Values, w = world) =>
    pairsToFly({ ...w, values: { ...w.values, ...change } }, TARGET, cells);

  it('is nothing while nothing changes, and all with another craft or site', () => {
    expect(toFly({})).toEqual([]);
    expect(toFly({}, { ...world, airframe: { ...turnstone, massKg: 2.4 } })).toHaveLength(
      pairsOf(world).length,
    );
    expect(pairsToFly(world, 'massif-h7-b', cells)).toHaveLength(pairsOf(world).length);
  });

  it('is every flight by what all are flown with', () => {
    expect(toFly({ 'rate.roll.p': 0.123 })).toHaveLength(pairsOf(world).length);
  });

  it('is only the launches by how it is launched', () => {
    const stale = toFly({ 'launch.pitch': 20 });
    expect(stale.length).toBeGreaterThan(5);
    expect(new Set(stale.map((p) => p.phase))).toEqual(new Set(['launch']));
  });

  it('is none by turning over, hovering or a landing that is not flown', () => {
    expect(toFly({ 'flip.power': 0.5, 'hover.tilt': 20, 'land.slope': 7 })).toEqual([]);
    expect(toFly({ 'return.arrival': 'land' })).toHaveLength(pairsOf(world).length);
  });

  it('is told of one cell', () => {
    const cell = cells['gyro/out'];
    expect(isFresh(cell, world, TARGET)).toBe(true);
    expect(isFresh({ ...cell!, print: 'otherwise' }, world, TARGET)).toBe(false);
    expect(isFresh(undefined, world, TARGET)).toBe(false);
  });

  it('keeps cells that can be read again', () => {
    for (const c of Object.values(cells)) expect(failCellSchema.safeParse(c).success).toBe(true);
  });
});

describe('remedies', () => {
  it('are settings that the board takes', () => {
    for (const airframe of [turnstone, avocet])
      for (const fault of faultIds)
        for (const r of remediesOf(fault, worldOf(airframe)))
          for (const [key, value] of Object.entries(r.edits))
            expect(pfadCatalogue.checkValue(key, value), `${fault} ${key}`).toBeNull();
  });

  it('are none where it is set so already', () => {
    expect(remediesOf('jammed', worldOf(turnstone, { 'lost.blind': 300 }))).toEqual([]);
    expect(remediesOf('jammed', worldOf(turnstone, { 'lost.blind': 45 }))).toHaveLength(1);
    expect(remediesOf('gyro', worldOf())).toEqual([]);
  });
});
