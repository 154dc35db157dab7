import { transfer } from 'comlink';
import { boardTitle } from '#core/board/boardRef.ts';
import { Catalogue, sameValue, type Values } from '#core/settings/catalogue.ts';
import { VersionLens } from '#core/settings/migration/lens.ts';
import { pathBetween } from '#core/settings/migration/migrate.ts';
import type { Identity } from '#core/wire/messages.ts';
import { greet, readBoard, readValues, writeEdits } from '#link/board.ts';
import { LinkClient, LinkError } from '#link/client.ts';
import { OutputHold } from '#link/hold.ts';
import { portTransport } from '#link/transport.ts';
import { keep, keepMet } from './history.ts';
import { clearTelemetry, takeTelemetry } from './live/telemetry.ts';
import { notify } from './notify.tsx';
import {
  linkGone,
  linkReading,
  linkReady,
  loaderMet,
  nativeRead,
  selfTested,
  waitingFor,
  writeChanged,
} from './store/boardSlice.ts';
import { boardChosen } from './store/craftSlice.ts';
import { boardRead, catalogueKnown } from './store/settingsSlice.ts';
import { store } from './store/store.ts';
import { bench } from './workers/index.ts';

/** The application's side of the link to a board: reading it, writing to it, moving its outputs. */

let client: LinkClient | null = null;
let writeSession = Math.floor(Date.now() / 1000) >>> 0;

const faultText = (error: unknown) => (error instanceof Error ? error.message : String(error));

