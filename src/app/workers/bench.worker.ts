import { expose } from 'comlink';
import { LOAD_A } from '#bench/around.ts';
import type { BenchBoard, ShelfBoard } from '#bench/benchBoard.ts';
import type { BenchControls, BenchWorld, Toss } from '#bench/benchWorld.ts';
import type { Lamp } from '#bench/radio.ts';
import type { Airframe } from '#core/airframe/airframe.ts';
import type { Attitude } from '#core/calibration/poses.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import type { Scenario } from '#core/formats/scenario.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { CrossRule, SettingEntry } from '#core/settings/catalogueSchema.ts';
import type { Site } from '#core/site/site.ts';
import type { ShownSensor } from '#core/toldBack/screen.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { WRITTEN_VERSION } from '#firmware/versions.ts';
import type { OnBench } from '../crafts/Desk.ts';

/** The simulated bench in its worker, in real time. */

const TICK_MS = 5;
/** After a pause (a hidden tab) the bench does not run after lost time for longer than this. */
const MOST_BEHIND_MS = 100;
const KEEP_MS = 250;

/** How the craft on the bench really stands, for the bench drawer only. */
export interface BenchState {
  /** -1..1 of each surface's throw, in the airframe's order. */
  readonly surfaces: readonly number[];
  /** Deflection of each, rad. */
  readonly angles: readonly number[];
  /** Where what the craft carries stands, -1..1 of its travel, in the airframe's order. */
  readonly fittings: readonly number[];
  /** What the motors are heard to say. */
  readonly tones: 'none' | 'one' | 'three';
  /** rpm of each motor. */
  readonly motors: readonly number[];
  /** Body to earth, as it is now. */
  readonly attitude: Attitude;
  readonly running: boolean;
  /** What the transmitter's screen shows of the craft. */
  readonly screen: readonly ShownSensor[];
  /** What the receiver's lamp does. */
  readonly lamp: Lamp;
  readonly batteryV: number;
  /** What the meter on the battery shows, V, and what the load draws, A. */
  readonly meterV: number;
  readonly loadA: number;
  readonly controls: BenchControls;
  /** Motor controllers, where one was told something, and the craft that they are on. */
  readonly controllers: BenchTruth['controllers'];
  readonly craft: string;
  /** Serial of the board that lies here, and what it is. */
  readonly serial: string;
  readonly boardName: string;
  readonly takesCard: boolean;
}

/** The firmware's catalogue is asked for at once; the bench itself is loaded with the first craft. */
const kit = () => import('./benchKit.ts');
let world: BenchWorld | null = null;
let board: BenchBoard | null = null;
let keptChanges = 0;
/** The craft whose bench the board lies on. */
let benchOf = '';
/** The scenario's own boards lie on the benches of the demo and of the craft that was kept before there were several. */
const shelfName = (id: string) => (id === 'demo' || id === 'first' ? null : id);

/** The craft on the bench, to be joined to another board. */
let craft: {
  id: string;
  airframe: Airframe;
  truth: BenchTruth;
  target: string;
  settings: Values;
} | null = null;
/** Where the bench stands. */
let spot: Pick<Site, 'home' | 'year'> = { home: { lat: 0, lon: 0, heightM: 0 }, year: 2025 };
let cable: MessagePort | null = null;
/** Settled once the first craft is on the bench: hands that reach for it sooner wait. */
let begun = () => {};
const ready = new Promise<void>((resolve) => {
  begun = resolve;
});
let last = performance.now();

/** What is to be kept before more is sent, and the last of that which is done. */
let sending: Promise<void> = Promise.resolve();
let sent = sending;

function cutCable(): void {
  cable?.postMessage(null);
  cable?.close();
  cable = null;
}

/** What is on the board is kept soon after it changed. */
async function keepNow(): Promise<void> {
  if (!board || !craft || board.changes === keptChanges) return;
  keptChanges = board.changes;
  const { keepBoard } = await kit();
  await keepBoard(benchOf, board.serial, board.keep());
}
setInterval(() => void keepNow(), KEEP_MS);

