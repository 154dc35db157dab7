import { useEffect, useState } from 'react';
import type { Airframe } from '#core/airframe/airframe.ts';
import type { StartingValue } from '#core/settings/startingValues.ts';
import { useApp } from './store/store.ts';
import { workshop } from './workers/index.ts';

/** So long after a station was opened, ms. */
const AFTER_MS = 250;

/** The last craft they were computed for; a craft is never changed in place. */
let known: { readonly of: Airframe; readonly values: Promise<readonly StartingValue[]> } | null = null;

/** Starting values of the craft as it is described now; null while they are computed. */
export function useStartingValues(): readonly StartingValue[] | null {
  const airframe = useApp((s) => s.craft.airframe);
  const [found, setFound] = useState<{ of: Airframe; values: readonly StartingValue[] } | null>(null);
  useEffect(() => {
    if (!airframe) return;
    let current = true;
    // The station is there first; that a worker starts does not keep it from being painted.
    const timer = setTimeout(() => {
      if (known?.of !== airframe) known = { of: airframe, values: workshop().startingValues(airframe) };
      void known.values.then((values) => current && setFound({ of: airframe, values }));
    }, AFTER_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [airframe]);
  return found?.of === airframe ? found.values : null;
}
