import type { Airframe } from '#core/airframe/airframe.ts';
import { stallSpeed } from '#core/airframe/performance.ts';
import { groundHeight, type Terrain } from '#core/flight/terrain.ts';
import { windAtHeight } from '#core/flight/wind.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import type { RehearsalResult, TrackPoint } from '#core/formats/rehearsalResult.ts';
import { type Scenario, type ScenarioEvent, TORVHOLM } from '#core/formats/scenario.ts';
import { pitchOf, rollOf, setEuler, yawOf } from '#core/math/quaternion.ts';
import { DEG } from '#core/math/scalar.ts';
import { eastOf, latitudeAt, longitudeAt, northOf } from '#core/navigation/earth.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { FlightLog } from '#firmware/flightLog.ts';
import type { Decision } from '#firmware/journal.ts';
import { FlyingCraft } from './flyingCraft.ts';
import { JUDGE_STEP_S, Judge, type Judgement } from './judge.ts';
import { PILOT_STEP_S, type ScriptedPilot, scriptedPilot } from './scriptedPilot.ts';

export interface RehearsalInput {
  readonly airframe: Airframe;
  readonly values: Values;
  readonly truth: BenchTruth;
  readonly scenario: Scenario;
  readonly terrain: Terrain;
  /** Store for the board's own flight log; left out, none is kept. */
  readonly log?: FlightLog;
}

