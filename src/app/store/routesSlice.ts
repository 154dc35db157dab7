import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { RouteProblem } from '#core/plan/routeProblems.ts';
import type { RouteWay } from '#core/plan/routeWay.ts';
import { craftLoaded } from './craftSlice.ts';
import { siteTaken } from './siteSlice.ts';

/** A route that was flown in the bench, as it is told. */
interface RouteFlown {
  readonly points: number;
  readonly reached: number;
  readonly home: boolean;
  readonly verdict: string;
  readonly reason: string;
  readonly seconds: number;
  /** Farthest from the line that it was to fly, m, and least room over the ground, m. */
  readonly offM: number;
  readonly clearanceM: number;
  readonly leftShare: number;
  /** Point at which the link was lost; null where it was not. */
  readonly lostAt: number | null;
  /** Metres east and north of home. */
  readonly track: readonly (readonly [number, number])[];
  /** Print of all that it was flown with. */
  readonly about: string;
}

/** The route flown in thought. */
interface Thought {
  readonly way: RouteWay;
  readonly problems: readonly RouteProblem[];
  /** Why it could not be. */
  readonly why?: string;
}

interface RoutesState {
  /** Of the draft as it is; null while there is no route. */
  readonly thought: Thought | null;
  readonly run:
    | { readonly kind: 'none' }
    | { readonly kind: 'flying' }
    | { readonly kind: 'failed'; readonly why: string };
  readonly flown: RouteFlown | null;
}

const initialState: RoutesState = { thought: null, run: { kind: 'none' }, flown: null };

const slice = createSlice({
  name: 'routes',
  initialState,
  reducers: {
    routeThought: (state, { payload }: PayloadAction<Thought | null>): RoutesState =>
      payload === state.thought ? state : { ...state, thought: payload },
    routeRun: (state, { payload }: PayloadAction<RoutesState['run']>): RoutesState => ({
      ...state,
      run: payload,
    }),
    routeFlown: (state, { payload }: PayloadAction<RouteFlown>): RoutesState => ({
      ...state,
      flown: payload,
      run: { kind: 'none' },
    }),
  },
  extraReducers: (builder) => {
    builder.addCase(craftLoaded, () => initialState);
    builder.addCase(siteTaken, () => initialState);
  },
});

export const { routeThought, routeRun, routeFlown } = slice.actions;
export const routesReducer = slice.reducer;
