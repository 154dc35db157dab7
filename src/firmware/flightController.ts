import { TrimLearner } from '#core/calibration/surfaceTrim.ts';
import { DIALS_SAY } from '#core/control/dials.ts';
import { LostLink, type LostLinkState } from '#core/lostlink/lostLink.ts';
import { pitchOf, rollOf } from '#core/math/quaternion.ts';
import { clamp } from '#core/math/scalar.ts';
import { type ModeId, type ModeView, modeNames, switchedModes, whyNot } from '#core/modes/modes.ts';
import { EMPTY_PLAN, type FlightPlan } from '#core/plan/plan.ts';
import { type ArmingView, armingBlockers, type Blocker } from './arming.ts';
import { Autopilot } from './autopilot.ts';
import { AutoTune } from './autoTune.ts';
import { BenchMoves } from './benchMoves.ts';
import type { Config } from './config.ts';
import { Dials } from './dials.ts';
import { hasLeftGround, LandingWatch } from './flightState.ts';
import { HandLaunch } from './handLaunch.ts';
import { HomeFlight } from './homeFlight.ts';
import { Journal } from './journal.ts';
import { type AttitudeDemand, Loops, newDemand } from './loops.ts';
import { MapSteering } from './mapSteering.ts';
import { ModeChoice, type Pilot, pilotOf } from './modeChoice.ts';
import { type Command, Outputs, RowInputs } from './outputs.ts';
import { PilotInput } from './pilotInput.ts';
import type { Readings } from './readings.ts';
import { RouteFlight } from './routeFlight.ts';
import { Sanity } from './sanity.ts';
import { Sensing } from './sensing.ts';
import { demandBySticks, limitedThrottle } from './stickDemand.ts';
import { learnTrim, middlesStay } from './trimWatch.ts';
import { canTurnOver, turnOverCommand, turnRound } from './turnOver.ts';
import { TwinTrim } from './twinTrim.ts';

const NAV_DIVIDER = 20;
/** The switch that lets gains be found is on from here, us. */
const TUNE_FROM_US = 1700;

/** What stands in the way of a return. */
export type NoReturn = 'no-home' | 'position-lost' | 'no-heading' | 'few-satellites' | 'gave-up';

/** The control side of Pfad at a fixed step: readings in, pulses out. Allocates nothing while it steps. */
export class FlightController {
  readonly sensing: Sensing;
  readonly input: PilotInput;
  readonly bench: BenchMoves;
  readonly lost: LostLink;
  readonly home: HomeFlight;
  readonly route: RouteFlight;
  readonly launch: HandLaunch;
  readonly journal: Journal;
  readonly sanity: Sanity;
  readonly twin: TwinTrim;
  readonly command: Command = { roll: 0, pitch: 0, yaw: 0, throttle: 0, flap: 0 };
  readonly demand: AttitudeDemand = newDemand();
  mode: ModeId = 'manual';
  /** The highest mode the switches ask for, whether it can be had or not. */
  requestedMode: ModeId = 'manual';
  armed = false;
  pilot: Pilot = 'sticks';
  homeSet = false;
  usedMah = 0;
  supplyV = 0;
  currentA = 0;
  storing = false;
  restartNeeded = false;
  /** In the air, as far as the board can tell. */
  hasFlown = false;
  landed = false;
  /** The arming switch was put on while something stood in the way, and has not been off since. */
  private refused = false;
  private readonly rowInputs = new RowInputs();
  /** Height of the ground above sea, m north and east of the origin: terrain on the memory card. */
  groundAt: ((north: number, east: number) => number) | null = null;
  uptimeS = 0;
  loops: Loops;
  readonly outputs: Outputs;
  readonly dials: Dials;
  readonly tune: AutoTune;
  /** What level flight takes of a wing; of the flight that was last begun. */
  readonly trim: TrimLearner;