/** A board of the shelf as it is now: the one that lies here, or as it was kept, or as it comes. */
async function boardOfShelf(from: ShelfBoard, ownSettings: Values): Promise<BenchBoard> {
  if (board?.serial === from.serial && benchOf === craft?.id) return board;
  const { BenchBoard, foreignSettings, loadBoard, OWN } = await kit();
  return loadBoard(BenchBoard, craft!.id, from, () =>
    from.story === OWN ? ownSettings : foreignSettings(from.firmware),
  );
}

/** Hands that reach for the bench while a board is being joined to a craft wait for that. */
let joining: Promise<void> = Promise.resolve();

/** Does what takes a while, one after the other. */
function inTurn(work: () => Promise<void>): Promise<void> {
  joining = joining.then(work, work);
  return joining;
}

/** Joins a board to the craft on the bench. */
async function join(next: BenchBoard): Promise<void> {
  if (!craft) return;
  const { BenchWorld } = await kit();
  cutCable();
  await keepNow();
  const controls = world?.controls;
  board = next;
  benchOf = craft.id;
  keptChanges = -1;
  world = new BenchWorld(craft.airframe, craft.truth, next, 11, spot);
  if (controls) Object.assign(world.controls, { ...controls, usb: false });
  const { flash } = next;
  let keptFlash = flash.changes;
  world.toCable = (bytes) => {
    // What a board says after it has stored something is said once that would outlive the page, as on a real one.
    if (flash.changes !== keptFlash && !world?.pfad?.storing) {
      keptFlash = flash.changes;
      sending = sending.then(keepNow);
    }
    if (sending === sent) cable?.postMessage(bytes);
    else {
      const last = sending.then(() => {
        cable?.postMessage(bytes);
        if (sending === last) sent = last;
      });
      sending = last;
    }
  };
  world.onPower = (running) => {
    if (!running) cutCable();
  };
  begun();
}

setInterval(() => {
  const now = performance.now();
  const behind = Math.min(MOST_BEHIND_MS, now - last);
  const steps = Math.floor(behind);
  last = behind === MOST_BEHIND_MS ? now : last + steps;
  if (world) for (let k = 0; k < steps; k++) world.step();
}, TICK_MS);

