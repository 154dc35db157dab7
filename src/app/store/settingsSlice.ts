import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Values } from '#core/settings/catalogue.ts';
import type { CrossRule, SettingEntry } from '#core/settings/catalogueSchema.ts';
import { drop, type Edits, rebase, stage } from '#core/settings/draft.ts';

export interface SettingsState {
  /** What the board says it can be told. Empty until a catalogue is known. */
  readonly entries: readonly SettingEntry[];
  readonly rules: readonly CrossRule[];
  /** Firmware version under whose names and scales everything is shown. */
  readonly version: string;
  /** The board copy: as last read back, or as the craft file has it. */
  readonly base: Values;
  readonly baseFrom: 'file' | 'board';
  /** What waits to be written over it; undo is the timeline's. */
  readonly edits: Edits;
}

export const initialSettings: SettingsState = {
  entries: [],
  rules: [],
  version: '',
  base: {},
  baseFrom: 'file',
  edits: {},
};

export interface KnownFirmware {
  readonly entries: readonly SettingEntry[];
  readonly rules: readonly CrossRule[];
  readonly version: string;
}

const slice = createSlice({
  name: 'settings',
  initialState: initialSettings as SettingsState,
  reducers: {
    /** A catalogue is known; settings the base lacks get its defaults. */
    catalogueKnown: (state, { payload }: PayloadAction<KnownFirmware>): SettingsState => ({
      ...state,
      ...payload,
      base: { ...Object.fromEntries(payload.entries.map((e) => [e.key, e.default])), ...state.base },
    }),
    /** A craft was opened: its settings are the base until a board is read. */
    craftOpened: (_state, { payload }: PayloadAction<SettingsState>): SettingsState => payload,
    /** The board was read: the only way by which the board copy changes. */
    boardRead: (state, { payload }: PayloadAction<Values>): SettingsState => ({
      ...state,
      base: payload,
      baseFrom: 'board',
      edits: rebase(state.edits, payload),
    }),
    staged: (state, { payload }: PayloadAction<Edits>): SettingsState => ({
      ...state,
      edits: stage(state.edits, state.base, payload),
    }),
    dropped: (state, { payload }: PayloadAction<readonly string[]>): SettingsState => ({
      ...state,
      edits: drop(state.edits, payload),
    }),
    /** Undo and redo. */
    editsPut: (state, { payload }: PayloadAction<Edits>): SettingsState => ({ ...state, edits: payload }),
  },
});

export const { catalogueKnown, craftOpened, boardRead, staged, dropped, editsPut } = slice.actions;
export const settingsReducer = slice.reducer;
