import type { Airframe } from '#core/airframe/airframe.ts';
import { type Launch, launchOf } from '#core/airframe/launch.ts';
import type { BoardModel } from '#core/board/model.ts';
import { groundAbout, groundHeight } from '#core/flight/terrain.ts';
import { windAtHeight } from '#core/flight/wind.ts';
import type { EndsEarly } from '#core/formats/batch.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import type { RehearsalResult, TrackPoint } from '#core/formats/rehearsalResult.ts';
import type { Scenario, ScenarioEvent } from '#core/formats/scenario.ts';
import { pitchOf, rollOf, setEuler, yawOf } from '#core/math/quaternion.ts';
import { DEG } from '#core/math/scalar.ts';
import { latitudeAt, longitudeAt } from '#core/navigation/earth.ts';
import { EMPTY_PLAN, type FlightPlan } from '#core/plan/plan.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { Site } from '#core/site/site.ts';
import type { FlightLog } from '#firmware/flightLog.ts';
import type { Decision } from '#firmware/journal.ts';
import { FlyingCraft } from './flyingCraft.ts';
import { JUDGE_STEP_S } from './judge/evidence.ts';
import { Judge } from './judge/judge.ts';
import type { Judgement } from './judge/judgement.ts';
import { mistakesOf } from './judge/mistakes.ts';
import { putAloft } from './putAloft.ts';
import { PILOT_STEP_S, type ScriptedPilot, scriptedPilot } from './scriptedPilot.ts';

export interface RehearsalInput {
  readonly airframe: Airframe;
  /** The board that the craft is for. */
  readonly board: BoardModel;
  readonly values: Values;
  readonly truth: BenchTruth;
  readonly scenario: Scenario;
  /** Where it flies; home is the scenario's. */
  readonly site: Site;
  /** Route and fences on its board; none when left out. */
  readonly plan?: FlightPlan | undefined;
  /** Store for the board's own flight log; left out, none is kept. */
  readonly log?: FlightLog;
  /**
   * For flights by the hundred: end one as soon as nothing can change its verdict, and keep no more of its track than
   * its ends.
   */
  readonly endsEarly?: EndsEarly;
}

