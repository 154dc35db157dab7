import { describeBoard } from '#core/board/describe.ts';
import type { BoardDescription } from '#core/board/description.ts';
import type { BoardModel } from '#core/board/model.ts';
import { portFor, portKey } from '#core/board/portUses.ts';
import {
  type Catalogue,
  type Refusal,
  type SettingValue,
  sameValue,
  type Values,
} from '#core/settings/catalogue.ts';
import { fingerprintOf } from '#core/settings/fingerprint.ts';
import { ActOrder, freshKey } from '#core/wire/acts.ts';
import { ByHand, type HandParts } from './byHand.ts';
import { compileConfig } from './config.ts';
import { FlightController } from './flightController.ts';
import type { FlightLog } from './flightLog.ts';
import { type FlashDevice, FlashPages } from './pages.ts';
import { PictureOverlay } from './pictureOverlay.ts';
import { PlanStore } from './planStore.ts';
import { Procedures } from './procedures.ts';
import { RadioTeller } from './radioTeller.ts';
import { RawStreams } from './rawStreams.ts';
import type { Readings } from './readings.ts';
import { catalogueOf, runningValues } from './releases.ts';
import { Signals } from './signals.ts';
import { type PfadVersion, WRITTEN_VERSION } from './versions.ts';
import { VideoControl } from './videoControl.ts';

export const STEP_S = 0.001;
const ASIDE_STEPS = 10;

/** Bytes of flash written in a millisecond: a page of settings takes a third of a second. */
const FLASH_BYTES_PER_STEP = 16;

/** On a page of settings: the version that stored them, since names and scales differ between versions. */
export const STORED_BY = '#pfad';

export type CommitResult = { state: 'storing' | 'refused'; refusals: Refusal[] };

/**
 * Pfad on one board, from power-on: its settings, the write that may be under way, and the controller that
 * runs on them. Steps at 1 kHz.
 */
export class Pfad {
  readonly description: BoardDescription;
  readonly catalogue: Catalogue;
  controller: FlightController;
  readonly procedures = new Procedures();
  readonly streams = new RawStreams();
  readonly byHand = new ByHand();
  readonly overlay = new PictureOverlay(() => this.byHand.linesOver(this.stored));
  readonly teller = new RadioTeller();
  readonly signals = new Signals();
  readonly video = new VideoControl();
  private tick = 0;
  /** The order of commands over whatever link, from power-on to power-off. */
  readonly acts = new ActOrder(freshKey());
  uptimeS = 0;
  /** Set when stored settings could not be read and the board runs on its defaults. */
  note: string | undefined;
  private readonly pages: FlashPages<Values>;
  /** Route and fences. */
  readonly plans: PlanStore;
  /** Settings as stored; `running` differs where a setting takes effect only after a restart. */
  private stored: Record<string, SettingValue>;
  private running: Values;
  private pending: Record<string, SettingValue> | null = null;
  /** The flash did not take the last write; what was stored before stands. */
  storeFailed = false;
  private print: string;

  constructor(
    readonly model: BoardModel,
    flash: FlashDevice,
    readonly serial: string,
    readonly restartCause: string,
    readonly log: FlightLog | null = null,
    readonly version: PfadVersion = WRITTEN_VERSION,
    planFlash: FlashDevice | null = null,
  ) {
    this.description = describeBoard(model);
    this.catalogue = catalogueOf(version);
    if (log) {
      log.firmware = `Pfad ${version}`;
      log.settings = () => this.changedFromDefault(this.running);
    }
    this.pages = new FlashPages<Values>(flash);
    // Before 3.2 a route was among the settings.
    this.plans = new PlanStore(version === WRITTEN_VERSION ? planFlash : null);
    this.stored = this.catalogue.defaults();
    const loaded = this.pages.load();
    if (this.pages.rotten)
      this.note =
        'The settings that were stored cannot be read any more: both pages of the flash are damaged. The board runs on its defaults; write the settings that were kept of it.';
    const by = String(loaded?.[STORED_BY] ?? WRITTEN_VERSION);
    if (loaded && by !== version)
      this.note = `The settings on the board were stored by Pfad ${by} and mean something else to ${version}: it runs on its defaults until they are carried over.`;
    else if (loaded) {
      const merged = { ...this.stored };
      for (const [key, value] of Object.entries(loaded)) {
        if (key === STORED_BY) continue;
        if (this.catalogue.checkValue(key, value) === null) merged[key] = value;
      }
      if (this.catalogue.check(merged).length === 0) this.stored = merged;
      else this.note = 'Stored settings contradict each other; the board runs on its defaults.';
    }
    this.print = fingerprintOf(this.stored);
    this.running = this.stored;
    this.controller = this.build();
  }

