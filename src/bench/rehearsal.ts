import type { Airframe } from '#core/airframe/airframe.ts';
import { stallSpeed } from '#core/airframe/performance.ts';
import { groundHeight, type Terrain } from '#core/flight/terrain.ts';
import { windAtHeight } from '#core/flight/wind.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import type { RehearsalResult, TrackPoint, Verdict } from '#core/formats/rehearsalResult.ts';
import { type Scenario, TORVHOLM } from '#core/formats/scenario.ts';
import { pitchOf, rollOf, setEuler } from '#core/math/quaternion.ts';
import { DEG } from '#core/math/scalar.ts';
import { modeNames } from '#core/modes/modes.ts';
import { eastOf, latitudeAt, longitudeAt, northOf } from '#core/navigation/earth.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { formatDuration } from '#core/units/units.ts';
import { FlyingCraft } from './flyingCraft.ts';
import { PILOT_STEP_S, ScriptedPilot } from './scriptedPilot.ts';

export interface RehearsalInput {
  readonly airframe: Airframe;
  readonly values: Values;
  readonly truth: BenchTruth;
  readonly scenario: Scenario;
  readonly terrain: Terrain;
}

/** On the ground before the launch: the board starts, gets its fix, is armed. */
const GROUND_S = 12;
/** Around home for this long is home. */
const ARRIVED_S = 25;
/** No nearer home for this long is no progress. */
const HELD_UP_S = 150;
const STEPS_PER_SECOND = 1000;

/**
 * One rehearsal as a machine to be stepped, so that whoever runs it can show progress and stop it. Flies the
 * given settings on a board in the bench; equal input gives equal results, bit for bit.
 */
export class Rehearsal {
  /** Seconds since the launch. */
  seconds = 0;
  result: RehearsalResult | null = null;
  readonly craft: FlyingCraft;
  private readonly pilot: ScriptedPilot;
  private readonly track: TrackPoint[] = [];
  private readonly states: { atS: number; state: string }[] = [];
  private readonly homeHeight: number;
  private readonly homeEast: number;
  private readonly homeNorth: number;
  private nextEvent = 0;
  private lastState = 'fine';
  private tick = 0;
  private arrivedFor = 0;
  private homeward = false;
  private best = Number.POSITIVE_INFINITY;
  /** Distance that the last 20 m of progress began from. */
  private progressMark = 0;
  private sinceBest = 0;
  private closestOut = Number.POSITIVE_INFINITY;
  private upsetFor = 0;

  constructor(private readonly input: RehearsalInput) {
    const { scenario: s, airframe, values, truth, terrain } = input;
    this.homeEast = eastOf(TORVHOLM.lat, TORVHOLM.lon, s.home.lon);
    this.homeNorth = northOf(TORVHOLM.lat, s.home.lat);
    const ground = groundHeight(terrain, this.homeEast, this.homeNorth);
    this.homeHeight = Math.max(s.home.heightM, ground);
    this.craft = new FlyingCraft(
      airframe,
      values,
      truth,
      terrain,
      s.home,
      this.homeEast,
      this.homeNorth,
      s.wind,
      s.seed,
    );
    const b = s.outbound.bearingDeg * DEG;
    const config = this.craft.pfad.controller.config;
    const target = [s.outbound.distanceM * Math.cos(b), s.outbound.distanceM * Math.sin(b)] as const;
    this.pilot = new ScriptedPilot(
      airframe,
      config,
      this.homeHeight,
      target[0],
      target[1],
      s.outbound.heightM,
    );
    this.prepare();
  }

  /** Puts the craft on the ground, waits for the fix, arms it, throws it into the wind. */
  private prepare(): void {
    const { scenario: s, airframe } = this.input;
    const craft = this.craft;
    const plant = craft.plant;
    const heading = (s.wind.speedMps > 0.5 ? s.wind.fromDeg : s.outbound.bearingDeg) * DEG;
    plant.position[2] = -(this.homeHeight + 1.8);
    setEuler(plant.attitude, 0, 8 * DEG, heading);
    const held = [plant.attitude[0]!, plant.attitude[1]!, plant.attitude[2]!, plant.attitude[3]!];
    craft.radio.attitude = this.attitudeSwitch();
    for (let k = 0; k < GROUND_S * STEPS_PER_SECOND; k++) {
      if (k === (GROUND_S - 2) * STEPS_PER_SECOND) craft.radio.arm = true;
      craft.step();
      plant.attitude.set(held);
    }
    if (!craft.pfad.controller.armed) {
      const why = craft.pfad.controller
        .blockers()
        .map((b) => b.why)
        .join(' ');
      this.sample();
      this.finish('lost-control', `It never left the hand: the board refuses to arm. ${why}`);
      return;
    }
    const air = windAtHeight(s.wind.speedMps, 2);
    const speed = Math.max(3, 1.35 * stallSpeed(airframe) - air);
    plant.velocity[0] = speed * Math.cos(heading);
    plant.velocity[1] = speed * Math.sin(heading);
    plant.velocity[2] = -0.6;
    craft.held = false;
    this.craft.radio.throttle = 1;
    this.sample();
    this.noteState();
  }

