import type { Values } from '../settings/catalogue.ts';
import type { BoardDescription } from './description.ts';
import { deviceNames, type SerialDevice } from './deviceKinds.ts';

/** What a serial port can be for, by the value of its setting, and what that is called. */
export const portUses = {
  free: 'free',
  link: 'this link',
  receiver: 'receiver',
  gnss: deviceNames.gnss,
  telemetry: deviceNames.telemetry,
  'video-control': deviceNames['video-control'],
  overlay: deviceNames.overlay,
  'motor-telemetry': deviceNames['motor-telemetry'],
  rangefinder: deviceNames.rangefinder,
  flow: deviceNames.flow,
  camera: deviceNames.camera,
} as const;
export type PortUse = keyof typeof portUses;

/** Setting of the n-th port, counted from 1. */
export const portKey = (n: number) => `port.${n}.use` as const;

/** What the first ports are for on a new board. */
export const usualPortUses: readonly PortUse[] = ['link', 'receiver', 'gnss'];

/** Each port of a board with what its setting says. */
export function portsOf(
  description: BoardDescription,
  values: Values,
): readonly { readonly name: string; readonly n: number; readonly use: PortUse }[] {
  return description.ports.map(({ name }, i) => ({
    name,
    n: i + 1,
    use: (values[portKey(i + 1)] ?? usualPortUses[i] ?? 'free') as PortUse,
  }));
}

/** The port for a use, or undefined where none is set for it. */
export function portFor(
  description: BoardDescription,
  values: Values,
  use: PortUse,
): { readonly name: string; readonly n: number } | undefined {
  return portsOf(description, values).find((p) => p.use === use);
}

/** The use that a serial device asks of its port. */
export const useOf = (device: SerialDevice): PortUse =>
  device.startsWith('receiver-') ? 'receiver' : (device as PortUse);
