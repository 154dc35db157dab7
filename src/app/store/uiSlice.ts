import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { StationId } from '#core/findings/rule.ts';
import type { UnitSystem } from '#core/units/units.ts';
import type { LegId } from '../legs/legs.ts';

/** By day, for a dark hangar, for bright sun. */
export const themes = ['day', 'dusk', 'sun'] as const;
export type Theme = (typeof themes)[number];
export const themeNames: Readonly<Record<Theme, string>> = {
  day: 'Day',
  dusk: 'Dusk, for a dark hangar',
  sun: 'Sunlight, for the strip',
};

interface UiState {
  readonly theme: Theme;
  readonly units: UnitSystem;
  readonly paneOpen: boolean;
  /** The same in a narrow window, where it takes room from the work. */
  readonly paneNarrow: boolean;
  readonly benchOpen: boolean;
  readonly findingsOpen: LegId | 'all' | null;
  readonly paletteOpen: boolean;
  readonly helpOpen: boolean;
  /** A setting opened by name in a small editor of its own. */
  readonly editing: string | null;
  /** The station last stood at, by leg. */
  readonly stations: Readonly<Partial<Record<LegId, StationId>>>;
  /** Why the browser keeps nothing, when it does not. */
  readonly storageFault: string | null;
  /** Why what was entered last did not take place; null once it was read. */
  readonly refusedEntry: string | null;
  /** What of ours stopped working, in a sentence; null while everything does. */
  readonly workerFault: string | null;
  /** The rules that find what is wrong have been fetched. */
  readonly rulesThere: boolean;
  /** A newer application was fetched and waits to be taken. */
  readonly updateWaits: boolean;
  /** Propellers are on the craft of the simulated bench. */
  readonly benchPropellers: boolean;
}

const initialUi: UiState = {
  theme: 'day',
  units: 'metric',
  paneOpen: true,
  paneNarrow: false,
  benchOpen: false,
  findingsOpen: null,
  paletteOpen: false,
  helpOpen: false,
  editing: null,
  stations: {},
  storageFault: null,
  refusedEntry: null,
  workerFault: null,
  rulesThere: false,
  updateWaits: false,
  benchPropellers: false,
};

const slice = createSlice({
  name: 'ui',
  initialState: initialUi,
  reducers: {
    uiChanged: (state, { payload }: PayloadAction<Partial<UiState>>): UiState => ({ ...state, ...payload }),
    stationEntered: (state, { payload }: PayloadAction<{ leg: LegId; station: StationId }>): UiState => ({
      ...state,
      stations: { ...state.stations, [payload.leg]: payload.station },
    }),
  },
});

export const { uiChanged, stationEntered } = slice.actions;
export const uiReducer = slice.reducer;
