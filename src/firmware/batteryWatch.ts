import { isRotorKind } from '#core/airframe/actuators.ts';
import { type Chemistry, chargeAtRest } from '#core/flight/battery.ts';
import { EnergyHome, type HomeCharges, type HomeWhere } from '#core/navigation/energyHome.ts';
import type { ClimbRule } from '#core/navigation/returnPlan.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { settingsOf } from '#core/settings/typed.ts';
import type { HomeFlight } from './homeFlight.ts';
import type { Sensing } from './sensing.ts';

/** What a board knows of its battery. V are those of the whole pack. */
export interface BatteryConfig {
  readonly lowV: number;
  readonly emptyV: number;
  readonly cells: number;
  readonly chemistry: Chemistry;
  readonly capacityMah: number;
  /** What says that it is low, and what of the capacity is to be left, share. */
  readonly watch: 'volts' | 'charge' | 'home';
  readonly reserve: number;
  /** Goes home once it is low; comes down where it is once it is empty. */
  readonly returns: boolean;
  readonly comesDown: boolean;
  readonly home: HomeCharges;
}

export function batteryConfigOf(values: Values): BatteryConfig {
  const s = settingsOf(values);
  const cells = s.number('battery.cells');
  return {
    lowV: s.number('battery.low') * cells,
    emptyV: s.number('battery.empty') * cells,
    cells,
    chemistry: s.choice('battery.chemistry'),
    capacityMah: s.number('battery.capacity'),
    watch: s.choice('battery.watch'),
    reserve: s.number('battery.reserve'),
    returns: s.choice('battery.lowAction') === 'return',
    comesDown: s.choice('battery.emptyAction') === 'down',
    home: {
      rotors: isRotorKind(s.choice('craft.kind')),
      speedMps: s.number('return.speed'),
      climb: s.choice('return.climb') as ClimbRule,
      heightM: s.number('return.height'),
      currentA: s.number('battery.homeCurrent'),
      climbMah: s.number('battery.climbCharge'),
      beforeS: s.number('lost.notice') + s.number('lost.guard'),
    },
  };
}

/** What the watch looks at. */
export interface BatteryView {
  readonly armed: boolean;
  readonly flown: boolean;
  readonly homeSet: boolean;
  readonly returning: boolean;
  readonly supplyV: number;
  readonly usedMah: number;
}

/** It has to be low for this long before it is said: sag and gusts pass, s. */
const LOW_FOR_S = 5;
/** Said only, it is taken back once the voltage stays so far above the mark, V of each cell, for so long, s. */
const RECOVERED_V = 0.1;
const RECOVERED_FOR_S = 15;
/** With less than this of its capacity it is empty, whatever the voltage says. */
const EMPTY_SHARE = 0.03;
/** The way home is reckoned this often, s, and its wind is smoothed over this, s. */
const RECKON_S = 0.5;
const WIND_S = 40;
/** How far the wind along the way home may be off, m/s: with a believed airspeed, and without. */
const DOUBT_MPS = { measured: 0.4, guessed: 2 };
/** Of the wind itself: it wanders by that much while it flies home. */
const DOUBT_SHARE = 0.13;

/**
 * Says once that the battery is low: by the voltage under load, by the charge that is left, or by what the way home takes
 * from here against the wind as it is. A board that was never told what the way home takes goes by the voltage.
 */
export class BatteryWatch {
  low = false;
  /** Nothing is left to fly on. */
  empty = false;
  /** Charge that is left since the last arming, and what the way home takes, mAh; NaN where it is not known. */
  leftMah = Number.NaN;
  needMah = Number.NaN;
  private lowFor = 0;
  private emptyFor = 0;
  private wellFor = 0;
  private since = 0;
  private startMah = 0;
  private usedAtStart = 0;
  private readonly way: EnergyHome;
  private readonly where: HomeWhere = { north: 0, east: 0, up: 0, windNorth: 0, windEast: 0, windDoubt: 0 };

  constructor(
    private readonly c: BatteryConfig,
    private readonly say: (text: string) => void,
  ) {
    this.way = new EnergyHome(c.home);
  }

  /** What is to be left of it, mAh. */
  get reserveMah(): number {
    return this.c.reserve * this.c.capacityMah;
  }

