import { proxy, transfer } from 'comlink';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import { type CraftFile, readCraftFile } from '#core/formats/craftFile.ts';
import { makeProof, type Seen } from '#core/proofs/proofs.ts';
import { sameValue } from '#core/settings/catalogue.ts';
import { emptyDraft } from '#core/settings/draft.ts';
import asFound from '#demo/turnstone-as-found.wanderweg.json?raw';
import { readBoard, readValues, writeEdits } from '#link/board.ts';
import { LinkClient, LinkError } from '#link/client.ts';
import { OutputHold } from '#link/hold.ts';
import { portTransport } from '#link/transport.ts';
import { clearTelemetry, takeTelemetry } from './live/telemetry.ts';
import { linkGone, linkReading, linkReady, writeChanged } from './store/boardSlice.ts';
import { craftLoaded, proofTaken } from './store/craftSlice.ts';
import { loadFlash, loadKept, STORAGE_REFUSED, saveFlash, startPersistence } from './store/persistence.ts';
import { flown, resultDropped, runChanged, scenarioChanged } from './store/rehearsalSlice.ts';
import { selectFlightPrint, selectValues } from './store/selectors.ts';
import { boardRead, catalogueKnown, craftOpened } from './store/settingsSlice.ts';
import { store } from './store/store.ts';
import { uiChanged } from './store/uiSlice.ts';
import { type BenchControls, bench, workshop } from './workers/index.ts';

/**
 * What the application does with the world outside: the link, the bench, the files. Components call these and
 * read what came of it from the store.
 */

let client: LinkClient | null = null;
let writeSession = Math.floor(Date.now() / 1000) >>> 0;

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
    await openCraft(craft, rest, await loadFlash());
  } else {
    const demo = readCraftFile(asFound);
    if (!demo.ok) throw new Error(demo.why);
    await openCraft(demo.craft, null, null);
  }
  startPersistence();
}

/** Takes a craft as the one worked on, and puts its like on the bench. */
async function openCraft(
  craft: CraftFile,
  history: {
    past: readonly CraftFile['edits'][];
    future: readonly CraftFile['edits'][];
    baseFrom: 'file' | 'board';
  } | null,
  flash: readonly [Uint8Array, Uint8Array] | null,
): Promise<void> {
  const known = await workshop.knownFirmware();
  const defaults = Object.fromEntries(known.entries.map((e) => [e.key, e.default]));
  const draft = history
    ? { edits: craft.edits, past: history.past, future: history.future }
    : { ...emptyDraft, edits: craft.edits };
  store.dispatch(craftLoaded(craft));
  store.dispatch(
    craftOpened({
      ...known,
      base: { ...defaults, ...craft.settings },
      baseFrom: history?.baseFrom ?? 'file',
      draft,
    }),
  );
  store.dispatch(catalogueKnown(known));
  store.dispatch(resultDropped());
  const values = { ...defaults, ...craft.settings };
  await bench.setUp(craft.airframe, craft.bench ?? truthFromSettings(craft.airframe, values), values, flash);
  if (flash === null) void bench.flashPages().then(saveFlash);
}

export type Opened =
  | { readonly ok: true; readonly name: string }
  | { readonly ok: false; readonly why: string };

/** Opens a craft from a file's text. On any fault nothing changes. */
export async function openCraftText(text: string): Promise<Opened> {
  const read = readCraftFile(text);
  if (!read.ok) return read;
  const known = await workshop.knownFirmware();
  const entries = new Map(known.entries.map((e) => [e.key, e]));
  const foreign = Object.keys({ ...read.craft.settings, ...read.craft.edits }).filter((k) => !entries.has(k));
  if (foreign.length > 0 && foreign.length === Object.keys(read.craft.settings).length) {
    return {
      ok: false,
      why: 'None of the settings in the file belong to the firmware this application knows. Nothing was changed.',
    };
  }
  disconnect();
  await openCraft(read.craft, null, null);
  store.dispatch(writeChanged({ kind: 'idle' }));
  return { ok: true, name: read.craft.name };
}

/** Bench: what a person does with their hands. Plugging USB in also begins to read the board. */
export async function benchControl(change: Partial<BenchControls>): Promise<void> {
  await bench.control(change);
  if (change.usb === true) await connect();
  if (change.usb === false) client?.close();
}

async function connect(): Promise<void> {
  client?.close();
  const channel = new MessageChannel();
  store.dispatch(linkReading(0));
  if (!(await bench.plug(transfer(channel.port1, [channel.port1])))) {
    store.dispatch(linkGone('No board answers on the cable.'));
    return;
  }
  const mine = new LinkClient(portTransport(channel.port2));
  client = mine;
  mine.onTelemetry = takeTelemetry;
  mine.onClosed = () => {
    if (client !== mine) return;
    client = null;
    clearTelemetry();
    void bench.state().then((s) => {
      const out = s === null || !s.controls.usb;
      store.dispatch(linkGone(out ? null : 'The link dropped.'));
      if (!out) void connect();
    });
  };
  try {
    const copy = await readBoard(mine, (share) => store.dispatch(linkReading(share)));
    const base = store.getState().settings.base;
    const differing = Object.keys(copy.values).filter((k) => !sameValue(base[k], copy.values[k])).length;
    store.dispatch(
      catalogueKnown({
        entries: copy.catalogue.entries,
        rules: copy.catalogue.rules,
        description: copy.description,
      }),
    );
    store.dispatch(boardRead(copy.values));
    store.dispatch(linkReady({ identity: copy.identity, differing }));
    for (const [group, hz] of [
      ['attitude', 50],
      ['outputs', 50],
      ['receiver', 25],
      ['power', 4],
      ['navigation', 4],
      ['status', 10],
    ] as const) {
      await mine.request('subscribe', { group, hz });
    }
  } catch (error) {
    if (client === mine) {
      client = null;
      mine.close();
      store.dispatch(linkGone(faultText(error)));
    }
  }
}

