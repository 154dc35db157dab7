import { useEffect, useRef, useState } from 'react';
import type { LastSeen } from '#core/search/lastSeen.ts';
import type { Likelihood } from '#core/search/likelihood.ts';
import { selectValues } from '../../../store/selectors.ts';
import { useApp } from '../../../store/store.ts';
import { workshop } from '../../../workers/index.ts';

/** Figures are being typed: the endings are flown once they rest, ms. */
const RESTS_MS = 250;

/** The map of where it may lie, flown anew whenever something changes that it rests on; none meanwhile, since the one before is of something else. */
export function useLikelihood(seen: LastSeen | null) {
  const values = useApp(selectValues);
  const airframe = useApp((s) => s.craft.airframe)!;
  const site = useApp((s) => s.site.current)!;
  const [map, setMap] = useState<{ readonly map: Likelihood; readonly of: readonly unknown[] } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [flying, setFlying] = useState(false);
  const newest = useRef(0);
  useEffect(() => {
    const mine = ++newest.current;
    if (!seen) {
      setMap(null);
      return;
    }
    setFlying(true);
    const timer = setTimeout(() => {
      workshop()
        .search(airframe, values, site, seen)
        .then((found) => {
          if (mine !== newest.current) return;
          setMap({ map: found, of: [seen, values, airframe, site] });
          setFault(null);
        })
        .catch((error: unknown) => {
          if (mine === newest.current)
            setFault(
              `The endings could not be flown: ${error instanceof Error ? error.message : String(error)}. What was typed is kept.`,
            );
        })
        .finally(() => mine === newest.current && setFlying(false));
    }, RESTS_MS);
    return () => clearTimeout(timer);
  }, [seen, values, airframe, site]);
  const asked = [seen, values, airframe, site];
  return { map: map && asked.every((x, i) => x === map.of[i]) ? map.map : null, flying, fault };
}
