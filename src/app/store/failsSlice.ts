import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { type FailCell, pairOf } from '#core/fails/failCell.ts';

interface FailsState {
  /** By their pairs; those of another draft among them, told by their prints. */
  readonly cells: Readonly<Record<string, FailCell>>;
  readonly run:
    | { readonly kind: 'none' }
    | { readonly kind: 'flying'; readonly done: number; readonly total: number }
    | { readonly kind: 'failed'; readonly why: string };
}

const slice = createSlice({
  name: 'fails',
  initialState: { cells: {}, run: { kind: 'none' } } as FailsState,
  reducers: {
    failsBegun: (state, { payload }: PayloadAction<number>): FailsState => ({
      ...state,
      run: { kind: 'flying', done: 0, total: payload },
    }),
    failFlown: (state, { payload }: PayloadAction<FailCell>): FailsState => ({
      cells: { ...state.cells, [pairOf(payload)]: payload },
      run: state.run.kind === 'flying' ? { ...state.run, done: state.run.done + 1 } : state.run,
    }),
    failsEnded: (
      state,
      { payload }: PayloadAction<Exclude<FailsState['run'], { kind: 'flying' }>>,
    ): FailsState => ({ ...state, run: payload }),
    failsTaken: (_, { payload }: PayloadAction<readonly FailCell[]>): FailsState => ({
      cells: Object.fromEntries(payload.map((c) => [pairOf(c), c])),
      run: { kind: 'none' },
    }),
  },
});

export const { failsBegun, failFlown, failsEnded, failsTaken } = slice.actions;
export const failsReducer = slice.reducer;
