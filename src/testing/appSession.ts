import type { Identity } from '#core/wire/messages.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { lossyPair, noLosses } from '#link/lossyPair.ts';
import type { BoardPort, Presence } from '#link/port.ts';
import type { Transport } from '#link/transport.ts';
import { BoardSession, type SessionParts } from '../app/board/BoardSession.ts';
import { craftLoaded } from '../app/store/craftSlice.ts';
import { craftOpened, initialSettings } from '../app/store/settingsSlice.ts';
import { siteTaken } from '../app/store/siteSlice.ts';
import { makeStore } from '../app/store/store.ts';
import type { Rig } from './benchRig.ts';
import { demoCraft, demoValues, torvholm } from './demoCraft.ts';

/** The firmware that everything is written for. */
const known = { version: '3.2', entries: pfadCatalogue.entries, rules: pfadCatalogue.rules };

/**
 * A session over a port, without a browser: its store, what was kept, what was said.
 * @param storage where what it met and wrote is kept; else it is only listed
 */
export function sessionOver(port: BoardPort, storage?: SessionParts['storage']) {
  const store = makeStore();
  store.dispatch(craftLoaded(demoCraft('turnstone')));
  store.dispatch(siteTaken({ site: torvholm, named: true }));
  store.dispatch(craftOpened({ ...initialSettings, ...known, base: demoValues('turnstone') }));
  const kept: string[] = [];
  const said: string[] = [];
  const keep = (what: string) => (identity: Identity) => {
    kept.push(`${what} ${identity.serial}`);
    return Promise.resolve(null);
  };
  const session = new BoardSession(
    {
      store,
      clock: { pause: (ms) => new Promise((resolve) => setTimeout(resolve, ms / 10)) },
      storage: storage ?? { met: keep('met'), written: keep('written') },
      known: () => Promise.resolve(known),
      live: { take: () => {}, clear: () => {} },
      say: (text) => said.push(text),
    },
    port,
  );
  return { store, session, kept, said, board: () => store.getState().board };
}

export const until = async (what: () => boolean, ms = 20_000) => {
  const end = performance.now() + ms;
  while (!what()) {
    if (performance.now() > end) throw new Error('it never came to that');
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
};

/** The bench as a port whose cable can be pulled in any moment. */
export class RigPort implements BoardPort {
  readonly kind = 'bench';
  readonly name = 'a rig';
  onAppear = () => {};
  inIt = true;
  private end: Transport | null = null;
  /** Frames that pass before the cable is pulled; counted down. */
  pullAfter = Number.POSITIVE_INFINITY;

  constructor(private readonly rig: Rig) {}

  async open(): Promise<Transport> {
    if (!this.inIt) throw new Error('No board answers on the cable.');
    const [appEnd, boardEnd] = lossyPair(noLosses, 1);
    this.rig.bench.toCable = (bytes) => boardEnd.send(bytes);
    boardEnd.onBytes = (bytes) => this.rig.bench.fromCable(bytes);
    this.end = boardEnd;
    this.rig.bench.onPower = (running) => {
      if (!running && this.end === boardEnd) boardEnd.close();
    };
    const send = appEnd.send;
    appEnd.send = (bytes) => {
      if (this.pullAfter-- <= 0) this.pull();
      else send(bytes);
    };
    return appEnd;
  }

  pull(): void {
    this.inIt = false;
    this.end?.close();
    this.end = null;
  }

  plug(): void {
    this.inIt = true;
    this.pullAfter = Number.POSITIVE_INFINITY;
    this.onAppear();
  }

  presence(): Promise<Presence> {
    return Promise.resolve(this.inIt ? 'there' : 'out');
  }

  async settle(): Promise<void> {}
}
