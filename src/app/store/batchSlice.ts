import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Verdict } from '#core/formats/rehearsalResult.ts';
import type { Proof } from '#core/proofs/proofs.ts';

/** One flight of a batch, as far as the rose shows it. */
export interface BatchFlight {
  readonly fromDeg: number;
  readonly speedMps: number;
  readonly seed: number;
  readonly verdict: Verdict;
  readonly reason: string;
  readonly seconds: number;
}

interface BatchState {
  readonly flights: readonly BatchFlight[];
  /** How many there are to be; 0 before the first batch. */
  readonly total: number;
  readonly run:
    | { readonly kind: 'none' }
    | { readonly kind: 'flying' }
    | { readonly kind: 'cancelled' }
    | { readonly kind: 'failed'; readonly why: string };
  /** What it rests on, as it was when it began. */
  readonly proof: Proof | null;
}

const initialState: BatchState = { flights: [], total: 0, run: { kind: 'none' }, proof: null };

const slice = createSlice({
  name: 'batch',
  initialState,
  reducers: {
    batchBegun: (_s, { payload }: PayloadAction<{ total: number; proof: Proof }>): BatchState => ({
      flights: [],
      total: payload.total,
      run: { kind: 'flying' },
      proof: payload.proof,
    }),
    /** The rest of a batch that was stopped. */
    batchResumed: (state): BatchState => ({ ...state, run: { kind: 'flying' } }),
    batchFlown: (state, { payload }: PayloadAction<BatchFlight>): BatchState => ({
      ...state,
      flights: [...state.flights, payload],
    }),
    batchEnded: (state, { payload }: PayloadAction<BatchState['run']>): BatchState => ({
      ...state,
      run: payload,
    }),
    batchDropped: (): BatchState => initialState,
    /** As it was at the last visit; one that had not flown all then was stopped. */
    batchKept: (
      _s,
      { payload }: PayloadAction<Pick<BatchState, 'flights' | 'total' | 'proof'>>,
    ): BatchState => ({
      ...payload,
      run: { kind: payload.flights.length < payload.total ? 'cancelled' : 'none' },
    }),
  },
});

export const { batchBegun, batchResumed, batchFlown, batchEnded, batchDropped, batchKept } = slice.actions;
export const batchReducer = slice.reducer;
