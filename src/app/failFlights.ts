import { type FailCell, pairOf } from '#core/fails/failCell.ts';
import { endOf, type FailWorld, failScenario, failsAt } from '#core/fails/failTable.ts';
import { pairPrint, pairsOf, pairsToFly } from '#core/fails/prints.ts';
import { remediesOf } from '#core/fails/remedies.ts';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import { makeProof } from '#core/proofs/proofs.ts';
import { proofTaken } from './store/craftSlice.ts';
import { failFlown, failsBegun, failsEnded } from './store/failsSlice.ts';
import { selectProofWorld, toFly } from './store/selectors.ts';
import { store } from './store/store.ts';
import { crew } from './workers/crew.ts';
import type { ToFly } from './workers/toFly.ts';

/** Flies the table of what may go wrong, in as many workers as the machine has to spare; only what is not known yet. */

let stop: (() => void) | null = null;

export function failWorldOf(what: ToFly): FailWorld {
  const { airframe, values, truth, site, scenario, plan } = what;
  return {
    ...{ airframe, values, site, scenario, fences: plan.fences },
    truth: truth ?? truthFromSettings(airframe, values),
  };
}

export async function flyFails(): Promise<void> {
  const state = store.getState();
  const what = toFly(state);
  const proofWorld = selectProofWorld(state);
  if (!what || !proofWorld || state.fails.run.kind === 'flying') return;
  // One of a craft that was left flies on unseen: its words are not of this one.
  stop?.();
  const world = failWorldOf(what);
  const waiting = pairsToFly(world, what.target, state.fails.cells);
  store.dispatch(failsBegun(waiting.length));
  let at = 0;
  const crewed = crew(async (shop) => {
    const pair = waiting[at++];
    if (!pair) return false;
    const { fault, phase } = pair;
    const scenario = failScenario(world, fault, phase);
    const flown = await shop.flyFailure({ ...what, scenario }, failsAt(phase));
    if (flown.kind === 'refused') {
      end({ kind: 'failed', why: flown.why });
      return false;
    }
    const { verdict, reason, seconds, decisions } = flown;
    if (verdict === 'not-flown') {
      end({ kind: 'failed', why: `${reason} So nothing was flown: first it has to fly at all.` });
      return false;
    }
    const cell: FailCell = {
      ...pair,
      print: pairPrint(world, what.target, pair),
      verdict,
      reason: reason.slice(0, 600),
      seconds,
      decisions: decisions.slice(0, 60).map((d) => ({ ...d })),
    };
    let saved: FailCell['saved'];
    if (endOf(verdict) !== 'home')
      for (const remedy of remediesOf(fault, world)) {
        const values = { ...what.values, ...remedy.edits };
        const again = failScenario({ ...world, values }, fault, phase);
        // The fault is the one of the draft, not what it would be with the remedy.
        const tried = await shop.flyFailure(
          { ...what, values, scenario: { ...again, events: scenario.events } },
          failsAt(phase),
        );
        if (tried.kind !== 'flown' || endOf(tried.verdict) !== 'home') continue;
        saved = { label: remedy.label, edits: { ...remedy.edits } };
        break;
      }
    if (store.getState().fails.run.kind === 'flying')
      store.dispatch(failFlown(saved ? { ...cell, saved } : cell));
    return true;
  });
  const end = (how: Parameters<typeof failsEnded>[0]) => {
    crewed.stop();
    stop = null;
    if (store.getState().fails.run.kind === 'flying') store.dispatch(failsEnded(how));
  };
  stop = () => end({ kind: 'none' });
  try {
    await crewed.done;
    const { cells, run } = store.getState().fails;
    if (run.kind === 'flying' && run.done === run.total) {
      const counts = { home: 0, down: 0, lost: 0 };
      for (const p of pairsOf(world)) counts[endOf(cells[pairOf(p)]!.verdict)]++;
      const seen = { kind: 'fails' as const, ...counts };
      store.dispatch(proofTaken(makeProof(seen, proofWorld, new Date().toISOString())));
    }
    end({ kind: 'none' });
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    end({ kind: 'failed', why: `The flights stopped by a fault of ours: ${why}.` });
  }
}

export function stopFails(): void {
  stop?.();
}
