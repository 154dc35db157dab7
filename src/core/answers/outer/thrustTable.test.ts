import { describe, expect, it } from 'vitest';
import { avocet, flock, sandpiper } from '../../airframe/library.ts';
import { thrustAt } from '../../airframe/performance.ts';
import { thrustTable } from './thrustTable.ts';

describe('thrust between the points of a table', () => {
  // The motors settled one by one, which is what the table is taken from and what it saves.
  it.each(flock.map((a) => [a.name, a] as const))('is that of motors that settle: %s', (_n, a) => {
    const table = thrustTable(a, 0, 24);
    const full = thrustAt(a, 1, 0).thrust;
    for (const duty of [0.07, 0.33, 0.5, 0.86])
      for (const v of [3, 11, 17])
        expect(Math.abs(table.at(duty, v) - thrustAt(a, duty, v).thrust) / full).toBeLessThan(0.02);
  });

  it('is told at its points as it was taken, and beyond its ends as at them', () => {
    const table = thrustTable(avocet, -5, 5);
    expect(table.at(0.5, -5)).toBeCloseTo(thrustAt(avocet, 0.5, -5).thrust, 9);
    expect(table.at(1, 5)).toBeCloseTo(thrustAt(avocet, 1, 5).thrust, 9);
    expect(table.at(1.4, 9)).toBe(table.at(1, 5));
    expect(table.at(-1, -30)).toBe(table.at(0, -5));
  });

  it('is made once for a craft and its speeds', () => {
    expect(thrustTable(sandpiper, 0, 20)).toBe(thrustTable(sandpiper, 0, 20));
    expect(thrustTable(sandpiper, 0, 21)).not.toBe(thrustTable(sandpiper, 0, 20));
    expect(thrustTable({ ...sandpiper }, 0, 20)).not.toBe(thrustTable(sandpiper, 0, 20));
  });
});
