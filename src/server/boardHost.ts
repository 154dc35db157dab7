import * as z from 'zod';
import { BenchBoard, shelfFor } from '#bench/benchBoard.ts';
import { type BenchControls, BenchWorld } from '#bench/benchWorld.ts';
import { supports } from '#bench/handling.ts';
import type { Airframe } from '#core/airframe/airframe.ts';
import { attitudeOf, poseIds, poses } from '#core/calibration/poses.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import { yawOf } from '#core/math/quaternion.ts';
import { Random } from '#core/math/random.ts';
import { DEG } from '#core/math/scalar.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { Site } from '#core/site/site.ts';

const TICK_MS = 5;
/** After a pause the bench does not run after lost time for longer than this. */
const MOST_BEHIND_MS = 100;

/** What hands do at a bench without a drawer: any of its controls, as JSON. */
export const handsSchema = z
  .strictObject({
    battery: z.boolean(),
    propellers: z.boolean(),
    outdoors: z.boolean(),
    support: z.enum(supports),
    /** An attitude by its name, with the nose where it points. */
    pose: z.enum(poseIds),
    /** An attitude by its angles. */
    tilt: z.strictObject({
      rollDeg: z.number().min(-180).max(180),
      pitchDeg: z.number().min(-90).max(90),
      headingDeg: z.number().min(-360).max(360).optional(),
    }),
    turning: z.union([z.literal(-1), z.literal(0), z.literal(1), z.literal('all')]),
    liftM: z.number().min(0).max(1.5),
    walkNorthM: z.number().min(-500).max(500),
    walkEastM: z.number().min(-500).max(500),
    fan: z.boolean(),
    lamp: z.boolean(),
    screwdriver: z.boolean(),
    tube: z.enum(['open', 'covered', 'breathed into']),
    load: z.boolean(),
    cold: z.boolean(),
    transmitter: z.boolean(),
    stickRoll: z.number().min(-1).max(1),
    stickPitch: z.number().min(-1).max(1),
    stickYaw: z.number().min(-1).max(1),
    stickThrottle: z.number().min(0).max(1),
    armSwitch: z.boolean(),
    attitudeSwitch: z.union([z.literal(0), z.literal(1), z.literal(2)]),
    returnSwitch: z.boolean(),
    loaderButton: z.boolean(),
    usb: z.boolean(),
    card: z.enum(['out', 'in', 'full']),
  })
  .partial();
export type Hands = z.infer<typeof handsSchema>;

/** How bad the cable is: share of the chunks that are lost on each way, and their longest delay, ms. */
export interface BadCable {
  readonly loss: number;
  readonly delayMs: number;
}

/** One end of a cable: bytes to the application, and that the board went away. */
export interface CableEnd {
  bytes(chunk: Uint8Array): void;
  gone(): void;
}

/** The craft that lies on a bench. */
export interface OnBench {
  readonly airframe: Airframe;
  readonly truth: BenchTruth;
  readonly target: string;
  readonly values: Values;
  readonly site: Pick<Site, 'home' | 'year'>;
}

/**
 * A bench that runs in real time in a process of this machine, with the craft's own board and one cable: USB is in from the
 * beginning, so that the board has power.
 */
export class BoardHost {
  private readonly world: BenchWorld;
  private readonly timer: ReturnType<typeof setInterval>;
  private readonly random = new Random(7);
  private end: CableEnd | null = null;
  private last = performance.now();

  constructor(
    craft: OnBench,
    hands: Hands = {},
    private readonly cable: BadCable = { loss: 0, delayMs: 0 },
  ) {
    const board = BenchBoard.fresh(shelfFor(craft.target)[0]!, craft.values);
    this.world = new BenchWorld(craft.airframe, craft.truth, board, 11, craft.site);
    this.world.toCable = (bytes) => this.carry(bytes, (b) => this.end?.bytes(b));
    this.world.onPower = (running) => {
      if (running) return;
      const { end } = this;
      this.end = null;
      end?.gone();
    };
    this.hands({ usb: true, ...hands });
    this.timer = setInterval(() => this.tick(), TICK_MS);
  }

  /** Who is on the board. */
  get name(): string {
    return `${this.world.board.model.name}, ${this.world.board.serial}`;
  }

  /** Bytes on a bad cable: some are lost, and some overtake others. */
  private carry(bytes: Uint8Array, to: (bytes: Uint8Array) => void): void {
    const { loss, delayMs } = this.cable;
    if (loss > 0 && this.random.uniform() < loss) return;
    if (delayMs === 0) to(bytes);
    else setTimeout(to, this.random.uniform() * delayMs, bytes.slice());
  }

  /** Joins a cable. False while another is in, or no powered board is there. */
  join(end: CableEnd): boolean {
    if (this.end || !(this.world.pfad || this.world.loader)) return false;
    this.end = end;
    return true;
  }

  leave(end: CableEnd): void {
    if (this.end === end) this.end = null;
  }

  get isTaken(): boolean {
    return this.end !== null;
  }

  fromCable(bytes: Uint8Array): void {
    this.carry(bytes, (b) => this.world.fromCable(b));
  }

  /** What a person does with their hands. */
  hands(change: Hands): void {
    const { pose, tilt, ...rest } = change;
    const { controls, plant } = this.world;
    const asked = tilt ?? (pose && poses[pose]);
    if (asked) {
      const heading = tilt?.headingDeg ?? yawOf(plant.attitude) / DEG;
      controls.pose = attitudeOf(asked.rollDeg, asked.pitchDeg, heading);
      // Whoever tilts it has it in hand, unless it is told otherwise.
      controls.support = 'hands';
    }
    Object.assign(controls, rest as Partial<BenchControls>);
    // Power takes effect with the next step; a cable joined before it would find no board.
    this.world.step();
  }

  private tick(): void {
    const now = performance.now();
    const behind = Math.min(MOST_BEHIND_MS, now - this.last);
    const steps = Math.floor(behind);
    this.last = behind === MOST_BEHIND_MS ? now : this.last + steps;
    for (let k = 0; k < steps; k++) this.world.step();
  }

  stop(): void {
    clearInterval(this.timer);
    const { end } = this;
    this.end = null;
    end?.gone();
  }
}
