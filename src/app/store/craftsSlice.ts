import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Listed } from '../crafts/records.ts';

/** Craft as this browser keeps them, and which of them is on the desk. */
interface CraftsState {
  /** Its row; null before one is open. */
  readonly id: string | null;
  /** It is the one that comes with the product, with mistakes to be found. */
  readonly demo: boolean;
  /** Another tab works on it: here it is only read. */
  readonly reading: boolean;
  readonly status: 'opening' | 'none' | 'open';
  readonly listed: Listed;
}

const initialState: CraftsState = {
  id: null,
  demo: false,
  reading: false,
  status: 'opening',
  listed: { crafts: [], replaced: [], aside: [] },
};

const slice = createSlice({
  name: 'crafts',
  initialState: initialState as CraftsState,
  reducers: {
    deskChanged: (state, { payload }: PayloadAction<Partial<Omit<CraftsState, 'listed'>>>): CraftsState => ({
      ...state,
      ...payload,
    }),
    craftsListed: (state, { payload }: PayloadAction<Listed>): CraftsState => ({ ...state, listed: payload }),
  },
});

export const { deskChanged, craftsListed } = slice.actions;
export const craftsReducer = slice.reducer;