  /** Armed: what is in the battery is told by its voltage at rest. */
  begin(supplyV: number, usedMah: number): void {
    const { c } = this;
    this.low = false;
    this.lowFor = 0;
    this.empty = false;
    this.emptyFor = 0;
    this.wellFor = 0;
    this.needMah = Number.NaN;
    this.where.windNorth = 0;
    this.where.windEast = 0;
    const share = supplyV > 1 ? chargeAtRest(c.chemistry, supplyV / c.cells) : 1;
    this.startMah = share * c.capacityMah;
    this.usedAtStart = usedMah;
  }

  step(v: BatteryView, s: Sensing, home: HomeFlight, dt: number): void {
    const { c } = this;
    this.leftMah = v.armed ? this.startMah - (v.usedMah - this.usedAtStart) : Number.NaN;
    this.since += dt;
    if (this.since >= RECKON_S) {
      this.reckon(v, s, home, this.since);
      this.since = 0;
    }
    const low = v.armed && this.isLow(v);
    this.lowFor = low ? this.lowFor + dt : Math.max(0, this.lowFor - dt);
    if (this.low) this.recover(v, dt);
    if (this.lowFor > LOW_FOR_S && !this.low) {
      this.low = true;
      this.wellFor = 0;
      this.say(`${this.why()}${c.returns ? ': returns home.' : '.'}`);
    }
    this.watchEmpty(v, dt);
  }

  /** A load sagged it and it is well again: what was only said is taken back; a way home that was begun is not. */
  private recover(v: BatteryView, dt: number): void {
    const { c } = this;
    if (c.watch !== 'volts' || c.returns) return;
    const well = v.supplyV > c.lowV + RECOVERED_V * c.cells;
    this.wellFor = well ? this.wellFor + dt : 0;
    if (this.wellFor < RECOVERED_FOR_S) return;
    this.low = false;
    this.lowFor = 0;
    this.say('The battery is above its low mark again: a heavy load had pulled it down.');
  }

  private watchEmpty(v: BatteryView, dt: number): void {
    const { c } = this;
    const volts = v.supplyV > 1 && v.supplyV < c.emptyV;
    const charge = c.watch !== 'volts' && this.leftMah < EMPTY_SHARE * c.capacityMah;
    this.emptyFor = v.armed && (volts || charge) ? this.emptyFor + dt : Math.max(0, this.emptyFor - dt);
    if (this.emptyFor <= LOW_FOR_S || this.empty) return;
    this.empty = true;
    this.say(`The battery is empty${c.comesDown ? ': comes down here, while it still can.' : '.'}`);
  }

  private isLow(v: BatteryView): boolean {
    const { c } = this;
    const volts = v.supplyV > 1 && v.supplyV < c.lowV;
    if (c.watch === 'volts') return volts;
    const reserve = this.reserveMah;
    if (c.watch === 'charge') return this.leftMah < reserve;
    if (Number.isNaN(this.needMah)) return volts;
    // On its way it is not told again what it is doing already.
    return v.flown && !v.returning && this.leftMah < reserve + this.needMah;
  }

  private reckon(v: BatteryView, s: Sensing, home: HomeFlight, dt: number): void {
    const { c, where: w } = this;
    const p = s.position;
    if (c.home.currentA <= 0 || !v.armed || !v.homeSet || !p.usable) {
      this.needMah = Number.NaN;
      return;
    }
    const k = Math.min(1, dt / WIND_S);
    if (p.wind.health !== 'lost') {
      w.windNorth += k * (p.windNorth - w.windNorth);
      w.windEast += k * (p.windEast - w.windEast);
    }
    // Straight on, and without a believed airspeed, the wind along the way is hardly seen.
    const known = c.home.rotors || s.air.health === 'good';
    w.windDoubt =
      (known ? DOUBT_MPS.measured : DOUBT_MPS.guessed) + DOUBT_SHARE * Math.hypot(w.windNorth, w.windEast);
    w.north = p.north - home.homeNorth;
    w.east = p.east - home.homeEast;
    w.up = p.height - home.homeHeight;
    this.way.look(w);
    this.needMah = this.way.needMah;
  }

  private why(): string {
    const { c } = this;
    if (c.watch === 'charge')
      return `${Math.round(this.leftMah)} mAh are left, ${Math.round(c.reserve * c.capacityMah)} are to be`;
    if (c.watch === 'home' && !Number.isNaN(this.needMah)) {
      const against = this.way.makesWay ? '' : ' against a wind that it hardly makes way in';
      return `${Math.round(this.leftMah)} mAh are left: ${Math.round(this.needMah)} for the way home${against} and ${Math.round(c.reserve * c.capacityMah)} to be left`;
    }
    return 'The battery is low';
  }
}
