import { describe, expect, it } from 'vitest';
import { prepared } from '../../testing/aloft.ts';
import { actuatorsOf } from '../airframe/airframe.ts';
import { flock } from '../airframe/library.ts';
import { fellF7Model } from './boards.ts';
import { craftWishes, outputEdits } from './craftWishes.ts';
import { fellF7 } from './fellF7.ts';
import { solve } from './solve.ts';

describe('what a craft wants of a board', () => {
  it.each(flock.map((a) => [a.name, a] as const))('%s: stays wired as it is', (_name, airframe) => {
    const values = prepared(airframe);
    const wishes = craftWishes(airframe, values, fellF7);
    expect(wishes.outputs).toHaveLength(actuatorsOf(airframe).length);
    const a = solve(fellF7Model, wishes)!;
    expect(a.moved).toBe(0);
    const edits = outputEdits(airframe, a, fellF7);
    for (const [key, value] of Object.entries(edits)) expect(`${key} ${value}`).toBe(`${key} ${values[key]}`);
  });

  it('is free to lie anywhere on a board it is not on yet', () => {
    const wishes = craftWishes(flock[0], prepared(flock[0]), null);
    expect(wishes.linkPort).toBeUndefined();
    expect(wishes.outputs.every((o) => o.output === undefined)).toBe(true);
    expect(solve(fellF7Model, wishes)).not.toBeNull();
  });
});
