import { describe, expect, it } from 'vitest';
import { turnstone } from '#core/airframe/library.ts';
import { fellF7Model } from '#core/board/boards.ts';
import { batchScenarios, usualBatch } from '#core/formats/batch.ts';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import { MOSSVIK, type Scenario } from '#core/formats/scenario.ts';
import { prepared } from '../testing/aloft.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { flyAll } from './batch.ts';

const base: Scenario = {
  seed: 3,
  home: { ...MOSSVIK },
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