function disconnect(): void {
  const old = client;
  client = null;
  old?.close();
  clearTelemetry();
  store.dispatch(linkGone(null));
}

/** Writes every waiting edit, and says what the board read back. */
export async function writeToBoard(): Promise<void> {
  const state = store.getState();
  const edits = state.settings.draft.edits;
  const count = Object.keys(edits).length;
  const mine = client;
  if (count === 0 || state.board.write.kind === 'writing') return;
  if (!mine) {
    store.dispatch(
      writeChanged({ kind: 'failed', why: 'No board is connected. The edits stay here until one is.' }),
    );
    return;
  }
  store.dispatch(writeChanged({ kind: 'writing', count }));
  writeSession = (writeSession + 1) >>> 0;
  try {
    const { fingerprint } = await mine.request('hello', { link: 1 });
    const board = await readValues(mine);
    const changedBehind = Object.keys(board).some((k) => !sameValue(board[k], state.settings.base[k]));
    if (changedBehind) {
      store.dispatch(boardRead(board));
      store.dispatch(
        writeChanged({
          kind: 'failed',
          why: 'The board holds other settings than when it was read. They were read again; look at the edits and write once more.',
        }),
      );
      return;
    }
    const outcome = await writeEdits(mine, fingerprint, edits, writeSession);
    if (outcome.kind === 'refused')
      store.dispatch(writeChanged({ kind: 'refused', refusals: outcome.refusals }));
    else {
      store.dispatch(boardRead(outcome.values));
      if (outcome.kind === 'written') {
        store.dispatch(writeChanged({ kind: 'written', count, restartNeeded: outcome.restartNeeded }));
        void bench.flashPages().then(saveFlash);
      } else {
        store.dispatch(
          writeChanged({
            kind: 'failed',
            why: `The board read back something else for ${outcome.keys.join(', ')}. What it holds now is shown.`,
          }),
        );
      }
    }
  } catch (error) {
    const gone = error instanceof LinkError && (error.fault === 'closed' || error.fault === 'silent');
    store.dispatch(
      writeChanged({
        kind: 'failed',
        why: gone
          ? 'The link went quiet during the write. The board holds either all the edits or none; they are read when it is back, and nothing is lost here.'
          : faultText(error),
      }),
    );
  }
}

/** Restarts the board, for settings that take effect only then. */
export async function restartBoard(): Promise<void> {
  try {
    await client?.request('restart', {});
  } catch (error) {
    store.dispatch(writeChanged({ kind: 'failed', why: faultText(error) }));
  }
}

/** Tells the board that the propellers are off, or no longer. A sentence when it refuses. */
export async function confirmPropellersOff(off: boolean): Promise<string | null> {
  try {
    if (!client) return 'No board is connected.';
    await client.request('bench-allow', { propellersOff: off });
    return null;
  } catch (error) {
    return faultText(error);
  }
}

let hold: OutputHold | null = null;

export function startHold(output: number): void {
  if (!client) return;
  hold = new OutputHold(client);
  hold.start(output);
}

export function stopHold(): void {
  hold?.stop();
  hold = null;
}

/** Keeps what a person saw as a proof over the settings drafted now. */
export function recordProof(seen: Seen): void {
  const state = store.getState();
  const serial = state.board.identity?.serial ?? '';
  store.dispatch(proofTaken(makeProof(seen, selectValues(state), serial, new Date().toISOString())));
}

/** Flies the draft. */
export async function rehearse(): Promise<void> {
  const state = store.getState();
  const { airframe, file } = state.craft;
  if (!airframe || state.rehearsal.run.kind === 'flying') return;
  const flownWith = selectFlightPrint(state);
  store.dispatch(runChanged({ kind: 'flying', seconds: 0, rate: 0 }));
  const onProgress = proxy((seconds: number, rate: number) => {
    if (store.getState().rehearsal.run.kind === 'flying')
      store.dispatch(runChanged({ kind: 'flying', seconds, rate }));
  });
  try {
    const outcome = await workshop.fly(
      airframe,
      selectValues(state),
      file?.bench ?? null,
      state.rehearsal.scenario,
      onProgress,
    );
    if (outcome.kind === 'flown') store.dispatch(flown({ result: outcome.result, flownWith }));
    else if (outcome.kind === 'cancelled')
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

export function cancelRehearsal(): void {
  void workshop.cancel();
}
