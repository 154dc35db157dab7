import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { BoardFlight } from '#link/flights.ts';
import type { KeptLog } from '../flights/LogShelf.ts';

/** A flight that is being read from a board, as far as it came. */
export interface ReadingFlight {
  readonly flight: number;
  readonly startedS: number;
  readonly upTo: number;
  readonly total: number;
  /** `away`: the cable is out; it goes on when it is back. */
  readonly state: 'reading' | 'away' | 'stopped' | 'failed';
  /** For a person, where there is something to say. */
  readonly says: string;
}

interface FlightsState {
  /** The craft whose flights these are; null before one was asked for. */
  readonly craft: string | null;
  /** On the board that is connected, and its serial; null before it was asked. */
  readonly onBoard: { readonly serial: string; readonly flights: readonly BoardFlight[] } | null;
  /** Kept in this browser, the newest first. */
  readonly kept: readonly KeptLog[];
  readonly reading: ReadingFlight | null;
}

const slice = createSlice({
  name: 'flights',
  initialState: { craft: null, onBoard: null, kept: [], reading: null } as FlightsState,
  reducers: {
    logsListed: (
      state,
      { payload }: PayloadAction<{ craft: string; kept: readonly KeptLog[] }>,
    ): FlightsState => ({
      ...state,
      ...payload,
      // What is read for another craft is told no more.
      reading: state.craft === null || state.craft === payload.craft ? state.reading : null,
    }),
    boardListed: (state, { payload }: PayloadAction<FlightsState['onBoard']>): FlightsState => ({
      ...state,
      onBoard: payload,
    }),
    readingTold: (state, { payload }: PayloadAction<ReadingFlight | null>): FlightsState => ({
      ...state,
      reading: payload,
    }),
  },
});

export const { logsListed, boardListed, readingTold } = slice.actions;
export const flightsReducer = slice.reducer;
