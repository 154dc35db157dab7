import { describe, expect, it } from 'vitest';
import { kinds } from '#core/airframe/actuators.ts';
import { unfitness } from '#core/airframe/fitness.ts';
import { flock } from '#core/airframe/library.ts';
import { anyCraft } from '../testing/anyCraft.ts';
import { steadiness } from '../testing/steadiness.ts';

/** Three of each kind here; `npm run audit` flies twenty-five of each. */
const byChance = kinds.flatMap((kind) =>
  [0, 1, 2].map((seed) => ({ name: `${kind} by chance, ${seed}`, a: anyCraft(kind, seed) })),
);

describe('starting values', () => {
  it.each([...flock.map((a) => ({ name: a.name, a })), ...byChance])(
    'hold $name: it goes to its bank without much beyond it and rests, at once and a half the gains too',
    ({ a }) => {
      expect(unfitness(a).filter((u) => u.grade === 'cannot')).toEqual([]);
      const usual = steadiness(a);
      expect(usual).toMatchObject({ finite: true, upset: false });
      expect(usual.overshoot).toBeLessThan(0.25);
      expect(usual.unrest).toBeLessThan(0.15);
      const hot = steadiness(a, 1.5);
      expect(hot).toMatchObject({ finite: true, upset: false });
      expect(hot.unrest).toBeLessThan(0.25);
    },
  );
});