/** On the ground before the launch: the board starts, gets its fix, is armed. */
const GROUND_S = 14;
const STEPS_PER_SECOND = 1000;
const HAND_HEIGHT_M = 1.8;

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
  private readonly judge: Judge;
  private readonly track: TrackPoint[] = [];
  private readonly states: { atS: number; state: string }[] = [];
  private readonly decisions: Decision[] = [];
  private readonly homeHeight: number;
  private nextEvent = 0;
  private lastState = 'fine';
  private tick = 0;
  private windAt10: number;
  private launchedAt = 0;

  constructor(private readonly input: RehearsalInput) {
    const { scenario: s, airframe, values, truth, terrain } = input;
    const homeEast = eastOf(TORVHOLM.lat, TORVHOLM.lon, s.home.lon);
    const homeNorth = northOf(TORVHOLM.lat, s.home.lat);
    const ground = groundHeight(terrain, homeEast, homeNorth);
    this.homeHeight = Math.max(s.home.heightM, ground);
    this.windAt10 = s.wind.speedMps;
    const field = {
      terrain,
      home: s.home,
      homeEast,
      homeNorth,
      wind: s.wind,
      homeHeightM: this.homeHeight,
      pressurePa: s.air && 100 * s.air.pressureHpa,
      temperatureC: s.air?.temperatureC,
    };
    // Under a hot start the receiver is ready within the time on the ground.
    const awake = { ...truth, gnss: { ...truth.gnss, start: 'hot' as const } };
    this.craft = new FlyingCraft(airframe, values, awake, field, s.seed, input.log);
    const b = s.outbound.bearingDeg * DEG;
    this.pilot = scriptedPilot(airframe, this.craft.pfad.controller.config, this.homeHeight, {
      north: s.outbound.distanceM * Math.cos(b),
      east: s.outbound.distanceM * Math.sin(b),
      height: s.outbound.heightM,
    });
    this.judge = new Judge(this.craft, airframe, this.homeHeight, () => this.windAt10, s.limitS);
    this.prepare();
  }

  /** Puts the craft on the ground, waits for the fix, arms it, throws it into the wind or lets it lift off. */
  private prepare(): void {
    const { scenario: s, airframe } = this.input;
    const craft = this.craft;
    const plant = craft.plant;
    const heading = (s.wind.speedMps > 0.5 ? s.wind.fromDeg : s.outbound.bearingDeg) * DEG;
    const hand = airframe.launch === 'hand';
    const stand = plant.contact.depth - 0.015;
    plant.position[2] = -(this.homeHeight + (hand ? HAND_HEIGHT_M : stand));
    setEuler(plant.attitude, 0, hand ? 8 * DEG : 0, heading);
    craft.radio.attitude = this.attitudeSwitch();
    for (let k = 0; k < GROUND_S * STEPS_PER_SECOND; k++) {
      if (k === (GROUND_S - 2) * STEPS_PER_SECOND) craft.radio.arm = true;
      craft.step();
    }
    const c = craft.pfad.controller;
    if (!c.armed) {
      const why = c
        .blockers()
        .map((b) => b.why)
        .join(' ');
      this.sample();
      this.finish({
        verdict: 'lost-control',
        reason: `It never left the ${hand ? 'hand' : 'ground'}: the board refuses to arm. ${why}`,
      });
      return;
    }
    this.launchedAt = c.uptimeS;
    c.journal.onDecision = (d) =>
      this.decisions.push({ atS: round(d.atS - this.launchedAt, 2), text: d.text });
    if (hand) {
      const air = windAtHeight(s.wind.speedMps, 2);
      craft.throw(Math.max(4, 1.35 * stallSpeed(airframe) - air));
      craft.radio.throttle = 1;
    } else craft.held = false;
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
      if (!craft.held) this.pilot.step(craft);
    }
    craft.step();
    this.tick++;
    this.seconds = this.tick / STEPS_PER_SECOND;
    if (this.tick % (JUDGE_STEP_S * STEPS_PER_SECOND) === 0) {
      this.noteState();
      const judgement = this.judge.watch(this.seconds);
      if (judgement) this.finish(judgement);
    }
    if (this.tick % 500 === 0) this.sample();
    if (this.result === null && this.seconds >= this.input.scenario.limitS) this.finish(this.judge.timeOut());
  }

  private events(): void {
    const events = this.input.scenario.events;
    while (this.nextEvent < events.length && events[this.nextEvent]!.atS <= this.seconds)
      this.happen(events[this.nextEvent++]!);
  }

  private happen(event: ScenarioEvent): void {
    const { radio, devices, wind } = this.craft;
    switch (event.do) {
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
      case 'fault':
        devices.fail(event.device, event.fault);
        break;
      case 'wind':
        wind.turn(event.speedMps, event.fromDeg);
        this.windAt10 = event.speedMps;
        break;
    }
  }

  private noteState(): void {
    const state = this.craft.pfad.controller.lost.state;
    if (this.states.length > 0 && state === this.lastState) return;
    this.lastState = state;
    this.states.push({ atS: round(this.seconds, 2), state });
  }

  private sample(): void {
    const { plant, pfad } = this.craft;
    const { home } = this.input.scenario;
    const p = plant.position;
    const q = plant.attitude;
    this.track.push({
      atS: round(this.seconds, 2),
      lat: round(latitudeAt(home.lat, p[0]!), 7),
      lon: round(longitudeAt(home.lat, home.lon, p[1]!), 7),
      heightM: round(plant.height, 1),
      groundM: round(Math.max(0, plant.ground), 1),
      airspeedMps: round(plant.airspeed, 2),
      groundspeedMps: round(Math.hypot(plant.velocity[0]!, plant.velocity[1]!), 2),
      mode: pfad.controller.mode,
      rollDeg: round(rollOf(q) / DEG, 1),
      pitchDeg: round(pitchOf(q) / DEG, 1),
      yawDeg: round(yawOf(q) / DEG, 1),
    });
  }

  private finish(judgement: Judgement): void {
    const last = this.track.at(-1);
    if (last && last.atS !== round(this.seconds, 2)) this.sample();
    const { best, closestOut, distance } = this.judge;
    const closest = best < Number.POSITIVE_INFINITY ? best : closestOut;
    this.result = {
      ...judgement,
      seconds: round(this.seconds, 2),
      endDistanceM: round(distance, 1),
      closestM: round(Math.min(closest, distance), 1),
      usedWh: round(this.craft.plant.battery.usedWh, 3),
      lostLink: this.states,
      decisions: this.decisions,
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
