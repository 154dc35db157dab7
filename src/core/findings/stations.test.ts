import { describe, expect, it } from 'vitest';
import { legIds, legs, stationIds, stationLeg } from './stations.ts';

describe('the trail', () => {
  it('has its seven legs in their order', () => {
    expect(legs.map((l) => l.id)).toEqual([...legIds]);
    expect(legIds).toHaveLength(7);
  });

  it('has each station on exactly one leg', () => {
    const all = legs.flatMap((l) => l.stations.map((s) => s.id));
    expect([...all].sort()).toEqual([...stationIds].sort());
    for (const id of stationIds) expect(legIds).toContain(stationLeg(id));
  });

  it('says of every leg without stations, in one sentence, that it is not built yet', () => {
    for (const leg of legs) {
      if (leg.stations.length > 0) expect(leg.later).toBeUndefined();
      else expect(leg.later).toMatch(/not built yet[^.]*\.$/);
    }
  });
});
