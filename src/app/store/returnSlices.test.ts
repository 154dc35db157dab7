import { describe, expect, it } from 'vitest';
import type { FailCell } from '#core/fails/failCell.ts';
import { makeProof } from '#core/proofs/proofs.ts';
import { torvholm } from '../../testing/demoCraft.ts';
import { proofWorld } from '../../testing/proofWorld.ts';
import { failFlown, failsBegun, failsEnded, failsTaken } from './failsSlice.ts';
import { checkFlown, checksBegun, checksEnded, reachChanged } from './reachSlice.ts';
import { siteTaken } from './siteSlice.ts';
import { makeStore } from './store.ts';

const cell = (more: Partial<FailCell> = {}): FailCell => ({
  fault: 'jammed',
  phase: 'out',
  print: 'a',
  verdict: 'elsewhere',
  reason: 'It came down.',
  seconds: 200,
  decisions: [],
  ...more,
});

describe('failures that were flown', () => {
  it('are counted while they fly, take the place of the same pair, and outlive the run', () => {
    const store = makeStore();
    store.dispatch(failsBegun(2));
    store.dispatch(failFlown(cell()));
    store.dispatch(failFlown(cell({ print: 'b', verdict: 'home' })));
    expect(store.getState().fails.run).toEqual({ kind: 'flying', done: 2, total: 2 });
    store.dispatch(failsEnded({ kind: 'none' }));
    expect(Object.keys(store.getState().fails.cells)).toEqual(['jammed/out']);
    expect(store.getState().fails.cells['jammed/out']).toMatchObject({ print: 'b', verdict: 'home' });
  });

  it('of another craft take the place of all', () => {
    const store = makeStore();
    store.dispatch(failFlown(cell()));
    store.dispatch(failsTaken([cell({ fault: 'gyro' })]));
    expect(Object.keys(store.getState().fails.cells)).toEqual(['gyro/out']);
  });
});

describe('the reach and its checks', () => {
  const world = proofWorld();
  const seen = { kind: 'reach', right: 0, flown: 24, share: 0.5, batteryShare: 0.75 } as const;
  const begun = { total: 24, proof: makeProof(seen, world, '2026-06-01T09:00:00Z'), about: 'then' };
  const check = {
    eastM: 1000,
    northM: 0,
    margin: 0.1,
    limit: 'energy' as const,
    heightM: 120,
    home: true,
    verdict: 'home' as const,
    reason: 'Circles.',
    batteryShare: 0.4,
  };

  it('begin anew with each run, and know what they were flown with', () => {
    const store = makeStore();
    store.dispatch(checksBegun(begun));
    store.dispatch(checkFlown(check));
    store.dispatch(checksEnded({ kind: 'none' }));
    expect(store.getState().reach).toMatchObject({ about: 'then', run: { kind: 'none' } });
    expect(store.getState().reach.checks).toHaveLength(1);
    store.dispatch(checksBegun(begun));
    expect(store.getState().reach.checks).toEqual([]);
  });

  it('are let go at another site, with the place and the mass that were tried', () => {
    const store = makeStore();
    store.dispatch(reachChanged({ massKg: 3, place: { bearingDeg: 10, distanceM: 500 }, batteryShare: 0.5 }));
    store.dispatch(checksBegun(begun));
    store.dispatch(checkFlown(check));
    store.dispatch(siteTaken({ site: torvholm, named: true }));
    expect(store.getState().reach).toMatchObject({
      massKg: null,
      place: null,
      checks: [],
      proof: null,
      batteryShare: 0.5,
      run: { kind: 'none' },
    });
  });
});
