import * as z from 'zod';
import { type BenchTruth, truthFromSettings } from '#core/formats/benchTruth.ts';
import type { CraftFile } from '#core/formats/craftFile.ts';
import { unitSystems } from '#core/units/units.ts';
import type { SessionParts } from '../board/BoardSession.ts';
import { legs, stationProgress } from '../legs/legs.ts';
import { batchDropped, batchKept } from '../store/batchSlice.ts';
import { writeChanged } from '../store/boardSlice.ts';
import { craftLoaded } from '../store/craftSlice.ts';
import { craftsListed, deskChanged } from '../store/craftsSlice.ts';
import { type Rows, StoreFault, storeFaultWords } from '../store/database.ts';
import { failsTaken } from '../store/failsSlice.ts';
import { flightsKept, resultDropped, scenarioChanged } from '../store/rehearsalSlice.ts';
import { craftFileNow, craftTextNow, selectProgress } from '../store/selectors.ts';
import { catalogueKnown, craftOpened, type KnownFirmware } from '../store/settingsSlice.ts';
import type { AppState } from '../store/store.ts';
import { timelineKept } from '../store/timeline.ts';
import { themes, uiChanged } from '../store/uiSlice.ts';
import { flightsOf, readFlights } from './flights.ts';
import type { Hold } from './hold.ts';
import { type CraftRecord, type CraftRecords, type KeptCraft, recordOf, type Way } from './records.ts';

/** What is put on the bench with a craft. */
export interface OnBench {
  /** The craft's row: each has boards of its own. */
  readonly id: string;
  readonly airframe: CraftFile['airframe'];
  readonly truth: BenchTruth;
  readonly target: string;
  readonly settings: CraftFile['settings'];
  /** Its own board, holding these settings, lies there instead of the one that lay there last. */
  readonly anew: boolean;
}

/** What a desk works with; nothing of it is the browser's own. */
export interface DeskParts {
  readonly store: Omit<SessionParts['store'], never> & { subscribe(listener: () => void): () => void };
  readonly records: CraftRecords;
  readonly rows: Rows;
  readonly hold: Hold;
  readonly bench: { setUp(what: OnBench): Promise<void>; keepNow(): Promise<void> };
  readonly known: () => Promise<KnownFirmware>;
  /** Takes the site that a craft is set up for, and carries the bench there. */
  readonly goTo: (site: string | undefined, home: AppState['rehearsal']['scenario']['home']) => Promise<void>;
  /** Lets the board on the cable go. */
  readonly leaveBoard: () => Promise<void>;
  /** Which craft this tab is at, over a reload. */
  readonly tab: { get(): string | null; set(id: string): void };
  readonly newId: () => string;
  readonly say: SessionParts['say'];
}

const SAVE_AFTER_MS = 120;
const FLIGHTS_AFTER_MS = 500;
/** A store that refused is asked again after this. */
const AGAIN_MS = 4000;

/** How the desk looks, whatever craft lies on it. */
const deskSchema = z.object({
  theme: z.enum(themes).catch('day'),
  units: z.enum(unitSystems as unknown as ['metric']).catch('metric'),
  paneOpen: z.boolean().catch(true),
  /** Craft that was last opened. */
  last: z.string().nullable().catch(null),
});

const faultOf = (error: unknown) => (error instanceof StoreFault ? error.kind : 'refused');

/** How far the craft is: stations that are seen or set, of all. */
function wayOf(state: AppState): Way {
  const progress = selectProgress(state);
  const stations = legs.flatMap((l) => l.stations);
  const states = progress ? stations.map((s) => stationProgress(s, progress)) : [];
  return { done: states.filter((s) => s === 'proven' || s === 'set').length, of: stations.length };
}

/**
 * The craft on the desk: opened, kept within a moment of every change, put beside others. What was kept is never
 * written over unread: each keeping says which one it follows, and where another tab was first, this one's goes beside it.
 */
export class Desk {
  /** The count of the row that the craft here follows; null where none is kept yet. */
  private rev: number | null = null;
  private waiting: ReturnType<typeof setTimeout> | null = null;
  private flightsWaiting: ReturnType<typeof setTimeout> | null = null;
  private lastSave = Number.NEGATIVE_INFINITY;
  private kept: readonly unknown[] = [];
  private keptFlights: readonly unknown[] = [];
  private keptDesk = '';
  /** Keepings go one after the other. */
  private turn: Promise<void> = Promise.resolve();
  private unsubscribe = () => {};

