import type { ModeId } from '#core/modes/modes.ts';
import type { Config } from './config.ts';
import type { Sticks } from './sticks.ts';

export interface Blocker {
  readonly id: string;
  readonly why: string;
}

/** What arming looks at besides the configuration. */
export interface ArmingView {
  readonly linkAlive: boolean;
  readonly sticks: Sticks;
  readonly tilt: number;
  readonly hasFix: boolean;
  readonly satellites: number;
  readonly servoRailV: number;
  readonly supplyV: number;
  readonly usedMah: number;
  readonly restartNeeded: boolean;
  readonly storing: boolean;
  readonly benchMoving: boolean;
  readonly requestedMode: ModeId;
  readonly switchSeenOff: boolean;
  /** The switch was put on while something stood in the way, and has not been off since. */
  readonly switchRefused: boolean;
  readonly still: boolean;
  readonly imuAlive: boolean;
  readonly baroAlive: boolean;
  readonly compassHealthy: boolean;
  readonly pitotAlive: boolean;
  /** A rotorcraft on its back is to turn itself over: it need neither lie level nor still, nor know where it is. */
  readonly turnsOver: boolean;
  /** Hand launch is asked for: throttle may be up, since the motor waits for the throw. */
  readonly launchReady: boolean;
}

/** Everything that stands in the way of arming, each by name; empty when nothing does. */
export function armingBlockers(c: Config, v: ArmingView): Blocker[] {
  const list: Blocker[] = [];
  const add = (id: string, why: string) => list.push({ id, why });
  if (c.arm.channel === 0) add('no-switch', 'No switch is set for arming.');
  if (!v.linkAlive) add('no-receiver', 'The receiver sends nothing: is the transmitter on?');
  else {
    if (v.sticks.throttle > c.armThrottle && !v.launchReady) {
      add(
        'throttle',
        `Throttle reads ${Math.round(v.sticks.throttle * 100)} %. Pull it down; if it is down, the channels are in another order.`,
      );
    }
    if (!v.switchSeenOff) add('switch-on', 'The arming switch was on at start. Switch it off once.');
    else if (v.switchRefused)
      add(
        'switch-again',
        'The arming switch was put on while something stood in the way. Switch it off once.',
      );
    if (v.requestedMode === 'return') add('return-on', 'The return switch is on. Switch it off.');
  }
  if (!v.imuAlive) add('no-gyro', 'The gyro says nothing.');
  if (!v.baroAlive) add('no-barometer', 'The barometer says nothing, or always the same.');
  if (c.pitot.fitted && !v.pitotAlive)
    add('no-airspeed', 'The airspeed sensor says nothing, or always the same.');
  if (c.compass.fitted && c.armNeedCompass && !v.compassHealthy && !v.turnsOver) {
    add('no-compass', 'The compass says nothing, or measures another field than the place has.');
  }
  if (c.armNeedStill && !v.still && !v.turnsOver) add('moving', 'The craft is being moved. Hold it still.');
  if (v.tilt > c.armTilt && !v.turnsOver)
    add('tilt', `The craft is tilted by ${Math.round((v.tilt * 180) / Math.PI)}°.`);
  const needsFix = c.armNeedFix && !v.turnsOver;
  if (needsFix && !v.hasFix) add('no-fix', 'No position fix, so no home can be stored.');
  else if (needsFix && v.satellites < c.armSatellites) {
    add('few-satellites', `${v.satellites} satellites used; ${c.armSatellites} are asked for.`);
  }
  if (v.servoRailV < 4) add('no-battery', 'The flight battery is not in: servos and motors have no power.');
  else if (v.supplyV < c.battery.emptyV) add('battery-empty', 'The battery is empty.');
  else if (v.supplyV < c.battery.lowV) add('battery-low', 'The battery is below its low mark.');
  if (v.usedMah > c.battery.capacityMah) {
    add('battery-used', 'More than the battery holds was drawn since the board started.');
  }
  if (!c.outputs.some((o) => o.isMotor)) add('no-motor', 'No output drives a motor.');
  if (v.restartNeeded) add('restart', 'A changed setting waits for a restart.');
  if (v.storing) add('storing', 'Settings are being stored.');
  if (v.benchMoving)
    add('bench', 'An output is being moved on the bench, or motor controllers are being taught.');
  return list;
}
