import { isOn, type Knows, type Moment, momentOf, paintStrip, patterns } from '#core/signals/signals.ts';
import type { FlightController } from './flightController.ts';
import { framesOn } from './procedures.ts';
import type { ControllerOnWire } from './readings.ts';

/** Lamps and buzzer are set so often, s. */
const EVERY_S = 0.02;
/** A switch above this asks for it, us. */
const ASKED_US = 1650;
/** What stands against arming is worked out so seldom, s. */
const BLOCKERS_S = 0.5;
/** How long it calls when it is asked to by a gesture, s. */
const CALL_S = 10;

/** What lamps, buzzer and motors tell. */
export class Signals {
  moment: Moment = 'no-radio';
  /** Three bytes a lamp. */
  lamps = new Uint8Array(0);
  /** Of the buzzer, Hz; nought for silence. */
  toneHz = 0;
  /** The motors sing as well: for a craft without a buzzer that lies somewhere. */
  motorsSing = false;
  private sinceS = 0;
  private dueS = 0;
  private callS = 0;
  private lostS = 0;
  private downS = 0;
  private blockedS = 0;
  private blocked = true;
  private everHeard = false;
  private readonly knows: { -readonly [K in keyof Knows]: Knows[K] } = {
    ...{ armed: false, hasFlown: false, returning: false, linkAlive: false, everHeard: false, lostS: 0 },
    ...{ batteryLow: false, batteryEmpty: false, hasFix: false, blocked: true, findAsked: false, downS: 0 },
  };

  /** Calls for a while, as asked for by hand. */
  call(): void {
    this.callS = CALL_S;
  }

  /** @param wires controllers that can be told something */
  step(c: FlightController, dt: number, wires: readonly ControllerOnWire[]): void {
    this.sinceS += dt;
    this.dueS -= dt;
    if (this.dueS > 0) return;
    this.dueS += EVERY_S;
    const by = EVERY_S;
    const { lights, findMe } = c.config;
    if (c.linkAlive) this.everHeard = true;
    // A transmitter that was never there is not lost.
    this.lostS = c.linkAlive || !this.everHeard ? 0 : this.lostS + by;
    this.downS = c.hasFlown && (c.landed || !c.armed) ? this.downS + by : 0;
    this.blockedS -= by;
    if (this.blockedS <= 0) {
      this.blockedS = BLOCKERS_S;
      this.blocked = !c.armed && c.blockers().length > 0;
    }
    const k = this.knows;
    k.armed = c.armed;
    k.hasFlown = c.hasFlown;
    k.returning = c.mode === 'return';
    k.linkAlive = c.linkAlive;
    k.everHeard = this.everHeard;
    k.lostS = this.lostS;
    k.batteryLow = c.sanity.battery.low;
    k.batteryEmpty = c.sanity.battery.empty;
    k.hasFix = c.position.hasFix;
    k.blocked = this.blocked;
    this.callS = Math.max(0, this.callS - by);
    k.findAsked =
      this.callS > 0 ||
      (findMe.channel > 0 && c.linkAlive && c.input.channels[findMe.channel - 1]! > ASKED_US);
    k.downS = this.downS;
    const now = momentOf(k, findMe);
    if (now !== this.moment) {
      this.moment = now;
      this.sinceS = 0;
    }
    if (this.lamps.length !== 3 * lights.lamps) this.lamps = new Uint8Array(3 * lights.lamps);
    paintStrip(now, this.sinceS, lights.brightness, this.lamps);
    const { sound } = patterns[now];
    const sounds = sound !== null && isOn(sound.rhythm, this.sinceS);
    this.toneHz = sounds && c.config.buzzer ? sound.hz : 0;
    const asked = sounds && now === 'find-me' && findMe.motors && !c.armed;
    this.motorsSing = false;
    for (let i = 0; i < wires.length; i++) {
      const wire = wires[i]!;
      // Pulses carry no more than how fast a motor is to turn.
      const on = asked && framesOn(c, wire.output);
      wire.sing(on);
      if (on && wire.answers) this.motorsSing = true;
    }
  }
}