  private readonly choice: ModeChoice;
  private readonly byMap = new MapSteering();
  private readonly autopilot: Autopilot;
  private readonly landing: LandingWatch;
  private readonly view: { -readonly [K in keyof ModeView]: ModeView[K] };
  private readonly look = {
    armed: false,
    flown: false,
    homeSet: false,
    returning: false,
    supplyV: 0,
    usedMah: 0,
  };
  private readonly homeView = { aboveGround: Number.NaN, groundAt: null as FlightController['groundAt'] };
  private servoRailV = 0;
  /** Between two turns of the loops, s. */
  private readonly loopDt: number;
  private tick = 0;
  private lastLost: LostLinkState = 'fine';
  private set: number;
  private armHeight = 0;
  /** Armed on its back to turn itself over, and nothing else. */
  private turningOver = false;
  /** Controllers that are told to turn backwards for it; refilled each step. */
  private wires: Readings['controllers'] = [];
  private everArmed = false;

  /** @param from the controller before a change of settings */
  constructor(
    readonly config: Config,
    readonly dt: number,
    from?: FlightController,
    plan: FlightPlan = EMPTY_PLAN,
  ) {
    const c = config;
    const say = (text: string) => this.journal.say(this.uptimeS, text);
    this.journal = from?.journal ?? new Journal();
    this.sensing = new Sensing(c, dt, from?.sensing);
    this.input = new PilotInput(c, from?.input);
    this.bench = from?.bench ?? new BenchMoves();
    this.lost = new LostLink(c.lost);
    this.home = new HomeFlight(c, say);
    this.route = new RouteFlight(c, plan, this.home, say);
    this.launch = new HandLaunch(c, say);
    this.sanity = new Sanity(c, plan, say);
    this.twin = new TwinTrim(c, say);
    this.autopilot = new Autopilot(c, dt * NAV_DIVIDER);
    this.landing = new LandingWatch(c);
    this.outputs = new Outputs(c, dt);
    this.dials = new Dials(c);
    this.loopDt = dt * c.loopShape.everySteps;
    this.tune = new AutoTune(c, this.loopDt, say, from?.tune);
    this.set = c.setActive;
    this.trim = from && middlesStay(from.config, c) ? from.trim : new TrimLearner(c.navSpeed);
    this.loops = new Loops(c, c.sets[this.set]!, this.loopDt);
    this.view = {
      rotorcraft: c.rotorcraft,
      attitude: 'good',
      height: 'lost',
      position: 'lost',
      heading: false,
      homeSet: false,
      satellites: 0,
      satellitesToReturn: c.returnSatellites,
      routePoints: plan.points.length,
      routeByGround: this.route.byGround,
      groundKnown: false,
      flown: false,
    };
    this.choice = new ModeChoice(c, this.input, this.view, this);
    if (from) this.inherit(from);
  }

  /** What a change of settings on the ground does not wipe: charge used, voltages. Arming begins anew. */
  private inherit(from: FlightController): void {
    this.uptimeS = from.uptimeS;
    this.usedMah = from.usedMah;
    this.supplyV = from.supplyV;
    this.servoRailV = from.servoRailV;
    this.groundAt = from.groundAt;
    this.outputs.pulses.set(from.outputs.pulses);
  }

  get pulses(): Float64Array {
    return this.outputs.pulses;
  }
  get attitude() {
    return this.sensing.attitude;
  }
  get position() {
    return this.sensing.position;
  }
  get sticks() {
    return this.input.sticks;
  }
  /** Why the requested mode is not flown; null when it is. */
  get refusal(): string | null {
    return this.choice.refusal;
  }
  get linkAlive(): boolean {
    return this.input.linkAlive;
  }
  get airspeed(): number {
    return this.sensing.airspeed;
  }
  get satellitesUsed(): number {
    return this.sensing.satellites;
  }

  /** One control step. */
  step(r: Readings): void {
    const { dt, sensing, input } = this;
    this.tick++;
    this.uptimeS += dt;
    sensing.flying = this.armed && this.hasFlown;
    sensing.throttle = this.command.throttle;
    sensing.step(r);
    this.supplyV = r.supplyV * this.config.voltageScale;
    sensing.supplyV = this.supplyV;
    this.currentA = (r.currentA - this.config.currentOffset) * this.config.currentScale;
    this.servoRailV = r.servoRailV;
    this.usedMah += (Math.max(0, this.currentA) * dt) / 3.6;
    this.wires = r.controllers;
    input.step(r, dt);
    if (this.turningOver && !input.linkAlive)
      this.disarm('The link was lost while it turned over: disarmed.');
    if (input.fresh) this.listen();
    this.bench.step(dt, this.supplyV);
    if (this.armed) this.bench.withdraw();
    const lost = this.lost.step(input.linkAlive, input.sticks.shift(), dt, input.frameAge);
    if (lost !== this.lastLost) this.onLostChange(lost);
    if (this.tick % NAV_DIVIDER === 0) {
      if (input.linkAlive) this.dials.step(input.channels);
      this.lookToTune();
      this.lookAround(dt * NAV_DIVIDER);
      this.decide(lost);
      this.guide(dt * NAV_DIVIDER);
    }
    if (this.tick % this.config.loopShape.everySteps === 0) this.control();
    if (this.config.mixRows.length > 0) {
      const { attitude } = sensing.attitude;
      this.rowInputs.fill(this.command, input, rollOf(attitude), pitchOf(attitude), this.route.camera);
    }
    this.outputs.step(this.command, this.bench, this.armed, this.rowInputs.values, input.channels);
  }

