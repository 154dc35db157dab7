import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { BoardDescription } from '#core/board/description.ts';
import type { LiveState } from '#core/findings/rule.ts';
import type { FlightPlan } from '#core/plan/plan.ts';
import type { Refusal, Values } from '#core/settings/catalogue.ts';
import type { Answer, Identity, SelfTest } from '#core/wire/messages.ts';

type LoaderState = Omit<Answer<'loader-state'>, 'whole'> & {
  /** Bytes of the image that are written whole. */
  readonly written: number;
};

type WriteState =
  | { readonly kind: 'idle' }
  | { readonly kind: 'writing'; readonly count: number }
  | { readonly kind: 'written'; readonly count: number; readonly restartNeeded: boolean }
  | { readonly kind: 'refused'; readonly refusals: readonly Refusal[] }
  | { readonly kind: 'failed'; readonly why: string };

/** How the last writing of route and fences went. */
type PlanWrite =
  | { readonly kind: 'idle' }
  | { readonly kind: 'writing' }
  | { readonly kind: 'written' }
  | { readonly kind: 'failed'; readonly why: string };

interface BoardState {
  /** In its loader a board runs no firmware and has no settings to tell. */
  readonly link: 'unplugged' | 'reading' | 'ready' | 'loader';
  readonly progress: number;
  readonly identity: Identity | null;
  /** What the board last met says of its pads and ports. */
  readonly description: BoardDescription | null;
  /** Settings on it that could not be read at all. */
  readonly unreadable: number;
  /** What the board holds in the terms of its own version, where that is another than the one shown. */
  readonly native: Values | null;
  /** Settings that are shown and that its version has not. */
  readonly lacks: readonly string[];
  readonly loader: LoaderState | null;
  /** What answers on its buses and ports; null before it was asked. */
  readonly selfTest: SelfTest | null;
  /** Of what it tells all the time, that which findings go by; null while it tells nothing. */
  readonly live: LiveState | null;
  /** Which cable it is met over, for a person. */
  readonly through: string;
  /** What is being waited for while the link is away. */
  readonly waiting: string | null;
  /** Why the link is not there, when that was not asked for. */
  readonly fault: string | null;
  readonly write: WriteState;
  /** Route and fences on it; null where it keeps none, or they were not read yet. */
  readonly plan: FlightPlan | null;
  readonly planWrite: PlanWrite;
  /** The board that was met before this link, with settings unlike the file's. */
  readonly differing: number;
  /** When this very board was seen before, and what changed on it since; null when it was not. */
  readonly before: MetBefore | null;
}

export interface MetBefore {
  /** Snapshot that was the newest of it. */
  readonly id: string;
  /** RFC 3339 */
  readonly lastAt: string;
  readonly changed: number;
  /** Its firmware then, where that is another now. */
  readonly version: string | null;
}

/** What the cable to the bench is called. */
export const BENCH_CABLE = 'the bench';

const slice = createSlice({
  name: 'board',
  initialState: {
    link: 'unplugged',
    progress: 0,
    identity: null,
    description: null,
    unreadable: 0,
    native: null,
    lacks: [],
    loader: null,
    selfTest: null,
    live: null,
    waiting: null,
    fault: null,
    write: { kind: 'idle' },
    plan: null,
    planWrite: { kind: 'idle' },
    differing: 0,
    before: null,
    through: BENCH_CABLE,
  } as BoardState,
  reducers: {
    linkReading: (state, { payload }: PayloadAction<number>): BoardState => ({
      ...state,
      link: 'reading',
      progress: payload,
      fault: null,
      selfTest: null,
    }),
    linkReady: (
      state,
      {
        payload,
      }: PayloadAction<
        Pick<
          BoardState,
          'identity' | 'description' | 'unreadable' | 'differing' | 'before' | 'native' | 'lacks' | 'through'
        >
      >,
    ): BoardState => ({
      ...state,
      ...payload,
      link: 'ready',
      // What went wrong before the board was there, or before it was read again, is over.
      write: state.write.kind === 'failed' || state.write.kind === 'refused' ? { kind: 'idle' } : state.write,
      loader: null,
      waiting: null,
      progress: 1,
      fault: null,
    }),
    /** A board that runs its loader. */
    loaderMet: (state, { payload }: PayloadAction<Pick<BoardState, 'identity' | 'loader'>>): BoardState => ({
      ...state,
      ...payload,
      link: 'loader',
      before: null,
      native: null,
      selfTest: null,
      waiting: null,
      fault: null,
    }),
    selfTested: (state, { payload }: PayloadAction<SelfTest>): BoardState => ({
      ...state,
      selfTest: payload,
    }),
    liveTold: (state, { payload }: PayloadAction<LiveState>): BoardState => ({ ...state, live: payload }),
    waitingFor: (state, { payload }: PayloadAction<string | null>): BoardState => ({
      ...state,
      waiting: payload,
    }),
    /** It says of itself anew, as after a write. */
    identityTold: (state, { payload }: PayloadAction<Identity>): BoardState => ({
      ...state,
      identity: payload,
    }),
    nativeRead: (state, { payload }: PayloadAction<Values | null>): BoardState => ({
      ...state,
      native: payload,
    }),
    linkGone: (state, { payload }: PayloadAction<string | null>): BoardState => ({
      ...state,
      link: 'unplugged',
      progress: 0,
      fault: payload,
      // With the cable out nothing is waited for.
      waiting: payload === null ? null : state.waiting,
      selfTest: null,
      live: null,
      loader: null,
      plan: null,
    }),
    planRead: (state, { payload }: PayloadAction<FlightPlan | null>): BoardState => ({
      ...state,
      plan: payload,
    }),
    planWriteChanged: (state, { payload }: PayloadAction<PlanWrite>): BoardState => ({
      ...state,
      planWrite: payload,
    }),
    writeChanged: (state, { payload }: PayloadAction<WriteState>): BoardState => ({
      ...state,
      write: payload,
    }),
  },
});

export const {
  linkReading,
  linkReady,
  loaderMet,
  selfTested,
  liveTold,
  waitingFor,
  identityTold,
  nativeRead,
  linkGone,
  planRead,
  planWriteChanged,
  writeChanged,
} = slice.actions;
export const boardReducer = slice.reducer;
