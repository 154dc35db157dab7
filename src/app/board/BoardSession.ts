import { boardTitle } from '#core/board/boardRef.ts';
import { boardOf } from '#core/board/boards.ts';
import type { FlightPlan } from '#core/plan/plan.ts';
import { Catalogue, sameValue, type Values } from '#core/settings/catalogue.ts';
import { VersionLens } from '#core/settings/migration/lens.ts';
import { pathBetween } from '#core/settings/migration/migrate.ts';
import { type BenchTarget, type Identity, LINK_VERSION } from '#core/wire/messages.ts';
import type { Status } from '#core/wire/telemetry.ts';
import { canDo, greet, readBoard, readValues, writeEdits } from '#link/board.ts';
import { LinkClient, LinkError } from '#link/client.ts';
import { OutputHold } from '#link/hold.ts';
import { readPlan, writePlan } from '#link/plan.ts';
import type { BoardPort } from '#link/port.ts';
import type { StreamSink } from '#link/streamRing.ts';
import {
  identityTold,
  linkGone,
  linkReading,
  linkReady,
  liveTold,
  loaderMet,
  type MetBefore,
  nativeRead,
  planRead,
  planWriteChanged,
  selfTested,
  waitingFor,
  writeChanged,
} from '../store/boardSlice.ts';
import { boardChosen } from '../store/craftSlice.ts';
import { boardRead, catalogueKnown, type KnownFirmware } from '../store/settingsSlice.ts';
import type { AppState } from '../store/store.ts';
import { OwnChanges } from './OwnChanges.ts';
import { rateOf } from './telemetryRates.ts';

/** What a session works with; nothing of it is the browser's own, so that it can be tested without one. */
export interface SessionParts {
  readonly store: {
    getState(): AppState;
    dispatch(action: { type: string }): unknown;
  };
  readonly clock: { pause(ms: number): Promise<void> };
  /** The history of settings. */
  readonly storage: {
    met(identity: Identity, values: Values): Promise<MetBefore | null>;
    written(identity: Identity, values: Values): Promise<unknown>;
  };
  /** The firmware that everything is written for. */
  readonly known: () => Promise<KnownFirmware>;
  readonly live: { take(group: string, value: unknown, atS: number): void; clear(): void };
  readonly say: (text: string, action?: { label: string; onClick: () => void }) => void;
}

const faultText = (error: unknown) => (error instanceof Error ? error.message : String(error));

const RETRY_MS = 300;
const RETRIES = 20;
const LISTEN_EVERY_MS = 1000;

/**
 * The application's side of the link to a board, over whatever port: met, read, written, met again after a restart.
 * Everything it knows goes into the store.
 */
export class BoardSession {
  private client: LinkClient | null = null;
  /** How a board of another version is shown; null for one of the version that everything is written for. */
  private lens: VersionLens | null = null;
  private hold: OutputHold | null = null;
  /** Settings are on their way to it. */
  private sending = false;
  private readonly ownChanges = new OwnChanges({
    known: () => (this.state.board.link === 'ready' ? this.state.board.identity?.fingerprint : undefined),
    busy: () => this.sending,
    read: () => this.readAgain(),
  });
  /** Raw streams that somebody watches, by their source. */
  private readonly sinks = new Map<string, Map<StreamSink, number>>();
  private through: BoardPort;

  /** @param port to begin with */
  constructor(
    private readonly parts: SessionParts,
    port: BoardPort,
  ) {
    this.through = port;
    this.listenTo(port);
  }

  get port(): BoardPort {
    return this.through;
  }

  /** Goes over to another port; what is on the one before is let go. */
  usePort(port: BoardPort): void {
    this.disconnect();
    this.through.onAppear = () => {};
    this.through = port;
    this.listenTo(port);
  }

  private listenTo(port: BoardPort): void {
    port.onAppear = () => {
      if (this.state.board.link === 'unplugged') void this.connect();
    };
  }

  private get state(): AppState {
    return this.parts.store.getState();
  }

  private put(action: { type: string }): void {
    this.parts.store.dispatch(action);
  }

  /** Opens the port and reads what is on it. */
  async connect(): Promise<void> {
    this.client?.close();
    this.client = null;
    this.put(linkReading(0));
    const { port } = this;
    let mine: LinkClient;
    try {
      mine = new LinkClient(await port.open());
    } catch (error) {
      // Pulled again before it was joined, there is nothing to complain of.
      if (port === this.port) this.put(linkGone((await port.presence()) === 'out' ? null : faultText(error)));
      return;
    }
    if (port !== this.port) {
      mine.close();
      return;
    }
    this.client = mine;
    mine.onTelemetry = (group, value, atS) => {
      this.parts.live.take(group, value, atS);
      if (group === 'status') this.tellLive(value as Status);
    };
    mine.onStream = (source, block) => {
      for (const sink of this.sinks.get(source)?.keys() ?? []) sink.push(block);
    };
    mine.onClosed = () => void this.dropped(mine);
    try {
      await this.meet(mine);
    } catch (error) {
      if (this.client !== mine) return;
      this.client = null;
      mine.close();
      this.put(linkGone(faultText(error)));
    }
  }

