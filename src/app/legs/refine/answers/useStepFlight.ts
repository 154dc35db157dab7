import { useRef, useState } from 'react';
import type { Axis } from '#core/mixer/authority.ts';
import { toFly } from '../../../store/selectors.ts';
import { store } from '../../../store/store.ts';
import { workshop } from '../../../workers/index.ts';
import type { WorkshopApi } from '../../../workers/workshop.worker.ts';

/** A step out of a flight in the bench. */
export type Flown = Extract<ReturnType<WorkshopApi['flyStep']>, { kind: 'flown' }>;

/** One flight at a time, in a worker; what it was flown with is told, so that nothing older is shown for newer settings. */
export function useStepFlight() {
  const [state, setState] = useState<{
    readonly flying: boolean;
    readonly flown: Flown | null;
    readonly fault: string | null;
    readonly values: unknown;
    readonly axis: Axis | null;
  }>({ flying: false, flown: null, fault: null, values: null, axis: null });
  const newest = useRef(0);
  const fly = async (axis: Axis) => {
    const what = toFly(store.getState());
    if (!what) return;
    const mine = ++newest.current;
    const asked = { values: what.values, axis };
    setState({ ...asked, flying: true, flown: null, fault: null });
    try {
      const outcome = await workshop().flyStep(what, axis);
      if (mine !== newest.current) return;
      setState(
        outcome.kind === 'flown'
          ? { ...asked, flying: false, flown: outcome, fault: null }
          : { ...asked, flying: false, flown: null, fault: `${outcome.why} So nothing can be shown.` },
      );
    } catch (error) {
      if (mine !== newest.current) return;
      const why = error instanceof Error ? error.message : String(error);
      setState({
        ...asked,
        flying: false,
        flown: null,
        fault: `It could not be flown: ${why}. Nothing was changed.`,
      });
    }
  };
  return { ...state, fly };
}
