import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Values } from '#core/settings/catalogue.ts';
import type { ProcedureReport } from '#core/wire/messages.ts';

/** Something that the board does by itself for a while, as far as it told. */
export interface RunningProcedure {
  readonly run: number;
  readonly kind: string;
  /** What it was asked with, such as which stick. */
  readonly asked: Values;
  /** `away`: the link is gone, and the board may go on by itself. */
  readonly state: 'running' | 'away' | 'done' | 'failed' | 'cancelled';
  readonly progress: number;
  /** For a person: what it waits for, what came of it, or why it failed. */
  readonly says: string;
}

const slice = createSlice({
  name: 'procedure',
  initialState: { newest: null } as { readonly newest: RunningProcedure | null },
  reducers: {
    procedureBegun: (_, { payload }: PayloadAction<Pick<RunningProcedure, 'run' | 'kind' | 'asked'>>) => ({
      newest: { ...payload, state: 'running' as const, progress: 0, says: '' },
    }),
    /** What is told of one that is not the newest any more is of no account. */
    procedureTold: (
      state,
      {
        payload,
      }: PayloadAction<
        { run: number } & Partial<Pick<ProcedureReport, 'progress'>> &
          Pick<RunningProcedure, 'state' | 'says'>
      >,
    ) => (state.newest?.run === payload.run ? { newest: { ...state.newest, ...payload } } : state),
  },
});

export const { procedureBegun, procedureTold } = slice.actions;
export const procedureReducer = slice.reducer;
