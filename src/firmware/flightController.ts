import { EnergyLoop } from '#core/control/energyLoop.ts';
import { LowPass } from '#core/control/lowPass.ts';
import { RateLoop } from '#core/control/rateLoop.ts';
import { AttitudeEstimator } from '#core/estimation/attitude.ts';
import { PositionEstimator } from '#core/estimation/position.ts';
import { heightOfPressure } from '#core/flight/atmosphere.ts';
import { LostLink, type LostLinkState } from '#core/lostlink/lostLink.ts';
import { quat, setEuler, toEarth } from '#core/math/quaternion.ts';
import { clamp, GRAVITY } from '#core/math/scalar.ts';
import { motorPulse, servoPulse } from '#core/mixer/pulse.ts';
import { BandSwitch, type ModeId } from '#core/modes/modes.ts';
import { eastOf, northOf } from '#core/navigation/earth.ts';
import { type ArmingView, armingBlockers, type Blocker } from './arming.ts';
import { BenchMoves } from './benchMoves.ts';
import { OUTPUT_COUNT } from './catalogue/counts.ts';
import type { Config } from './config.ts';
import { HomeFlight } from './homeFlight.ts';
import type { Readings } from './readings.ts';
import { Sticks } from './sticks.ts';

const NAV_DIVIDER = 20;
/** A frame younger than this means the link is alive, s. */
const FRAME_AGE_S = 0.15;

/** What decides the commands of this moment. */
export type Pilot = 'sticks' | 'guard' | 'glide' | 'cut' | 'return' | 'nothing';

/** The control side of Pfad at a fixed step: readings in, pulses out. Allocates nothing while it steps. */
export class FlightController {
  readonly attitude: AttitudeEstimator;
  readonly position: PositionEstimator;
  readonly sticks: Sticks;
  readonly bench: BenchMoves;
  readonly lost: LostLink;
  readonly home: HomeFlight;
  /** us per output; 0 where nothing is sent. */
  readonly pulses = new Float64Array(OUTPUT_COUNT);
  mode: ModeId = 'manual';
  requestedMode: ModeId = 'manual';
  armed = false;
  pilot: Pilot = 'sticks';
  linkAlive = false;
  frameAge = Number.POSITIVE_INFINITY;
  homeSet = false;
  usedMah = 0;
  airspeed = 0;
  storing = false;
  restartNeeded = false;
  /** The switch asks for arming and something stands in the way. */
  armRefused = false;
  /** Commands after the loops, -1..1, throttle 0..1. */
  readonly command = { roll: 0, pitch: 0, yaw: 0, throttle: 0 };

  private readonly rollLoop: RateLoop;
  private readonly pitchLoop: RateLoop;
  private readonly yawLoop: RateLoop;
  private readonly energy: EnergyLoop;
  private readonly gyroFilters: readonly [LowPass, LowPass, LowPass];
  private readonly airFilter: LowPass;
  private readonly armSwitch: BandSwitch;
  private readonly rateSwitch: BandSwitch;
  private readonly levelSwitch: BandSwitch;
  private readonly returnSwitch: BandSwitch;
  private switchSeenOff = false;
  private readonly mount = quat();
  private readonly gyro = new Float64Array(3);
  private readonly accel = new Float64Array(3);
  private originSet = false;
  private originLat = 0;
  private originLon = 0;
  private satellites = 0;
  private supplyV = 0;
  private servoRailV = 0;
  private tick = 0;
  private hasFlown = false;
  private fixUsed = false;
  private lastLost: LostLinkState = 'fine';
  private rollDemand = 0;
  private pitchDemand = 0;
  private navThrottle = 0;

