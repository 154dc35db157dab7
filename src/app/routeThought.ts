import type { RouteAsked, RouteWay } from '#core/plan/routeWay.ts';
import { routeThought } from './store/routesSlice.ts';
import { selectPlan, selectValues } from './store/selectors.ts';
import type { AppState } from './store/store.ts';
import { store } from './store/store.ts';
import { workshop } from './workers/index.ts';

/** The route flown in thought, in a worker, whenever something changes that it rests on: for findings and for its station. */

/** What a route is asked with: the draft, the wind of the rehearsal, a full battery. */
function routeAsked(state: AppState): RouteAsked | null {
  const { airframe, file } = state.craft;
  const site = state.site.current;
  if (!airframe || !file || !site || state.crafts.status !== 'open') return null;
  return {
    airframe,
    values: selectValues(state),
    site: { terrain: site.terrain, home: site.home },
    plan: selectPlan(state),
    wind: state.rehearsal.scenario.wind,
    batteryShare: 1,
    reserveShare: state.reach.reserveShare,
    linkM: file.linkM ?? 0,
  };
}

/** What it rests on, to be compared by what they are. */
const restsOf = (s: AppState) =>
  [
    s.craft.airframe,
    s.craft.file?.plan,
    s.craft.file?.linkM,
    selectValues(s),
    s.site.current,
    s.rehearsal.scenario.wind,
    s.reach.reserveShare,
    s.crafts.status,
    s.ui.units,
  ] as const;

const SOON_MS = 60;

/** Begins to think along. One thought at a time; what changed meanwhile is thought of next. */
export function thinkAlong(): void {
  let known: readonly unknown[] = [];
  let thinking = false;
  let waiting: ReturnType<typeof setTimeout> | null = null;
  const think = async () => {
    waiting = null;
    const state = store.getState();
    const asked = routeAsked(state);
    if (!asked || asked.plan.points.length === 0) {
      store.dispatch(routeThought(null));
      return;
    }
    thinking = true;
    try {
      const thought = await workshop().routeWay(asked, state.ui.units);
      // Of a craft that was left meanwhile nothing is said.
      if (store.getState().craft.file?.plan === state.craft.file?.plan) store.dispatch(routeThought(thought));
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      store.dispatch(routeThought({ way: EMPTY_WAY, problems: [], why }));
    }
    thinking = false;
    look();
  };
  const look = () => {
    const rests = restsOf(store.getState());
    if (rests.every((r, i) => r === known[i]) || thinking) return;
    known = rests;
    if (waiting) clearTimeout(waiting);
    waiting = setTimeout(() => void think(), SOON_MS);
  };
  store.subscribe(look);
  look();
}

const EMPTY_WAY: RouteWay = {
  ...{
    moments: [],
    arrivals: [],
    seconds: 0,
    lengthM: 0,
    leftShare: 0,
    noReturn: null,
    overFence: null,
    stuck: null,
  },
};
