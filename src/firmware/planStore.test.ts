import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MemoryFlash } from '#bench/memoryFlash.ts';
import { planBytes, planPrint } from '#core/plan/packPlan.ts';
import { crc32 } from '#core/wire/crc32.ts';
import { pointAt, routeOf, squareAt } from '../testing/plans.ts';
import { PlanStore } from './planStore.ts';

const small = routeOf([pointAt(500, 0)]);
const large = routeOf(
  Array.from({ length: 110 }, (_, i) => pointAt(20 * i, 300)),
  'circle',
  [squareAt(0, 0, 900, { keep: 'in', toM: 200 })],
);

function begun(store: PlanStore, session: number, plan = large) {
  const bytes = planBytes(plan);
  store.begin(session, store.print, bytes.length, crc32(bytes));
  return bytes;
}
function stored(flash: MemoryFlash, plan = small): PlanStore {
  const store = new PlanStore(flash);
  store.put(1, 0, begun(store, 1, plan));
  store.commit(1, false);
  while (!store.step(512)) expect(store.storing).toBe(true);
  return store;
}

describe('the store of a plan', () => {
  it('takes parts in any order and as often as they come, and only all of them', () => {
    fc.assert(
      fc.property(
        fc.shuffledSubarray(
          Array.from({ length: 12 }, (_, i) => i),
          { minLength: 12 },
        ),
        fc.nat(11),
        (order, twice) => {
          const store = stored(new MemoryFlash());
          const bytes = begun(store, 2);
          const part = Math.ceil(bytes.length / 12);
          const give = (k: number) => store.put(2, k * part, bytes.slice(k * part, (k + 1) * part));
          for (const k of order.slice(0, 11)) give(k);
          give(order[0]!);
          expect(store.commit(2, false)).toMatchObject({ code: 'incomplete' });
          give(order[11]!);
          give(order[twice]!);
          expect(store.commit(2, false)).toEqual({});
          while (!store.step(512));
          expect(store.print).toBe(planPrint(large));
        },
      ),
      { numRuns: 12, seed: 3 },
    );
  });

  it('holds the plan before until the new one is whole on the flash, wherever the power goes', () => {
    for (let steps = 0; steps < 700; steps += 23) {
      const flash = new MemoryFlash();
      const store = stored(flash);
      store.put(2, 0, begun(store, 2));
      store.commit(2, false);
      for (let k = 0; k < steps; k++) store.step(8);
      const again = new PlanStore(flash);
      expect([planPrint(small), planPrint(large)], `${steps}`).toContain(again.print);
      if (store.print === planPrint(large)) expect(again.print).toBe(store.print);
      else expect(store.plan.points).toHaveLength(1);
    }
  });

  it('tells how far a session is, and nothing of one that it does not know', () => {
    const store = stored(new MemoryFlash());
    expect(store.status(1).state).toBe('stored');
    expect(store.status(9).state).toBe('none');
    const bytes = begun(store, 2);
    expect(store.status(2).state).toBe('open');
    store.put(2, 0, bytes);
    store.commit(2, false);
    expect(store.status(2)).toEqual({ state: 'storing', print: planPrint(small) });
    expect(store.begin(3, store.print, 10, 0)).toMatchObject({ code: 'storing' });
    // Said again it changes nothing.
    expect(store.commit(2, false)).toEqual({});
    store.put(2, 0, new Uint8Array(bytes.length));
    while (!store.step(512));
    expect(store.status(2)).toEqual({ state: 'stored', print: planPrint(large) });
  });

  it('says so where the flash does not take it, and goes on with the one before', () => {
    const flash = new MemoryFlash();
    const store = stored(flash);
    const write = flash.write.bind(flash);
    flash.write = (page, at, byte) => write(page, at, at === 40 ? byte ^ 1 : byte);
    store.put(2, 0, begun(store, 2));
    store.commit(2, false);
    for (let k = 0; k < 40; k++) expect(store.step(512)).toBe(false);
    expect(store.status(2)).toEqual({ state: 'failed', print: planPrint(small) });
    expect(new PlanStore(flash).print).toBe(planPrint(small));
  });
});