  /** @param from the controller before a change of settings */
  constructor(
    readonly config: Config,
    readonly dt: number,
    from?: FlightController,
  ) {
    const c = config;
    this.attitude = from?.attitude ?? new AttitudeEstimator();
    this.position = from?.position ?? new PositionEstimator();
    this.sticks = from?.sticks ?? new Sticks();
    this.bench = from?.bench ?? new BenchMoves();
    this.lost = new LostLink(c.lost);
    this.home = new HomeFlight(c);
    const loop = (gains: Config['roll']) => new RateLoop(gains, c.sumLimit, c.dCutoff, dt);
    this.rollLoop = loop(c.roll);
    this.pitchLoop = loop(c.pitch);
    this.yawLoop = loop(c.yaw);
    this.energy = new EnergyLoop(c.energy, dt * NAV_DIVIDER);
    this.gyroFilters = [
      new LowPass(c.gyroCutoff, dt),
      new LowPass(c.gyroCutoff, dt),
      new LowPass(c.gyroCutoff, dt),
    ];
    this.airFilter = new LowPass(2, dt);
    this.armSwitch = new BandSwitch(c.arm);
    this.rateSwitch = new BandSwitch(c.modeBands.rate);
    this.levelSwitch = new BandSwitch(c.modeBands.level);
    this.returnSwitch = new BandSwitch(c.modeBands.return);
    setEuler(this.mount, c.mountRoll, c.mountPitch, c.mountYaw);
    if (from) this.inherit(from);
  }

  /** What a change of settings on the ground does not wipe: fix, link, charge used. Arming begins anew. */
  private inherit(from: FlightController): void {
    this.frameAge = from.frameAge;
    this.linkAlive = from.linkAlive;
    this.usedMah = from.usedMah;
    this.originSet = from.originSet;
    this.originLat = from.originLat;
    this.originLon = from.originLon;
    this.satellites = from.satellites;
    this.fixUsed = from.fixUsed;
    this.supplyV = from.supplyV;
    this.servoRailV = from.servoRailV;
    this.pulses.set(from.pulses);
  }

  /** One control step. */
  step(r: Readings): void {
    const dt = this.dt;
    this.tick++;
    this.estimate(r, dt);
    this.listen(r, dt);
    this.bench.step(dt);
    if (this.bench.output !== 0 && (this.armed || !this.bench.allowed)) this.bench.stop();
    const lostState = this.lost.step(this.linkAlive, this.sticks.shift(), dt);
    if (lostState !== this.lastLost) this.onLostChange(lostState);
    this.decidePilot(lostState);
    if (this.tick % NAV_DIVIDER === 0) this.navigate();
    this.control();
    this.mix();
  }

  private onLostChange(state: LostLinkState): void {
    if (state === 'recovering') this.sticks.mark();
    this.lastLost = state;
  }

  private estimate(r: Readings, dt: number): void {
    this.gyro[0] = this.gyroFilters[0].step(r.gyro[0]!);
    this.gyro[1] = this.gyroFilters[1].step(r.gyro[1]!);
    this.gyro[2] = this.gyroFilters[2].step(r.gyro[2]!);
    toEarth(this.gyro, this.mount, this.gyro);
    this.accel.set(r.accel);
    toEarth(this.accel, this.mount, this.accel);
    this.airspeed = this.airFilter.step(r.airspeedMps);
    const p = this.position;
    const ground = Math.sqrt(p.velocityNorth ** 2 + p.velocityEast ** 2);
    const course = p.hasFix && ground > 6 ? Math.atan2(p.velocityEast, p.velocityNorth) : Number.NaN;
    this.attitude.step(this.gyro, this.accel, this.airspeed, course, dt);
    if (this.tick % NAV_DIVIDER === 0) p.step(heightOfPressure(r.pressurePa), dt * NAV_DIVIDER);
    if (r.gnssFresh) {
      this.satellites = r.satellites;
      if (r.satellites >= 4) {
        if (!this.originSet) {
          this.originSet = true;
          this.originLat = r.lat;
          this.originLon = r.lon;
        }
        const north = northOf(this.originLat, r.lat);
        const east = eastOf(this.originLat, this.originLon, r.lon);
        p.fix(north, east, r.gnssHeightM, r.velocityNorth, r.velocityEast);
        this.fixUsed = true;
      }
    }
    this.supplyV = r.supplyV * this.config.voltageScale;
    this.servoRailV = r.servoRailV;
    this.usedMah += (r.currentA * dt) / 3.6;
  }

