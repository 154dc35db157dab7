import { describe, expect, it } from 'vitest';
import { turnstone } from '#core/airframe/library.ts';
import { findAll } from '#core/findings/findings.ts';
import { makeProof, type ProofWorld } from '#core/proofs/proofs.ts';
import type { Seen } from '#core/proofs/seen.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { demoValues } from '../../testing/demoCraft.ts';
import { proofWorld } from '../../testing/proofWorld.ts';
import { legIds, legProgress, legs, madeAt, pathOf, stationOf, stationProgress } from './legs.ts';
import type { ProgressInput } from './station.ts';

const good = demoValues('turnstone');
const stations = legs.flatMap((l) => l.stations);

describe('the walk', () => {
  it('has its seven legs in their order, and each station once, at a place of its own', () => {
    expect(legs.map((l) => l.id)).toEqual([...legIds]);
    expect(legIds).toHaveLength(7);
    expect(new Set(stations.map((s) => s.id)).size).toBe(stations.length);
    expect(new Set(stations.map((s) => s.name)).size).toBe(stations.length);
    for (const l of legs) expect(new Set(l.stations.map((s) => s.place)).size).toBe(l.stations.length);
    expect(pathOf('way-home')).toBe('/return/way-home');
  });

  it('finds every station module, named as its file is', () => {
    const files = Object.keys(import.meta.glob('./*/*.station.ts'));
    expect(files.map((f) => f.replace(/^.*\/(.*)\.station\.ts$/, '$1')).sort()).toEqual(
      stations.map((s) => s.id as string).sort(),
    );
  });

  it('has stations in every leg', () => {
    for (const leg of legs) expect(leg.stations.length, leg.id).toBeGreaterThan(0);
  });

  it('makes settings that there are, each at one station', () => {
    for (const s of stations.filter((x) => x.settings)) {
      const keys = pfadCatalogue.entries.map((e) => e.key).filter((k) => s.settings!.test(k));
      expect(keys, s.id).not.toEqual([]);
      for (const key of keys) expect(madeAt(key)?.id, key).toBe(s.id);
    }
    expect(madeAt('return.height')?.id).toBe('way-home');
    expect(madeAt('no.such')).toBeNull();
  });
});

describe('progress on the trail', () => {
  const input: ProgressInput = {
    world: proofWorld('turnstone', { airframe: turnstone, values: good }),
    proofs: [],
    findings: [],
    started: true,
    boardMet: true,
    kept: true,
    pendingKeys: [],
    boardName: null,
    units: 'metric' as const,
    has: () => true,
  };

  it('is open where the board has not what the station sets, and wherever else it stands', () => {
    const lacking = { ...input, has: (key: string) => key !== 'lost.action' };
    expect(stationProgress(stationOf('lost-link'), input)).toBe('set');
    expect(stationProgress(stationOf('lost-link'), lacking)).toBe('open');
    expect(stationProgress(stationOf('way-home'), lacking)).toBe('set');
  });

  it('is open until something was seen, proven then, and stale when what it rests on changes', () => {
    const seen = [1, 2, 3, 4, 5, 6].map((n) =>
      makeProof(
        {
          kind: 'moved',
          output: n,
          actuator: good[`out.${n}.drives`] as 'rudder',
          first: n < 3 ? 'turned' : 'down',
        },
        input.world,
        '2026-06-01T09:00:00Z',
      ),
    );
    expect(stationProgress(stationOf('which-moved'), input)).toBe('open');
    // An output that nobody asked may move something with a stick as well.
    expect(stationProgress(stationOf('which-moved'), { ...input, proofs: seen })).toBe('open');
    for (const { output } of input.world.description!.pads.slice(6))
      seen.push(makeProof({ kind: 'still', output }, input.world, '2026-06-01T09:00:00Z'));
    expect(stationProgress(stationOf('which-moved'), { ...input, proofs: seen })).toBe('proven');
    const world = { ...input.world, values: { ...good, 'out.4.reversed': false } };
    expect(stationProgress(stationOf('which-moved'), { ...input, proofs: seen, world })).toBe('stale');
    expect(legProgress('steer', { ...input, proofs: seen, world })).toBe('stale');
  });

  it('is blocked by a finding that blocks, whatever was seen', () => {
    const findings = findAll({
      airframe: turnstone,
      values: { ...good, 'lost.action': 'nothing' },
      catalogue: pfadCatalogue,
    });
    expect(stationProgress(stationOf('lost-link'), { ...input, findings })).toBe('blocked');
    expect(legProgress('return', { ...input, findings })).toBe('blocked');
  });

  it('asks for a new flight when anything changed since the last, and for another end where it was not home', () => {
    const flown = (seen: Seen, id: 'one-flight' | 'many-winds', change: Partial<ProofWorld> = {}) =>
      stationProgress(stationOf(id), {
        ...input,
        proofs: [makeProof(seen, input.world, '2026-06-01T09:00:00Z')],
        world: { ...input.world, ...change },
      });
    const home = { kind: 'flight', verdict: 'home', luck: false, seconds: 400 } as const;
    expect(flown(home, 'one-flight')).toBe('proven');
    expect(flown({ ...home, luck: true }, 'one-flight')).toBe('open');
    expect(flown({ ...home, verdict: 'terrain' }, 'one-flight')).toBe('open');
    expect(flown(home, 'one-flight', { values: { ...good, 'return.height': 300 } })).toBe('stale');
    const winds = { kind: 'winds', home: 240, total: 240 } as const;
    expect(flown(winds, 'many-winds')).toBe('proven');
    expect(flown({ ...winds, home: 239 }, 'many-winds')).toBe('open');
    expect(flown(winds, 'many-winds', { airframe: { ...turnstone, massKg: 2.5 } })).toBe('stale');
  });
});
