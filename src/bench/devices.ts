import { boardOffset } from '#core/airframe/weights.ts';
import { outerBus } from '#core/board/boards.ts';
import { type BoardModel, gyrosOn } from '#core/board/model.ts';
import { portKey } from '#core/board/portUses.ts';
import type { Plant } from '#core/flight/plant.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import type { FaultDevice, FaultKind } from '#core/formats/scenario.ts';
import { Noise } from '#core/math/random.ts';
import type { Place } from '#core/navigation/earth.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { settingOf } from '#core/settings/typed.ts';
import { Readings } from '#firmware/readings.ts';
import { Around } from './around.ts';
import { type ControllerFlash, Controllers } from './devices/controllers.ts';
import type { Device } from './devices/device.ts';
import { partsOf } from './devices/firmwareParts.ts';
import { GnssReceiver } from './devices/gnssReceiver.ts';
import { Imu } from './devices/imu.ts';
import { Barometer, Compass, Flow, Pitot, PowerSense, Rangefinder } from './devices/slowSensors.ts';
import { Uart } from './devices/uart.ts';
import { Radio } from './radio.ts';

const SLOW_STEPS = 20;
/** Noise and bias of the second gyro over those of the first: another make. */
const SECOND_MAKE = 1.7;

/**
 * Share of readings that a bus without pull-ups loses, by its speed (times 0.8: of a normal number within so much of nought): its
 * edges rise through what little resistance a chip has, and at four times the speed they are not up in time.
 */
const WITHOUT_PULL_UPS = { slow: 0.003, fast: 0.08 } as const;

/** Where a craft is, and the decimal year that the earth's field is of. */
export interface Spot {
  readonly home: Place;
  readonly year: number;
}

/** Everything on a craft that the board hears: chips, sensors, receivers, each on its own wire. */
export class Devices {
  readonly readings = new Readings();
  readonly radio: Radio;
  readonly gnss: GnssReceiver;
  readonly controllers: Controllers;
  private readonly imus: readonly Imu[];
  private readonly baro: Barometer;
  private readonly pitot: Pitot | null;
  private readonly range: Rangefinder | null;
  private readonly compass: Compass | null;
  private readonly flow: Flow | null;
  private readonly power: PowerSense;
  private readonly gnssWire: Uart;
  /** What the port is set up for. */
  private readonly gnssBaud: number;
  /** The bus for devices outside the board has no power. */
  private outerDark = false;
  private tick = 0;
  private readonly busLoses: number;
  private readonly busNoise: Noise;

  /**
   * @param values settings the board runs on: what its ports are set for
   * @param board whose chips they are
   */
  constructor(
    plant: Plant,
    truth: BenchTruth,
    values: Values,
    spot: Spot,
    seed: number,
    board: BoardModel,
    around = new Around(),
    onControllers?: (kept: BenchTruth['controllers']) => void,
    controllerFlash?: ControllerFlash,
  ) {
    const r = this.readings;
    const imus = gyrosOn(board);
    const at = (n: number) => (seed ^ 0x51ab) + 7919 * n;
    const offset = boardOffset(plant.airframe);
    const lies = offset && ([offset.forwardM, offset.rightM, -offset.upM] as const);
    this.imus = r.imus.slice(0, imus).map((out, i) => {
      const chip = { yawDeg: board.chipYawsDeg?.[i] ?? 0, error: truth.accels[i] };
      return new Imu(at(1 + i), plant, out, i === 0 ? 1 : SECOND_MAKE, lies, truth.mount, chip, around);
    });
    this.baro = new Barometer(at(3), plant, r.baro, truth.baroShielded, around);
    this.pitot = truth.fitted.airspeed ? new Pitot(at(4), plant, r.pitot, truth, around) : null;
    this.range = truth.fitted.rangefinder ? new Rangefinder(at(5), plant, r.range) : null;
    this.compass = truth.fitted.compass ? new Compass(at(6), plant, r.compass, spot, truth, around) : null;
    this.flow = truth.fitted.flow ? new Flow(at(12), plant, r.flow, truth.flowScale) : null;
    this.power = new PowerSense(at(7), plant, r, truth);
    const gnssWire =
      values[portKey(truth.ports.gnss)] !== 'gnss' ? 'not' : truth.gnss.swapped ? 'swapped' : 'right';
    // The receiver takes what it is asked for only where it understands the board.
    const asked = gnssWire === 'right' && truth.gnssBaud === Number(settingOf(values, 'gnss.baud'));
    const gnss = asked
      ? {
          ...truth.gnss,
          hz: Number(settingOf(values, 'gnss.rate')),
          view: settingOf(values, 'gnss.view') === true,
          systems: settingOf(values, 'gnss.systems') ?? 'all',
        }
      : { ...truth.gnss, view: true };
    this.gnssBaud = Number(settingOf(values, 'gnss.baud'));
    this.gnssWire = new Uart(r.gnss, truth.gnssBaud, this.gnssBaud, gnssWire, at(8));
    this.gnssWire.crossedTo = r.gnssTx;
    this.gnss = new GnssReceiver(at(9), plant, this.gnssWire.out, spot.home, gnss);
    this.busLoses = truth.pullUps
      ? 0
      : values['bus.speed'] === '100'
        ? WITHOUT_PULL_UPS.slow
        : WITHOUT_PULL_UPS.fast;
    this.busNoise = new Noise(at(11));
    const set = {
      joined: values[portKey(truth.ports.receiver)] === 'receiver',
      protocol: settingOf(values, 'rx.protocol') ?? 'crsf',
      turned: settingOf(values, 'rx.levels') === 'turned',
      oneWire: settingOf(values, 'rx.wires') === 'one',
    };
    this.controllers = new Controllers(
      truth,
      (kept) => {
        this.turnAsTold(plant);
        onControllers?.(kept);
      },
      controllerFlash,
      plant.motors,
      () => this.turnAsTold(plant),
    );
    r.controllers = this.controllers.onWire;
    this.turnAsTold(plant);
    this.radio = new Radio(
      truth.channels,
      truth.receiver,
      truth.transmitter,
      r,
      set,
      truth.ports.receiver,
      at(10),
    );
  }