  private listen(r: Readings, dt: number): void {
    this.frameAge += dt;
    if (r.receiverFresh) {
      this.frameAge = 0;
      this.sticks.read(r.channels, this.config.rx);
      const arm = this.armSwitch.step(r.channels);
      if (!arm) this.switchSeenOff = true;
      const wantsRate = this.rateSwitch.step(r.channels);
      const wantsLevel = this.levelSwitch.step(r.channels);
      const wantsReturn = this.returnSwitch.step(r.channels);
      this.requestedMode = wantsReturn ? 'return' : wantsLevel ? 'level' : wantsRate ? 'rate' : 'manual';
      if (!arm && this.armed) this.disarm();
      else if (arm && !this.armed && this.linkAlive && this.blockers().length === 0) this.arm();
      if (!arm) this.armRefused = false;
      else if (!this.armed) this.armRefused = true;
    }
    this.linkAlive = this.frameAge < FRAME_AGE_S;
  }

  private arm(): void {
    this.armed = true;
    this.hasFlown = false;
    if (this.position.hasFix && this.satellites >= this.config.armSatellites) {
      this.homeSet = true;
      this.home.setHome(this.position.north, this.position.east, this.position.height);
    }
  }

  private disarm(): void {
    this.armed = false;
    this.lost.reset();
    this.lastLost = 'fine';
  }

  /** Everything that stands in the way of arming now. */
  blockers(): Blocker[] {
    const view: ArmingView = {
      linkAlive: this.linkAlive,
      sticks: this.sticks,
      tilt: Math.acos(clamp(Math.cos(this.attitude.roll) * Math.cos(this.attitude.pitch), -1, 1)),
      hasFix: this.position.hasFix && this.fixUsed,
      satellites: this.satellites,
      servoRailV: this.servoRailV,
      supplyV: this.supplyV,
      usedMah: this.usedMah,
      restartNeeded: this.restartNeeded,
      storing: this.storing,
      benchMoving: this.bench.output !== 0,
      requestedMode: this.requestedMode,
      switchSeenOff: this.switchSeenOff || this.config.arm.channel === 0,
    };
    return armingBlockers(this.config, view);
  }

  get satellitesUsed(): number {
    return this.satellites;
  }

  private canReturn(): boolean {
    return this.homeSet && this.position.hasFix && this.satellites >= this.config.returnSatellites;
  }

  private decidePilot(lost: LostLinkState): void {
    if (this.armed && this.airspeed > 6) this.hasFlown = true;
    let pilot: Pilot = 'sticks';
    if (this.armed && lost !== 'fine' && lost !== 'noticed') {
      const action = this.config.lostAction;
      if (action === 'nothing') pilot = 'nothing';
      // A craft that has not flown yet stays where it is: motors off, whatever the action.
      else if (!this.hasFlown) pilot = 'cut';
      else if (lost === 'guarding') pilot = 'guard';
      else if (action === 'return') pilot = this.canReturn() ? 'return' : 'glide';
      else pilot = action;
    } else if (this.armed && this.requestedMode === 'return') {
      pilot = this.canReturn() ? 'return' : 'sticks';
    }
    if (pilot === 'return' && this.pilot !== 'return') {
      this.home.begin(this.position, lost !== 'fine');
      this.energy.reset(this.airspeed);
    }
    this.pilot = pilot;
    this.mode =
      pilot === 'return'
        ? 'return'
        : pilot === 'guard' || pilot === 'glide'
          ? 'level'
          : this.requestedMode === 'return'
            ? 'level'
            : this.requestedMode;
  }

  private navigate(): void {
    if (this.pilot !== 'return') return;
    this.home.step(this.position, this.dt * NAV_DIVIDER);
    const p = this.position;
    this.energy.step(p.height, p.climb, this.airspeed, this.home.heightDemand, this.home.speedDemand);
    this.rollDemand = this.home.bankDemand;
    this.pitchDemand = this.energy.pitch;
    this.navThrottle = this.energy.throttle;
  }

