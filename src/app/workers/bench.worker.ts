import { expose } from 'comlink';
import type { BenchControls, BenchWorld } from '#bench/benchWorld.ts';
import type { MemoryFlash } from '#bench/memoryFlash.ts';
import type { Airframe } from '#core/airframe/airframe.ts';
import type { BoardDescription } from '#core/board/description.ts';
import { fellF7 } from '#core/board/fellF7.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import { pitchOf, rollOf } from '#core/math/quaternion.ts';
import type { CrossRule, SettingEntry, Values } from '#core/settings/catalogue.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';

/** The simulated bench in its worker, in real time. */

const TICK_MS = 5;
/** After a pause (a hidden tab) the bench does not run after lost time for longer than this. */
const MOST_BEHIND_MS = 100;

/** How the craft on the bench really stands, for the bench drawer only. */
export interface BenchState {
  /** -1..1 of each surface's throw, in the airframe's order. */
  readonly surfaces: readonly number[];
  /** rpm of each motor. */
  readonly motors: readonly number[];
  readonly roll: number;
  readonly pitch: number;
  readonly running: boolean;
  readonly batteryV: number;
  readonly controls: BenchControls;
}

/** The firmware's catalogue is asked for at once; the bench itself is loaded with the first craft. */
const kit = () => import('#bench/benchKit.ts');
let world: BenchWorld | null = null;
let flash: MemoryFlash | null = null;
let cable: MessagePort | null = null;
/** Settled once the first craft is on the bench: hands that reach for it sooner wait. */
let begun = () => {};
const ready = new Promise<void>((resolve) => {
  begun = resolve;
});
let last = performance.now();

function cutCable(): void {
  cable?.postMessage(null);
  cable?.close();
  cable = null;
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
    description: BoardDescription;
  } {
    return { entries: pfadCatalogue.entries, rules: pfadCatalogue.rules, description: fellF7 };
  },

  /** Puts a craft on the bench. Its board's flash is the kept one, or holds the given settings. */
  async setUp(
    airframe: Airframe,
    truth: BenchTruth,
    settings: Values,
    kept: readonly [Uint8Array, Uint8Array] | null,
  ): Promise<void> {
    const { BenchWorld, flashWith, MemoryFlash } = await kit();
    cutCable();
    flash = kept ? new MemoryFlash(kept) : flashWith(settings);
    const controls = world?.controls;
    world = new BenchWorld(airframe, truth, flash, 11);
    if (controls) Object.assign(world.controls, { ...controls, usb: false });
    world.toCable = (bytes) => cable?.postMessage(bytes);
    world.onPower = (running) => {
      if (!running) cutCable();
    };
    begun();
  },

  async control(change: Partial<BenchControls>): Promise<void> {
    await ready;
    if (!world) return;
    Object.assign(world.controls, change);
    if (change.usb === false) cutCable();
    // Power takes effect with the next step; a cable asked for before it would find no board.
    world.step();
  },

  /** Plugs the application's end of a cable in. False when no powered board is there. */
  async plug(port: MessagePort): Promise<boolean> {
    await ready;
    cutCable();
    if (!world?.pfad || !world.controls.usb) {
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
    if (!world) return null;
    return {
      surfaces: Array.from(world.wiring.surfaces),
      motors: world.plant.motors.map((m) => (m.omega * 30) / Math.PI),
      roll: rollOf(world.plant.attitude),
      pitch: pitchOf(world.plant.attitude),
      running: world.pfad !== null,
      batteryV: world.controls.battery ? world.plant.battery.voltage : 0,
      controls: { ...world.controls },
    };
  },

  /** Null before a craft is on the bench. */
  flashPages(): readonly [Uint8Array, Uint8Array] | null {
    return flash && [flash.pages[0].slice(), flash.pages[1].slice()];
  },
};

export type BenchApi = typeof api;
expose(api);