  /** What rotors would be given now, by output, while they stand still. */
  get wouldGive(): number[] {
    return this.outputs.wouldGive(this.command);
  }

  private say(text: string): void {
    this.journal.say(this.uptimeS, text);
  }

  private onLostChange(state: LostLinkState): void {
    if (state === 'recovering') this.sticks.mark();
    if (this.armed) {
      const seconds = this.config.lost.noticeAfter;
      if (state === 'noticed') this.say(`Nothing from the transmitter for ${seconds} s: the link is lost.`);
      else if (state === 'guarding')
        this.say(`Guards for ${this.config.lost.guardFor} s in the hope that the link comes back.`);
      else if (state === 'acting') this.say('The link stays lost: acts.');
      else if (state === 'recovering')
        this.say('The link is back: waits until it is steady and a stick is moved.');
      else if (this.lastLost !== 'fine') this.say('The pilot has the craft again.');
    }
    this.lastLost = state;
  }

  private listen(): void {
    const { input } = this;
    this.requestedMode = 'manual';
    for (let i = 0; i < switchedModes.length; i++)
      if (input.wanted[i]) this.requestedMode = switchedModes[i]!;
    if (!input.armWanted && this.armed) this.disarm('The arming switch is off: disarmed.');
    else if (input.armWanted && !this.armed && !this.landed && !this.refused && input.linkAlive) {
      // What is in the way now may go by itself: a motor does not turn then because a switch was left on.
      if (this.blockers().length === 0) this.arm();
      else this.refused = true;
    }
    if (!input.armWanted) {
      this.landed = false;
      this.refused = false;
    }
    if (!this.armed) this.chooseSet(input.set);
  }

  /** Another control set, on the ground only. */
  private chooseSet(wanted: number): void {
    const set = wanted < 0 ? this.config.setActive : wanted;
    if (set === this.set) return;
    this.set = set;
    this.loops = new Loops(this.config, this.config.sets[set]!, this.loopDt);
    this.autopilot.set = this.loops.set;
    this.say(`Flies with control set ${set + 1} from now on.`);
  }

  private arm(): void {
    const { position: p, config: c } = this;
    this.armed = true;
    this.hasFlown = false;
    this.sanity.reset(this.supplyV, this.usedMah, this.sensing);
    this.twin.reset();
    this.trim.reset();
    this.byMap.armed(this.sensing.attitude.yaw);
    this.choice.armed();
    this.armHeight = p.height;
    this.loops.reset();
    if (this.onItsBack) {
      this.turnOver();
      return;
    }
    // Whatever they were told before: to fly they turn as they fly.
    turnRound(this.wires, false);
    const mayHome = !(c.homeOnce && this.everArmed && this.homeSet);
    if (mayHome && p.hasFix && this.sensing.satellites >= c.armSatellites) {
      this.homeSet = true;
      this.home.setHome(p.north, p.east, p.height, this.sensing.satellites, p.place.accuracy);
      this.say(`Armed; home is here, by ${this.sensing.satellites} satellites.`);
    } else this.say(this.homeSet ? 'Armed; home stays where it was.' : 'Armed without a home.');
    this.everArmed = true;
  }

  /** A rotorcraft on its back whose switch asks for turning over, with every rotor on a wire that can be told to turn backwards. */
  private get onItsBack(): boolean {
    const { config: c, input } = this;
    return c.rotorcraft && input.flipWanted && canTurnOver(this.tilt, c.outputs, this.wires);
  }

