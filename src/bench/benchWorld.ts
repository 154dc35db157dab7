import type { Airframe } from '#core/airframe/airframe.ts';
import type { Attitude } from '#core/calibration/poses.ts';
import { Plant } from '#core/flight/plant.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import type { Site } from '#core/site/site.ts';
import { type ShownSensor, ToldScreen } from '#core/toldBack/screen.ts';
import { BoardLink } from '#firmware/boardLink.ts';
import { Loader } from '#firmware/loader.ts';
import { Pfad, STEP_S } from '#firmware/pfad.ts';
import { isPfadVersion, runningValues } from '#firmware/releases.ts';
import { Around, putAround, type Tools, toolsAway } from './around.ts';
import type { BenchBoard } from './benchBoard.ts';
import type { ControllerFlash } from './devices/controllers.ts';
import { answerVideo } from './devices/videoTransmitter.ts';
import { Devices } from './devices.ts';
import { atRest, type Handled, Handling, type Support } from './handling.ts';
import type { Lamp } from './radio.ts';
import { Wiring } from './wiring.ts';

/** What a person at the bench does to the things on it. */
export interface BenchControls extends Tools {
  usb: boolean;
  battery: boolean;
  propellers: boolean;
  outdoors: boolean;
  support: Support;
  pose: Attitude;
  turning: Handled['turning'];
  liftM: number;
  /** Carried on foot from where the bench stands, m. */
  walkNorthM: number;
  walkEastM: number;
  transmitter: boolean;
  /** Of the receiver. */
  aerial: boolean;
  stickRoll: number;
  stickPitch: number;
  stickYaw: number;
  stickThrottle: number;
  armSwitch: boolean;
  attitudeSwitch: 0 | 1 | 2;
  returnSwitch: boolean;
  /** Of a transmitter that has a switch for them. */
  lowRates: boolean;
  /** 0..1, of a transmitter that has one. */
  dial: number;
  /** The button on the board that is held down at power-on to enter its loader. */
  loaderButton: boolean;
  /** Memory card, where the board takes one. */
  card: 'out' | 'in' | 'full';
}

const benchAtRest: BenchControls = {
  usb: false,
  battery: false,
  propellers: false,
  outdoors: false,
  ...atRest,
  ...toolsAway,
  transmitter: true,
  aerial: true,
  stickRoll: 0,
  stickPitch: 0,
  stickYaw: 0,
  stickThrottle: 0,
  armSwitch: false,
  attitudeSwitch: 0,
  returnSwitch: false,
  lowRates: false,
  dial: 0.5,
  loaderButton: false,
  card: 'out',
};

/** How wrong the meter and the charger are: of half a per cent and of one that such things may be. */
const METER_ERROR = -0.003;
const CHARGER_ERROR = 0.006;

/** A throw as it should be, a weak one, and a knock: push, m/s^2, and how long it lasts, s. */
const TOSSES = {
  firmly: { push: 38, seconds: 0.24 },
  weakly: { push: 9, seconds: 0.3 },
  knocked: { push: 50, seconds: 0.03 },
} as const;
export type Toss = keyof typeof TOSSES;

/** How well a receiver hears a transmitter in the same room without its aerial. */
const WITHOUT_AERIAL = 0.45;

/** The craft on the bench, held in hands, with its board, radio and battery. One step is a millisecond. */
export class BenchWorld {
  readonly controls: BenchControls = { ...benchAtRest };
  readonly plant: Plant;
  readonly wiring: Wiring;
  pfad: Pfad | null = null;
  link: BoardLink | null = null;
  /** Runs instead of the firmware while there is none to start, or while it is asked for. */
  loader: Loader | null = null;
  /** Bytes from the board to the cable; set while a cable carries a link. */
  toCable: (bytes: Uint8Array) => void = () => {};
  /** Called when the board starts or stops, so that the cable's other end can be told. */
  onPower: (running: boolean) => void = () => {};
  /** Made anew with each start of the board, since its ports are set by its settings. */
  private devices: Devices | null = null;
  private readonly controllerFlash: ControllerFlash = new Map();
  private readonly around = new Around();
  private readonly handling: Handling;
  /** In the pilot's hands, with a battery of its own. */
  private readonly screen = new ToldScreen();
  private tick = 0;

  constructor(
    airframe: Airframe,
    private truth: BenchTruth,
    readonly board: BenchBoard,
    private readonly seed: number,
    private spot: Pick<Site, 'home' | 'year'>,
  ) {
    this.plant = new Plant(airframe);
    this.plant.position[2] = -spot.home.heightM;
    this.plant.ground = spot.home.heightM;
    this.wiring = new Wiring(airframe, truth);
    this.wiring.onTaught = (...what) => this.devices?.controllers.taught(...what);
    this.handling = new Handling(this.plant);
  }

  /** What stands on the transmitter's screen; it stays there when the craft is silent. */
  get shownBack(): readonly ShownSensor[] {
    return this.screen.shown(this.tick * STEP_S);
  }

  /** Motors give a tone without turning. */
  get motorsSing(): boolean {
    return this.devices?.controllers.sing ?? false;
  }

  /** What the lamp of the receiver does. */
  get lamp(): Lamp {
    return this.devices?.radio.lamp ?? 'dark';
  }

  /** What the board hears; null while it runs no firmware. */
  get readings() {
    return this.devices?.readings ?? null;
  }

  /** Bytes that came over the cable. */
  fromCable(bytes: Uint8Array): void {
    (this.link ?? this.loader)?.reader.push(bytes);
  }