  /** The attitude switch goes where the settings say Level is, or stays at the near end when they do not. */
  private attitudeSwitch(): 0 | 1 | 2 {
    const band = this.craft.pfad.controller.config.modeBands.level;
    for (const position of [1, 2, 0] as const) {
      const us = 1000 + 500 * position;
      if (band.channel > 0 && us >= band.fromUs && us <= band.toUs) return position;
    }
    return 0;
  }

  /** Flies up to `steps` milliseconds on. True when there is a verdict. */
  advance(steps: number): boolean {
    for (let k = 0; k < steps && this.result === null; k++) this.step();
    return this.result !== null;
  }

  private step(): void {
    const craft = this.craft;
    if (this.tick % (PILOT_STEP_S * STEPS_PER_SECOND) === 0) {
      this.events();
      this.pilot.step(craft);
    }
    craft.step();
    this.tick++;
    this.seconds = this.tick / STEPS_PER_SECOND;
    if (this.tick % 20 === 0) this.watch();
    if (this.tick % 500 === 0) this.sample();
    if (this.result === null && this.seconds >= this.input.scenario.limitS) this.timeOut();
  }

  private events(): void {
    const events = this.input.scenario.events;
    while (this.nextEvent < events.length && events[this.nextEvent]!.atS <= this.seconds) {
      const radio = this.craft.radio;
      switch (events[this.nextEvent++]!.do) {
        case 'link-lost':
          radio.on = false;
          break;
        case 'link-back':
          radio.on = true;
          break;
        case 'return-switch-on':
          radio.returnHome = true;
          break;
        case 'return-switch-off':
          radio.returnHome = false;
          break;
      }
    }
  }

  private noteState(): void {
    const state = this.craft.pfad.controller.lost.state;
    if (this.states.length > 0 && state === this.lastState) return;
    this.lastState = state;
    this.states.push({ atS: round(this.seconds, 2), state });
  }

  private watch(): void {
    this.noteState();
    const { plant, pfad } = this.craft;
    const c = pfad.controller;
    const distance = this.distance();
    const upset = Math.abs(rollOf(plant.attitude)) > 80 * DEG || Math.abs(pitchOf(plant.attitude)) > 55 * DEG;
    this.upsetFor = upset ? Math.min(5, this.upsetFor + 0.1) : Math.max(0, this.upsetFor - 0.02);
    if (this.craft.aboveGround <= 0.1) {
      this.touchDown(distance);
      return;
    }
    if (plant.battery.empty) {
      this.finish(
        'energy',
        `The battery is empty ${kilometres(distance)} from home, ${formatDuration(this.seconds)} after launch.`,
      );
      return;
    }
    const returning = c.pilot === 'return';
    if (!returning) {
      this.closestOut = Math.min(this.closestOut, distance);
      this.homeward = false;
      this.arrivedFor = 0;
      return;
    }
    if (!this.homeward) {
      this.homeward = true;
      this.best = distance;
      this.progressMark = distance;
      this.sinceBest = 0;
    }
    this.best = Math.min(this.best, distance);
    if (distance < this.progressMark - 20) {
      this.progressMark = distance;
      this.sinceBest = 0;
    } else this.sinceBest += 0.02;
    const radius = c.config.loiterRadius;
    this.arrivedFor = distance < 2 * radius + 80 ? this.arrivedFor + 0.02 : 0;
    if (this.arrivedFor >= ARRIVED_S) this.arrive();
    else if (this.arrivedFor === 0 && c.home.phase === 'homeward' && this.sinceBest > HELD_UP_S)
      this.heldUp(distance);
  }

  private arrive(): void {
    const battery = this.craft.plant.battery;
    const left = 100 * (1 - battery.usedAs / battery.capacityAs);
    this.finish(
      'home',
      `Circles above home ${formatDuration(this.seconds)} after launch, with ${left.toFixed(0)} % of the battery left.`,
    );
  }

  private heldUp(distance: number): void {
    this.finish(
      'no-progress',
      `${this.windSentence()} It is ${kilometres(distance)} from home and came no nearer for ${formatDuration(HELD_UP_S)}.`,
    );
  }