  constructor(private readonly parts: DeskParts) {
    const { hold } = parts;
    hold.onAsked = async () => {
      await this.flush();
      await parts.bench.keepNow();
    };
    hold.onLost = () => void this.readAlong();
    hold.onKept = (id) => {
      if (this.state.crafts.reading && this.state.crafts.id === id) void this.follow();
    };
  }

  private get state(): AppState {
    return this.parts.store.getState();
  }

  private put(action: { type: string }): void {
    this.parts.store.dispatch(action);
  }

  /** Opens the craft that was open last; with none, the desk is empty and says how to begin. */
  async start(): Promise<void> {
    let id: string | null = null;
    try {
      const raw = await this.parts.rows.get('desk', 'desk');
      if (raw !== undefined) {
        const { last, ...ui } = deskSchema.parse(raw);
        this.put(uiChanged(ui));
        id = last;
      }
      await this.list();
    } catch (error) {
      this.put(uiChanged({ storageFault: storeFaultWords[faultOf(error)] }));
    }
    const { crafts } = this.state.crafts.listed;
    const wanted = [this.parts.tab.get(), id, crafts[0]?.record.id ?? null];
    const kept = wanted.flatMap((w) => crafts.find((c) => c.record.id === w) ?? [])[0];
    if (kept) await this.open(kept.record.id);
    else this.put(deskChanged({ status: 'none' }));
    this.watch();
  }

  /** Reads the list of what is kept. */
  async list(): Promise<void> {
    this.put(craftsListed(await this.parts.records.list()));
  }

  /** Opens a craft that is kept. @returns false where it is not there any more, or cannot be read */
  async open(id: string): Promise<boolean> {
    await this.leave();
    const mine = await this.parts.hold.take(id);
    const kept = await this.parts.records.load(id).catch((error: unknown) => {
      this.put(uiChanged({ storageFault: storeFaultWords[faultOf(error)] }));
      return null;
    });
    if (!kept) {
      this.parts.hold.letGo();
      return false;
    }
    await this.lay(kept, !mine, false);
    return true;
  }

  /** Takes a craft that is not kept yet, as one of its own beside the others. */
  async add(craft: CraftFile, how: { readonly demo?: boolean } = {}): Promise<void> {
    await this.leave();
    // The demo's board has the number that the documents name.
    const demo = how.demo ?? false;
    const taken = this.state.crafts.listed.crafts.some((c) => c.record.id === 'demo');
    const id = demo && !taken ? 'demo' : this.parts.newId();
    const { scenario } = this.state.rehearsal;
    const { writeCraftFile } = await import('#core/formats/craftFile.ts');
    const record = recordOf(id, writeCraftFile(craft), {
      demo,
      baseFrom: 'file',
      scenario,
      past: [],
      future: [],
      way: { done: 0, of: 0 },
    });
    await this.parts.hold.take(id);
    let rev: number | null = null;
    try {
      rev = await this.parts.records.keep(record, null);
    } catch (error) {
      this.put(uiChanged({ storageFault: storeFaultWords[faultOf(error)] }));
    }
    const row = { ...record, rev: rev ?? 0, savedAt: new Date(0).toISOString() };
    await this.lay({ record: row, craft }, false, true, rev !== null);
    this.relist();
  }

  /** The craft on the desk goes out of hand: kept, its board let go. */
  private async leave(): Promise<void> {
    const { id, reading } = this.state.crafts;
    if (id === null) return;
    await this.flush();
    if (!reading) await this.parts.bench.keepNow();
    await this.parts.leaveBoard();
    this.parts.hold.letGo();
  }