  private build(from?: FlightController): FlightController {
    this.video.byPort = portFor(this.description, this.running, 'video-control') !== undefined;
    return new FlightController(
      compileConfig(runningValues(this.version, this.running), this.description.pads, this.model.chipYawsDeg),
      STEP_S,
      from,
      this.plans.plan,
    );
  }

  /** Settings as they are stored. */
  get values(): Values {
    return this.stored;
  }

  get fingerprint(): string {
    return this.print;
  }

  get storing(): boolean {
    return this.pages.writing;
  }

  get restartNeeded(): boolean {
    return this.catalogue.entries.some(
      (e) => e.effect === 'restart' && !sameValue(this.stored[e.key], this.running[e.key]),
    );
  }

  /** Checks edits against the catalogue and, if nothing is refused, begins to store them all. */
  commit(edits: Values): CommitResult {
    if (this.controller.armed) {
      return {
        state: 'refused',
        refusals: [
          { key: '', code: 'armed', why: 'The craft is armed. Settings are written only disarmed.' },
        ],
      };
    }
    const refusals: Refusal[] = [];
    for (const [key, value] of Object.entries(edits)) {
      const refusal = this.catalogue.checkValue(key, value);
      if (refusal) refusals.push(refusal);
    }
    const next = { ...this.stored, ...edits };
    const linkPort = this.description.ports.findIndex((p) => p.link) + 1;
    if (this.catalogue.entry(portKey(linkPort)) && next[portKey(linkPort)] !== 'link')
      refusals.push({
        key: portKey(linkPort),
        code: 'carries-link',
        why: `Port ${linkPort} carries this very link: without it nobody could speak to the board any more.`,
      });
    if (refusals.length === 0) refusals.push(...this.catalogue.check(next));
    if (refusals.length > 0) return { state: 'refused', refusals };
    // What an output does may be another thing from now on.
    this.controller.bench.stop();
    this.pending = next;
    this.storeFailed = false;
    this.pages.begin({ ...this.changedFromDefault(next), [STORED_BY]: this.version });
    return { state: 'storing', refusals: [] };
  }

  private changedFromDefault(values: Values): Values {
    const entries = this.catalogue.entries.filter((e) => !sameValue(values[e.key], e.default));
    return Object.fromEntries(entries.map((e) => [e.key, values[e.key]!]));
  }

  /** What hands may do to it. */
  private readonly hands: HandParts = ((board: Pfad) => ({
    get values() {
      return board.stored;
    },
    commit: (edits: Values) => board.commit(edits),
    call: () => board.signals.call(),
  }))(this);

  step(readings: Readings): void {
    this.uptimeS += STEP_S;
    if (this.pages.writing) {
      const stored = this.pages.step(FLASH_BYTES_PER_STEP);
      if (stored && this.pending) {
        this.stored = this.pending;
        this.print = fingerprintOf(this.stored);
        this.adopt();
        // It runs on what is stored again.
        this.note = undefined;
      }
      if (!this.pages.writing) {
        this.storeFailed = !stored;
        this.pending = null;
      }
    }
    if (this.plans.step(FLASH_BYTES_PER_STEP)) this.controller = this.build(this.controller);
    this.controller.storing = this.pages.writing || this.plans.storing;
    this.controller.step(readings);
    this.streams.step(readings, this.uptimeS);
    if (++this.tick % ASIDE_STEPS === 0) this.aside(readings, ASIDE_STEPS * STEP_S);
    this.procedures.step(this.controller, STEP_S, readings);
    // Without room to log to, flights are not logged.
    if (readings.card === 'chip' || readings.card === 'in') this.log?.step(this.controller, STEP_S);
  }

  /** What is done beside flying, which nobody needs a thousand times a second: picture, way back, lamps, sticks on the ground. */
  private aside(readings: Readings, dt: number): void {
    const c = this.controller;
    this.overlay.step(c, dt);
    this.teller.step(c, dt);
    this.signals.step(c, dt, readings.controllers);
    this.video.step(c, dt);
    if (!this.pages.writing && this.version === WRITTEN_VERSION) this.byHand.step(c, dt, this.hands);
  }

  /** Runs on what was just stored. Settings that need a restart keep their old value until then. */
  private adopt(): void {
    const running: Record<string, SettingValue> = { ...this.stored };
    for (const e of this.catalogue.entries) if (e.effect === 'restart') running[e.key] = this.running[e.key]!;
    this.running = running;
    this.controller = this.build(this.controller);
    this.controller.restartNeeded = this.restartNeeded;
  }
}