/** On the ground before the launch: the board starts, gets its fix, is armed. */
const GROUND_S = 14;
const STEPS_PER_SECOND = 1000;
/** How often a pilot tries to arm again, and how long he has the switch off for that, ms. */
const ARM_AGAIN_MS = 500;
const ARM_OFF_MS = 150;
const LAUNCH_PITCH = 8 * DEG;
/** The pilot switches hand launch off when he is well away, s after the launch. */
const LAUNCH_SWITCH_S = 12;
/** The route is begun so high above home, m. */
const ROUTE_FROM_M = 40;

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
  private readonly launch: Launch | null;
  private launchedAt = 0;
  private onRoute = false;

  constructor(private readonly input: RehearsalInput) {
    const { scenario: s, airframe, board, values, truth, site } = input;
    const { terrain } = site;
    const { homeEastM: homeEast, homeNorthM: homeNorth } = groundAbout(terrain, s.home);
    const ground = groundHeight(terrain, homeEast, homeNorth);
    const air = s.air ?? site.air;
    this.homeHeight = Math.max(s.home.heightM, ground);
    const field = {
      terrain,
      home: s.home,
      year: site.year,
      homeEast,
      homeNorth,
      wind: s.wind,
      homeHeightM: this.homeHeight,
      pressurePa: air && 100 * air.pressureHpa,
      temperatureC: air?.temperatureC,
    };
    // Under a hot start the receiver is ready within the time on the ground.
    const awake = { ...truth, gnss: { ...truth.gnss, start: 'hot' as const } };
    const { log = null, plan = EMPTY_PLAN } = input;
    this.craft = new FlyingCraft(airframe, board, values, awake, field, s.seed, log, plan);
    if (s.batteryShare !== undefined) this.craft.plant.battery.charge(s.batteryShare);
    const b = s.outbound.bearingDeg * DEG;
    this.pilot = scriptedPilot(airframe, this.craft.pfad.controller.config, this.homeHeight, {
      north: s.outbound.distanceM * Math.cos(b),
      east: s.outbound.distanceM * Math.sin(b),
      height: s.outbound.heightM,
    });
    this.launch = launchOf(airframe, s.wind.speedMps, s.wind.gustMps);
    const within = s.events.filter((e) => e.atS < s.limitS);
    this.judge = new Judge({
      craft: this.craft,
      airframe,
      homeHeight: this.homeHeight,
      mistakes: mistakesOf(airframe, board, this.craft.pfad.controller.config, truth),
      launch: this.launch,
      limitS: s.limitS,
      lastEventS: Math.max(0, ...within.map((e) => e.atS)),
      endsEarly: input.endsEarly ?? null,
    });
    this.judge.windAt10 = s.wind.speedMps;
    this.prepare();
  }

  /** Puts the craft on the ground, waits for the fix, arms it, launches it into the wind or lets it lift off. */
  private prepare(): void {
    const { scenario: s, airframe } = this.input;
    const { craft, launch } = this;
    const plant = craft.plant;
    const heading = (s.wind.speedMps > 0.5 ? s.wind.fromDeg : s.outbound.bearingDeg) * DEG;
    const stand = plant.contact.depth - 0.015;
    plant.position[2] = -(this.homeHeight + (launch ? launch.heightM : stand));
    const noRoute = this.whyNoRoute();
    if (noRoute) {
      this.sample();
      this.finish({
        verdict: 'not-flown',
        reason: noRoute,
        cause: 'setting',
        causeAtS: 0,
        settings: ['mode.route.channel'],
      });
      return;
    }
    const thrown = launch ? s.thrown : undefined;
    setEuler(plant.attitude, 0, launch ? LAUNCH_PITCH : 0, heading);
    craft.radio.attitude = this.attitudeSwitch();
    if (launch && s.outbound.begins !== 'there') this.switchToLaunch(true);
    for (let k = 0; k < GROUND_S * STEPS_PER_SECOND; k++) {
      craft.radio.arm = this.armSwitch(k);
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
        verdict: 'not-flown',
        reason: `It never left the ${launch ? 'hand' : 'ground'}: the board refuses to arm. ${why}`,
        cause: 'arming',
        causeAtS: 0,
        settings: [],
      });
      return;
    }
    const aloft = s.outbound.begins === 'there';
    if (aloft) putAloft(craft, airframe, s, this.homeHeight);
    this.launchedAt = c.uptimeS;
    c.journal.onDecision = (d) =>
      this.decisions.push({ atS: round(d.atS - this.launchedAt, 2), text: d.text });
    if (launch && !aloft) {
      // It is armed as it is held level, and let go as it is thrown.
      if (thrown) setEuler(plant.attitude, thrown.bankDeg * DEG, thrown.pitchDeg * DEG, heading);
      craft.throw(launch.speedMps * (thrown?.speedShare ?? 1), launch.accel);
      craft.radio.throttle = 1;
    } else craft.held = false;
    this.judge.begin(launch ? launch.speedMps + windAtHeight(s.wind.speedMps, 2) : 0);
    this.sample();
    this.noteState();
  }

  /** The pilot arms two seconds before the launch; where the board refuses he switches off and on again. @param ms since power-on */
  private armSwitch(ms: number): boolean {
    const since = ms - (GROUND_S - 2) * STEPS_PER_SECOND;
    return (
      since >= 0 &&
      (this.craft.pfad.controller.armed || since % ARM_AGAIN_MS >= ARM_OFF_MS || since < ARM_OFF_MS)
    );
  }

  /** The pilot's switch for hand launch, where the settings have one: on before the throw, off once it is over. */
  private switchToLaunch(on: boolean): void {
    this.switchTo('launch', on);
  }

  private switchTo(mode: 'launch' | 'route', on: boolean): void {
    const { channel, fromUs, toUs } = this.craft.pfad.controller.config.modeBands[mode];
    const { radio } = this.craft;
    if (channel === 0) return;
    radio.switchChannel = channel;
    const middle = Math.round((fromUs + toUs) / 2);
    radio.switchUs = on ? middle : middle > 1500 ? 1000 : 2000;
  }

  /** Why a route that is to be flown cannot be begun; null where it can, or none is to be. */
  private whyNoRoute(): string | null {
    if (!this.input.scenario.outbound.route) return null;
    if ((this.input.plan ?? EMPTY_PLAN).points.length === 0)
      return 'There is no route on the board to be flown.';
    return this.craft.pfad.controller.config.modeBands.route.channel === 0
      ? 'No switch asks for Route, so nothing begins it.'
      : null;
  }

  /** Once it is well away the pilot lets it fly its route; when that is done and asks for no way home, he asks for it. */
  private follow({ loseLinkAt }: NonNullable<Scenario['outbound']['route']>): void {
    const { craft } = this;
    const { controller: c } = craft.pfad;
    if (!this.onRoute) {
      const from = Math.min(ROUTE_FROM_M, 0.8 * this.input.scenario.outbound.heightM);
      if (this.seconds <= LAUNCH_SWITCH_S || craft.plant.height - this.homeHeight < from) return;
      this.onRoute = true;
      this.switchTo('route', true);
      return;
    }
    if (loseLinkAt !== undefined && c.route.at >= loseLinkAt) craft.radio.on = false;
    const { points, end } = this.input.plan ?? EMPTY_PLAN;
    if (end === 'circle' && c.route.at >= points.length) craft.radio.returnHome = true;
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
    if (this.input.scenario.outbound.route) this.follow(this.input.scenario.outbound.route);
    if (this.tick === LAUNCH_SWITCH_S * STEPS_PER_SECOND && this.launch) this.switchToLaunch(false);
    this.seconds = this.tick / STEPS_PER_SECOND;
    if (this.tick % (JUDGE_STEP_S * STEPS_PER_SECOND) === 0) {
      this.noteState();
      const judgement = this.judge.watch(this.seconds);
      if (judgement) this.finish(judgement);
    }
    if (this.tick % 500 === 0 && !this.input.endsEarly) this.sample();
    if (this.result === null && this.seconds >= this.input.scenario.limitS) this.finish(this.judge.timeOut());
  }

  private events(): void {
    const events = this.input.scenario.events;
    while (this.nextEvent < events.length && events[this.nextEvent]!.atS <= this.seconds)
      this.happen(events[this.nextEvent++]!);
  }

  private happen(event: ScenarioEvent): void {
    const { radio, wind } = this.craft;
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
        if (this.craft.fail(event.device, event.fault))
          this.judge.evidence.fault(this.seconds, event.device, event.fault);
        break;
      case 'wind':
        wind.turn(event.speedMps, event.fromDeg);
        this.judge.windAt10 = event.speedMps;
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
    const told = pfad.controller.sensing.tubeSpeed;
    this.track.push({
      atS: round(this.seconds, 2),
      lat: round(latitudeAt(home.lat, p[0]!), 7),
      lon: round(longitudeAt(home.lat, home.lon, p[1]!), 7),
      heightM: round(plant.height, 1),
      groundM: round(Math.max(0, plant.ground), 1),
      airspeedMps: round(plant.airspeed, 2),
      ...(Number.isNaN(told) ? {} : { toldAirspeedMps: round(told, 2) }),
      groundspeedMps: round(Math.hypot(plant.velocity[0]!, plant.velocity[1]!), 2),
      mode: pfad.controller.mode,
      rollDeg: round(rollOf(q) / DEG, 1),
      pitchDeg: round(pitchOf(q) / DEG, 1),
      yawDeg: round(yawOf(q) / DEG, 1),
    });
  }

  /** Flies on after a verdict of home, to see whether it holds: for tests and audits. */
  flyOn(seconds: number): Later {
    const { plant, pfad } = this.craft;
    const landed = plant.contact.touching;
    const reach = landed ? 0 : 4 * pfad.controller.config.loiterRadius + 250;
    const from = this.judge.distance;
    for (let k = 0; k < seconds * STEPS_PER_SECOND; k++) {
      if (this.tick % (PILOT_STEP_S * STEPS_PER_SECOND) === 0) {
        this.events();
        this.pilot.step(this.craft);
      }
      this.craft.step();
      this.tick++;
      this.seconds = this.tick / STEPS_PER_SECOND;
      if (this.tick % 100 !== 0) continue;
      if (landed) {
        if (Math.abs(this.judge.distance - from) > 30 || plant.duties.some((d) => d > 0)) return 'moves';
      } else if (plant.contact.touching) return 'down';
      else if (plant.battery.empty) return 'empty';
      else if (this.judge.distance > reach) return 'gone';
      if (Math.abs(rollOf(plant.attitude)) > 100 * DEG) return 'upset';
    }
    return 'safe';
  }

  private finish(judgement: Judgement): void {
    const last = this.track.at(-1);
    if (last && last.atS !== round(this.seconds, 2)) this.sample();
    const { best, closestOut, distance } = this.judge;
    const closest = best < Number.POSITIVE_INFINITY ? best : closestOut;
    this.result = {
      ...judgement,
      margins: this.judge.margins,
      near: this.judge.near(),
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

/** How a craft fared after its verdict: safe still, or what became of it. */
export type Later = 'safe' | 'down' | 'gone' | 'empty' | 'upset' | 'moves';

/** Flies a rehearsal to its verdict in one go. */
export function rehearse(input: RehearsalInput): RehearsalResult {
  const r = new Rehearsal(input);
  while (r.result === null) r.advance(10_000);
  return r.result;
}

function round(value: number, digits: number): number {
  return Number(value.toFixed(digits));
}
