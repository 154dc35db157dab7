import { useEffect, useRef, useState } from 'react';
import { makeProof } from '#core/proofs/proofs.ts';
import { ARRIVAL_WINDS_DEG, arrivalScenario } from '#core/reach/arrivals.ts';
import { proofTaken } from '../../../store/craftSlice.ts';
import { selectProofWorld, toFly } from '../../../store/selectors.ts';
import { store } from '../../../store/store.ts';
import { type Crew, crew } from '../../../workers/crew.ts';
import type { ArrivalOutcome } from '../../../workers/workshop.worker.ts';

/** An arrival that was flown. */
export type Arrived = Extract<ArrivalOutcome, { kind: 'flown' }> & { readonly fromDeg: number };

export interface Arrivals {
  readonly flown: readonly Arrived[];
  /** What they were flown with. */
  readonly values: unknown;
  readonly flying: boolean;
  readonly fault: string | null;
  fly(): Promise<void>;
  stop(): void;
}

/** The last minutes of an arrival are drawn, s. */
const DRAWN_S = 150;

/** Arrivals in eight winds, flown in as many workers as there are to spare. */
export function useArrivals(): Arrivals {
  const [flown, setFlown] = useState<readonly Arrived[]>([]);
  const [values, setValues] = useState<unknown>(null);
  const [flying, setFlying] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const running = useRef<Crew | null>(null);
  const stop = () => {
    running.current?.stop();
    running.current = null;
    setFlying(false);
  };
  // Whoever leaves has stopped it.
  useEffect(() => () => running.current?.stop(), []);
  const fly = async () => {
    const state = store.getState();
    const what = toFly(state);
    const world = selectProofWorld(state);
    if (!what || !world || flying) return;
    setFlown([]);
    setFault(null);
    setFlying(true);
    setValues(what.values);
    const all: Arrived[] = [];
    let at = 0;
    let refused = false;
    const crewed = crew(async (shop) => {
      const fromDeg = ARRIVAL_WINDS_DEG[at++];
      if (fromDeg === undefined) return false;
      const scenario = arrivalScenario(what.scenario, what.values, what.site, fromDeg);
      const outcome = await shop.flyArrival({ ...what, scenario }, DRAWN_S);
      if (outcome.kind === 'refused' || outcome.verdict === 'not-flown') {
        refused = true;
        setFault(outcome.kind === 'refused' ? outcome.why : `${outcome.reason} So nothing was flown.`);
        crewed.stop();
        return false;
      }
      all.push({ ...outcome, fromDeg });
      setFlown([...all]);
      return true;
    });
    running.current = crewed;
    try {
      await crewed.done;
      const same = store.getState().crafts.id === state.crafts.id;
      if (!refused && same && running.current === crewed && all.length === ARRIVAL_WINDS_DEG.length) {
        const home = all.filter((a) => a.verdict === 'home').length;
        const offM = Math.round(Math.max(...all.map((a) => Math.hypot(a.end[0], a.end[1]))));
        const seen = { kind: 'arrival' as const, home, total: all.length, offM };
        store.dispatch(proofTaken(makeProof(seen, world, new Date().toISOString())));
      }
    } catch (error) {
      setFault(
        `The flights stopped by a fault of ours: ${error instanceof Error ? error.message : String(error)}.`,
      );
    }
    stop();
  };
  return { flown, values, flying, fault, fly, stop };
}