  /** Motors turn and stop as their controllers are told. */
  private turnAsTold(plant: Plant): void {
    plant.motors.forEach((unit, i) => {
      unit.brakes = this.controllers.brakes(unit.motor.id);
      unit.dead = !this.controllers.runs(unit.motor.id);
      plant.turn(i, this.controllers.reverses(unit.motor.id));
    });
  }

  step(batteryIn: boolean, dt: number): void {
    this.controllers.powered = batteryIn;
    for (let i = 0; i < this.imus.length; i++) this.imus[i]!.step(dt);
    if (this.tick++ % SLOW_STEPS === 0) {
      this.baro.step();
      if (!this.outerDark) {
        this.overBus(this.pitot);
        this.overBus(this.range);
        this.overBus(this.compass);
        this.overBus(this.flow);
      }
      this.power.step(batteryIn);
      this.controllers.step(SLOW_STEPS * dt);
    }
    this.gnss.step(dt);
    const { readings: r, gnssWire } = this;
    gnssWire.portBaud = r.gnssPortBaud > 0 ? r.gnssPortBaud : this.gnssBaud;
    gnssWire.step(dt);
    r.gnssOnTx = gnssWire.crossed;
    r.gnssFraming = gnssWire.framing;
    this.radio.step(true, dt);
  }

  /** A reading of a sensor outside the board, over a bus that may lose it. */
  private overBus(device: Pitot | Rangefinder | Compass | Flow | null): void {
    if (!device) return;
    this.readings.busReads++;
    if (this.busLoses > 0 && Math.abs(this.busNoise.next()) < this.busLoses) this.readings.busErrors++;
    else device.step();
  }

  /** What parts with firmware of their own answer the board, and where it logs. */
  tellParts(board: BoardModel, batteryIn: boolean, card: 'out' | 'in' | 'full'): void {
    const r = this.readings;
    r.card = board.logsTo === 'chip' ? 'chip' : card === 'out' ? 'missing' : card;
    r.parts = partsOf(board, batteryIn ? this.controllers.onWire : []);
    this.outerDark = outerBus(board).batteryFed === true && !batteryIn;
  }

  /** Makes a device fail, or work again. False when the craft has no such device. */
  fail(id: FaultDevice, fault: FaultKind): boolean {
    const device: Device | null | undefined = (
      {
        gyro: this.imus[0],
        barometer: this.baro,
        compass: this.compass,
        airspeed: this.pitot,
        rangefinder: this.range,
        gnss: this.gnss,
        voltage: this.power,
      } as Partial<Record<FaultDevice, Device | null>>
    )[id];
    if (!device) return false;
    device.fault = fault;
    return true;
  }
}
