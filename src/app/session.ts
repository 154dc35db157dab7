import { proxy } from 'comlink';
import { type BenchTruth, truthFromSettings } from '#core/formats/benchTruth.ts';
import { luckOf } from '#core/formats/rehearsalResult.ts';
import type { FlightPlan } from '#core/plan/plan.ts';
import { makeProof, type Proof } from '#core/proofs/proofs.ts';
import type { Seen } from '#core/proofs/seen.ts';
import { desk } from './crafts/index.ts';
import { notify } from './notify.tsx';
import { benchSoldered, proofTaken } from './store/craftSlice.ts';
import { flown, othersFlown, runChanged } from './store/rehearsalSlice.ts';
import { loadRules } from './store/rules.ts';
import { selectProofWorld, toFly } from './store/selectors.ts';
import { store } from './store/store.ts';
import { uiChanged } from './store/uiSlice.ts';
import { type BenchControls, bench, workshop } from './workers/index.ts';
import type { ToFly } from './workers/toFly.ts';

/**
 * What the application does with the world outside: the link, the bench, the files. Components call these and
 * read what came of it from the store.
 */

/** The link's side of the session is loaded with the first plug, to keep the first page light. */
const boardSession = () => import('./board/session.ts').then((m) => m.boardSession);

const faultText = (error: unknown) => (error instanceof Error ? error.message : String(error));

/** Opens what was kept; on a first visit the desk is empty and says how to begin. */
export async function start(): Promise<void> {
  void loadRules(store);
  void import('./routeThought.ts').then(({ thinkAlong }) => thinkAlong());
  await desk.start();
  // What was kept of boards is looked at once everything else is there.
  void import('./history/index.ts').then(({ history }) => history.load());
}

/** Bench: what a person does with their hands. Plugging USB in also begins to read the board. */
export async function benchControl(change: Partial<BenchControls>): Promise<void> {
  // The bench is in the tab that works on the craft.
  if (store.getState().crafts.reading) return;
  await bench.control(change);
  if (change.propellers !== undefined) {
    store.dispatch(uiChanged({ benchPropellers: change.propellers }));
    // Whoever puts propellers on takes back that they are off.
    if (change.propellers) await confirmPropellersOff(false);
  }
  if (change.usb !== true) return;
  // A cable plugged in on the bench is one to the bench.
  await (await import('./board/cables.ts')).connectBench();
}

async function solderAs(truth: BenchTruth): Promise<void> {
  const { craft, crafts, settings } = store.getState();
  if (!craft.file || !craft.airframe || crafts.id === null || crafts.reading) return;
  await bench.control({ usb: false, battery: false });
  store.dispatch(benchSoldered(truth));
  const { target } = craft.file.board;
  const { base } = settings;
  const { airframe } = craft;
  await bench.setUp({ id: crafts.id, airframe, truth, target, settings: base, anew: false });
}

/** What is said once the craft on the bench is built otherwise. */
const solderedWords = {
  soldered: {
    done: 'The craft on the bench is soldered like this. Put the settings into the tray and write them.',
    back: 'Solder it back',
  },
  mended: {
    done: 'The craft on the bench is built like this; cable and battery came out for it.',
    back: 'As it was',
  },
} as const;

/** Builds the craft on the bench otherwise: the cable and the battery come out for it. */
export async function solder(truth: BenchTruth, how: keyof typeof solderedWords = 'soldered'): Promise<void> {
  const { file, airframe } = store.getState().craft;
  if (!file || !airframe) return;
  const before = file.bench ?? truthFromSettings(airframe, store.getState().settings.base);
  await solderAs(truth);
  const { done, back } = solderedWords[how];
  void notify(done, { label: back, onClick: () => void solderAs(before) });
}

/** Turns rods of the craft on the bench; nothing comes out for it. */
export async function turnRods(linkages: BenchTruth['linkages']): Promise<void> {
  const { file, airframe } = store.getState().craft;
  const { crafts, settings } = store.getState();
  if (!file || !airframe || crafts.reading) return;
  const truth = file.bench ?? truthFromSettings(airframe, settings.base);
  store.dispatch(benchSoldered({ ...truth, linkages }));
  await bench.relink(linkages);
}

/** What the controllers on the bench were told stands in the craft's file as well: a rehearsal flies by it. */
export function keepControllers(craft: string, controllers: BenchTruth['controllers']): void {
  const { craft: open, crafts, settings } = store.getState();
  if (!open.file || !open.airframe || crafts.reading || crafts.id !== craft || controllers.length === 0)
    return;
  const truth = open.file.bench ?? truthFromSettings(open.airframe, settings.base);
  if (JSON.stringify(truth.controllers) === JSON.stringify(controllers)) return;
  store.dispatch(benchSoldered({ ...truth, controllers }));
}

export async function writePlanToBoard(plan: FlightPlan): Promise<void> {
  await (await boardSession()).writePlan(plan);
}

export async function writeToBoard(): Promise<void> {
  await (await boardSession()).write();
}

export async function restartBoard(): Promise<void> {
  await (await boardSession()).restart();
}

export async function confirmPropellersOff(off: boolean): Promise<string | null> {
  return (await boardSession()).confirmPropellersOff(off);
}

/** Keeps what a person saw as a proof over everything as it is now. */
export function recordProof(seen: Seen): void {
  const world = selectProofWorld(store.getState());
  if (world) store.dispatch(proofTaken(makeProof(seen, world, new Date().toISOString())));
}

/** Flies the draft. */
export async function rehearse(): Promise<void> {
  const state = store.getState();
  const what = toFly(state);
  const world = selectProofWorld(state);
  if (!what || !world || state.rehearsal.run.kind === 'flying') return;
  store.dispatch(runChanged({ kind: 'flying', seconds: 0, rate: 0 }));
  const onProgress = proxy((seconds: number, rate: number) => {
    if (store.getState().rehearsal.run.kind === 'flying')
      store.dispatch(runChanged({ kind: 'flying', seconds, rate }));
  });
  try {
    const outcome = await workshop().fly(what, onProgress);
    if (outcome.kind === 'flown') {
      const { verdict, seconds } = outcome.result;
      const seen = { kind: 'flight', verdict, seconds, luck: false } as const;
      const proof = makeProof(seen, world, new Date().toISOString());
      store.dispatch(flown(outcome.result));
      store.dispatch(proofTaken(proof));
      void flyOthers(what, proof);
    } else if (outcome.kind === 'cancelled')
      store.dispatch(runChanged({ kind: 'cancelled', seconds: outcome.seconds }));
    else store.dispatch(runChanged({ kind: 'failed', why: outcome.why }));
  } catch (error) {
    store.dispatch(
      runChanged({
        kind: 'failed',
        why: `The rehearsal stopped by a fault of ours: ${faultText(error)}. Your settings are untouched.`,
      }),
    );
  }
}

/** Flies the same with other seeds behind what is shown, and says so when they end otherwise. */
async function flyOthers(what: ToFly, proof: Proof): Promise<void> {
  const { flight } = store.getState().rehearsal;
  const others = await workshop()
    .otherSeeds(what)
    .catch(() => null);
  store.dispatch(othersFlown({ flight, others }));
  const { craft, rehearsal } = store.getState();
  const { seen } = proof;
  if (seen.kind !== 'flight' || !rehearsal.result || !craft.proofs.includes(proof)) return;
  if (luckOf(rehearsal.result)) store.dispatch(proofTaken({ ...proof, seen: { ...seen, luck: true } }));
}

export function cancelRehearsal(): void {
  void workshop().cancel();
}