/** Joins the cable and reads what is on it. */
export async function connect(): Promise<void> {
  client?.close();
  const channel = new MessageChannel();
  store.dispatch(linkReading(0));
  if (!(await bench.plug(transfer(channel.port1, [channel.port1])))) {
    // Pulled again before it was joined, there is nothing to complain of.
    const state = await bench.state();
    store.dispatch(linkGone(state?.controls.usb ? 'No board answers on the cable.' : null));
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
      if (!out) void comeBack();
    });
  };
  try {
    const identity = await greet(mine);
    if (identity.firmware === 'Loader') {
      store.dispatch(loaderMet({ identity, loader: await loaderState(mine) }));
      return;
    }
    const copy = await readBoard(mine, identity, (share) => store.dispatch(linkReading(share)));
    const known = await bench.knownFirmware();
    const version = identity.version;
    lens =
      version !== known.version && pathBetween(version, known.version)
        ? new VersionLens(version, copy.catalogue, known.version, new Catalogue(known.entries, known.rules))
        : null;
    const values = shownOf(copy.values);
    const base = store.getState().settings.base;
    const differing = Object.keys(values).filter((k) => !sameValue(base[k], values[k])).length;
    store.dispatch(
      catalogueKnown(
        lens ? known : { entries: copy.catalogue.entries, rules: copy.catalogue.rules, version },
      ),
    );
    store.dispatch(boardRead(values));
    meant(identity);
    // What is on the board is kept before anything can be done to it.
    const before = await keepMet(identity, copy.values);
    const { description } = copy;
    store.dispatch(linkReady({ identity, description, differing, before, native: lens && copy.values }));
    void listenForParts(mine);
    for (const [group, hz] of [
      ['attitude', 50],
      ['outputs', 50],
      ['receiver', 25],
      ['power', 4],
      ['navigation', 4],
      ['estimates', 4],
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

/** The board on the cable is the one that the craft is for; where that was another make, it can be had back. */
function meant({ target, revision, firmware, version, serial }: Identity): void {
  const before = store.getState().craft.file?.board;
  store.dispatch(boardChosen({ target, revision, firmware, version, serial }));
  if (!before || before.target === target) return;
  const name = store.getState().craft.file!.name;
  void notify(`${name} is for ${boardTitle({ target })} from now on: that is the board on the cable.`, {
    label: `Back to ${boardTitle(before)}`,
    onClick: () => store.dispatch(boardChosen(before)),
  });
}

/** How a board of another version is shown; null for one of the version that everything is written for. */
let lens: VersionLens | null = null;
const shownOf = (native: Values): Values => lens?.toShown(native) ?? native;

const RETRY_MS = 300;
const RETRIES = 20;

/** The link dropped with the cable still in: the board restarts, and is met again as soon as it answers. */
async function comeBack(): Promise<void> {
  for (let k = 0; k < RETRIES && store.getState().board.link === 'unplugged'; k++) {
    const state = await bench.state();
    if (!state?.controls.usb) break;
    if (state.running) {
      await connect();
      if (store.getState().board.link !== 'unplugged') return;
    }
    await pause(RETRY_MS);
  }
  store.dispatch(waitingFor(null));
}

async function loaderState(mine: LinkClient) {
  const { whole, ...state } = await mine.request('loader-state', {});
  const blocks = whole.reduce((sum, b) => sum + b, 0);
  return { ...state, written: Math.min(state.plan?.size ?? 0, blocks * state.blockBytes) };
}

const LISTEN_EVERY_MS = 1000;

/** Asks who answers on its buses and ports for as long as this link lasts. */
async function listenForParts(mine: LinkClient): Promise<void> {
  while (client === mine && mine.isOpen) {
    try {
      const heard = await mine.request('self-test', {});
      if (client === mine && JSON.stringify(heard) !== JSON.stringify(store.getState().board.selfTest))
        store.dispatch(selfTested(heard));
    } catch {
      // A board that is busy or gone is asked again, or the link's end is told elsewhere.
    }
    await pause(LISTEN_EVERY_MS);
  }
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** The link as it is now, for those who speak to the loader. @throws Error with a sentence when there is none */
export function openLink(): LinkClient {
  if (!client?.isOpen) throw new Error('No board is connected.');
  return client;
}

/** Drops the link without waiting for what it says. */
export function disconnect(): void {
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
    const shown = shownOf(board);
    const changedBehind = Object.keys(shown).some((k) => !sameValue(shown[k], state.settings.base[k]));
    if (changedBehind) {
      store.dispatch(boardRead(shown));
      store.dispatch(nativeRead(lens && board));
      store.dispatch(
        writeChanged({
          kind: 'failed',
          why: 'The board holds other settings than when it was read. They were read again; look at the edits and write once more.',
        }),
      );
      return;
    }
    const own = lens ? lens.toNative(board, edits) : { edits, refusals: [] };
    const outcome =
      own.refusals.length > 0
        ? ({ kind: 'refused', refusals: own.refusals } as const)
        : await writeEdits(mine, fingerprint, own.edits, writeSession);
    if (outcome.kind === 'refused')
      store.dispatch(writeChanged({ kind: 'refused', refusals: outcome.refusals }));
    else {
      store.dispatch(boardRead(shownOf(outcome.values)));
      store.dispatch(nativeRead(lens && outcome.values));
      // The board keeps what it stored over a reload of this page.
      await bench.keepNow();
      if (outcome.kind === 'written') {
        store.dispatch(writeChanged({ kind: 'written', count, restartNeeded: outcome.restartNeeded }));
        const identity = store.getState().board.identity;
        if (identity) await keep('written', identity, outcome.values);
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

/** What the board holds, in the terms of its own version. */
export function boardHolds(): Values {
  const { board, settings } = store.getState();
  return board.native ?? settings.base;
}

/**
 * Writes edits in the terms of the board's own version, past the tray: for settings that are brought back after a
 * person looked through all of them.
 * @throws Error with a sentence when the board refuses or reads back something else
 */
export async function writeOwn(edits: Values): Promise<void> {
  const mine = openLink();
  writeSession = (writeSession + 1) >>> 0;
  const { fingerprint } = await mine.request('hello', { link: 1 });
  const outcome = await writeEdits(mine, fingerprint, edits, writeSession);
  if (outcome.kind === 'refused')
    throw new Error(
      `The board refuses: ${outcome.refusals.map((r) => r.why).join(' ')} Nothing was written.`,
    );
  store.dispatch(boardRead(shownOf(outcome.values)));
  store.dispatch(nativeRead(lens && outcome.values));
  await bench.keepNow();
  if (outcome.kind === 'differs')
    throw new Error(`The board read back something else for ${outcome.keys.join(', ')}.`);
  const identity = store.getState().board.identity;
  if (identity) await keep('written', identity, outcome.values);
  if (outcome.restartNeeded) await restartBoard();
}

/** Restarts the board, for settings that take effect only then. */
export async function restartBoard(): Promise<void> {
  try {
    store.dispatch(waitingFor('the board, which restarts'));
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