  private tellLive({ restartNeeded, settings }: Status): void {
    this.ownChanges.told(settings);
    if (this.state.board.live?.restartNeeded !== restartNeeded) this.put(liveTold({ restartNeeded }));
  }

  private async meet(mine: LinkClient): Promise<void> {
    const identity = await greet(mine);
    if (identity.firmware === 'Loader') {
      this.put(loaderMet({ identity, loader: await loaderState(mine) }));
      return;
    }
    // Whatever somebody confirmed before is asked again: propellers may have been put on since.
    if (canDo(identity, 'bench-allow')) await mine.request('bench-allow', { propellersOff: false });
    const copy = await readBoard(mine, identity, (share) => this.put(linkReading(share)));
    const known = await this.parts.known();
    const { version } = identity;
    this.lens =
      version !== known.version && pathBetween(version, known.version)
        ? new VersionLens(version, copy.catalogue, known.version, new Catalogue(known.entries, known.rules))
        : null;
    const values = this.shownOf(copy.values);
    const { base } = this.state.settings;
    const differing = Object.keys(values).filter((k) => !sameValue(base[k], values[k])).length;
    this.put(
      catalogueKnown(
        this.lens ? known : { entries: copy.catalogue.entries, rules: copy.catalogue.rules, version },
      ),
    );
    this.put(boardRead(values));
    this.meant(identity);
    // What is on the board is kept before anything can be done to it.
    const before = await this.parts.storage.met(identity, copy.values);
    const { description, unreadable } = copy;
    const native = this.lens && copy.values;
    // Whoever pulled the cable meanwhile is not told of a board that is gone.
    if (this.client !== mine) return;
    const through = this.port.name;
    const lacks = this.lens?.lacks() ?? [];
    this.put(linkReady({ identity, description, unreadable, differing, before, native, lacks, through }));
    if (canDo(identity, 'plan-read')) await this.takePlan(mine);
    if (canDo(identity, 'self-test')) void this.listenForParts(mine);
    for (const [source, sinks] of this.sinks) {
      for (const sink of sinks.keys()) sink.clear();
      if (identity.can.streams.some((x) => x.source === source)) this.askStream(source)?.catch(() => {});
    }
    if (!canDo(identity, 'subscribe')) return;
    for (const group of identity.can.telemetry) await mine.request('subscribe', { group, hz: rateOf(group) });
  }

  /** The board on the cable is the one that the craft is for; where that was another make, it can be had back. */
  private meant({ board, target, revision, firmware, version, serial }: Identity): void {
    const before = this.state.craft.file?.board;
    this.put(boardChosen({ target, revision, firmware, version, serial }));
    if (!before || before.target === target) return;
    const { name } = this.state.craft.file!;
    const called = boardOf(target) ? boardTitle({ target }) : board;
    this.parts.say(`${name} is for ${called} from now on: that is the board on the cable.`, {
      label: `Back to ${boardTitle(before)}`,
      onClick: () => this.put(boardChosen(before)),
    });
  }

  private shownOf(native: Values): Values {
    return this.lens?.toShown(native) ?? native;
  }

  /** The link ended by itself: by hand, or since the board restarts. */
  private async dropped(mine: LinkClient): Promise<void> {
    if (this.client !== mine) return;
    this.client = null;
    this.parts.live.clear();
    const out = (await this.port.presence()) === 'out';
    if (this.client !== null) return;
    this.put(linkGone(out ? null : 'The link dropped.'));
    if (!out) await this.comeBack();
  }

  /** The link dropped with the cable still in: the board restarts, and is met again as soon as it answers. */
  private async comeBack(): Promise<void> {
    const { port } = this;
    const gone = () => port === this.port && this.state.board.link === 'unplugged';
    for (let k = 0; k < RETRIES && gone(); k++) {
      const presence = await port.presence();
      if (presence === 'out' || !gone()) break;
      if (presence === 'there') {
        await this.connect();
        if (!gone()) return;
      }
      await this.parts.clock.pause(RETRY_MS);
    }
    if (port === this.port) this.put(waitingFor(null));
  }

