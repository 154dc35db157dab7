import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import type { Launch } from '#core/airframe/launch.ts';
import type { EndsEarly } from '#core/formats/batch.ts';
import type { Margins } from '#core/formats/rehearsalResult.ts';
import { DEG } from '#core/math/scalar.ts';
import { modeNames } from '#core/modes/modes.ts';
import { formatDuration } from '#core/units/units.ts';
import type { FlyingCraft } from '../flyingCraft.ts';
import { Arrival, CIRCLE_ROOM_M, LASTS_S } from './arrival.ts';
import { Evidence, JUDGE_STEP_S } from './evidence.ts';
import { crash, ended, landingWhy, never } from './grounded.ts';
import { impossibleIn } from './guard.ts';
import { because, charge, fine, type Judgement, kilometres } from './judgement.ts';
import type { Mistake } from './mistakes.ts';
import {
  clock,
  homewardSpeed,
  type Scene,
  type Why,
  whyAstray,
  whyHeldUp,
  whyNoReturn,
  whyUpset,
} from './reasons.ts';
import { Touchdown } from './touchdown.ts';

/** No nearer home for this long is no progress, s. */
const HELD_UP_S = 150;
/** Upset for this long it is not waited for how it ends, s. */
const LOST_S = 4;
/** A take-off takes no longer, s. */
const TAKE_OFF_S = 45;
const AIRBORNE_M = 2.5;
/** After the last event a craft at home has to show itself for so long. */
const AFTER_EVENT_S = 20;

export interface JudgeInput {
  readonly craft: FlyingCraft;
  readonly airframe: Airframe;
  readonly homeHeight: number;
  readonly mistakes: readonly Mistake[];
  readonly launch: Launch | null;
  readonly limitS: number;
  /** When the last thing of the scenario happens, s. */
  readonly lastEventS: number;
  /** Say home as soon as nothing can change it, for flights by the hundred; null watches to the end. */
  readonly endsEarly: EndsEarly | null;
}

/**
 * Watches a flight from outside and says how it ended, with the reason in a sentence. Home is the end of the whole
 * return: two circles at the last height with room over the ground and battery to stay, or down, upright, stopped and
 * disarmed. The reason is worked out from the evidence.
 */
export class Judge {
  readonly evidence: Evidence;
  /** Nearest to home since the way home began, and before it, m. */
  best = Number.POSITIVE_INFINITY;
  closestOut = Number.POSITIVE_INFINITY;
  /** Wind at 10 m now, m/s. */
  windAt10 = 0;
  thrownMps = 0;
  private touchShare = 0;
  /** Charge when it came above home, share; below nought before. */
  private arrivalShare = -1;
  private readonly arrival: Arrival;
  private touch: Touchdown | null = null;
  private homeward = false;
  /** Distance that the last 20 m of progress began from. */
  private progressMark = 0;
  private sinceBest = 0;
  private fromS = 0;
  private fromWh = 0;
  private airborne = false;
  private readonly rotors: boolean;

  constructor(private readonly input: JudgeInput) {
    this.rotors = isRotorcraft(input.airframe);
    this.evidence = new Evidence(input.craft, input.airframe, input.homeHeight);
    this.arrival = new Arrival(input.craft, this.rotors);
  }

  /** The craft is let go. @param thrownMps through the air */
  begin(thrownMps: number): void {
    this.thrownMps = thrownMps;
    this.evidence.begin();
    this.input.craft.plant.contact.clear();
  }

  get distance(): number {
    const p = this.input.craft.plant.position;
    return Math.hypot(p[0]!, p[1]!);
  }

  get margins(): Margins {
    const { evidence: e } = this;
    const b = this.input.craft.plant.battery;
    return {
      clearanceM: round1(Math.min(e.clearanceM, 9999)),
      batteryShare: Math.round(1000 * Math.max(0, 1 - b.usedAs / b.capacityAs)) / 1000,
      ...(this.arrivalShare < 0 ? {} : { arrivalShare: Math.round(1000 * this.arrivalShare) / 1000 }),
      windShare: Math.round(100 * e.windShare) / 100,
      attitudeOffDeg: round1(e.greatestAttitudeOff / DEG),
      touchShare: Math.round(100 * this.touchShare) / 100,
    };
  }