  private windSentence(): string {
    const wind = this.windHere();
    const speed = this.craft.pfad.controller.config.returnSpeed;
    const above = Math.max(10, this.craft.aboveGround);
    const head = wind > 0.8 * speed ? 'The wind is too strong for the return speed' : 'The wind';
    return `${head}: it blows at ${wind.toFixed(0)} m/s at ${above.toFixed(0)} m above ground, and the craft flies home at ${speed.toFixed(0)} m/s through the air.`;
  }

  private windHere(): number {
    return windAtHeight(this.input.scenario.wind.speedMps, Math.max(10, this.craft.aboveGround));
  }

  private timeOut(): void {
    const distance = this.distance();
    const limit = formatDuration(this.input.scenario.limitS);
    const c = this.craft.pfad.controller;
    if (c.pilot !== 'return') {
      this.finish(
        'timeout',
        `After ${limit} nothing had sent it home; it is ${kilometres(distance)} out under ${modeNames[c.mode]}.`,
      );
      return;
    }
    const wind = this.windHere() > 0.5 * c.config.returnSpeed ? ` ${this.windSentence()}` : '';
    this.finish(
      'timeout',
      `After ${limit} it was still on its way home, ${kilometres(distance)} out.${wind}`,
    );
  }

  private touchDown(distance: number): void {
    const { plant, pfad, ground } = this.craft;
    const c = pfad.controller;
    const where = `${kilometres(distance)} from home, ${formatDuration(this.seconds)} after launch`;
    const surface = ground > 0.5 ? `the ground at ${ground.toFixed(0)} m above the sea` : 'the sea';
    if (c.pilot === 'cut' || c.pilot === 'glide') {
      const chosen = c.pilot === 'cut' ? 'stopped the motors' : 'glided down';
      const asked =
        c.config.lostAction === c.pilot ? 'as the settings ask' : 'since it had no home to return to';
      this.finish(
        'lost-control',
        `With the link lost the board ${chosen}, ${asked}, and the craft came down ${where}.`,
      );
      return;
    }
    const slow = plant.airspeed < 0.75 * stallSpeed(this.input.airframe);
    if (this.upsetFor > 0.4 || slow || this.seconds < 20) {
      const how =
        this.seconds < 20
          ? 'It did not climb away from the launch'
          : slow
            ? 'It stalled'
            : 'It did not hold its attitude';
      const windy = this.windHere() > 15 ? ` in a wind of ${this.windHere().toFixed(0)} m/s` : '';
      const doubt = windy ? '' : ' Check that every surface answers the right way.';
      this.finish('lost-control', `${how}${windy} and hit ${surface}, ${where}.${doubt}`);
      return;
    }
    const windy = this.windHere() > 0.8 * c.config.returnSpeed ? ` ${this.windSentence()}` : '';
    this.finish(
      'terrain',
      `It flew into ${surface}, ${where}, at a height of ${(plant.height - this.homeHeight).toFixed(0)} m above home.${windy}`,
    );
  }

  private distance(): number {
    const p = this.craft.plant.position;
    return Math.hypot(p[0]!, p[1]!);
  }

  private sample(): void {
    const { plant, pfad } = this.craft;
    const { home } = this.input.scenario;
    const p = plant.position;
    this.track.push({
      atS: round(this.seconds, 2),
      lat: round(latitudeAt(home.lat, p[0]!), 7),
      lon: round(longitudeAt(home.lat, home.lon, p[1]!), 7),
      heightM: round(plant.height, 1),
      airspeedMps: round(plant.airspeed, 2),
      groundspeedMps: round(Math.hypot(plant.velocity[0]!, plant.velocity[1]!), 2),
      mode: pfad.controller.mode,
    });
  }

  private finish(verdict: Verdict, reason: string): void {
    const last = this.track.at(-1);
    if (last && last.atS !== round(this.seconds, 2)) this.sample();
    const closest = this.best < Number.POSITIVE_INFINITY ? this.best : this.closestOut;
    this.result = {
      verdict,
      reason,
      seconds: round(this.seconds, 2),
      endDistanceM: round(this.distance(), 1),
      closestM: round(Math.min(closest, this.distance()), 1),
      usedWh: round(this.craft.plant.battery.usedWh, 3),
      lostLink: this.states,
      track: this.track,
    };
  }
}

/** Flies a rehearsal to its verdict in one go. */
export function rehearse(input: RehearsalInput): RehearsalResult {
  const r = new Rehearsal(input);
  while (r.result === null) r.advance(10_000);
  return r.result;
}

function round(value: number, digits: number): number {
  return Number(value.toFixed(digits));
}

function kilometres(metres: number): string {
  return metres >= 1000 ? `${(metres / 1000).toFixed(1)} km` : `${metres.toFixed(0)} m`;
}
