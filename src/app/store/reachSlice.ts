import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Verdict } from '#core/formats/rehearsalResult.ts';
import type { Proof } from '#core/proofs/proofs.ts';
import type { ReachCheck } from '#core/reach/checks.ts';
import { siteTaken } from './siteSlice.ts';

/** A place that was flown from: what the map said, and how it ended. */
export interface FlownCheck extends ReachCheck {
  readonly home: boolean;
  readonly verdict: Verdict;
  readonly reason: string;
  readonly batteryShare: number;
}

interface ReachState {
  /** Charge where the link is lost and charge that has to be left, share; height above home there, m. */
  readonly batteryShare: number;
  readonly reserveShare: number;
  readonly heightM: number;
  /** Flown with this mass instead of the craft's own, kg. */
  readonly massKg: number | null;
  /** The place that is looked at. */
  readonly place: { readonly bearingDeg: number; readonly distanceM: number } | null;
  readonly run:
    | { readonly kind: 'none' }
    | { readonly kind: 'flying'; readonly total: number }
    | { readonly kind: 'failed'; readonly why: string };
  readonly checks: readonly FlownCheck[];
  /** Of what they were flown with; null before any. */
  readonly proof: Proof | null;
  /** Print of craft, charge, reserve, height and wind that they were flown with. */
  readonly about: string;
}

const slice = createSlice({
  name: 'reach',
  initialState: {
    batteryShare: 0.75,
    reserveShare: 0.2,
    heightM: 120,
    massKg: null,
    place: null,
    run: { kind: 'none' },
    checks: [],
    proof: null,
    about: '',
  } as ReachState,
  reducers: {
    reachChanged: (
      state,
      {
        payload,
      }: PayloadAction<
        Partial<Pick<ReachState, 'batteryShare' | 'reserveShare' | 'heightM' | 'massKg' | 'place'>>
      >,
    ): ReachState => ({ ...state, ...payload }),
    checksBegun: (
      state,
      { payload }: PayloadAction<{ total: number; proof: Proof; about: string }>,
    ): ReachState => ({
      ...state,
      checks: [],
      proof: payload.proof,
      about: payload.about,
      run: { kind: 'flying', total: payload.total },
    }),
    checkFlown: (state, { payload }: PayloadAction<FlownCheck>): ReachState => ({
      ...state,
      checks: [...state.checks, payload],
    }),
    checksEnded: (
      state,
      { payload }: PayloadAction<Exclude<ReachState['run'], { kind: 'flying' }>>,
    ): ReachState => ({ ...state, run: payload }),
  },
  extraReducers: (builder) => {
    builder.addCase(
      siteTaken,
      (state): ReachState => ({
        ...state,
        place: null,
        massKg: null,
        checks: [],
        proof: null,
        run: { kind: 'none' },
      }),
    );
  },
});

export const { reachChanged, checksBegun, checkFlown, checksEnded } = slice.actions;
export const reachReducer = slice.reducer;