  step(): void {
    this.power();
    const c = this.controls;
    const p = this.plant;
    for (const m of p.motors) m.propellerFitted = c.propellers;
    this.handling.step(c, STEP_S);
    if (this.tick % 20 === 0) putAround(this.around, c, c.battery, this.wash());
    const pfad = this.pfad;
    const devices = this.devices;
    if (pfad && devices) {
      const radio = devices.radio;
      radio.on = c.transmitter;
      radio.reach = c.aerial ? 1 : WITHOUT_AERIAL;
      radio.roll = c.stickRoll;
      radio.pitch = c.stickPitch;
      radio.yaw = c.stickYaw;
      radio.throttle = c.stickThrottle;
      radio.arm = c.armSwitch;
      radio.attitude = c.attitudeSwitch;
      radio.returnHome = c.returnSwitch;
      radio.lowRates = c.lowRates;
      radio.dial = c.dial;
      // Indoors a few satellites come through the window; under the sky a fix takes its time.
      devices.gnss.sky = c.outdoors ? 1 : 0;
      if (this.tick % 100 === 0) devices.tellParts(this.board.model, c.battery, c.card);
      devices.step(c.battery, STEP_S);
      pfad.step(devices.readings);
      const { pulses, config } = pfad.controller;
      this.wiring.step(pulses, p, c.battery, STEP_S, config.outputs);
      if (this.link && this.tick % 5 === 0) this.link.pump();
      if (this.link?.loaderWanted) this.restart('loader asked for over the link', true);
      else if (this.link?.restartWanted) this.restart('restart asked for over the link', false);
    } else {
      p.duties.fill(0);
      this.loader?.step(STEP_S);
      if (this.loader?.startWanted) this.restart('started by the loader', false);
    }
    const house = c.battery ? 0.4 + this.around.loadA : 0;
    let current = house;
    if (c.battery) p.battery.share(p.duties, p.motors, house);
    for (let i = 0; i < p.motors.length; i++) {
      const unit = p.motors[i]!;
      unit.meet(c.battery ? p.duties[i]! : 0, p.battery.voltage, 0, 1.2);
      unit.step(STEP_S);
      current += unit.currentA;
    }
    if (c.battery) {
      p.battery.currentA = current;
      p.battery.step(STEP_S);
    }
    this.tick++;
  }

  /** How fast propellers move the air past the craft's body, m/s. */
  private wash(): number {
    const p = this.plant;
    let fastest = 0;
    for (const m of p.motors)
      if (m.propellerFitted)
        fastest = Math.max(fastest, Math.sqrt(Math.max(0, 2 * m.thrust) / (p.density * m.discArea)));
    return fastest;
  }

  /** Motor controllers as they stand by now. */
  get controllers(): BenchTruth['controllers'] {
    return this.truth.controllers;
  }

  /** The craft's rods were turned; nothing else of it is built otherwise. */
  relink(linkages: BenchTruth['linkages']): void {
    this.truth = { ...this.truth, linkages };
    this.wiring.relink(this.plant.airframe, linkages);
  }

  /** An arm swings it as if to throw; it stays in the hand. */
  toss(how: Toss): void {
    const { push, seconds } = TOSSES[how];
    this.handling.toss(push, seconds);
  }

  /** Charges the battery full. @returns what the charger says that it put back, mAh */
  charge(): number {
    return (1 + CHARGER_ERROR) * (this.plant.battery.charge(1) / 3.6);
  }

  /** What the meter shows of the battery, V. */
  get meterV(): number {
    const { voltage } = this.plant.battery;
    return this.controls.battery ? Math.round(voltage * (1 + METER_ERROR) * 100) / 100 : 0;
  }

  private power(): void {
    const powered = this.controls.usb || this.controls.battery;
    const running = this.pfad !== null || this.loader !== null;
    if (powered && !running) this.startBoard('power on', this.controls.loaderButton);
    else if (!powered && running) this.stopBoard();
  }

  /** Carries the bench elsewhere: a board that runs is started anew there. */
  carry(spot: Pick<Site, 'home' | 'year'>): void {
    this.spot = spot;
    this.plant.position[2] = -spot.home.heightM;
    this.plant.ground = spot.home.heightM;
    if (this.pfad) this.restart('carried to another place', false);
  }

  private restart(cause: string, intoLoader: boolean): void {
    this.stopBoard();
    this.startBoard(cause, intoLoader);
  }

  private startBoard(cause: string, intoLoader: boolean): void {
    const { image, flash, planFlash, model, serial } = this.board;
    const version = image.startable ? image.plan!.version : '';
    if (intoLoader || !isPfadVersion(version)) {
      const { name, revision, target } = model;
      const who = { board: name, revision, target, serial, restartCause: cause };
      this.loader = new Loader(image, [flash, planFlash], who, (bytes) => this.toCable(bytes));
      this.onPower(true);
      return;
    }
    this.pfad = new Pfad(model, flash, serial, cause, this.board.log, version, planFlash);
    const running = runningValues(version, this.pfad.values);
    this.devices = new Devices(
      this.plant,
      this.truth,
      running,
      this.spot,
      this.seed,
      model,
      this.around,
      (controllers) => {
        this.truth = { ...this.truth, controllers };
      },
      this.controllerFlash,
    );
    const { video } = this.pfad;
    video.onBytes = (frame) => {
      const answer = answerVideo(frame, this.controls.battery);
      if (answer) video.receive(answer);
    };
    const { radio } = this.devices;
    this.pfad.teller.onBytes = (frame) => {
      if (radio.bringsBack()) this.screen.receive(frame, this.tick * STEP_S);
    };
    this.link = new BoardLink(this.pfad, this.devices.readings, (bytes) => this.toCable(bytes));
    this.onPower(true);
  }

  private stopBoard(): void {
    this.board.log.cut();
    this.pfad = null;
    this.loader = null;
    this.link = null;
    this.devices = null;
    this.onPower(false);
  }
}
