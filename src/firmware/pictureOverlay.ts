import { drawMenu } from '#core/byHand/menu.ts';
import { modeNames } from '#core/modes/modes.ts';
import { chipBytes } from '#core/overlay/chipBytes.ts';
import { layoutAt } from '#core/overlay/config.ts';
import { drawOverlay, newAlarms, stepAlarms } from '#core/overlay/draw.ts';
import type { LayoutId } from '#core/overlay/items.ts';
import { newView, type OverlayView } from '#core/overlay/view.ts';
import type { FlightController } from './flightController.ts';

/** So often the picture is drawn, s; and all of it sent, whether it changed or not. */
const EVERY_S = 0.1;
const WHOLE_S = 1;
/** Time constant of the current that the time left goes by, s; the time in the air, while that is shorter. */
const CURRENT_S = 30;

const blockerWords: Readonly<Record<string, string>> = {
  'no-switch': 'No switch to arm by',
  'no-receiver': 'No link',
  throttle: 'Throttle is up',
  'switch-on': 'Arm switch is on',
  'switch-again': 'Switch off, then on',
  'return-on': 'Return switch is on',
  'no-gyro': 'Gyro is silent',
  'no-barometer': 'Barometer is silent',
  'no-airspeed': 'Airspeed is silent',
  'no-compass': 'Compass is off',
  moving: 'Hold it still',
  tilt: 'Tilted',
  'no-fix': 'No fix',
  'few-satellites': 'Few satellites',
  'no-battery': 'No battery',
  'battery-empty': 'Battery empty',
  'battery-low': 'Battery low',
  'battery-used': 'Battery used up',
  'no-motor': 'No motor',
  restart: 'Restart it',
  storing: 'Stores settings',
  bench: 'Moved on the bench',
};

/** What stands over the pilot's picture: drawn ten times a second, sent to the chip or link that brings it there. */
export class PictureOverlay {
  /** What takes the bytes; without it nothing is drawn. */
  onBytes: ((bytes: Uint8Array) => void) | null = null;
  cells = new Uint16Array(0);
  layout: LayoutId = 'a';
  readonly view: OverlayView = newView();
  private sent: Uint16Array | null = null;
  private sentS = Number.NEGATIVE_INFINITY;
  private alarms = newAlarms();
  private sinceS = 0;
  private travelled = 0;
  private flownS = 0;
  private meanA = Number.NaN;
  private flew = false;

  /** @param menu lines that stand there instead, on the ground; null for none */
  constructor(private readonly menu: () => readonly string[] | null = () => null) {}

  /** Counts what a flight adds up to, and draws what is due. */
  step(c: FlightController, dt: number): void {
    this.sinceS += dt;
    if (this.sinceS < EVERY_S) return;
    this.tally(c, this.sinceS);
    this.sinceS = 0;
    if (this.onBytes) this.send(c, this.onBytes);
  }

  private tally(c: FlightController, dt: number): void {
    if (c.hasFlown && !this.flew) {
      this.travelled = 0;
      this.flownS = 0;
      this.meanA = Number.NaN;
    }
    this.flew = c.hasFlown;
    if (!c.hasFlown) return;
    const p = c.position;
    this.flownS += dt;
    const over = Math.min(CURRENT_S, this.flownS);
    this.meanA = Number.isNaN(this.meanA)
      ? c.currentA
      : this.meanA + (c.currentA - this.meanA) * Math.min(1, dt / over);
    if (p.usable) this.travelled += Math.hypot(p.velocityNorth, p.velocityEast) * dt;
  }

  /** Draws the picture as it is now into `cells`; none where the craft has no picture. */
  draw(c: FlightController): void {
    const { overlay } = c.config;
    const { system, channel } = overlay;
    const size = system ? system.columns * system.rows : 0;
    if (this.cells.length !== size) this.cells = new Uint16Array(size);
    if (!system) return;
    this.fill(c);
    const menu = this.menu();
    if (menu) {
      drawMenu(menu, system, this.cells);
      return;
    }
    this.layout = channel > 0 && c.linkAlive ? layoutAt(c.input.channels[channel - 1]!) : this.layout;
    if (channel === 0) this.layout = 'a';
    drawOverlay(this.layout, this.view, overlay, system, this.alarms, this.cells);
  }

