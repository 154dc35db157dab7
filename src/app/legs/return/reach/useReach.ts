import { proxy } from 'comlink';
import { useEffect, useMemo, useState } from 'react';
import type { Mend } from '#core/reach/place.ts';
import type { ReachInput } from '#core/reach/reachMap.ts';
import { selectPlan, selectValues } from '../../../store/selectors.ts';
import { useApp } from '../../../store/store.ts';
import type { DrawnReach, ReachWay } from '../../../workers/drawnReach.ts';
import { workshop } from '../../../workers/index.ts';

/** What the reach is asked for now: the draft, the site, the wind on the dial and the handles. */
export function useReachInput(): ReachInput {
  const own = useApp((s) => s.craft.airframe)!;
  const values = useApp(selectValues);
  const site = useApp((s) => s.site.current)!;
  const wind = useApp((s) => s.rehearsal.scenario.wind);
  const { fences } = useApp(selectPlan);
  const { batteryShare, reserveShare, heightM, massKg } = useApp((s) => s.reach);
  return useMemo(
    () => ({
      airframe: massKg === null ? own : { ...own, massKg },
      values,
      site: { terrain: site.terrain, home: site.home },
      circumstances: { wind, batteryShare, reserveShare, heightM },
      fences,
    }),
    [own, massKg, values, site, wind, batteryShare, reserveShare, heightM, fences],
  );
}

export interface Reach {
  /** The last one that was worked out; null before the first. */
  readonly map: DrawnReach | null;
  /** Whether it is that of what is asked now, at its finest. */
  readonly done: boolean;
  readonly fault: string | null;
}

/** One asks at a time: while a handle moves, what it has passed is not worked out. */
const busy = { now: false, next: null as (() => void) | null };
function inTurn(work: () => Promise<void>): void {
  const go = () => {
    busy.now = true;
    void work().finally(() => {
      busy.now = false;
      const { next } = busy;
      busy.next = null;
      next?.();
    });
  };
  if (busy.now) busy.next = go;
  else go();
}

/** The reach, worked out in a worker from coarse to fine, and the way home from the place that is looked at. */
export function useReach(asked: ReachInput, finest: number): Reach {
  const [reach, setReach] = useState<Reach>({ map: null, done: false, fault: null });
  useEffect(() => {
    let there = true;
    setReach((r) => ({ ...r, done: false }));
    const take = (map: DrawnReach) => {
      if (there) setReach({ map, done: map.cellM === finest, fault: null });
    };
    workshop()
      .reach(asked, proxy(take))
      .catch((e: unknown) => {
        if (there) setReach({ map: null, done: true, fault: e instanceof Error ? e.message : String(e) });
      });
    return () => {
      there = false;
    };
  }, [asked, finest]);
  return reach;
}

export function useReachWay(asked: ReachInput, eastM: number, northM: number): ReachWay | null {
  const [way, setWay] = useState<ReachWay | null>(null);
  useEffect(() => {
    let there = true;
    inTurn(async () => {
      if (!there) return;
      const found = await workshop()
        .reachWay(asked, eastM, northM)
        .catch(() => null);
      if (there && found) setWay(found);
    });
    return () => {
      there = false;
    };
  }, [asked, eastM, northM]);
  return way;
}

/** What would bring it home from there; undefined while that is not known. */
export function useMend(
  asked: ReachInput,
  eastM: number,
  northM: number,
  wanted: boolean,
): Mend | null | undefined {
  const units = useApp((s) => s.ui.units);
  const [mend, setMend] = useState<Mend | null | undefined>(undefined);
  useEffect(() => {
    setMend(undefined);
    if (!wanted) return;
    let there = true;
    // Not for every place that a handle passes.
    const later = setTimeout(async () => {
      const found = await workshop()
        .reachMend(asked, eastM, northM, units)
        .catch(() => null);
      if (there) setMend(found);
    }, 350);
    return () => {
      there = false;
      clearTimeout(later);
    };
  }, [asked, eastM, northM, wanted, units]);
  return mend;
}