  /** Lays a craft on the desk, and puts its like on the bench. */
  private async lay(
    { record, craft }: KeptCraft,
    reading: boolean,
    anew: boolean,
    isKept = true,
  ): Promise<void> {
    const { id, demo, baseFrom, scenario, past, future } = record;
    this.put(deskChanged({ status: 'opening' }));
    this.parts.tab.set(id);
    const known = await this.parts.known();
    const defaults = Object.fromEntries(known.entries.map((e) => [e.key, e.default]));
    const values = { ...defaults, ...craft.settings };
    this.put(deskChanged({ id, demo, reading }));
    if (scenario) this.put(scenarioChanged(scenario));
    this.put(craftLoaded(craft));
    this.put(craftOpened({ ...known, base: values, baseFrom, edits: craft.edits }));
    this.put(catalogueKnown(known));
    this.put(timelineKept({ past, future }));
    this.put(writeChanged({ kind: 'idle' }));
    this.rev = isKept ? record.rev : null;
    await this.parts.goTo(craft.site, this.state.rehearsal.scenario.home);
    this.put(resultDropped());
    this.put(batchDropped());
    this.put(failsTaken([]));
    await this.bringFlights(id);
    this.settle();
    this.put(deskChanged({ status: 'open' }));
    // A craft that another tab works on lies on that one's bench.
    if (!reading) await this.layOnBench(anew);
  }

  private async layOnBench(anew: boolean): Promise<void> {
    const { crafts, craft, settings } = this.state;
    const { file, airframe } = craft;
    if (crafts.id === null || !file || !airframe) return;
    const truth = file.bench ?? truthFromSettings(airframe, settings.base);
    await this.parts.bench.setUp({
      id: crafts.id,
      airframe,
      truth,
      target: file.board.target,
      settings: settings.base,
      anew,
    });
  }

  private async bringFlights(id: string): Promise<void> {
    const flights = readFlights(await this.parts.rows.get('flights', id).catch(() => undefined));
    if (!flights) return;
    this.put(flightsKept(flights));
    if (flights.batch) this.put(batchKept(flights.batch));
    this.put(failsTaken(flights.fails));
  }

  /** What is here is what is kept. */
  private settle(): void {
    this.kept = keptParts(this.state);
    this.keptFlights = flightParts(this.state);
  }

  /** Another tab works on it from now on. */
  private async readAlong(): Promise<void> {
    this.put(deskChanged({ reading: true }));
    await this.parts.leaveBoard();
    this.parts.say(
      'Another tab works on this craft now; everything from here was kept first. Here it is read along.',
    );
  }

  /** Another tab kept it anew: shown as it is there. */
  private async follow(): Promise<void> {
    const { id } = this.state.crafts;
    const kept = id === null ? null : await this.parts.records.load(id);
    if (kept && this.state.crafts.reading && this.state.crafts.id === id) await this.lay(kept, true, false);
  }

  /** Works on the craft here, which another tab has. */
  async takeOver(): Promise<void> {
    const { id, reading } = this.state.crafts;
    if (id === null || !reading) return;
    await this.parts.hold.takeOver(id);
    const kept = await this.parts.records.load(id);
    if (kept) await this.lay(kept, false, false);
  }

  /** Takes a craft from the list; it can be had back. The one on the desk makes room for the next. */
  async letGo(id: string, why: string): Promise<void> {
    const here = this.state.crafts.id === id;
    if (here) await this.leave();
    await this.parts.records.letGo(id, why);
    await this.list();
    if (here) this.put(deskChanged({ id: null, status: 'none' }));
  }

  async bringBack(id: string): Promise<void> {
    const own = await this.parts.records.bringBack(id);
    await this.list();
    if (own !== null) await this.open(own);
  }

  async forget(from: 'replaced' | 'aside', id: string): Promise<void> {
    await this.parts.records.forget(from, id);
    await this.list();
  }

  /** Keeps every change within a moment; the first after a pause at once, those that follow closely together. */
  private watch(): void {
    this.unsubscribe();
    this.unsubscribe = this.parts.store.subscribe(() => {
      const { state } = this;
      if (state.crafts.status !== 'open') return;
      if (this.waiting === null && (differ(this.kept, keptParts(state)) || this.keptDesk !== deskOf(state))) {
        const wait = Math.max(0, this.lastSave + SAVE_AFTER_MS - performance.now());
        this.waiting = setTimeout(() => void this.flush(), wait);
      }
      if (this.flightsWaiting === null && differ(this.keptFlights, flightParts(state)))
        this.flightsWaiting = setTimeout(() => void this.keepFlights(), FLIGHTS_AFTER_MS);
    });
  }

  /** Keeps what is not kept yet, now. Never throws: what the browser refuses is said and tried again. */
  flush(): Promise<void> {
    if (this.waiting !== null) clearTimeout(this.waiting);
    this.waiting = null;
    const work = async () => {
      await this.keepDesk();
      await this.keepCraft();
      if (this.flightsWaiting !== null) await this.keepFlights();
    };
    this.turn = this.turn.then(work, work);
    return this.turn;
  }