  private get tilt(): number {
    const { roll, pitch } = this.sensing.attitude;
    return Math.acos(clamp(Math.cos(roll) * Math.cos(pitch), -1, 1));
  }

  private turnOver(): void {
    this.turningOver = true;
    this.outputs.turningOver = true;
    turnRound(this.wires, true);
    this.say('Armed on its back to turn over: the stick lifts its side. Disarm and arm again to fly.');
  }

  private disarm(why: string): void {
    this.armed = false;
    if (this.turningOver) turnRound(this.wires, false);
    this.turningOver = false;
    this.outputs.turningOver = false;
    this.hasFlown = false;
    this.launch.phase = 'done';
    this.lost.reset();
    this.lastLost = 'fine';
    this.say(why);
    this.tune.landed();
    if (this.dials.said !== '') this.say(`${DIALS_SAY}: ${this.dials.said}.`);
  }

  /** Everything that stands in the way of arming now. */
  blockers(): Blocker[] {
    const { sensing: s, config: c } = this;
    const view: ArmingView = {
      linkAlive: this.input.linkAlive,
      sticks: this.sticks,
      tilt: this.tilt,
      turnsOver: this.onItsBack,
      hasFix: s.position.hasFix && s.fixUsed,
      satellites: s.satellites,
      servoRailV: this.servoRailV,
      supplyV: this.supplyV,
      usedMah: this.usedMah,
      restartNeeded: this.restartNeeded,
      storing: this.storing,
      benchMoving: this.bench.output !== 0 || this.bench.teaching !== '',
      requestedMode: this.requestedMode,
      switchSeenOff: this.input.armSeenOff || c.arm.channel === 0,
      switchRefused: this.refused,
      still: s.still,
      imuAlive: s.imuAlive,
      baroAlive: s.baroAlive,
      compassHealthy: s.compassHealthy,
      pitotAlive: s.pitotAlive,
      launchReady: !c.rotorcraft && this.input.wants('launch'),
    };
    return armingBlockers(c, view);
  }

  /** Modes that cannot be had now, each with its reason. */
  unavailable(): { mode: ModeId; why: string }[] {
    return switchedModes.flatMap((mode) => {
      const why = whyNot(mode, this.view);
      return why === null ? [] : [{ mode, why }];
    });
  }

  /** What changes slowly: in the air or not, battery, fence, satellites, health of the estimates. */
  private lookAround(dt: number): void {
    const { sensing: s, config: c } = this;
    const p = s.position;
    if (this.armed && !this.hasFlown)
      this.hasFlown = hasLeftGround(c, s, this.command.throttle, p.height - this.armHeight);
    const v = this.view;
    v.attitude = s.imuAlive ? s.attitude.estimate.health : 'lost';
    v.height = p.level.health;
    v.position = p.place.health;
    v.heading = s.headingKnown;
    v.homeSet = this.homeSet;
    v.satellites = s.satellites;
    v.flown = this.hasFlown;
    v.groundKnown = this.groundAt !== null;
    this.homeView.aboveGround = s.aboveGround;
    this.homeView.groundAt = this.groundAt;
    const look = this.look;
    look.armed = this.armed;
    look.flown = this.hasFlown;
    look.homeSet = this.homeSet;
    look.returning = this.pilot === 'return';
    look.supplyV = this.supplyV;
    look.usedMah = this.usedMah;
    this.sanity.step(look, s, this.home, dt);
    const held = look.flown && this.mode !== 'manual' && this.mode !== 'rate';
    if (!c.rotorcraft && learnTrim(this.trim, s, this.command, held, dt))
      this.say('Flew level for long enough to know its trim.');
    if (look.flown && this.mode !== 'manual')
      this.twin.step(this.wires, this.command.yaw, this.command.throttle, dt);
    if (this.landing.step(this.armed && this.comesDown, s, this.sinkAsked, this.aboveGround, dt)) {
      this.landed = true;
      this.disarm('Landed: disarmed.');
    }
  }

  /** Whether gains are to be found now, for `AutoTune`. */
  private lookToTune(): void {
    const { look } = this.tune;
    const { channel } = this.config.tune;
    look.asked = channel > 0 && this.armed && this.input.channels[channel - 1]! > TUNE_FROM_US;
    look.mode = this.mode;
    look.flying = this.armed && this.hasFlown && (this.pilot === 'sticks' || this.pilot === 'hold');
    look.linkAlive = this.input.linkAlive;
    look.aboveM = this.position.height - this.armHeight;
  }

