import { type BoardModel, type OutputPad, type Port, SOFTWARE_MOST_BAUD } from './model.ts';

/** What a pad could be, in words, and what it is fed with. */
export interface Abilities {
  readonly name: string;
  readonly could: readonly string[];
  /** Timer, speed and other limits. */
  readonly limits: string;
  /** Supply beside it, or the levels of its own pin. */
  readonly power: string;
}

const LOGIC = 'signals of 3.3 V';

/** An output pad: what its timer can do. */
export function outputAbilities(board: BoardModel, pad: OutputPad): Abilities {
  const timer = board.timers.find((t) => t.n === pad.timer)!;
  const fellows = board.outputs.filter((p) => p.timer === pad.timer && p !== pad).map((p) => p.pad);
  const port = board.ports.find((p) => p.sharesOutputs?.includes(pad.output));
  const bus = board.buses.find((b) => b.takesTimer === pad.timer);
  const rail = board.rails.find((r) => r.feeds === 'servos');
  return {
    name: pad.pad,
    could: [
      'servo',
      'motor by pulses',
      ...(timer.frames ? ['motor by DShot', 'LED strip'] : []),
      ...(timer.capture ? ['pulse-train receiver', `port in software up to ${SOFTWARE_MOST_BAUD} baud`] : []),
    ],
    limits: [
      `timer ${pad.timer}${fellows.length > 0 ? `, with ${fellows.join(', ')}: one protocol and rate for all` : ' of its own'}`,
      ...(port ? [`same pin as ${port.name}`] : []),
      ...(bus ? [`${bus.name} takes the timer`] : []),
    ].join('; '),
    power: `${LOGIC}${rail ? `, ${rail.volts} V beside it from the ${rail.name}, ${rail.mostA} A for all` : ''}`,
  };
}

/** A serial port: how fast, and what it can turn round. */
export function portAbilities(board: BoardModel, port: Port): Abilities {
  const bus = board.buses.find((b) => b.sharesPort === port.name);
  const rail = board.rails.find((r) => r.feeds === 'board');
  const outputs = port.sharesOutputs?.map((n) => board.outputs.find((p) => p.output === n)!.pad) ?? [];
  return {
    name: port.name,
    could: [
      'serial device',
      'receiver',
      ...(port.inverts ? ['receiver with levels turned round (SBUS)'] : []),
      ...(port.halfDuplex ? ['device on one wire'] : []),
      'camera control',
      'overlay',
    ],
    limits: [
      `up to ${port.mostBaud} baud`,
      ...(bus ? [`same pins as ${bus.name}`] : []),
      ...(outputs.length > 0 ? [`same pins as ${outputs.join(' and ')}`] : []),
    ].join('; '),
    power: `${LOGIC}${rail ? `, ${rail.volts} V from the ${rail.name}, ${rail.mostA} A for all (${rail.usbA} A on USB)` : ''}`,
  };
}

/** A pad that is only one thing: a rail, the buzzer, the camera's picture, the battery. */
export function spotAbilities(board: BoardModel, name: string): Abilities {
  const spot = board.spots.find((s) => s.name === name)!;
  return { name, could: [spot.what], limits: '', power: spot.power };
}
