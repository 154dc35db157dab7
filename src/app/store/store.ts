import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { batchReducer } from './batchSlice.ts';
import { boardReducer } from './boardSlice.ts';
import { craftReducer } from './craftSlice.ts';
import { firmwareReducer } from './firmwareSlice.ts';
import { historyReducer } from './historySlice.ts';
import { procedureReducer } from './procedureSlice.ts';
import { rehearsalReducer } from './rehearsalSlice.ts';
import { settingsReducer } from './settingsSlice.ts';
import { siteReducer } from './siteSlice.ts';
import { uiReducer } from './uiSlice.ts';

/** A store of its own, as tests make them. */
export const makeStore = () =>
  configureStore({
    reducer: {
      craft: craftReducer,
      settings: settingsReducer,
      board: boardReducer,
      rehearsal: rehearsalReducer,
      batch: batchReducer,
      history: historyReducer,
      firmware: firmwareReducer,
      procedure: procedureReducer,
      site: siteReducer,
      ui: uiReducer,
    },
    // Catalogue and tracks are large and never mutated; checking them for it on each action costs frames.
    middleware: (getDefault) => getDefault({ serializableCheck: false, immutableCheck: false }),
  });

export const store = makeStore();

export type AppState = ReturnType<typeof store.getState>;
export type AppDispatch = typeof store.dispatch;
export const useApp = useSelector.withTypes<AppState>();
export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