  /** Coming down by itself, to the ground. */
  private get comesDown(): boolean {
    if (this.pilot === 'return') return this.home.phase === 'descending' || this.home.phase === 'flare';
    return this.pilot === 'glide' || (this.pilot === 'route' && this.route.goal.sink > 0);
  }

  /** How fast it is asked to sink to the ground, m/s. */
  private get sinkAsked(): number {
    if (this.pilot === 'return') return this.home.goal.sink;
    if (this.pilot === 'route') return this.route.goal.sink;
    return this.pilot === 'glide' ? this.config.hover.land : 0;
  }

  /** Of the ground as far as the board can tell: by rangefinder, terrain on its card, or home; NaN when none of them. */
  private get aboveGround(): number {
    const p = this.position;
    if (!Number.isNaN(this.sensing.aboveGround)) return this.sensing.aboveGround;
    const ground = this.groundAt && p.usable ? this.groundAt(p.north, p.east) : Number.NaN;
    if (Number.isFinite(ground)) return p.height - ground;
    return this.homeSet && p.usable && this.home.distance(p) < 60
      ? p.height - this.home.homeHeight
      : Number.NaN;
  }

  /** Why it could not return home now; null when it could. */
  noReturn(): NoReturn | null {
    const v = this.view;
    if (!this.homeSet) return 'no-home';
    if (!this.position.usable) return 'position-lost';
    if (this.config.rotorcraft && !v.heading) return 'no-heading';
    if (this.sanity.tooFew) return 'few-satellites';
    return this.sanity.gaveUp ? 'gave-up' : null;
  }

  private canReturn(): boolean {
    return this.noReturn() === null;
  }

  private decide(lost: LostLinkState): void {
    const c = this.config;
    let pilot: Pilot = 'sticks';
    let mode: ModeId = 'manual';
    this.choice.refusal = null;
    if (this.armed && lost !== 'fine' && lost !== 'noticed') {
      if (c.lostAction === 'nothing') pilot = 'nothing';
      // A craft that has not flown yet stays where it is: motors off, whatever the action.
      else if (!this.hasFlown) pilot = 'cut';
      else if (lost === 'guarding') pilot = 'guard';
      else if (c.lostAction === 'return') pilot = this.canReturn() ? 'return' : 'glide';
      else pilot = c.lostAction;
    } else if (this.armed) {
      mode = this.choose();
      pilot = pilotOf(mode);
    } else mode = this.choose();
    if (this.comesDownHere(pilot)) pilot = 'glide';
    if (pilot !== this.pilot || (pilot === 'hold' && mode !== this.mode)) this.change(pilot, lost !== 'fine');
    this.pilot = pilot;
    if (pilot === 'return') mode = 'return';
    else if (pilot === 'guard' || pilot === 'glide' || pilot === 'cut') mode = 'level';
    else if (pilot === 'nothing') mode = this.mode;
    if (mode !== this.mode && this.armed) this.say(`Mode: ${modeNames[mode]}.`);
    this.mode = mode;
  }

  /** The mode that is asked for and can be had now. */
  private choose(): ModeId {
    const { choice } = this;
    choice.now.armed = this.armed;
    choice.now.flown = this.hasFlown;
    choice.now.onRoute = this.pilot === 'route';
    choice.now.canReturn = this.canReturn();
    return choice.choose();
  }

  /** Its battery is at its end and it is not yet at home: whatever flies it by itself, it comes down while it still can. */
  private comesDownHere(pilot: Pilot): boolean {
    const { battery } = this.sanity;
    if (!battery.empty || !this.config.battery.comesDown || !this.armed || !this.hasFlown) return false;
    if (pilot === 'return') return this.home.phase === 'climbing' || this.home.phase === 'homeward';
    return pilot === 'hold' || pilot === 'route' || pilot === 'guard';
  }