  /** Edges that a flight came near to. */
  near(): string[] {
    const m = this.margins;
    const out: string[] = [];
    if (m.clearanceM < 20)
      out.push(`At its lowest it passed ${Math.max(0, m.clearanceM).toFixed(0)} m above the ground.`);
    if (m.batteryShare < 0.2) out.push(`${Math.round(100 * m.batteryShare)} % of the battery was left.`);
    if (m.windShare > 0.85)
      out.push(`The wind reached ${Math.round(100 * m.windShare)} % of the speed it flies home at.`);
    if (m.attitudeOffDeg > 12)
      out.push(`The attitude it believed was off by up to ${m.attitudeOffDeg.toFixed(0)}°.`);
    if (m.touchShare > 0.8 && m.touchShare <= 1)
      out.push(`It touched down with ${Math.round(100 * m.touchShare)} % of what it bears.`);
    const balance = this.input.mistakes.find((x) => x.cause === 'balance');
    if (balance) out.push(balance.text);
    if (this.evidence.upset.happened)
      out.push(`At ${clock(this.evidence.upset.atS)} it was upset for a moment.`);
    return out;
  }

  private get scene(): Scene {
    const { craft, mistakes, launch, homeHeight } = this.input;
    return {
      craft,
      homeHeight,
      distance: this.distance,
      evidence: this.evidence,
      mistakes,
      launch,
      thrownMps: this.thrownMps,
      windAt10: this.windAt10,
      pilot: this.touch?.pilot ?? craft.pfad.controller.pilot,
    };
  }

  /** Looks once more, every 20 ms. @param seconds since the launch */
  watch(seconds: number): Judgement | null {
    const { craft } = this.input;
    const { plant } = craft;
    const odd = impossibleIn(plant);
    if (odd !== null) {
      const why: Why = { cause: 'bench', atS: seconds, text: odd, settings: [] };
      return because('invalid', 'The bench computed a state that cannot be, and stopped.', why);
    }
    if (this.touch) return this.settle(seconds);
    this.evidence.look(seconds);
    const c = craft.pfad.controller;
    const distance = this.distance;
    if (!this.airborne) {
      this.airborne = craft.aboveGround > AIRBORNE_M + plant.contact.depth;
      if (this.airborne) plant.contact.clear();
      if (!this.airborne && seconds > TAKE_OFF_S) return never(this.scene, seconds);
      const thrown = this.input.launch !== null;
      if (!thrown || seconds < 0.5) {
        if (!this.airborne && this.evidence.upsetFor > 1)
          return because(
            'not-flown',
            'It tipped over before it was in the air.',
            whyUpset(this.scene, seconds),
          );
        return null;
      }
    }
    if (plant.contact.touching || craft.aboveGround <= 0.02) return this.touched(seconds);
    if (this.evidence.upsetFor > LOST_S)
      return because(
        'lost-control',
        `${this.rotors ? 'It tumbled' : 'It went over'} at ${clock(this.evidence.lastUpsetS - LOST_S)} and did not come back.`,
        whyUpset(this.scene, seconds),
      );
    if (this.evidence.broken.happened) return because('broken', '', whyUpset(this.scene, seconds));
    if (plant.battery.empty) return this.empty(seconds);
    if (c.pilot !== 'return') {
      this.closestOut = Math.min(this.closestOut, distance);
      this.homeward = false;
      this.arrival.wait();
      return null;
    }
    return this.onTheWay(distance, seconds);
  }