  private send(c: FlightController, to: (bytes: Uint8Array) => void): void {
    this.draw(c);
    const { system } = c.config.overlay;
    if (!system) return;
    const whole = c.uptimeS - this.sentS >= WHOLE_S || this.sent?.length !== this.cells.length;
    if (whole) this.sentS = c.uptimeS;
    to(chipBytes(whole ? null : this.sent, this.cells, system.columns, system.rows));
    this.sent = this.cells.slice();
  }

  /** What the board knows now, and its alarms. */
  private fill(c: FlightController): void {
    const { view: v } = this;
    const { position: p, sensing: s, home, input, sanity } = c;
    v.atS = c.uptimeS;
    v.armed = c.armed;
    v.mode = modeNames[c.mode];
    v.homeSet = c.homeSet;
    const known = c.homeSet && p.usable;
    v.homeDistance = known ? home.distance(p) : Number.NaN;
    v.homeBearing = known ? Math.atan2(home.homeEast - p.east, home.homeNorth - p.north) : Number.NaN;
    v.heading = s.headingKnown ? s.attitude.yaw : Number.NaN;
    v.latitude = p.hasFix ? s.nmea.epoch.lat : Number.NaN;
    v.longitude = p.hasFix ? s.nmea.epoch.lon : Number.NaN;
    v.travelled = this.travelled;
    v.supplyV = c.supplyV;
    v.cells = c.config.battery.cells;
    v.currentA = c.currentA;
    v.usedMah = c.usedMah;
    const { leftMah, needMah } = sanity.battery;
    v.leftMah = Number.isNaN(leftMah) ? Math.max(0, c.config.battery.capacityMah - c.usedMah) : leftMah;
    v.needMah = needMah;
    v.leftS = this.meanA > 0.1 ? (v.leftMah * 3.6) / this.meanA : Number.NaN;
    v.speed = Math.hypot(p.velocityNorth, p.velocityEast);
    v.airspeed = s.air.health === 'lost' ? Number.NaN : s.airspeed;
    v.height = c.homeSet ? p.height - home.homeHeight : p.height;
    v.aboveGround = s.aboveGround;
    v.climb = p.climb;
    v.roll = s.attitude.roll;
    v.pitch = s.attitude.pitch;
    v.throttle = c.command.throttle;
    const windKnown = p.wind.health !== 'lost';
    v.windSpeed = windKnown ? Math.hypot(p.windNorth, p.windEast) : Number.NaN;
    // The estimate is where it blows to.
    v.windFrom = windKnown ? Math.atan2(-p.windEast, -p.windNorth) : Number.NaN;
    v.quality = c.linkAlive ? input.quality : 0;
    v.silentS = Math.min(input.frameAge, 999);
    v.satellites = c.satellitesUsed;
    v.accuracy = p.place.accuracy;
    v.flownS = this.flownS;
    v.dial = c.dials.times[0] ?? 1;
    v.message = this.message(c);
    stepAlarms(this.alarms, v, c.config.overlay);
  }

  /** What matters most of all that the board could say, in a few words. */
  private message(c: FlightController): string {
    if (!c.armed) {
      const first = c.blockers()[0];
      return first ? (blockerWords[first.id] ?? first.id) : 'Ready to arm';
    }
    const { battery } = c.sanity;
    if (battery.empty) return 'Battery empty';
    if (c.lost.state === 'noticed') return 'Link lost';
    if (c.lost.state === 'guarding') return 'Link lost: waits';
    if (c.lost.state === 'acting')
      return c.pilot === 'return' ? 'Link lost: comes home' : 'Link lost: comes down';
    if (c.lost.state === 'recovering') return 'Link back: move a stick';
    if (c.refusal) return `Stays in ${modeNames[c.mode]}`;
    if (c.sanity.outsideFence) return 'Outside the fence';
    if (c.hasFlown && !c.homeSet) return 'No home: no return';
    if (battery.low) return 'Battery low';
    if (c.hasFlown && !c.position.hasFix) return 'No fix';
    return '';
  }
}
