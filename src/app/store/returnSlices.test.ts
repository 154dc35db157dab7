import { describe, expect, it } from 'vitest';
import type { FailCell } from '#core/fails/failCell.ts';
import { changedSince, makeProof, staleWords, stateOf } from '#core/proofs/proofs.ts';
import { demoCraft, torvholm } from '../../testing/demoCraft.ts';
import { pointAt, routeOf, squareAt } from '../../testing/plans.ts';
import { proofWorld } from '../../testing/proofWorld.ts';
import { craftLoaded, planChanged } from './craftSlice.ts';
import { failFlown, failsBegun, failsEnded, failsTaken } from './failsSlice.ts';
import { checkFlown, checksBegun, checksEnded, reachChanged } from './reachSlice.ts';
import { routeThought } from './routesSlice.ts';
import { selectPlan } from './selectors.ts';
import { siteTaken } from './siteSlice.ts';
import { makeStore } from './store.ts';
import { redone, stepBack, undone } from './timeline.ts';

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

describe('route and fences of a craft', () => {
  const plan = routeOf([pointAt(500, 0)], 'return', [squareAt(0, 0, 2000, { keep: 'in', toM: 0 })]);
  const opened = () => {
    const store = makeStore();
    store.dispatch(craftLoaded(demoCraft('turnstone')));
    return store;
  };

  it('are kept in its file, taken back and done again', () => {
    const store = opened();
    store.dispatch(planChanged(plan));
    expect(store.getState().craft.file!.plan).toEqual(plan);
    expect(stepBack(store.getState())).toBe('the route');
    store.dispatch(undone());
    expect(store.getState().craft.file!.plan).toBeUndefined();
    store.dispatch(redone());
    expect(selectPlan(store.getState())).toEqual(plan);
    store.dispatch(planChanged({ ...plan, points: [], fences: [] }));
    // An empty one is no word of the file.
    expect('plan' in store.getState().craft.file!).toBe(false);
  });

  it('that nobody could fly are refused with a sentence, and what was there stays', () => {
    const store = opened();
    store.dispatch(planChanged(plan));
    const { corners } = squareAt(0, 0, 300).area as { corners: { lat: number; lon: number }[] };
    const bow = squareAt(0, 0, 300, {
      area: { corners: [corners[0]!, corners[2]!, corners[1]!, corners[3]!] },
    });
    store.dispatch(planChanged({ ...plan, fences: [bow] }));
    expect(store.getState().ui.refusedEntry).toMatch(/crosses itself.*stays as it was/);
    store.dispatch(planChanged({ ...plan, points: [pointAt(0, 0, { heightM: 9000 })] }));
    expect(store.getState().ui.refusedEntry).toMatch(/The route cannot be like that/);
    expect(selectPlan(store.getState())).toEqual(plan);
  });

  it('make flights stale by their fences, and by their points only those that fly them', () => {
    const world = proofWorld();
    const at = '2026-06-01T09:00:00Z';
    const flight = makeProof({ kind: 'flight', verdict: 'home', reason: 'x' } as never, world, at);
    const points = { ...world, plan: { ...plan, fences: [] } };
    expect(changedSince(flight, points)).toEqual([]);
    expect(changedSince(flight, { ...world, plan })).toEqual(['plan']);
    const seen = { kind: 'route', points: 1, reached: 1, home: true, offM: 4, leftShare: 0.5 } as const;
    const route = makeProof(seen, points, at);
    expect(stateOf(route, points)).toBe('proven');
    expect(staleWords(route, { ...points, plan: routeOf([pointAt(501, 0)]) })).toMatch(/route or the fences/);
    expect(stateOf(makeProof({ ...seen, reached: 0 }, points, at), points)).toBe('none');
  });

  it('thought of are told once, and forgotten with the craft', () => {
    const store = opened();
    const way = {
      moments: [],
      arrivals: [],
      seconds: 1,
      lengthM: 1,
      leftShare: 1,
      noReturn: null,
      overFence: null,
      stuck: null,
    };
    store.dispatch(routeThought({ way, problems: [] }));
    expect(store.getState().routes.thought).not.toBeNull();
    store.dispatch(craftLoaded(demoCraft('turnstone')));
    expect(store.getState().routes.thought).toBeNull();
  });
});