  private onTheWay(distance: number, seconds: number): Judgement | null {
    const { craft } = this.input;
    const c = craft.pfad.controller;
    if (!this.homeward) {
      this.homeward = true;
      this.best = distance;
      this.progressMark = distance;
      this.sinceBest = 0;
      this.fromS = seconds;
      this.fromWh = craft.plant.battery.usedWh;
    }
    this.best = Math.min(this.best, distance);
    const { phase } = c.home;
    if (this.arrivalShare < 0 && (phase === 'circling' || phase === 'descending')) {
      const { usedAs, capacityAs } = craft.plant.battery;
      this.arrivalShare = Math.max(0, 1 - usedAs / capacityAs);
    }
    if (phase === 'homeward' || phase === 'climbing')
      this.evidence.windShare = Math.max(
        this.evidence.windShare,
        this.evidence.wind / homewardSpeed(this.scene),
      );
    // While it climbs on the spot the wind carries it where it likes.
    if (distance < this.progressMark - 20 || phase === 'climbing') {
      this.progressMark = distance;
      this.sinceBest = 0;
    } else this.sinceBest += JUDGE_STEP_S;
    if (phase === 'climbing') {
      this.fromS = seconds;
      this.fromWh = craft.plant.battery.usedWh;
    }
    const waits = seconds < this.input.lastEventS + AFTER_EVENT_S;
    if (waits) this.arrival.wait();
    const arrived = this.arrival.step(distance, seconds);
    if (!waits && this.isSettled(seconds))
      return fine(
        'home',
        phase === 'circling'
          ? `Circles above home ${formatDuration(seconds)} after launch with room on all sides, with ${charge(this.input.craft)} % of the battery left.`
          : `Flies level for home ${formatDuration(seconds)} after launch, ${kilometres(distance)} off, with room for all that is left, as it did in a stronger wind.`,
      );
    if (arrived.kind === 'circled') return this.arrive(arrived.clearanceM, arrived.watts, seconds);
    if (arrived.kind === 'cannot-circle')
      return because(
        'no-progress',
        `It reaches home and cannot circle there, ${kilometres(distance)} off.`,
        whyHeldUp(this.scene, seconds),
      );
    if (!this.atHome && phase === 'homeward' && this.sinceBest > HELD_UP_S)
      return this.heldUp(distance, seconds);
    return null;
  }

  /** It need not be watched any longer. */
  private isSettled(seconds: number): boolean {
    const { endsEarly, limitS } = this.input;
    if (endsEarly === null) return false;
    const speed = homewardSpeed(this.scene);
    return this.arrival.isSettled(this.evidence, endsEarly, this.wattsHome(seconds), speed, limitS - seconds);
  }

  /** No farther from home than where it circles or comes down. */
  private get atHome(): boolean {
    const { loiterRadius } = this.input.craft.pfad.controller.config;
    return this.distance <= (this.rotors ? 40 : 2 * loiterRadius + 80);
  }

  /** Drawn on the way home since the climb, W. */
  private wattsHome(seconds: number): number {
    const used = this.input.craft.plant.battery.usedWh - this.fromWh;
    return (3600 * used) / Math.max(1, seconds - this.fromS);
  }

  private heldUp(distance: number, seconds: number): Judgement {
    const why = whyHeldUp(this.scene, seconds);
    const astray = whyAstray(this.scene, seconds) !== null;
    return because(
      astray ? 'astray' : 'no-progress',
      `It is ${kilometres(distance)} from home and came no nearer for ${formatDuration(HELD_UP_S)}.`,
      why,
    );
  }

  /** At home in the air: with room over the ground, and with battery to stay until somebody takes it down. */
  private arrive(clearanceM: number, watts: number, seconds: number): Judgement {
    const { craft } = this.input;
    const b = craft.plant.battery;
    const doing = this.rotors ? 'Hovers' : 'Circles';
    const astray = whyAstray(this.scene, seconds);
    if (astray) return because('astray', 'It takes another place for home.', astray);
    if (clearanceM < CIRCLE_ROOM_M)
      return because('terrain', '', {
        cause: 'ground',
        atS: seconds,
        text: `${doing} above home no more than ${clearanceM.toFixed(0)} m above the ground below it: that is no room.`,
        settings: ['return.arrivalHeight'],
      });
    const lasts = ((b.capacityAs - b.usedAs) * b.voltage) / Math.max(1, watts);
    if (lasts < LASTS_S)
      return because('energy', '', {
        cause: 'power',
        atS: seconds,
        text: `${doing} above home with ${charge(this.input.craft)} % of the battery left, which lasts ${formatDuration(lasts)} more; nothing lands it by then.`,
        settings: ['return.arrival', 'battery.low'],
      });
    return fine(
      'home',
      `${doing} above home ${formatDuration(seconds)} after launch, ${clearanceM.toFixed(0)} m above the ground, with ${charge(this.input.craft)} % of the battery left for ${formatDuration(60 * Math.floor(Math.min(lasts, 7200) / 60))}.`,
    );
  }

