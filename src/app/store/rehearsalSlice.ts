import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { OtherSeed, RehearsalResult } from '#core/formats/rehearsalResult.ts';
import { type Scenario, usualScenario } from '#core/formats/scenario.ts';
import { siteTaken } from './siteSlice.ts';

/** A flight put aside to be looked at beside others. */
export interface KeptFlight {
  readonly id: number;
  readonly name: string;
  readonly result: RehearsalResult;
}

const MOST_KEPT = 5;

interface RehearsalState {
  readonly scenario: Scenario;
  readonly run:
    | { readonly kind: 'none' }
    | { readonly kind: 'flying'; readonly seconds: number; readonly rate: number }
    | { readonly kind: 'cancelled'; readonly seconds: number }
    | { readonly kind: 'failed'; readonly why: string };
  readonly result: RehearsalResult | null;
  readonly kept: readonly KeptFlight[];
  /** Counts the flights flown, and whether other seeds of the last one are being flown, to tell luck. */
  readonly flight: number;
  readonly othersFlying: boolean;
}

const slice = createSlice({
  name: 'rehearsal',
  initialState: {
    // Its home is that of the site, once a craft is open.
    scenario: usualScenario({ lat: 0, lon: 0, heightM: 0 }),
    run: { kind: 'none' },
    result: null,
    kept: [],
    flight: 0,
    othersFlying: false,
  } as RehearsalState,
  reducers: {
    scenarioChanged: (state, { payload }: PayloadAction<Partial<Scenario>>): RehearsalState => ({
      ...state,
      scenario: { ...state.scenario, ...payload },
    }),
    runChanged: (state, { payload }: PayloadAction<RehearsalState['run']>): RehearsalState => ({
      ...state,
      run: payload,
    }),
    flown: (state, { payload }: PayloadAction<RehearsalResult>): RehearsalState => ({
      ...state,
      result: payload,
      run: { kind: 'none' },
      flight: state.flight + 1,
      othersFlying: true,
    }),
    /** What the other seeds said of the flight that is shown; null when they were given up. */
    othersFlown: (
      state,
      { payload }: PayloadAction<{ flight: number; others: readonly OtherSeed[] | null }>,
    ): RehearsalState =>
      state.flight !== payload.flight || !state.result
        ? state
        : {
            ...state,
            othersFlying: false,
            result: payload.others ? { ...state.result, others: payload.others } : state.result,
          },
    resultDropped: (state): RehearsalState => ({
      ...state,
      result: null,
      kept: [],
      othersFlying: false,
      run: { kind: 'none' },
    }),
    /** Flights of the last visit. */
    flightsKept: (
      state,
      { payload }: PayloadAction<{ result: RehearsalResult | null; beside: readonly KeptFlight[] }>,
    ): RehearsalState => ({ ...state, result: payload.result, kept: payload.beside }),
    flightKept: (state, { payload }: PayloadAction<string>): RehearsalState => {
      if (!state.result) return state;
      const id = 1 + Math.max(0, ...state.kept.map((k) => k.id));
      return {
        ...state,
        kept: [...state.kept, { id, name: payload, result: state.result }].slice(-MOST_KEPT),
      };
    },
    flightLetGo: (state, { payload }: PayloadAction<number>): RehearsalState => ({
      ...state,
      kept: state.kept.filter((k) => k.id !== payload),
    }),
  },
  extraReducers: (builder) => {
    // Flights of another place say nothing of this one.
    builder.addCase(siteTaken, (state, { payload }): RehearsalState => {
      const { home } = payload.site;
      return { ...state, scenario: { ...state.scenario, home }, result: null, kept: [], othersFlying: false };
    });
  },
});

export const {
  scenarioChanged,
  runChanged,
  flown,
  othersFlown,
  resultDropped,
  flightKept,
  flightsKept,
  flightLetGo,
} = slice.actions;
export const rehearsalReducer = slice.reducer;
