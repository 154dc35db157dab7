import fc from 'fast-check';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { refTo } from '#core/board/boardRef.ts';
import { massifH7B } from '#core/board/boards.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { demoCraft, demoValues } from '../../testing/demoCraft.ts';
import { airframeChanged, boardChosen, craftLoaded, renamed, wiringChanged } from './craftSlice.ts';
import { boardRead, craftOpened, dropped, initialSettings, staged } from './settingsSlice.ts';
import { makeStore } from './store.ts';
import { MOST_STEPS, redone, stepBack, stepOn, undone, workOf } from './timeline.ts';

const { entries, rules } = pfadCatalogue;
const base = demoValues('turnstone');

function opened() {
  const store = makeStore();
  store.dispatch(craftLoaded(demoCraft('turnstone')));
  store.dispatch(craftOpened({ ...initialSettings, entries, rules, version: '3.2', base }));
  return store;
}

const work = (store: ReturnType<typeof makeStore>) => workOf(store.getState());
const airframe = (store: ReturnType<typeof makeStore>) => store.getState().craft.airframe!;

beforeEach(() => {
  vi.useFakeTimers();
});

/** Longer than changes that are one step. */
const pause = () => vi.advanceTimersByTime(1000);

describe('undo', () => {
  it('has nothing to take back when a craft was opened', () => {
    const store = opened();
    expect(stepBack(store.getState())).toBeNull();
    const before = store.getState();
    store.dispatch(undone());
    expect(store.getState()).toBe(before);
  });

  it('goes back and forth through anything done to a craft, in the order in which it was done', () => {
    const height = fc.integer({ min: 16, max: 400 }).map((v) => staged({ 'return.height': v }));
    const drop = fc.constant(dropped(['return.height']));
    const mass = fc.integer({ min: 10, max: 40 });
    const name = fc.string({ minLength: 1, maxLength: 8 }).map((n) => renamed(n));
    const wish = fc.constantFrom(true, false);
    fc.assert(
      fc.property(fc.array(fc.oneof(height, drop, mass, name, wish), { maxLength: 25 }), (acts) => {
        const store = opened();
        const seen = [work(store)];
        for (const act of acts) {
          pause();
          if (typeof act === 'number')
            store.dispatch(airframeChanged({ ...airframe(store), massKg: act / 10 }));
          else if (typeof act === 'boolean') store.dispatch(wiringChanged({ wishes: [] as never }));
          else store.dispatch(act);
          const now = work(store);
          const last = seen.at(-1)!;
          if (Object.keys(now).some((k) => now[k as 'edits'] !== last[k as 'edits'])) seen.push(now);
        }
        for (let i = seen.length - 1; i >= 0; i--) {
          expect(work(store)).toEqual(seen[i]);
          store.dispatch(undone());
        }
        for (let i = 1; i < seen.length; i++) {
          store.dispatch(redone());
          expect(work(store)).toEqual(seen[i]);
        }
        expect(stepOn(store.getState())).toBeNull();
      }),
    );
  });

  it('takes a drag back as one step, and says of what', () => {
    const store = opened();
    const { massKg } = airframe(store);
    for (let k = 1; k <= 50; k++) {
      vi.advanceTimersByTime(16);
      store.dispatch(airframeChanged({ ...airframe(store), massKg: massKg + k / 100 }));
    }
    expect(stepBack(store.getState())).toBe('the craft');
    store.dispatch(undone());
    expect(airframe(store).massKg).toBe(massKg);
    expect(stepBack(store.getState())).toBeNull();
  });

  it('leaves the board copy alone, and what a board holds by now is no step any more', () => {
    const store = opened();
    store.dispatch(staged({ 'return.height': 300 }));
    store.dispatch(staged({ 'return.height': 310 }));
    store.dispatch(boardRead({ ...base, 'return.height': 300 }));
    store.dispatch(undone());
    expect(store.getState().settings.edits).toEqual({});
    expect(store.getState().settings.base['return.height']).toBe(300);
  });

  it('goes back to another make of board, and keeps what is known of one of the same make', () => {
    const store = opened();
    store.dispatch(boardChosen({ ...store.getState().craft.file!.board, serial: 'FF7-1' }));
    expect(stepBack(store.getState())).toBeNull();
    store.dispatch(staged({ 'return.height': 300 }));
    store.dispatch(boardChosen(refTo(massifH7B, 'Pfad', '3.2')));
    expect(stepBack(store.getState())).toBe('the wiring');
    store.dispatch(undone());
    expect(store.getState().craft.file!.board).toMatchObject({ target: 'fell-f7', serial: 'FF7-1' });
    store.dispatch(undone());
    expect(store.getState().craft.file!.board).toMatchObject({ serial: 'FF7-1' });
  });

  it('is bounded', () => {
    const store = opened();
    for (let k = 0; k < MOST_STEPS + 20; k++) store.dispatch(staged({ 'return.height': 20 + k }));
    expect(store.getState().timeline.past).toHaveLength(MOST_STEPS);
  });
});
