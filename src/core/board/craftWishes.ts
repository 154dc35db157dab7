import { actuatorNames, isMotor } from '../airframe/actuators.ts';
import { type Airframe, actuatorsOf } from '../airframe/airframe.ts';
import type { SettingValue, Values } from '../settings/catalogue.ts';
import { settingOf } from '../settings/typed.ts';
import { layoutOf } from './boardRef.ts';
import { outerBus } from './boards.ts';
import type { BoardDescription } from './description.ts';
import type { SerialDevice } from './deviceKinds.ts';
import { type PortUse, portKey, portsOf, useOf } from './portUses.ts';
import type { Assignment } from './solve.ts';
import type { BusWish, OutputWish, Wishes } from './wishes.ts';

/** Sensors that hang on the bus outside the board, by the settings that say whether they are fitted. */
const outside = [
  ['compass.fitted', 'compass'],
  ['pitot.fitted', 'airspeed'],
  ['range.fitted', 'rangefinder'],
  ['flow.fitted', 'flow'],
] as const;

export const sensorsOutside = (values: Values): readonly BusWish[] =>
  outside.filter(([key]) => settingOf(values, key) === true).map(([, device]) => ({ device, kind: 'i2c' }));

/** What a craft wants of a board as it is wired now, by the settings and what the board says of itself. */
export function craftWishes(
  airframe: Airframe,
  values: Values,
  description: BoardDescription | null,
): Wishes {
  const outputs = actuatorsOf(airframe).map((id): OutputWish => {
    const at = description?.pads.find((p) => settingOf(values, `out.${p.output}.drives`) === id);
    const sends = at ? String(settingOf(values, `timer.${at.timer}.sends`) ?? 'pulses') : 'pulses';
    const place = at ? { output: at.output } : {};
    if (isMotor(id) && sends !== 'pulses')
      return { name: actuatorNames[id], kind: sends as 'dshot300' | 'dshot600', ...place };
    const rateHz = at ? Number(settingOf(values, `timer.${at.timer}.rate`)) : 50;
    return { name: actuatorNames[id], kind: isMotor(id) ? 'motor-pwm' : 'servo-pwm', rateHz, ...place };
  });
  const ports = description ? portsOf(description, values) : [];
  const on = (use: PortUse) => {
    const port = ports.find((p) => p.use === use);
    return port ? { port: port.name } : {};
  };
  const others = ports.filter((p) => !['free', 'link', 'receiver', 'gnss'].includes(p.use));
  const buses = sensorsOutside(values).map(
    (w): BusWish => (w.device === 'airspeed' ? { ...w, bus: outer(description) } : w),
  );
  const link = description?.ports.find((p) => p.link);
  return {
    outputs,
    serial: [
      {
        device: `receiver-${settingOf(values, 'rx.protocol') ?? 'crsf'}`,
        ...(settingOf(values, 'rx.levels') === 'turned' ? { turned: true } : {}),
        ...(settingOf(values, 'rx.wires') === 'one' ? { oneWire: true } : {}),
        ...on('receiver'),
      },
      { device: 'gnss', baud: Number(settingOf(values, 'gnss.baud') ?? 38400), ...on('gnss') },
      ...others.map(({ use, name }) => ({ device: use as SerialDevice, port: name })),
    ],
    buses,
    ...(link ? { linkPort: link.name } : {}),
  };
}

/** The bus that devices outside the board hang on. */
function outer(description: BoardDescription | null): string {
  const board = layoutOf(description);
  return board ? outerBus(board).name : 'I2C 2';
}

/**
 * The settings of outputs, timers and ports that an assignment asks for, where its wishes are actuators of the craft
 * or devices that a port can be set for; what is free drives nothing and is for nothing.
 */
export function wiringEdits(
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
    if (!id || !pad || wish.kind === 'led') continue;
    edits[`out.${output}.drives`] = id;
    const pulses = wish.kind.endsWith('pwm');
    edits[`timer.${pad.timer}.sends`] = pulses ? 'pulses' : wish.kind;
    if (pulses) edits[`timer.${pad.timer}.rate`] = String(wish.rateHz ?? 50);
  }
  description.ports.forEach(({ name, link }, i) => {
    const here = assignment.serial.find((s) => s.port === name);
    edits[portKey(i + 1)] = link ? 'link' : here ? useOf(here.wish.device) : 'free';
  });
  return edits;
}
