import { useEffect, useState } from 'react';
import { openKept } from '../../../flights/index.ts';
import type { KeptLog } from '../../../flights/LogShelf.ts';
import { useApp } from '../../../store/store.ts';
import type { LookedAt } from '../../../workers/flown.ts';

interface Looked {
  readonly id: string;
  readonly at: LookedAt | null;
  readonly why: string | null;
}

const NOTHING: Looked = { id: '', at: null, why: null };

/** A kept flight, opened and looked over; anew when what it is judged against changes. */
export function useLooked(log: KeptLog | null): Looked {
  const [looked, setLooked] = useState<Looked>(NOTHING);
  const airframe = useApp((s) => s.craft.airframe);
  const plan = useApp((s) => s.craft.file?.plan);
  const site = useApp((s) => s.site.current);
  const units = useApp((s) => s.ui.units);
  const [id, upTo] = [log?.id ?? '', log?.upTo ?? 0];
  useEffect(() => {
    if (!log || upTo === 0) {
      setLooked(NOTHING);
      return;
    }
    let stopped = false;
    openKept(log).then(
      (found) => {
        if (stopped || !found) return;
        setLooked('refused' in found ? { id, at: null, why: found.refused } : { id, at: found, why: null });
      },
      (error: unknown) => {
        if (!stopped) setLooked({ id, at: null, why: (error as Error).message });
      },
    );
    return () => {
      stopped = true;
    };
  }, [id, upTo, airframe, plan, site, units]);
  return looked.id === id ? looked : NOTHING;
}
