import { isMotor } from '#core/airframe/actuators.ts';
import { kolkDefaults, kolkModels, kolkRefuses } from '#core/controllers/kolk.ts';
import type { MotorUnit } from '#core/flight/propulsion.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import type { SettingValue, Values } from '#core/settings/catalogue.ts';
import { ImageRegion } from '#firmware/imageRegion.ts';
import { ImageTaking } from '#firmware/imageTaking.ts';
import type { ControllerOnWire, ControllerTells } from '#firmware/readings.ts';

const KOLK = 'Kolk';
type Kept = BenchTruth['controllers'][number];

/** Flash of controllers, by motor: it outlives the battery, and the board's restarts. */
export type ControllerFlash = Map<string, ImageRegion>;

/** From this version on one tells its speed, temperature and current. */
const TELLS_FROM = 16.4;
/** A small controller under a shrink tube: degrees per watt of its own loss, and how fast it warms, s. */
const WARMS_PER_W = 6;
const WARMS_S = 25;
/** Of the resistance of windings and controller together, the controller's own. */
const OWN_SHARE = 0.25;

/** How a controller stands when it leaves the works. */
export function controllerAsItComes(motor: Kept['motor']): Kept {
  return {
    motor,
    pulsesOnly: false,
    target: 'kolk-30',
    version: '16.2',
    ends: { lowUs: 1000, highUs: 2000 },
    settings: kolkDefaults as Kept['settings'],
  };
}

/** A motor's controller with its memory, which outlives the battery. */
class Controller implements ControllerOnWire {
  readonly product = KOLK;
  readonly loader: ImageTaking;
  readonly told: ControllerTells = { rpm: 0, degC: 0, amps: 0 };
  powered = false;
  /** Told by a frame to turn the other way; forgotten without power. */
  round = false;
  /** Gives a tone with its motor. */
  sings = false;
  private warmC = 0;

  constructor(
    readonly output: number,
    readonly kept: Kept,
    flash: ControllerFlash,
    private readonly unit: MotorUnit | undefined,
    private readonly onWrite: () => void,
    private readonly onTurn: () => void,
  ) {
    const { flashBytes } = kolkModels.find((m) => m.target === kept.target)!;
    const region = flash.get(kept.motor) ?? new ImageRegion(flashBytes);
    flash.set(kept.motor, region);
    this.loader = new ImageTaking(region, kept.target, 'this controller');
  }

  get version(): string {
    return this.kept.pulsesOnly ? '' : this.kept.version;
  }

  get target(): string {
    return this.kept.target;
  }

  get answers(): boolean {
    return this.powered && !this.kept.pulsesOnly && this.kept.version !== '';
  }

  get loads(): boolean {
    return this.powered && !this.kept.pulsesOnly;
  }

  get tells(): boolean {
    return this.answers && Number(this.kept.version) >= TELLS_FROM;
  }

  read(): Values {
    return { ...this.kept.settings };
  }

  write(key: string, value: SettingValue): void {
    if (kolkRefuses(key, value) !== null || this.kept.settings[key] === value) return;
    this.kept.settings[key] = value as Kept['settings'][string];
    this.onWrite();
  }

  turnRound(on: boolean): void {
    if (!this.answers || this.round === on) return;
    this.round = on;
    this.onTurn();
  }

  sing(on: boolean): void {
    this.sings = on && this.answers;
  }

  take(ends: Kept['ends']): void {
    this.kept.ends = ends;
    this.onWrite();
  }

  enterLoader(): void {
    if (this.kept.version === '') return;
    this.kept.version = '';
    this.onWrite();
  }

  start(): boolean {
    if (!this.loader.startable) return false;
    this.kept.version = this.loader.region.plan!.version;
    this.onWrite();
    return true;
  }

  /** The battery goes in or out. */
  power(on: boolean): void {
    if (this.powered && !on) {
      this.loader.cut();
      this.round = false;
      this.sings = false;
      this.onTurn();
    }
    this.powered = on;
  }

  /** So many seconds of its warmth and of its loader's work. */
  step(dt: number): void {
    const { unit, told } = this;
    const amps = unit?.currentA ?? 0;
    const loss = unit ? OWN_SHARE * unit.motor.resistanceOhm * amps * amps : 0;
    this.warmC += (dt / WARMS_S) * (WARMS_PER_W * loss - this.warmC);
    told.rpm = unit ? (unit.omega * 30) / Math.PI : 0;
    told.degC = AROUND_C + this.warmC;
    told.amps = amps;
    if (this.powered && this.kept.version === '')
      for (let ms = 0; ms < 1000 * dt - 0.5; ms++) this.loader.step();
  }
}

const AROUND_C = 21;

/** Every motor's controller. */
export class Controllers {
  readonly onWire: readonly Controller[];
  private isPowered = false;

  /**
   * @param onWrite told whenever one keeps something new
   * @param onTurn told whenever one turns its motor the other way
   * @param units motors of the craft; left out, nothing is told of them
   */
  constructor(
    truth: BenchTruth,
    onWrite: (kept: BenchTruth['controllers']) => void = () => {},
    flash: ControllerFlash = new Map(),
    units: readonly MotorUnit[] = [],
    onTurn: () => void = () => {},
  ) {
    const written = () =>
      onWrite(this.onWire.map(({ kept }) => ({ ...kept, settings: { ...kept.settings } })));
    this.onWire = truth.pads.flatMap(({ actuator, output }) => {
      if (!isMotor(actuator)) return [];
      const comes = controllerAsItComes(actuator);
      const own = truth.controllers.find((c) => c.motor === actuator);
      const kept = { ...comes, ...own, settings: { ...comes.settings, ...own?.settings } };
      const unit = units.find((u) => u.motor.id === actuator);
      return [new Controller(output, kept, flash, unit, written, onTurn)];
    });
  }

  /** Battery in. */
  set powered(on: boolean) {
    if (on === this.isPowered) return;
    this.isPowered = on;
    for (const c of this.onWire) c.power(on);
  }

  /** What goes on slowly in them all. */
  step(dt: number): void {
    for (const c of this.onWire) c.step(dt);
  }

  private of(motor: string): Kept | undefined {
    return this.onWire.find((c) => c.kept.motor === motor)?.kept;
  }

  /** One was taught other ends. */
  taught(motor: string, lowUs: number, highUs: number): void {
    this.onWire.find((c) => c.kept.motor === motor)?.take({ lowUs, highUs });
  }

  /** Whether the controller of a motor brakes when it stops. */
  brakes(motor: string): boolean {
    return this.of(motor)?.settings.brake === true;
  }

  /** Whether it turns its motor round. */
  reverses(motor: string): boolean {
    const own = this.onWire.find((c) => c.kept.motor === motor);
    return own !== undefined && (own.kept.settings.direction === 'reversed') !== own.round;
  }

  /** Some motor is heard to give a tone. */
  get sing(): boolean {
    return this.onWire.some((c) => c.sings);
  }

  /** Whether it runs its firmware; in its loader it turns nothing. */
  runs(motor: string): boolean {
    return this.of(motor)?.version !== '';
  }
}
