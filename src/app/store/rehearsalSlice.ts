import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { RehearsalResult } from '#core/formats/rehearsalResult.ts';
import { MOSSVIK, type Scenario } from '#core/formats/scenario.ts';

export interface RehearsalState {
  readonly scenario: Scenario;
  readonly run:
    | { readonly kind: 'none' }
    | { readonly kind: 'flying'; readonly seconds: number; readonly rate: number }
    | { readonly kind: 'cancelled'; readonly seconds: number }
    | { readonly kind: 'failed'; readonly why: string };
  readonly result: RehearsalResult | null;
  /** Settings, airframe and scenario the result was flown with. */
  readonly flownWith: string;
}

export const demoScenario: Scenario = {
  seed: 7,
  home: { ...MOSSVIK },
  wind: { speedMps: 8, fromDeg: 230, gustMps: 2 },
  outbound: { bearingDeg: 50, distanceM: 2500, heightM: 120 },
  events: [{ atS: 180, do: 'link-lost' }],
  limitS: 1500,
};

const slice = createSlice({
  name: 'rehearsal',
  initialState: {
    scenario: demoScenario,
    run: { kind: 'none' },
    result: null,
    flownWith: '',
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
    flown: (
      state,
      { payload }: PayloadAction<{ result: RehearsalResult; flownWith: string }>,
    ): RehearsalState => ({
      ...state,
      ...payload,
      run: { kind: 'none' },
    }),
    resultDropped: (state): RehearsalState => ({
      ...state,
      result: null,
      flownWith: '',
      run: { kind: 'none' },
    }),
  },
});

export const { scenarioChanged, runChanged, flown, resultDropped } = slice.actions;
export const rehearsalReducer = slice.reducer;
