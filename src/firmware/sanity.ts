import type { PositionEstimator } from '#core/estimation/position.ts';
import { brokenFence, brokenWords, type LocalFence, localFences } from '#core/plan/fences.ts';
import type { FlightPlan } from '#core/plan/plan.ts';
import { type BatteryView, BatteryWatch } from './batteryWatch.ts';
import type { Config } from './config.ts';
import type { HomeFlight } from './homeFlight.ts';
import type { Origin } from './routeFlight.ts';
import type { Sensing } from './sensing.ts';

/**
 * Watches what may make a flight impossible: health of the estimates, battery, fence, satellites, time on the way
 * home. Says each change once; the controller asks it what follows.
 */
export class Sanity {
  readonly battery: BatteryWatch;
  outsideFence = false;
  /** Few satellites for longer than is put up with. */
  tooFew = false;
  /** On the way home for longer than is allowed. */
  gaveUp = false;
  private fewFor = 0;
  private place = 'lost';
  private air = 'lost';
  private swapped = false;
  private fences: readonly LocalFence[] = [];

  constructor(
    private readonly c: Config,
    private readonly plan: FlightPlan,
    private readonly say: (text: string) => void,
  ) {
    this.battery = new BatteryWatch(c.battery, say);
  }

  /** A new flight begins. @param origin what metres are counted from */
  reset(supplyV: number, usedMah: number, origin: Origin): void {
    this.battery.begin(supplyV, usedMah);
    const { originLat: lat, originLon: lon } = origin;
    this.fences = localFences(this.plan.fences, { lat, lon });
    this.gaveUp = false;
  }

  step(v: BatteryView, s: Sensing, home: HomeFlight, dt: number): void {
    this.health(v, s);
    this.battery.step(v, s, home, dt);
    this.fence(v, s.position, home);
    const few = s.satellites < this.c.returnSatellites && s.position.place.health === 'good';
    this.fewFor = few ? this.fewFor + dt : 0;
    this.tooFew = this.fewFor > this.c.fewFor;
    if (v.returning && !this.gaveUp && home.seconds > this.c.giveUp) {
      this.gaveUp = true;
      this.say(`On the way home for ${Math.round(this.c.giveUp / 60)} min: gives up.`);
    }
  }

  private health(v: BatteryView, s: Sensing): void {
    const place = s.position.place.health;
    if (place !== this.place) {
      if (v.armed) {
        if (place === 'degraded') this.say('No fix: goes on by speed through the air and the last wind.');
        else if (place === 'lost')
          this.say(`No fix for ${this.c.position.blindFor} s: the position is lost.`);
        else this.say('The fix is back.');
      }
      this.place = place;
    }
    if (s.imuSwapped !== this.swapped) {
      this.swapped = s.imuSwapped;
      this.say(
        this.swapped
          ? 'A gyro chip fell silent: flies by the other one.'
          : 'The gyro chip that was silent speaks again.',
      );
    }
    const air = s.air.health;
    if (air !== this.air) {
      if (v.armed && v.flown && this.c.pitot.fitted) {
        if (air === 'degraded')
          this.say('The airspeed sensor is not believed: airspeed from ground speed and wind.');
        else if (air === 'lost') this.say('No airspeed: gains go by throttle.');
        else this.say('The airspeed sensor is believed again.');
      }
      this.air = air;
    }
  }

  private fence(v: BatteryView, p: PositionEstimator, home: HomeFlight): void {
    const { fence } = this.c;
    if (!v.armed || !v.homeSet || !p.usable) {
      this.outsideFence = false;
      return;
    }
    // Back inside counts only with some room, so that it does not dance on the line.
    const slack = this.outsideFence ? 0.9 : 1;
    const height = p.height - home.homeHeight;
    const far = fence.radius > 0 && home.distance(p) > slack * fence.radius;
    const high = fence.top > 0 && height > slack * fence.top;
    const room = this.outsideFence ? BACK_INSIDE_M : 0;
    const drawn = this.fences.length > 0 ? brokenFence(this.fences, p.north, p.east, height, room) : -1;
    const outside = far || high || drawn >= 0;
    if (outside && !this.outsideFence) {
      const action = { say: '', loiter: ' Loiters here.', return: ' Returns home.' }[fence.action];
      const what = far || high ? `too ${far ? 'far' : 'high'}` : brokenWords(this.fences[drawn]!);
      this.say(`Outside the fence: ${what}.${action}`);
    } else if (this.outsideFence && !outside) this.say('Inside the fence again.');
    this.outsideFence = outside;
  }
}

/** A drawn fence is kept again once it is kept by so much, m. */
const BACK_INSIDE_M = 15;