  private async keepDesk(): Promise<void> {
    const { state } = this;
    const desk = deskOf(state);
    if (desk === this.keptDesk) return;
    this.keptDesk = desk;
    try {
      await this.parts.rows.write([{ in: 'desk', put: JSON.parse(desk), key: 'desk' }]);
    } catch {
      // How the desk looks is not worth a word; the craft is.
    }
  }

  private async keepCraft(): Promise<void> {
    const { state } = this;
    const parts = keptParts(state);
    const { id, reading } = state.crafts;
    if (id === null || reading || !differ(this.kept, parts)) return;
    const record = recordNow(state);
    if (!record) return;
    this.lastSave = performance.now();
    try {
      const rev = await this.parts.records.keep(record, this.rev);
      if (rev === null) {
        await this.putBeside(record);
        return;
      }
      this.rev = rev;
      this.kept = parts;
      this.working();
      this.parts.hold.tellKept(id);
    } catch (error) {
      this.refused(error);
    }
  }

  /** Another tab kept the craft while this one did not hold it: what was done here goes beside it. */
  private async putBeside(record: Omit<CraftRecord, 'rev' | 'savedAt'>): Promise<void> {
    const craft = craftFileNow(this.state);
    if (!craft) return;
    const id = this.parts.newId();
    const name = `${craft.name.slice(0, 60)} (from this tab)`;
    const { writeCraftFile } = await import('#core/formats/craftFile.ts');
    const beside = { ...record, id, craft: writeCraftFile({ ...craft, name }) };
    await this.parts.records.keep(beside, null);
    this.kept = keptParts(this.state);
    // Not waited for: it waits for this keeping itself.
    void this.open(id).then(() => this.relist());
    this.parts.say(
      `Another tab has kept ${craft.name} in the meantime. What was done here is kept beside it, as ${name}.`,
    );
  }

  private async keepFlights(): Promise<void> {
    if (this.flightsWaiting !== null) clearTimeout(this.flightsWaiting);
    this.flightsWaiting = null;
    const { state } = this;
    const { id, reading } = state.crafts;
    if (id === null || reading) return;
    const parts = flightParts(state);
    try {
      await this.parts.rows.write([{ in: 'flights', put: flightsOf(state), key: id }]);
      this.keptFlights = parts;
    } catch (error) {
      this.refused(error);
    }
  }

  /** Said once, and again only after it worked in between; tried again by itself. */
  private refused(error: unknown): void {
    const words = storeFaultWords[faultOf(error)];
    if (!this.telling) this.put(uiChanged({ storageFault: words }));
    this.telling = true;
    this.waiting ??= setTimeout(() => void this.flush(), AGAIN_MS);
  }
  private telling = false;

  private working(): void {
    if (this.telling || Object.values(storeFaultWords).includes(this.state.ui.storageFault ?? ''))
      this.put(uiChanged({ storageFault: null }));
    this.telling = false;
  }

  /** The list is brought up to date; where the browser refuses, it is as it was. */
  private relist(): void {
    void this.list().catch(() => {});
  }
}

const keptParts = (s: AppState): readonly unknown[] => [
  s.craft.file,
  s.craft.airframe,
  s.craft.proofs,
  s.settings.base,
  s.settings.baseFrom,
  s.settings.edits,
  s.timeline,
  s.rehearsal.scenario,
];
const flightParts = ({ rehearsal, batch, fails }: AppState): readonly unknown[] => [
  rehearsal.result,
  rehearsal.kept,
  batch.flights,
  batch.proof,
  fails.cells,
];
const differ = (a: readonly unknown[], b: readonly unknown[]) => b.some((v, i) => v !== a[i]);

const deskOf = ({ ui, crafts }: AppState): string =>
  JSON.stringify({ theme: ui.theme, units: ui.units, paneOpen: ui.paneOpen, last: crafts.id });

function recordNow(state: AppState): Omit<CraftRecord, 'rev' | 'savedAt'> | null {
  const text = craftTextNow(state);
  const { id, demo } = state.crafts;
  if (text === null || id === null) return null;
  const { past, future } = state.timeline;
  const { scenario } = state.rehearsal;
  return recordOf(id, text, {
    demo,
    baseFrom: state.settings.baseFrom,
    scenario,
    past,
    future,
    way: wayOf(state),
  });
}
