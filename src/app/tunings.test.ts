import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Tuning } from '#core/formats/tuning.ts';
import { rows } from './store/database.ts';
import { dropTuning, keepTuning, tuningsOf } from './tunings.ts';

const answer = { riseS: 0.2, delayS: 0.05, overshoot: 0.1, sure: 0.02 };

const flown = (id: string, minute: number, craft = 'turnstone'): Tuning => ({
  id,
  craft,
  name: `Flight ${id}`,
  from: 'log',
  at: new Date(Date.UTC(2026, 4, 3, 9, minute)).toISOString(),
  seconds: 120,
  speedMps: 17,
  moved: [],
  values: { 'rate.roll.p': 0.2 },
  answers: { roll: answer, pitch: null, yaw: null },
  note: '',
});

const ids = async (craft = 'turnstone') => (await tuningsOf(craft)).map((t) => t.id);

describe('flights kept for how they answered', () => {
  beforeEach(async () => {
    for (const craft of ['turnstone', 'sandpiper'])
      for (const { id } of await tuningsOf(craft)) await dropTuning(id);
  });

  it('are told of their own craft only, the newest first', async () => {
    await keepTuning(flown('early', 1));
    await keepTuning(flown('late', 9));
    await keepTuning(flown('of another', 5, 'sandpiper'));
    expect(await ids()).toEqual(['late', 'early']);
    expect(await ids('sandpiper')).toEqual(['of another']);
    expect((await tuningsOf('turnstone'))[1]).toEqual(flown('early', 1));
  });

  it('are looked at anew in the place of what was kept before, and can be let go and had back', async () => {
    await keepTuning(flown('one', 1));
    await keepTuning({ ...flown('one', 1), note: 'with the larger propeller' });
    expect((await tuningsOf('turnstone')).map((t) => t.note)).toEqual(['with the larger propeller']);
    await dropTuning('one');
    expect(await ids()).toEqual([]);
    await keepTuning(flown('one', 1));
    expect(await ids()).toEqual(['one']);
  });

  it('give way when there are more than sixty, the oldest first, and none of another craft', async () => {
    await keepTuning(flown('of another', 0, 'sandpiper'));
    for (let k = 1; k <= 60; k++) await keepTuning(flown(`f${k}`, k));
    expect(await ids()).toHaveLength(60);
    // Once more what is there already costs nobody its place.
    await keepTuning(flown('f30', 30));
    expect(await ids()).toContain('f1');
    await keepTuning(flown('f61', 61));
    const kept = await ids();
    expect(kept).toHaveLength(60);
    expect(kept).not.toContain('f1');
    expect(kept[0]).toBe('f61');
    expect(await ids('sandpiper')).toEqual(['of another']);
  });

  it('that cannot be read are left out, and nothing else with them', async () => {
    await keepTuning(flown('good', 1));
    await rows.write([{ in: 'tunings', put: { ...flown('bad', 2), seconds: 'long' } as never }]);
    expect(await ids()).toEqual(['good']);
  });
});
