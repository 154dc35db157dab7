import { type Airframe, actuatorNames, actuatorsOf, isMotor } from '../airframe/airframe.ts';
import type { SettingValue, Values } from '../settings/catalogue.ts';
import type { BoardDescription } from './description.ts';
import type { Assignment } from './solve.ts';
import type { BusWish, OutputWish, SerialDevice, Wishes } from './wishes.ts';

/** What a craft wants of a board as it is wired now, by the settings and what the board says of itself. */
export function craftWishes(
  airframe: Airframe,
  values: Values,
  description: BoardDescription | null,
): Wishes {
  const outputs = actuatorsOf(airframe).map((id): OutputWish => {
    const at = description?.pads.find((p) => values[`out.${p.output}.drives`] === id);
    const rate = at ? Number(values[`timer.${at.timer}.rate`]) : 50;
    const kind = isMotor(id) ? ('motor-pwm' as const) : ('servo-pwm' as const);
    return { name: actuatorNames[id], kind, rateHz: rate, ...(at ? { output: at.output } : {}) };
  });
  const portOf = (use: string) => {
    const port = description?.ports.find((p) => p.use === use);
    return port ? { port: port.name } : {};
  };
  const buses: BusWish[] = [];
  if (values['compass.fitted'] === true) buses.push({ device: 'compass', kind: 'i2c' });
  if (values['pitot.fitted'] === true) buses.push({ device: 'airspeed', kind: 'i2c', bus: 'I2C 2' });
  if (values['range.fitted'] === true) buses.push({ device: 'rangefinder', kind: 'i2c' });
  const link = description?.ports.find((p) => p.use === 'this link');
  return {
    outputs,
    serial: [
      {
        device: `receiver-${String(values['rx.protocol'] ?? 'crsf')}` as SerialDevice,
        ...portOf('receiver'),
      },
      { device: 'gnss', baud: Number(values['gnss.baud'] ?? 38400), ...portOf('GNSS receiver') },
    ],
    buses,
    ...(link ? { linkPort: link.name } : {}),
  };
}

/**
 * The settings of outputs and timers that an assignment asks for, where its wishes are actuators of the craft and
 * the board can send what they want; outputs that are free drive nothing.
 */
export function outputEdits(
  airframe: Airframe,
  assignment: Assignment,
  description: BoardDescription,
): Record<string, SettingValue> {
  const byName = new Map(actuatorsOf(airframe).map((id) => [actuatorNames[id], id]));
  const edits: Record<string, SettingValue> = {};
  for (const pad of description.pads) edits[`out.${pad.output}.drives`] = 'nothing';
  for (const { wish, output } of assignment.outputs) {
    const id = byName.get(wish.name);
    const pad = description.pads.find((p) => p.output === output);
    if (!id || !pad || !wish.kind.endsWith('pwm')) continue;
    edits[`out.${output}.drives`] = id;
    edits[`timer.${pad.timer}.rate`] = String(wish.rateHz ?? 50);
  }
  return edits;
}
