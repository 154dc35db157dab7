import { describe, expect, it } from 'vitest';
import { turnstone } from '#core/airframe/library.ts';
import { fellF7Model } from '#core/board/boards.ts';
import { BatchQueue, batchScenarios, usualBatch } from '#core/formats/batch.ts';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import type { Verdict } from '#core/formats/rehearsalResult.ts';
import type { Scenario } from '#core/formats/scenario.ts';
import { prepared } from '../testing/aloft.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { flyAll } from './batch.ts';

const base: Scenario = {
  seed: 3,
  home: torvholm.home,
  wind: { speedMps: 0, fromDeg: 0, gustMps: 0 },
  outbound: { bearingDeg: 90, distanceM: 500, heightM: 90 },
  events: [{ atS: 30, do: 'link-lost' }],
  limitS: 500,
};

describe('a batch', () => {
  it('is every direction, strength and seed once, and nothing else changes', () => {
    const all = batchScenarios(base);
    expect(all).toHaveLength(16 * 5 * 3);
    expect(new Set(all.map((s) => `${s.wind.fromDeg}/${s.wind.speedMps}/${s.seed}`)).size).toBe(240);
    for (const s of all) expect(s.outbound).toEqual(base.outbound);
    expect(usualBatch.directionsDeg[1]).toBe(22.5);
  });

  it('hands out the strongest winds first, and every flight once', () => {
    const queue = new BatchQueue(base);
    const given = Array.from({ length: queue.total }, () => queue.next()!);
    expect(queue.next()).toBeNull();
    expect(new Set(given.map((f) => f.index)).size).toBe(240);
    for (const f of given) expect(f.scenario).toBe(queue.scenarios[f.index]);
    const speeds = given.map((f) => f.scenario.wind.speedMps);
    expect(speeds).toEqual(speeds.toSorted((a, b) => b - a));
  });

  it('ends flights on their way home only where all of the next stronger wind from that side came home', () => {
    const queue = new BatchQueue(base, {
      directionsDeg: [0, 90, 180],
      strengthsMps: [2, 5, 8],
      seeds: [1, 2],
    });
    const fly = (n: number, verdict: (f: { fromDeg: number; speedMps: number; seed: number }) => Verdict) =>
      Array.from({ length: n }, () => {
        const f = queue.next()!;
        const { seed, wind } = f.scenario;
        queue.ended(f.index, verdict({ ...wind, seed }));
        return f;
      });
    // From the north all come home, from the east one does not, from the south one is still in the air.
    const strongest = fly(5, ({ fromDeg, seed }) => (fromDeg === 90 && seed === 2 ? 'energy' : 'home'));
    const late = queue.next()!;
    expect([...strongest, late].every((f) => f.endsEarly === 'circling')).toBe(true);
    const next = fly(6, () => 'home').map((f) => `${f.scenario.wind.fromDeg} ${f.endsEarly}`);
    expect(new Set(next)).toEqual(new Set(['0 homeward', '90 circling', '180 circling']));
    queue.ended(late.index, 'lost-control');
    const calmest = fly(6, () => 'home').map((f) => f.endsEarly);
    expect(new Set(calmest)).toEqual(new Set(['homeward']));
  });

  it('gives the same on one worker as on two, in the order asked for', async () => {
    const values = prepared(turnstone, { 'return.height': 80 });
    const fixed = {
      airframe: turnstone,
      board: fellF7Model,
      values,
      truth: truthFromSettings(turnstone, values),
    };
    const plan = { directionsDeg: [0, 180], strengthsMps: [3], seeds: [1, 2] };
    const jobs = batchScenarios(base, plan).map((scenario) => ({ ...fixed, scenario }));
    const [one, two] = [await flyAll(torvholm, jobs, 1), await flyAll(torvholm, jobs, 2)];
    expect(one).toEqual(two);
    // Each wind and seed ends in its own place: none was given another's result.
    expect(new Set(one.map((f) => f.endDistanceM)).size).toBe(4);
    expect(one.every((f) => f.verdict === 'home')).toBe(true);
  });
});
