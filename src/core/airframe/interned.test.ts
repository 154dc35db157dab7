import { expect, it } from 'vitest';
import { interned } from './interned.ts';
import { dunlin, turnstone } from './library.ts';

it('gives the same object for equal craft that come one after the other, and another for another', () => {
  const first = interned(structuredClone(turnstone));
  expect(interned(structuredClone(turnstone))).toBe(first);
  expect(interned({ ...turnstone, massKg: 2.2 })).not.toBe(first);
  expect(interned(dunlin)).toBe(dunlin);
});