const api = {
  /** What the firmware we ship can be told, for a craft opened without a board. */
  knownFirmware(): {
    entries: readonly SettingEntry[];
    rules: readonly CrossRule[];
    version: string;
  } {
    return {
      version: WRITTEN_VERSION,
      entries: pfadCatalogue.entries,
      rules: pfadCatalogue.rules,
    };
  },

  /** Puts a craft on the bench, with the board that lay there last. */
  setUp({ anew, ...next }: OnBench): Promise<void> {
    return inTurn(async () => {
      const { BenchBoard, onBench, putOnBench, shelfFor } = await kit();
      await keepNow();
      craft = next;
      const shelf = shelfFor(craft.target, shelfName(craft.id));
      const own = shelf[0]!;
      if (anew) {
        await join(BenchBoard.fresh(own, craft.settings));
        await putOnBench(craft.id, own.serial);
        await keepNow();
        return;
      }
      const last = await onBench(craft.id);
      const from = shelf.find((b) => b.serial === last) ?? own;
      await join(await boardOfShelf(from, craft.settings));
    });
  },

  /** Carries the bench to another place; a board that runs is started anew there. */
  carry(to: Pick<Site, 'home' | 'year'>): Promise<void> {
    return inTurn(async () => {
      spot = to;
      world?.carry(to);
    });
  },

  /** Boards that could lie on the bench. */
  async shelf(): Promise<readonly (ShelfBoard & { readonly name: string })[]> {
    await ready;
    const { boardOf, shelfFor } = await kit();
    return shelfFor(craft?.target ?? '', shelfName(craft?.id ?? '')).map((b) => ({
      ...b,
      name: boardOf(b.target)!.name,
    }));
  },

  /** Takes another board off the shelf; the cable and the battery come out for it. */
  async takeBoard(serial: string): Promise<void> {
    await ready;
    await inTurn(async () => {
      const { putOnBench, shelfFor } = await kit();
      const from = shelfFor(craft?.target ?? '', shelfName(craft?.id ?? '')).find((b) => b.serial === serial);
      if (!from || !craft || !world || board?.serial === serial) return;
      Object.assign(world.controls, { usb: false, battery: false, loaderButton: false });
      await join(await boardOfShelf(from, craft.settings));
      await putOnBench(craft.id, serial);
    });
  },

  /** Everything on the board is kept in the browser. */
  keepNow,

  async control(change: Partial<BenchControls>): Promise<void> {
    await ready;
    await joining;
    if (!world) return;
    Object.assign(world.controls, change);
    if (change.usb === false) cutCable();
    // Power takes effect with the next step; a cable asked for before it would find no board.
    world.step();
  },

  /** Turns rods of the craft where it lies: cable and battery stay in. */
  async relink(linkages: BenchTruth['linkages']): Promise<void> {
    await ready;
    await joining;
    if (!craft || !world) return;
    craft = { ...craft, truth: { ...craft.truth, linkages } };
    world.relink(linkages);
  },

  /** Swings the craft as if to throw. */
  toss(how: Toss): void {
    world?.toss(how);
  },

  /**
   * Takes the craft out and flies what is on its board; the flight stands on the board's store. Cable and battery have to be out.
   * @returns a sentence
   */
  async flyOut(thought: Scenario, site: Site): Promise<string> {
    await ready;
    let said = '';
    await inTurn(async () => {
      if (!board || !craft || !world) return;
      if (world.controls.usb || world.controls.battery) {
        said = 'Take cable and battery out first: it is armed at the strip.';
        return;
      }
      const { flyBoard } = await kit();
      const flown = flyBoard(board, craft.airframe, craft.truth, thought, site);
      said =
        typeof flown === 'string'
          ? flown
          : `${flown.verdict === 'home' ? 'It is back.' : 'It did not come home; the board was found.'} ${flown.reason}`;
      await keepNow();
    });
    return said;
  },

  /** Charges the battery. @returns what the charger says that it put back, mAh */
  charge(): number {
    return world?.charge() ?? 0;
  },

  /** Plugs the application's end of a cable in. False when no powered board is there. */
  async plug(port: MessagePort): Promise<boolean> {
    await ready;
    await joining;
    cutCable();
    if (!(world?.pfad || world?.loader) || !world.controls.usb) {
      port.close();
      return false;
    }
    cable = port;
    port.onmessage = (event: MessageEvent) => {
      if (event.data instanceof Uint8Array) world?.fromCable(event.data);
      else if (event.data === null && cable === port) cable = null;
    };
    return true;
  },

  state(): BenchState | null {
    if (!world || !board) return null;
    return {
      surfaces: Array.from(world.wiring.surfaces),
      angles: Array.from(world.plant.deflections),
      tones: world.motorsSing ? 'one' : world.wiring.tones,
      fittings: Array.from(world.wiring.fittings),
      motors: world.plant.motors.map((m) => (m.omega * 30) / Math.PI),
      attitude: [...world.plant.attitude] as unknown as Attitude,
      screen: world.shownBack,
      lamp: world.lamp,
      running: world.pfad !== null || world.loader !== null,
      serial: board.serial,
      boardName: board.model.name,
      takesCard: board.model.logsTo === 'card',
      batteryV: world.controls.battery ? world.plant.battery.voltage : 0,
      meterV: world.meterV,
      loadA: LOAD_A,
      controls: { ...world.controls },
      controllers: world.controllers,
      craft: benchOf,
    };
  },
};

export type BenchApi = typeof api;
expose(api);
