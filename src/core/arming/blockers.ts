import type { StationId } from '../findings/rule.ts';

/** Where something that keeps a craft from arming is put right, and what a person does about it besides. */
export interface BlockerHelp {
  readonly station: StationId | null;
  readonly todo: string;
}

/** By the board's names for what stands in the way (firmware/arming.ts). */
const helps: Readonly<Record<string, BlockerHelp>> = {
  'no-switch': { station: 'switches', todo: 'Give a switch the arming.' },
  'no-receiver': { station: 'receiver', todo: 'Switch the transmitter on, or see what comes to the port.' },
  throttle: { station: 'sticks', todo: 'Pull the throttle down; where it is down, ask for the sticks anew.' },
  'switch-on': { station: null, todo: 'Switch it off, then on again when all is clear.' },
  'switch-again': { station: null, todo: 'Switch it off, then on again.' },
  'return-on': { station: 'switches', todo: 'Switch the return off.' },
  'no-gyro': { station: 'board', todo: 'See who answers on the board.' },
  'no-barometer': { station: 'air', todo: 'See what the barometer says.' },
  'no-airspeed': { station: 'airspeed', todo: 'See what the tube says; it may need the battery.' },
  'no-compass': { station: 'compass', todo: 'Teach the compass, away from iron and current.' },
  moving: { station: null, todo: 'Lay it down and let go.' },
  tilt: { station: 'mounted', todo: 'Lay it level; where it is, the board’s mounting is not as it is set.' },
  'no-fix': { station: 'position', todo: 'Carry it outdoors and wait for the sky.' },
  'few-satellites': { station: 'position', todo: 'Wait for more sky, away from walls.' },
  'no-battery': { station: null, todo: 'Put the flight battery in, propellers off.' },
  'battery-low': { station: 'volts', todo: 'Charge it; where it is full, hold a meter to it.' },
  'battery-empty': { station: 'volts', todo: 'Charge it; where it is full, hold a meter to it.' },
  'battery-used': { station: 'volts', todo: 'Put a full battery in and start the board anew.' },
  'no-motor': { station: 'which-moved', todo: 'Find out which output turns a motor.' },
  restart: { station: null, todo: 'Restart the board.' },
  storing: { station: null, todo: 'Wait a moment.' },
  bench: { station: null, todo: 'Let go of the output.' },
};

const unknown: BlockerHelp = { station: null, todo: '' };

/** @param id the board's name for it; one that is not known here has no help */
export const blockerHelp = (id: string): BlockerHelp => (Object.hasOwn(helps, id) ? helps[id]! : unknown);
export const knownBlockers = Object.keys(helps);
