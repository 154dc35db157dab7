import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Refusal } from '#core/settings/catalogue.ts';
import type { Identity } from '#core/wire/messages.ts';

export type WriteState =
  | { readonly kind: 'idle' }
  | { readonly kind: 'writing'; readonly count: number }
  | { readonly kind: 'written'; readonly count: number; readonly restartNeeded: boolean }
  | { readonly kind: 'refused'; readonly refusals: readonly Refusal[] }
  | { readonly kind: 'failed'; readonly why: string };

export interface BoardState {
  readonly link: 'unplugged' | 'reading' | 'ready';
  readonly progress: number;
  readonly identity: Identity | null;
  /** Why the link is not there, when that was not asked for. */
  readonly fault: string | null;
  readonly write: WriteState;
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

const slice = createSlice({
  name: 'board',
  initialState: {
    link: 'unplugged',
    progress: 0,
    identity: null,
    fault: null,
    write: { kind: 'idle' },
    differing: 0,
    before: null,
  } as BoardState,
  reducers: {
    linkReading: (state, { payload }: PayloadAction<number>): BoardState => ({
      ...state,
      link: 'reading',
      progress: payload,
      fault: null,
    }),
    linkReady: (
      state,
      { payload }: PayloadAction<{ identity: Identity; differing: number; before: MetBefore | null }>,
    ): BoardState => ({
      ...state,
      ...payload,
      link: 'ready',
      progress: 1,
      fault: null,
    }),
    linkGone: (state, { payload }: PayloadAction<string | null>): BoardState => ({
      ...state,
      link: 'unplugged',
      progress: 0,
      fault: payload,
    }),
    writeChanged: (state, { payload }: PayloadAction<WriteState>): BoardState => ({
      ...state,
      write: payload,
    }),
  },
});

export const { linkReading, linkReady, linkGone, writeChanged } = slice.actions;
export const boardReducer = slice.reducer;