  /** Asks who answers on its buses and ports for as long as this link lasts. */
  private async listenForParts(mine: LinkClient): Promise<void> {
    while (this.client === mine && mine.isOpen) {
      try {
        const heard = await mine.request('self-test', {});
        if (this.client === mine && JSON.stringify(heard) !== JSON.stringify(this.state.board.selfTest))
          this.put(selfTested(heard));
      } catch {
        // A board that is busy or gone is asked again, or the link's end is told elsewhere.
      }
      await this.parts.clock.pause(LISTEN_EVERY_MS);
    }
  }

  /** The link as it is now, for those who speak to the loader. @throws Error with a sentence when there is none */
  openLink(): LinkClient {
    if (!this.client?.isOpen) throw new Error('No board is connected.');
    return this.client;
  }

  /** Drops the link without waiting for what it says. */
  disconnect(): void {
    const old = this.client;
    this.client = null;
    old?.close();
    this.parts.live.clear();
    this.put(linkGone(null));
  }

  /** Writes every waiting edit, and says what the board read back. */
  async write(): Promise<void> {
    const { settings, board } = this.state;
    const { edits } = settings;
    const count = Object.keys(edits).length;
    const mine = this.client;
    if (count === 0 || board.write.kind === 'writing') return;
    if (!mine) {
      this.failed('No board is connected. The edits stay here until one is.');
      return;
    }
    this.put(writeChanged({ kind: 'writing', count }));
    try {
      const { fingerprint } = await mine.request('hello', { link: LINK_VERSION });
      const held = await readValues(mine);
      const shown = this.shownOf(held);
      if (Object.keys(shown).some((k) => !sameValue(shown[k], settings.base[k]))) {
        this.took(held);
        this.failed(
          'The board holds other settings than when it was read. They were read again; look at the edits and write once more.',
        );
        return;
      }
      const own = this.lens ? this.lens.toNative(held, edits) : { edits, refusals: [] };
      if (own.refusals.length > 0) {
        this.put(writeChanged({ kind: 'refused', refusals: own.refusals }));
        return;
      }
      const outcome = await this.send(mine, fingerprint, own.edits);
      if (outcome.kind === 'refused') this.put(writeChanged({ kind: 'refused', refusals: outcome.refusals }));
      else if (outcome.kind === 'written') {
        const { restartNeeded } = outcome;
        this.put(writeChanged({ kind: 'written', count, restartNeeded }));
      } else
        this.failed(
          `The board read back something else for ${outcome.keys.join(', ')}. What it holds now is shown.`,
        );
    } catch (error) {
      const gone = error instanceof LinkError && (error.fault === 'closed' || error.fault === 'silent');
      this.failed(
        gone
          ? 'The link went quiet during the write. The board holds either all the edits or none; they are read when it is back, and nothing is lost here.'
          : faultText(error),
      );
    }
  }

  /**
   * Writes edits in the terms of the board's own version, past the tray: for settings that are brought back after a
   * person looked through all of them.
   * @throws Error with a sentence when the board refuses or reads back something else
   */
  async writeOwn(edits: Values): Promise<void> {
    const mine = this.openLink();
    const { fingerprint } = await mine.request('hello', { link: LINK_VERSION });
    const outcome = await this.send(mine, fingerprint, edits);
    if (outcome.kind === 'refused')
      throw new Error(
        `The board refuses: ${outcome.refusals.map((r) => r.why).join(' ')} Nothing was written.`,
      );
    if (outcome.kind === 'differs')
      throw new Error(`The board read back something else for ${outcome.keys.join(', ')}.`);
    if (outcome.restartNeeded) await this.restart();
  }

  /** The board changed its settings by itself: what it holds now is shown, and said. */
  private async readAgain(): Promise<void> {
    const mine = this.openLink();
    const identity = await mine.request('hello', { link: LINK_VERSION });
    const held = await readValues(mine);
    if (this.client !== mine || this.sending) return;
    const shown = this.shownOf(held);
    const { base } = this.state.settings;
    const changed = Object.keys(shown).filter((k) => !sameValue(shown[k], base[k])).length;
    this.put(identityTold(identity));
    if (changed === 0) return;
    this.took(held);
    await this.parts.storage.written(identity, held);
    this.parts.say(
      `${changed === 1 ? 'A setting was' : `${changed} settings were`} changed on the board itself, as by its sticks. What it holds now is shown.`,
    );
  }

  /** The one way in which settings get onto a board: sent, read back, taken, kept. */
  private async send(mine: LinkClient, fingerprint: string, edits: Values) {
    this.sending = true;
    try {
      return await this.sendAll(mine, fingerprint, edits);
    } finally {
      this.sending = false;
    }
  }

