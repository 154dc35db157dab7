import { describe, expect, it } from 'vitest';
import { writeChanged } from '../store/boardSlice.ts';
import { procedureBegun } from '../store/procedureSlice.ts';
import { runChanged } from '../store/rehearsalSlice.ts';
import { makeStore } from '../store/store.ts';
import { openAny } from './openAny.ts';
import { inTheMiddleOf } from './update.ts';

describe('a newer application', () => {
  it('is not taken in the middle of anything, and says of what', () => {
    const store = makeStore();
    const now = () => inTheMiddleOf(store.getState());
    expect(now()).toBeNull();
    store.dispatch(runChanged({ kind: 'flying', seconds: 3, rate: 100 }));
    expect(now()).toBe('a flight is being rehearsed');
    store.dispatch(procedureBegun({ run: 1, kind: 'teach-ends', asked: {} }));
    expect(now()).toBe('the board is being taught something');
    store.dispatch(writeChanged({ kind: 'writing', count: 3 }));
    expect(now()).toBe('the board is being written to');
    store.dispatch(writeChanged({ kind: 'written', count: 3, restartNeeded: false }));
    expect(now()).toBe('the board is being taught something');
  });
});

describe('a file from outside', () => {
  const file = (name: string, text: string) => new File([text], name);

  it('that is none of ours changes nothing and says so', async () => {
    for (const text of ['', 'roses', '{}', 'null', '[1]', '{"format":"other"}', '{"format":7}'])
      expect(await openAny(file('x.json', text))).toEqual({
        ok: false,
        says: expect.stringContaining('x.json is no craft, site or history of ours. Nothing was changed.'),
      });
  });
});
