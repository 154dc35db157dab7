import { proxy } from 'comlink';
import type { Airframe } from '#core/airframe/airframe.ts';
import { type BenchTruth, truthFromSettings } from '#core/formats/benchTruth.ts';
import { type CraftFile, readCraftFile } from '#core/formats/craftFile.ts';
import { luckOf } from '#core/formats/rehearsalResult.ts';
import { makeProof, type Proof, type Seen } from '#core/proofs/proofs.ts';
import { sameValue } from '#core/settings/catalogue.ts';
import { emptyDraft } from '#core/settings/draft.ts';
import asFound from '#demo/turnstone-as-found.wanderweg.json?raw';
import { history } from './history/index.ts';
import { notify } from './notify.tsx';
import { goToSiteOf } from './sites.ts';
import { batchDropped } from './store/batchSlice.ts';
import { writeChanged } from './store/boardSlice.ts';
import { benchSoldered, craftLoaded, proofTaken } from './store/craftSlice.ts';
import { loadKept, STORAGE_REFUSED, startPersistence } from './store/persistence.ts';
import { flown, othersFlown, resultDropped, runChanged, scenarioChanged } from './store/rehearsalSlice.ts';
import { craftFileNow, selectDescription, selectProofWorld, toFly } from './store/selectors.ts';
import { catalogueKnown, craftOpened } from './store/settingsSlice.ts';
import { store } from './store/store.ts';
import { uiChanged } from './store/uiSlice.ts';
import { type BenchControls, bench, workshop } from './workers/index.ts';
import type { ToFly } from './workers/workshop.worker.ts';

/**
 * What the application does with the world outside: the link, the bench, the files. Components call these and
 * read what came of it from the store.
 */

/** The link's side of the session is loaded with the first plug, to keep the first page light. */
const boardSession = () => import('./board/session.ts').then((m) => m.boardSession);

const faultText = (error: unknown) => (error instanceof Error ? error.message : String(error));

/** Opens what was kept, or the demo craft on a first visit. */
export async function start(): Promise<void> {
  let kept = null;
  try {
    kept = await loadKept();
  } catch (error) {
    const known = error instanceof Error && error.message.startsWith('What the browser kept');
    store.dispatch(uiChanged({ storageFault: known ? faultText(error) : STORAGE_REFUSED }));
  }
  if (kept) {
    const { craft, rest } = kept;
    store.dispatch(uiChanged({ theme: rest.theme, units: rest.units, paneOpen: rest.paneOpen }));
    store.dispatch(scenarioChanged(rest.scenario));
    await openCraft(craft, rest, false);
  } else {
    const demo = readCraftFile(asFound);
    if (!demo.ok) throw new Error(demo.why);
    await openCraft(demo.craft, null, true);
  }
  startPersistence();
  void history.load();
}

/** Takes a craft as the one worked on, and puts its like on the bench. @param anew its own board holds its settings */
async function openCraft(
  craft: CraftFile,
  kept: {
    past: readonly CraftFile['edits'][];
    future: readonly CraftFile['edits'][];
    baseFrom: 'file' | 'board';
  } | null,
  anew: boolean,
): Promise<void> {
  const known = await bench.knownFirmware();
  const defaults = Object.fromEntries(known.entries.map((e) => [e.key, e.default]));
  const draft = kept
    ? { edits: craft.edits, past: kept.past, future: kept.future }
    : { ...emptyDraft, edits: craft.edits };
  store.dispatch(craftLoaded(craft));
  store.dispatch(
    craftOpened({
      ...known,
      base: { ...defaults, ...craft.settings },
      baseFrom: kept?.baseFrom ?? 'file',
      draft,
    }),
  );
  store.dispatch(catalogueKnown(known));
  const { home, year } = await goToSiteOf(craft.site, store.getState().rehearsal.scenario.home);
  await bench.carry({ home, year });
  store.dispatch(resultDropped());
  store.dispatch(batchDropped());
  const values = { ...defaults, ...craft.settings };
  const truth = craft.bench ?? truthFromSettings(craft.airframe, values);
  await bench.setUp(craft.airframe, truth, craft.board.target, values, anew);
}

export type Opened =
  | { readonly ok: true; readonly name: string }
  | { readonly ok: false; readonly why: string };

/** Opens a craft from a file's text. On any fault nothing changes. */
export async function openCraftText(text: string): Promise<Opened> {
  const read = readCraftFile(text);
  if (!read.ok) return read;
  const known = await bench.knownFirmware();
  const entries = new Map(known.entries.map((e) => [e.key, e]));
  const foreign = Object.keys({ ...read.craft.settings, ...read.craft.edits }).filter((k) => !entries.has(k));
  if (foreign.length > 0 && foreign.length === Object.keys(read.craft.settings).length) {
    return {
      ok: false,
      why: 'None of the settings in the file belong to the firmware this application knows. Nothing was changed.',
    };
  }
  (await boardSession()).disconnect();
  await openCraft(read.craft, null, true);
  store.dispatch(writeChanged({ kind: 'idle' }));
  return { ok: true, name: read.craft.name };
}

/**
 * Begins from another craft: its airframe, wired in the usual way on the bench, with its settings waiting as edits.
 * The craft before can be had back.
 */
export async function chooseCraft(airframe: Airframe): Promise<void> {
  const state = store.getState();
  const before = craftFileNow(state);
  const board = selectDescription(state);
  const site = state.site.current;
  if (!before || !board || !site) return;
  const known = await bench.knownFirmware();
  const defaults = Object.fromEntries(known.entries.map((e) => [e.key, e.default]));
  const { preparedSettings } = await import('#core/settings/preparedSettings.ts');
  const wanted = preparedSettings(airframe, board, site);
  const base = state.settings.base;
  const edits = Object.fromEntries(
    Object.entries(wanted).filter(([k, v]) => k in defaults && !sameValue(base[k], v)),
  );
  (await boardSession()).disconnect();
  // What was to be connected to the craft before is none of this one's business.
  const { wiring, ...rest } = before;
  await openCraft(
    {
      ...rest,
      name: airframe.name,
      airframe,
      settings: base,
      edits,
      proofs: [],
      bench: truthFromSettings(airframe, { ...defaults, ...wanted }),
    },
    null,
    true,
  );
  store.dispatch(writeChanged({ kind: 'idle' }));
  void notify(`${airframe.name}: its settings wait in the tray.`, {
    label: `Back to ${before.name}`,
    onClick: () => void openCraft(before, null, true),
  });
}

/** Bench: what a person does with their hands. Plugging USB in also begins to read the board. */
export async function benchControl(change: Partial<BenchControls>): Promise<void> {
  await bench.control(change);
  if (change.usb !== true) return;
  // A cable plugged in on the bench is one to the bench.
  await (await import('./board/cables.ts')).connectBench();
}

/** Solders the craft on the bench anew: the cable and the battery come out for it. */
export async function solder(truth: BenchTruth): Promise<void> {
  const { file, airframe } = store.getState().craft;
  if (!file || !airframe) return;
  await bench.control({ usb: false, battery: false });
  store.dispatch(benchSoldered(truth));
  await bench.setUp(airframe, truth, file.board.target, store.getState().settings.base, false);
  void notify('The craft on the bench is soldered like this. Put the settings into the tray and write them.');
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
