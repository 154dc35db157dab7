import { createAction, type Reducer, type UnknownAction } from '@reduxjs/toolkit';
import type { Airframe } from '#core/airframe/airframe.ts';
import type { CraftFile } from '#core/formats/craftFile.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { type Edits, rebase } from '#core/settings/draft.ts';
import { craftLoaded, type craftReducer, describedAs } from './craftSlice.ts';
import { boardRead, editsPut, type settingsReducer } from './settingsSlice.ts';

/**
 * Undo and redo, over everything that a person makes of a craft: waiting edits, its dimensions and name, what is to be
 * wired to it. One line of steps for all of it, so that the last thing done is the first undone.
 */

/** What of a craft undo brings back. Parts that did not change between two steps are the same objects. */
export interface Work {
  readonly edits: Edits;
  readonly airframe: Airframe | null;
  readonly name: string;
  readonly wiring?: CraftFile['wiring'] | undefined;
  /** Its route and fences. */
  readonly plan?: CraftFile['plan'] | undefined;
  /** The make that it is for. */
  readonly board?: CraftFile['board'] | undefined;
}

export interface Timeline {
  readonly past: readonly Work[];
  readonly future: readonly Work[];
  /** What made the last step, and when: a thing that is dragged is one step, not a hundred. */
  readonly last: { readonly type: string; readonly atMs: number } | null;
}

export const MOST_STEPS = 200;
/** Changes of the same thing closer together than this are one step. */
const ONE_STEP_MS = 700;

export const undone = createAction('timeline/undone');
export const redone = createAction('timeline/redone');
/** Steps of a craft that was kept between visits. */
export const timelineKept = createAction<Pick<Timeline, 'past' | 'future'>>('timeline/kept');

const noSteps: Timeline = { past: [], future: [], last: null };

/** What is worked on, in the two slices that hold it. */
interface Worked {
  readonly craft: ReturnType<typeof craftReducer>;
  readonly settings: ReturnType<typeof settingsReducer>;
}

export const workOf = ({ craft, settings }: Worked): Work => ({
  edits: settings.edits,
  airframe: craft.airframe,
  name: craft.file?.name ?? '',
  wiring: craft.file?.wiring,
  board: craft.file?.board,
  plan: craft.file?.plan,
});

const same = (a: Work, b: Work) =>
  a.edits === b.edits &&
  a.airframe === b.airframe &&
  a.name === b.name &&
  a.wiring === b.wiring &&
  a.plan === b.plan &&
  a.board?.target === b.board?.target;

/** What changed from one to the other, as a person calls it. */
function stepName(from: Work, to: Work): string {
  if (from.airframe !== to.airframe || from.name !== to.name) return 'the craft';
  if (from.wiring !== to.wiring || from.board?.target !== to.board?.target) return 'the wiring';
  if (from.plan !== to.plan) return 'the route';
  return 'the settings';
}

type Lined = Worked & { readonly timeline: Timeline };

/** What undo would take back; null where there is nothing. */
export function stepBack(state: Lined): string | null {
  const to = state.timeline.past.at(-1);
  return to ? stepName(workOf(state), to) : null;
}

/** What redo would do again; null where there is nothing. */
export function stepOn(state: Lined): string | null {
  const [to] = state.timeline.future;
  return to ? stepName(workOf(state), to) : null;
}

function overBoard(work: Work, base: Values): Work {
  const edits = rebase(work.edits, base);
  return edits === work.edits ? work : { ...work, edits };
}

/**
 * A reducer of everything that also keeps the steps.
 * @param reduce of all slices but the timeline
 */
export function withTimeline<S extends Worked>(
  reduce: Reducer<S>,
): Reducer<S & { readonly timeline: Timeline }> {
  const put = (state: S, work: Work): S => reduce(reduce(state, editsPut(work.edits)), describedAs(work));

  return (before, action) => {
    const { timeline = noSteps, ...slices } = before ?? ({} as { timeline?: Timeline });
    const state = before === undefined ? undefined : (slices as unknown as S);
    if (state && undone.match(action)) {
      const to = timeline.past.at(-1);
      if (!to) return before!;
      const past = timeline.past.slice(0, -1);
      return {
        ...put(state, to),
        timeline: { past, future: [workOf(state), ...timeline.future], last: null },
      };
    }
    if (state && redone.match(action)) {
      const [to, ...future] = timeline.future;
      if (!to) return before!;
      const past = [...timeline.past, workOf(state)];
      return { ...put(state, to), timeline: { past, future, last: null } };
    }
    const next = reduce(state, action);
    return { ...next, timeline: state ? stepped(timeline, state, next, action) : noSteps };
  };
}

/** The steps after an action. */
function stepped(timeline: Timeline, before: Worked, after: Worked, action: UnknownAction): Timeline {
  if (craftLoaded.match(action)) return noSteps;
  if (timelineKept.match(action)) return { ...action.payload, last: null };
  if (boardRead.match(action)) {
    const over = (work: Work) => overBoard(work, action.payload);
    return { past: timeline.past.map(over), future: timeline.future.map(over), last: null };
  }
  const was = workOf(before);
  // Opening a craft is no step.
  if (was.airframe === null || action.type === 'settings/craftOpened' || same(was, workOf(after)))
    return timeline;
  const { at } = (action as { meta?: { at?: number } }).meta ?? {};
  const { last } = timeline;
  const dragged = at !== undefined && last?.type === action.type && at - last.atMs < ONE_STEP_MS;
  return {
    past: dragged ? timeline.past : [...timeline.past.slice(1 - MOST_STEPS), was],
    future: [],
    last: at === undefined ? null : { type: action.type, atMs: at },
  };
}
