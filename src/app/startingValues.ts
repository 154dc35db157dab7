import { useEffect, useState } from 'react';
import type { Airframe } from '#core/airframe/airframe.ts';
import type { StartingValue } from '#core/settings/startingValues.ts';
import type { Site } from '#core/site/site.ts';
import { useApp } from './store/store.ts';
import { workshop } from './workers/index.ts';

/** So long after a station was opened, ms. */
const AFTER_MS = 250;

/** The last craft and site they were computed for; neither is ever changed in place. */
let known: {
  readonly of: Airframe;
  readonly at: Site;
  readonly values: Promise<readonly StartingValue[]>;
} | null = null;

/** Starting values of the craft as it is described now; null while they are computed. */
export function useStartingValues(): readonly StartingValue[] | null {
  const airframe = useApp((s) => s.craft.airframe);
  const site = useApp((s) => s.site.current);
  const [found, setFound] = useState<{
    of: Airframe;
    at: Site;
    values: readonly StartingValue[];
  } | null>(null);
  useEffect(() => {
    if (!airframe || !site) return;
    let current = true;
    // The station is there first; that a worker starts does not keep it from being painted.
    const timer = setTimeout(() => {
      if (known?.of !== airframe || known.at !== site)
        known = { of: airframe, at: site, values: workshop().startingValues(airframe, site) };
      void known.values.then((values) => current && setFound({ of: airframe, at: site, values }));
    }, AFTER_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [airframe, site]);
  return found?.of === airframe && found.at === site ? found.values : null;
}