  private change(pilot: Pilot, linkLost: boolean): void {
    this.autopilot.begin(this.sensing, this.command.throttle);
    if (this.pilot === 'route' && pilot !== 'return') this.route.wantsReturn = false;
    if (pilot === 'return') this.home.begin(this.position, linkLost);
    else if (pilot === 'route') this.route.begin(this.position, this.sensing);
    else if (pilot === 'launch' && !this.launch.running) {
      this.launch.begin();
      this.choice.launchUsed = true;
    } else if (pilot === 'glide')
      this.say(this.config.rotorcraft ? 'Comes down where it is.' : 'Glides down in a circle.');
    else if (pilot === 'cut') this.say('Stops the motors.');
  }

  /** Fifty times a second: what the autopilot makes of the goal. */
  private guide(dt: number): void {
    const { autopilot, sensing: s, demand: d } = this;
    d.yawRate = 0;
    switch (this.pilot) {
      case 'return':
        this.home.step(s.position, this.homeView, dt);
        autopilot.follow(this.home.goal, s, d, this.home.heldUp > 0 ? 0.3 : 0);
        break;
      case 'route':
        this.route.step(s.position, this.groundAt, dt);
        autopilot.follow(this.route.goal, s, d);
        break;
      case 'hold':
        autopilot.hold(this.mode, s, this.sticks, this.byMap.angle(this.mode, s, this.home), d);
        break;
      case 'guard':
        autopilot.guard(s, d);
        break;
      case 'glide':
        autopilot.comeDown(s, d);
        break;
      case 'launch': {
        const moved = Math.hypot(this.sticks.roll, this.sticks.pitch) > 0.3;
        this.launch.step(s.push, s.position.height, moved, dt);
        d.roll = 0;
        d.pitch = this.config.launch.pitch;
        break;
      }
    }
  }

  private control(): void {
    const { config: c, sticks: s, demand: d, command: out } = this;
    let throttle = s.throttle;
    d.stickRoll = s.roll;
    d.stickPitch = s.pitch;
    d.stickYaw = s.yaw;
    d.freeRoll = 0;
    d.freePitch = 0;
    this.flaps();
    if (this.turningOver) {
      turnOverCommand(s, this.tilt, this.sensing.attitude.rates, out);
      return;
    }
    switch (this.pilot) {
      case 'cut':
        out.roll = 0;
        out.pitch = 0;
        out.yaw = 0;
        out.throttle = 0;
        return;
      case 'nothing':
        // The last commands stay, as asked for.
        return;
      case 'sticks':
        if (this.mode === 'manual') {
          out.roll = s.roll;
          out.pitch = s.pitch;
          out.yaw = s.yaw;
          out.throttle = limitedThrottle(throttle, out.throttle, this.armed, c, this.loopDt);
          this.loops.reset();
          return;
        }
        d.yawRate = 0;
        demandBySticks(this.mode, s, c, this.loops.set, d);
        break;
      case 'launch':
        throttle = this.launch.throttle;
        d.stickYaw = 0;
        break;
      case 'hold':
        throttle = this.autopilot.throttle;
        break;
      default:
        throttle = this.autopilot.throttle;
        d.stickYaw = 0;
    }
    const { ease } = this.landing;
    if (ease < 1) this.settle(d);
    this.tune.lean(d);
    out.throttle = limitedThrottle(ease * throttle, out.throttle, this.armed, c, this.loopDt);
    const onGround = c.rotorcraft && !this.hasFlown && out.throttle < 0.5 * c.hover.throttle;
    this.loops.step(d, this.sensing, !this.armed || onGround || ease < 1, this.armed, out);
    this.tune.step(this.loops, this.sensing, out.roll, out.pitch);
    if (this.twin.out !== null) out.yaw = clamp(out.yaw + this.twin.yawAt(out.throttle), -1, 1);
    if (ease < 1) {
      out.roll *= ease;
      out.pitch *= ease;
      out.yaw *= ease;
    }
    if (out.flap > 0) out.pitch = clamp(out.pitch + c.flapPitch * out.flap, -1, 1);
  }

  /** The ground carries it: it leans nowhere any more. */
  private settle(d: AttitudeDemand): void {
    d.roll = 0;
    d.pitch = 0;
    d.yawRate = 0;
  }

  private flaps(): void {
    const { config: c, command: out } = this;
    const wanted = this.armed || this.servoRailV > 4 ? this.input.flap : 0;
    const step = c.flapTime > 0 ? this.loopDt / c.flapTime : 1;
    out.flap += clamp(wanted - out.flap, -step, step);
  }
}
