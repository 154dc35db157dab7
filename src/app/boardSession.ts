import { transfer } from 'comlink';
import { sameValue } from '#core/settings/catalogue.ts';
import { readBoard, readValues, writeEdits } from '#link/board.ts';
import { LinkClient, LinkError } from '#link/client.ts';
import { OutputHold } from '#link/hold.ts';
import { portTransport } from '#link/transport.ts';
import { keep, keepMet } from './history.ts';
import { clearTelemetry, takeTelemetry } from './live/telemetry.ts';
import { linkGone, linkReading, linkReady, writeChanged } from './store/boardSlice.ts';
import { saveFlash } from './store/persistence.ts';
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
    // A write may have been under way; the board keeps what it stored over a reload.
    void bench.flashPages().then(saveFlash);
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
    // What is on the board is kept before anything can be done to it.
    const before = await keepMet(copy.identity, copy.values);
    store.dispatch(linkReady({ identity: copy.identity, differing, before }));
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

/** The person pulled the cable. */
export function unplug(): void {
  client?.close();
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
        const identity = store.getState().board.identity;
        if (identity) await keep('written', identity, outcome.values);
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
