import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Site } from '#core/site/site.ts';

interface SiteState {
  /** Where the craft flies; null before a craft is open. */
  readonly current: Site | null;
  /** The current one is that of a file or of the list, not one that stands in for a site that nobody named. */
  readonly named: boolean;
  /** Names of all that can be chosen. */
  readonly names: readonly string[];
}

const slice = createSlice({
  name: 'site',
  initialState: { current: null, named: false, names: [] } as SiteState,
  reducers: {
    siteTaken: (state, { payload }: PayloadAction<{ site: Site; named: boolean }>): SiteState => ({
      ...state,
      current: payload.site,
      named: payload.named,
    }),
    sitesKnown: (state, { payload }: PayloadAction<readonly string[]>): SiteState => ({
      ...state,
      names: payload,
    }),
  },
});

export const { siteTaken, sitesKnown } = slice.actions;
export const siteReducer = slice.reducer;