  private empty(seconds: number): Judgement {
    const c = this.input.craft.pfad.controller;
    const where = `The battery is empty ${kilometres(this.distance)} from home, ${clock(seconds)} after launch`;
    if (c.pilot === 'return' && c.home.phase === 'homeward' && this.sinceBest > 60) {
      const why = whyHeldUp(this.scene, seconds);
      return because('energy', `${where}.`, why);
    }
    const doing = c.pilot === 'return' ? 'on its way home' : `under ${modeNames[c.mode]}`;
    const settings = c.config.battery.returns
      ? ['battery.watch', 'battery.low']
      : ['battery.lowAction', 'battery.watch', 'battery.low'];
    const mah = Math.round(this.input.craft.plant.battery.capacityAs / 3.6);
    return because('energy', `${where}, ${doing}.`, {
      cause: 'power',
      atS: seconds,
      text: `All ${mah} mAh were used.`,
      settings,
    });
  }

  timeOut(): Judgement {
    const { craft, limitS } = this.input;
    const distance = kilometres(this.distance);
    const limit = formatDuration(limitS);
    const c = craft.pfad.controller;
    if (this.touch)
      return because(
        'bad-landing',
        `After ${limit} it had not come to rest.`,
        landingWhy(this.scene, limitS),
      );
    if (!this.airborne) return never(this.scene, limitS);
    if (c.pilot !== 'return') {
      const lost = c.lost.state === 'acting' && c.config.lostAction === 'return';
      const what = `After ${limit} nothing had sent it home; it is ${distance} out under ${modeNames[c.mode]}.`;
      if (lost) return because('timeout', what, whyNoReturn(this.scene));
      if (c.lost.state === 'acting')
        return because('timeout', what, {
          cause: 'setting',
          atS: limitS,
          text: 'The settings do not ask for a return when the link is lost.',
          settings: ['lost.action'],
        });
      return { ...fine('timeout', what), causeAtS: limitS };
    }
    const astray = whyAstray(this.scene, limitS);
    if (astray) return because('astray', `After ${limit} it was still out, ${distance} from home.`, astray);
    if (this.atHome && c.home.phase !== 'homeward' && c.home.phase !== 'climbing') {
      const what = `After ${limit} it was at home and had yet to come down or to close its circles: the time was too short to see how it ends.`;
      return { ...fine('timeout', what), causeAtS: limitS };
    }
    const what = `After ${limit} it was still on its way home, ${distance} out.`;
    if (this.sinceBest > 60 || this.distance > this.best + 300)
      return because('timeout', what, whyHeldUp(this.scene, limitS));
    return { ...fine('timeout', what), causeAtS: limitS };
  }

  /** The ground is reached, as it was meant to be or not. */
  private touched(seconds: number): Judgement | null {
    const { craft } = this.input;
    const c = craft.pfad.controller;
    const landing =
      c.landed ||
      (c.pilot === 'return' && ['flare', 'descending', 'final'].includes(c.home.phase)) ||
      c.pilot === 'glide' ||
      (c.pilot === 'route' && c.route.goal.sink > 0);
    const level = this.evidence.upsetFor < 0.3;
    if (landing && level) {
      this.touch = new Touchdown(craft, this.rotors);
      return this.settle(seconds);
    }
    return crash(this.scene, seconds);
  }

  private settle(seconds: number): Judgement | null {
    const touch = this.touch!;
    const state = touch.step();
    this.touchShare = touch.share;
    if (state.kind === 'settling') return null;
    if (state.kind === 'away') {
      this.touch = null;
      this.input.craft.plant.contact.clear();
      return null;
    }
    return ended(this.scene, state, seconds);
  }
}

const round1 = (x: number) => Math.round(10 * x) / 10;
