import { combineReducers, configureStore, isAnyOf, type Middleware } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { batchReducer } from './batchSlice.ts';
import { boardReducer } from './boardSlice.ts';
import {
  airframeChanged,
  benchSoldered,
  boardChosen,
  craftReducer,
  fieldBookChanged,
  linkRangeSaid,
  planChanged,
  proofTaken,
  renamed,
  searchChanged,
  setupChosen,
  siteNamed,
  switchSeen,
  transmitterForgotten,
  videoSupplySaid,
  wiringChanged,
} from './craftSlice.ts';
import { craftsReducer } from './craftsSlice.ts';
import { failsReducer } from './failsSlice.ts';
import { firmwareReducer } from './firmwareSlice.ts';
import { flightsReducer } from './flightsSlice.ts';
import { historyReducer } from './historySlice.ts';
import { lawful } from './lawful.ts';
import { procedureReducer } from './procedureSlice.ts';
import { reachReducer } from './reachSlice.ts';
import { rehearsalReducer, scenarioChanged } from './rehearsalSlice.ts';
import { routesReducer } from './routesSlice.ts';
import { dropped, settingsReducer, staged } from './settingsSlice.ts';
import { siteReducer } from './siteSlice.ts';
import { redone, undone, withTimeline } from './timeline.ts';
import { uiReducer } from './uiSlice.ts';

const reducer = withTimeline(
  combineReducers({
    crafts: craftsReducer,
    craft: craftReducer,
    settings: settingsReducer,
    board: boardReducer,
    rehearsal: rehearsalReducer,
    batch: batchReducer,
    reach: reachReducer,
    fails: failsReducer,
    routes: routesReducer,
    history: historyReducer,
    firmware: firmwareReducer,
    procedure: procedureReducer,
    flights: flightsReducer,
    site: siteReducer,
    ui: uiReducer,
  }),
);

/** All that changes a craft by hand. */
const changesCraft = isAnyOf(
  staged,
  dropped,
  undone,
  redone,
  airframeChanged,
  renamed,
  setupChosen,
  boardChosen,
  siteNamed,
  benchSoldered,
  switchSeen,
  transmitterForgotten,
  wiringChanged,
  planChanged,
  linkRangeSaid,
  fieldBookChanged,
  searchChanged,
  videoSupplySaid,
  proofTaken,
  scenarioChanged,
);

/** In a tab that reads along, a craft that another one works on is not changed. */
const readingOnly: Middleware = (api) => (next) => (action) => {
  const { reading, status } = (api.getState() as AppState).crafts;
  return reading && status === 'open' && changesCraft(action) ? undefined : next(action);
};

/** A store of its own, as tests make them. */
export const makeStore = () =>
  configureStore({
    reducer,
    // Catalogue and tracks are large and never mutated; checking them for it on each action costs frames.
    middleware: (getDefault) =>
      getDefault({ serializableCheck: false, immutableCheck: false }).concat(readingOnly, lawful),
  });

export const store = makeStore();

export type AppState = ReturnType<typeof reducer>;
export type AppDispatch = typeof store.dispatch;
export const useApp = useSelector.withTypes<AppState>();
export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