  private async sendAll(mine: LinkClient, fingerprint: string, edits: Values) {
    const outcome = await writeEdits(mine, fingerprint, edits);
    if (outcome.kind === 'refused') return outcome;
    this.took(outcome.values);
    await this.port.settle();
    // What it says of itself may be over with the write, such as that it runs on its defaults.
    const told = await mine.request('hello', { link: LINK_VERSION }).catch(() => null);
    if (told) this.put(identityTold(told));
    const identity = told ?? this.state.board.identity;
    if (outcome.kind === 'written' && identity) await this.parts.storage.written(identity, outcome.values);
    return outcome;
  }

  /** Reads route and fences of the board; what cannot be understood is told, and is not there. */
  private async takePlan(mine: LinkClient): Promise<void> {
    try {
      this.put(planRead(await readPlan(mine)));
      // What a writing before this link came to is seen now.
      this.put(planWriteChanged({ kind: 'idle' }));
    } catch (error) {
      if (this.client !== mine) return;
      this.put(planRead(null));
      this.put(planWriteChanged({ kind: 'failed', why: faultText(error) }));
    }
  }

  /** Writes route and fences as they are drawn, and says what the board read back. */
  async writePlan(plan: FlightPlan): Promise<void> {
    const { board } = this.state;
    const mine = this.client;
    if (board.planWrite.kind === 'writing') return;
    const fails = (why: string) => this.put(planWriteChanged({ kind: 'failed', why }));
    if (!mine) return fails('No board is connected. Route and fences stay here until one is.');
    if (!board.plan) return fails('What the board holds was not read yet. Connect it anew.');
    this.put(planWriteChanged({ kind: 'writing' }));
    try {
      this.put(planRead(await writePlan(mine, plan, board.plan)));
      await this.port.settle();
      this.put(planWriteChanged({ kind: 'written' }));
    } catch (error) {
      const gone = error instanceof LinkError && (error.fault === 'closed' || error.fault === 'silent');
      fails(
        gone
          ? 'The link went quiet while the route was written. The board holds either the new one or the one before; it is read when it is back.'
          : faultText(error),
      );
      if (!gone && this.client === mine)
        // Whoever wrote meanwhile, it is shown what the board holds.
        await readPlan(mine)
          .then((held) => this.put(planRead(held)))
          .catch(() => {});
    }
  }

  /** What the board holds now is what is shown. */
  private took(native: Values): void {
    this.put(boardRead(this.shownOf(native)));
    this.put(nativeRead(this.lens && native));
  }

  private failed(why: string): void {
    this.put(writeChanged({ kind: 'failed', why }));
  }

  /** What the board holds, in the terms of its own version. */
  holds(): Values {
    const { board, settings } = this.state;
    return board.native ?? settings.base;
  }

  /** Restarts the board, for settings that take effect only then. */
  async restart(): Promise<void> {
    try {
      this.put(waitingFor('the board, which restarts'));
      await this.client?.request('restart', {});
    } catch (error) {
      this.failed(faultText(error));
    }
  }

  /** Tells the board that the propellers are off, or no longer. A sentence when it refuses. */
  async confirmPropellersOff(off: boolean): Promise<string | null> {
    try {
      if (!this.client) return 'No board is connected.';
      await this.client.request('bench-allow', { propellersOff: off });
      return null;
    } catch (error) {
      return faultText(error);
    }
  }

  /**
   * Gives a sink what a sensor gives until that is ended, over restarts and cables pulled as well: it is cleared whenever the link
   * went, since the board's time begins anew.
   * @param failed told why nothing comes. @returns ends it
   */
  watchStream(source: string, hz: number, sink: StreamSink, failed: (why: string) => void): () => void {
    const sinks = this.sinks.get(source) ?? new Map<StreamSink, number>();
    this.sinks.set(source, sinks);
    sinks.set(sink, hz);
    this.askStream(source)?.catch((error) => failed(faultText(error)));
    return () => {
      sinks.delete(sink);
      this.askStream(source)?.catch(() => {});
    };
  }

  /** Asks for the fastest rate that anybody wants of a source; for none when nobody does. */
  private askStream(source: string): Promise<unknown> | undefined {
    const rates = [...(this.sinks.get(source)?.values() ?? [])];
    if (rates.length === 0) this.sinks.delete(source);
    return this.client?.request('stream', { source, hz: Math.max(0, ...rates) });
  }

  /** @param to where a servo is brought; left out, it swings */
  startHold(output: number, to?: BenchTarget): void {
    if (!this.client) return;
    this.hold = new OutputHold(this.client);
    this.hold.start(output, to);
  }

  stopHold(): void {
    this.hold?.stop();
    this.hold = null;
  }
}

async function loaderState(mine: LinkClient) {
  const { whole, ...state } = await mine.request('loader-state', {});
  const blocks = whole.reduce((sum, b) => sum + b, 0);
  return { ...state, written: Math.min(state.plan?.size ?? 0, blocks * state.blockBytes) };
}