  private control(): void {
    const c = this.config;
    const s = this.sticks;
    const a = this.attitude;
    const out = this.command;
    let throttle = s.throttle;
    let yawStick = s.yaw;
    switch (this.pilot) {
      case 'return':
        throttle = this.navThrottle;
        yawStick = 0;
        break;
      case 'guard':
        this.rollDemand = 0;
        this.pitchDemand = c.energy.pitchTrim;
        throttle = c.energy.cruiseThrottle;
        yawStick = 0;
        break;
      case 'glide':
        this.rollDemand = c.glideBank;
        this.pitchDemand = 0;
        throttle = 0;
        yawStick = 0;
        break;
      case 'cut':
        out.roll = 0;
        out.pitch = 0;
        out.yaw = 0;
        out.throttle = 0;
        this.limitThrottle(0);
        return;
      case 'nothing':
        // The last commands stay, as asked for.
        return;
      case 'sticks':
        if (this.mode === 'level') {
          this.rollDemand = s.roll * c.bank;
          this.pitchDemand = c.energy.pitchTrim + (s.pitch >= 0 ? s.pitch * c.up : s.pitch * c.down);
        }
        break;
    }
    this.limitThrottle(throttle);
    if (this.mode === 'manual') {
      out.roll = s.roll;
      out.pitch = s.pitch;
      out.yaw = s.yaw;
      this.rollLoop.reset();
      this.pitchLoop.reset();
      this.yawLoop.reset();
      return;
    }
    let p = s.roll * c.rollMax;
    let q = s.pitch * c.pitchMax;
    let r = yawStick * c.yawMax;
    const speed = this.armed ? clamp(this.airspeed, 0.6 * c.reference, 2 * c.reference) : c.reference;
    if (this.mode !== 'rate') {
      p = clamp((this.rollDemand - a.roll) / c.levelTime, -c.rollMax, c.rollMax);
      q = clamp((this.pitchDemand - a.pitch) / c.levelTime, -c.pitchMax, c.pitchMax);
      if (this.armed && this.airspeed > 4) {
        // A coordinated turn yaws by g/V sin(bank), which is partly pitch rate in body axes.
        const turn = (GRAVITY / Math.max(speed, 6)) * Math.tan(clamp(a.roll, -1.2, 1.2));
        q += turn * Math.sin(a.roll) * Math.cos(a.pitch);
        r += turn * Math.cos(a.roll) * Math.cos(a.pitch);
      }
    }
    const ratio = c.reference / speed;
    const hold = !this.armed;
    out.roll = this.rollLoop.step(p, a.rates[0]!, ratio, hold);
    out.pitch = this.pitchLoop.step(q, a.rates[1]!, ratio, hold);
    out.yaw = this.yawLoop.step(r, a.rates[2]!, ratio, hold);
  }

  private limitThrottle(wanted: number): void {
    const c = this.config;
    const low = this.armed ? c.idle : 0;
    const target = this.armed ? clamp(wanted, low, c.energy.maxThrottle) : 0;
    const change = c.ramp > 0 ? this.dt / c.ramp : 1;
    const now = this.command.throttle;
    this.command.throttle = target > now ? Math.min(target, now + change) : target;
  }

  private mix(): void {
    const c = this.config;
    const k = this.command;
    const moving = this.bench.output;
    for (let i = 0; i < OUTPUT_COUNT; i++) {
      const o = c.outputs[i]!;
      // A timer sends its pulses at its own rate; between them nothing changes on the wire.
      if (this.tick % o.everySteps !== 0) continue;
      let pulse = 0;
      if (moving === i + 1) {
        pulse = o.isMotor
          ? motorPulse(o, this.bench.duty)
          : o.centreUs +
            this.bench.swing * (this.bench.swing > 0 ? o.highUs - o.centreUs : o.centreUs - o.lowUs);
      } else if (o.role === 'nothing') {
        pulse = 0;
      } else if (o.isMotor) {
        const duty = this.armed
          ? clamp(k.throttle + o.mix.yaw * c.differential * k.yaw * Math.min(1, 3 * k.throttle), 0, 1)
          : 0;
        pulse = motorPulse(o, duty);
      } else {
        let d = o.mix.roll * k.roll + o.mix.pitch * k.pitch + o.mix.yaw * k.yaw;
        if (o.role === 'rudder') d += o.mix.yaw * c.turnRudder * k.roll;
        if (o.mix.roll !== 0 && d > 0) d *= 1 - c.aileronUp;
        pulse = moving !== 0 ? o.centreUs : servoPulse(o, d);
      }
      const last = this.pulses[i]!;
      if (o.speed > 0 && last > 0 && pulse > 0 && !o.isMotor) {
        pulse = clamp(
          pulse,
          last - o.speed * o.everySteps * this.dt,
          last + o.speed * o.everySteps * this.dt,
        );
      }
      this.pulses[i] = pulse;
    }
  }
}
