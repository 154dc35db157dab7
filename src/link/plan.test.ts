import { afterEach, describe, expect, it, vi } from 'vitest';
import { MemoryFlash } from '#bench/memoryFlash.ts';
import { planBytes, planPrint } from '#core/plan/packPlan.ts';
import { EMPTY_PLAN, type FlightPlan } from '#core/plan/plan.ts';
import { crc32 } from '#core/wire/crc32.ts';
import { PlanStore } from '#firmware/planStore.ts';
import { benchRig, meet, type Rig } from '../testing/benchRig.ts';
import { pointAt, routeOf, squareAt } from '../testing/plans.ts';
import { readPlan, writePlan } from './plan.ts';

let rig: Rig;
afterEach(() => rig.stop());

const bad = { drop: 0.05, corrupt: 0.03, duplicate: 0.05, delayMs: 8 };
const survey = routeOf(
  Array.from({ length: 96 }, (_, i) => pointAt(400 + 60 * Math.floor(i / 2), (i + (i >> 1)) % 2 ? 900 : 100)),
  'circle',
  [squareAt(800, 500, 2500, { keep: 'in', toM: 400 }), squareAt(0, -800, 120)],
);
/** Takes the board's power away and gives it back. */
async function powerOff(): Promise<void> {
  for (const usb of [false, true]) {
    rig.bench.controls.usb = usb;
    await vi.waitFor(() => expect(rig.bench.pfad !== null).toBe(usb), { timeout: 5000 });
  }
}
const held = () => rig.bench.pfad!.plans.plan;

describe('a plan on a board', () => {
  it('is none at first, and then what was written, over a restart as well', async () => {
    rig = benchRig();
    await meet(rig.client);
    expect(await readPlan(rig.client)).toEqual(EMPTY_PLAN);
    const written = await writePlan(rig.client, survey, EMPTY_PLAN);
    expect(planPrint(written)).toBe(planPrint(survey));
    expect(held().points).toHaveLength(96);
    await powerOff();
    expect(planPrint(held())).toBe(planPrint(survey));
    // Settings are none of its business.
    expect(Object.keys(rig.bench.pfad!.values).filter((k) => k.startsWith('route.'))).toEqual([]);
  });

  it.each([1, 2, 3])(
    'is right over a cable that loses, garbles, doubles and delays (seed %i)',
    async (seed) => {
      rig = benchRig(bad, seed);
      await meet(rig.client);
      const written = await writePlan(rig.client, survey, EMPTY_PLAN);
      expect(planPrint(written)).toBe(planPrint(survey));
      expect(planPrint(held())).toBe(planPrint(survey));
    },
  );

  it('is whole or as before, wherever the cable is pulled or the power goes', async () => {
    const short = routeOf([pointAt(500, 0)]);
    for (let after = 0; after < 14; after++) {
      rig = benchRig();
      await meet(rig.client);
      await writePlan(rig.client, short, EMPTY_PLAN);
      const writing = writePlan(rig.client, survey, short).catch((e: unknown) => e);
      await new Promise((resolve) => setTimeout(resolve, 3 * after));
      rig.client.close();
      await powerOff();
      await writing;
      expect([planPrint(short), planPrint(survey)], `after ${after}`).toContain(planPrint(held()));
      rig.stop();
    }
    rig = benchRig();
  }, 60_000);

  it('is refused with a sentence: over another than was read, in part, damaged, while armed', async () => {
    rig = benchRig();
    await meet(rig.client);
    await writePlan(rig.client, survey, EMPTY_PLAN);
    const other = routeOf([pointAt(700, 0)]);
    await expect(writePlan(rig.client, other, EMPTY_PLAN)).rejects.toThrow(/holds another plan/);
    const { client } = rig;
    const base = planPrint(survey);
    const begin = async (bytes: Uint8Array, crc = crc32(bytes)) => {
      const session = client.acts.fresh();
      await client.request('plan-begin', { session, base, size: bytes.length, crc });
      return session;
    };
    const bytes = planBytes(other);
    const part = await begin(bytes);
    await client.request('plan-put', { session: part, at: 0, bytes: bytes.slice(0, 5) });
    await expect(client.request('plan-commit', { session: part })).rejects.toThrow(/missing or changed/);
    const junk = new Uint8Array([1, 2, 3, 4]);
    const made = await begin(junk);
    await client.request('plan-put', { session: made, at: 0, bytes: junk });
    await expect(client.request('plan-commit', { session: made })).rejects.toThrow(/does not understand/);
    await expect(client.request('plan-put', { session: made, at: 3, bytes: junk })).rejects.toThrow(
      /beyond its end/,
    );
    await expect(
      client.request('plan-begin', { session: client.acts.fresh(), base, size: 60_000, crc: 0 }),
    ).rejects.toThrow(/larger than a board keeps/);
    expect(planPrint(held())).toBe(base);
    const store = new PlanStore(new MemoryFlash());
    store.begin(1, '', bytes.length, crc32(bytes));
    store.put(1, 0, bytes);
    expect(store.commit(1, true)).toMatchObject({ code: 'armed' });
    expect(new PlanStore(null).begin(1, '', 5, 0)).toMatchObject({ code: 'no-room' });
  });

  it('of fences alone is kept as well, and cleared by an empty one', async () => {
    rig = benchRig();
    await meet(rig.client);
    const plan: FlightPlan = { ...EMPTY_PLAN, fences: [squareAt(0, 0, 500)] };
    const back = await writePlan(rig.client, plan, EMPTY_PLAN);
    // Cleared again by an empty one.
    expect(planPrint(await writePlan(rig.client, EMPTY_PLAN, back))).toBe('');
  });
});
