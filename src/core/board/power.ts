import type { BusDevice, SerialDevice } from './deviceKinds.ts';
import type { BoardModel, Rail } from './model.ts';
import type { Wishes } from './wishes.ts';

/** What a device draws and on which supply it lives. */
interface PowerNeeds {
  /** A, at its most. */
  readonly amps: number;
  /** V it puts up with. */
  readonly leastV: number;
  readonly mostV: number;
}

/** Devices of the kinds that are connected; what a maker's sheet says of a certain one may differ. */
const devicePower: Readonly<Record<SerialDevice | BusDevice, PowerNeeds>> = {
  gnss: { amps: 0.06, leastV: 3.3, mostV: 5.5 },
  'receiver-crsf': { amps: 0.1, leastV: 4.5, mostV: 5.5 },
  'receiver-sbus': { amps: 0.1, leastV: 4, mostV: 8.4 },
  'receiver-pulse-train': { amps: 0.06, leastV: 4, mostV: 8.4 },
  telemetry: { amps: 0.25, leastV: 4.5, mostV: 5.5 },
  'video-control': { amps: 0, leastV: 0, mostV: 60 },
  overlay: { amps: 0.15, leastV: 4.5, mostV: 5.5 },
  'motor-telemetry': { amps: 0, leastV: 0, mostV: 60 },
  rangefinder: { amps: 0.12, leastV: 4.5, mostV: 5.5 },
  flow: { amps: 0.1, leastV: 3.3, mostV: 5.5 },
  camera: { amps: 0.3, leastV: 4.5, mostV: 5.5 },
  compass: { amps: 0.01, leastV: 3.3, mostV: 5.5 },
  airspeed: { amps: 0.01, leastV: 3.3, mostV: 5.5 },
  barometer: { amps: 0.01, leastV: 3.3, mostV: 5.5 },
  'battery-monitor': { amps: 0.01, leastV: 3.3, mostV: 5.5 },
  temperature: { amps: 0.01, leastV: 3.3, mostV: 5.5 },
};

/** A small servo held fast, and moving as it does in flight, A. */
const SERVO_STALL_A = 0.9;
const SERVO_MOVING_A = 0.25;
/** An LED strip of the usual length, A. */
const LED_STRIP_A = 0.5;

export interface RailLoad {
  readonly rail: Rail;
  /** A, as in flight and at the very most. */
  readonly usualA: number;
  readonly mostA: number;
  /** What hangs on it, with what each draws at its most. */
  readonly on: readonly { readonly name: string; readonly amps: number }[];
}

export interface PowerFault {
  readonly severity: 'blocks' | 'caution';
  readonly why: string;
}

/**
 * What each rail carries: devices on the board's own rail, servos and LED strips on the servo rail. Motors draw
 * from the battery and are not counted.
 */
export function railLoads(
  board: BoardModel,
  wishes: Wishes,
  names: Readonly<Record<string, string>>,
): RailLoad[] {
  return board.rails.map((rail) => {
    const on: { name: string; amps: number; usual: number }[] = [];
    if (rail.feeds === 'board') {
      on.push({ name: 'the board itself', amps: board.ownA, usual: board.ownA });
      for (const w of [...wishes.serial, ...wishes.buses]) {
        const { amps } = devicePower[w.device];
        if (amps > 0) on.push({ name: names[w.device] ?? w.device, amps, usual: 0.7 * amps });
      }
    } else {
      for (const o of wishes.outputs) {
        if (o.kind === 'servo-pwm') on.push({ name: o.name, amps: SERVO_STALL_A, usual: SERVO_MOVING_A });
        if (o.kind === 'led') on.push({ name: o.name, amps: LED_STRIP_A, usual: 0.5 * LED_STRIP_A });
      }
    }
    const sum = (of: 'amps' | 'usual') => on.reduce((s, d) => s + d[of], 0);
    return { rail, on, usualA: sum('usual'), mostA: sum('amps') };
  });
}

/** What is wrong with the power: too much for a rail, on battery or USB, or a device on a voltage it does not take. */
export function powerFaults(
  board: BoardModel,
  wishes: Wishes,
  names: Readonly<Record<string, string>>,
  batteryCells: number,
): PowerFault[] {
  const found: PowerFault[] = [];
  const packV = 4.2 * batteryCells;
  if (packV > board.batteryMostV)
    found.push({
      severity: 'blocks',
      why: `A full pack of ${batteryCells} cells has ${packV.toFixed(1)} V; the board takes at most ${board.batteryMostV} V.`,
    });
  for (const { rail, usualA, mostA, on } of railLoads(board, wishes, names)) {
    if (on.length === 0) continue;
    const what = rail.feeds === 'board' ? 'devices' : 'servos';
    if (usualA > rail.mostA)
      found.push({
        severity: 'blocks',
        why: `The ${rail.name} gives ${rail.mostA} A; ${what} draw ${usualA.toFixed(1)} A in ordinary flight.`,
      });
    else if (mostA > rail.mostA)
      found.push({
        severity: 'caution',
        why: `The ${rail.name} gives ${rail.mostA} A; ${rail.feeds === 'board' ? 'all devices at their most draw' : 'all servos held fast draw'} ${mostA.toFixed(1)} A. A regulator of its own is safer.`,
      });
    if (rail.usbA > 0 && usualA > rail.usbA)
      found.push({
        severity: 'caution',
        why: `On USB only the ${rail.name} has ${rail.usbA} A; devices draw ${usualA.toFixed(2)} A. Put the battery in for the bench, or some of them stay dark.`,
      });
    for (const w of rail.feeds === 'board' ? [...wishes.serial, ...wishes.buses] : []) {
      const { leastV, mostV } = devicePower[w.device];
      if (rail.volts > mostV || rail.volts < leastV)
        found.push({
          severity: 'blocks',
          why: `The ${names[w.device] ?? w.device} takes ${leastV} to ${mostV} V; the ${rail.name} has ${rail.volts} V.`,
        });
    }
  }
  return found;
}
