import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Snapshot } from '#core/formats/history.ts';

/** Which two states are laid side by side: a snapshot by its id, the board as last read, or the draft over it. */
export type Side = 'board' | 'draft' | (string & {});

interface HistoryState {
  /** Newest first; the settings themselves stay in the browser's store until they are looked at. */
  readonly snapshots: readonly Snapshot[];
  readonly loaded: boolean;
  readonly a: Side | null;
  readonly b: Side;
}

const newestFirst = (list: readonly Snapshot[]) =>
  [...list].sort((x, y) => (x.lastAt < y.lastAt ? 1 : x.lastAt > y.lastAt ? -1 : 0));

const slice = createSlice({
  name: 'history',
  initialState: { snapshots: [], loaded: false, a: null, b: 'draft' } as HistoryState,
  reducers: {
    historyLoaded: (state, { payload }: PayloadAction<readonly Snapshot[]>): HistoryState => ({
      ...state,
      snapshots: newestFirst(payload),
      loaded: true,
    }),
    snapshotsKept: (state, { payload }: PayloadAction<readonly Snapshot[]>): HistoryState => {
      const ids = new Set(payload.map((s) => s.id));
      const others = state.snapshots.filter((s) => !ids.has(s.id));
      return { ...state, snapshots: newestFirst([...payload, ...others]) };
    },
    snapshotsGone: (state, { payload }: PayloadAction<readonly string[]>): HistoryState => {
      const gone = new Set(payload);
      return {
        ...state,
        snapshots: state.snapshots.filter((s) => !gone.has(s.id)),
        a: state.a !== null && gone.has(state.a) ? null : state.a,
        b: gone.has(state.b) ? 'draft' : state.b,
      };
    },
    compared: (state, { payload }: PayloadAction<Partial<Pick<HistoryState, 'a' | 'b'>>>): HistoryState => ({
      ...state,
      ...payload,
    }),
  },
});

export const { historyLoaded, snapshotsKept, snapshotsGone, compared } = slice.actions;
export const historyReducer = slice.reducer;
