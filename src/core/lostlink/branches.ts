import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';
import { formatQuantity, type UnitSystem } from '../units/units.ts';

/** A question that the board asks itself when the link stays lost, and what it does where the answer is no. */
interface Branch {
  readonly id: 'armed' | 'flown' | 'action' | 'can-return' | 'far';
  readonly asks: string;
  /** What happens where the answer is no; where it is yes the next question is asked. */
  readonly otherwise: string;
}

/** All of what a board may do at a lost link, in the order in which it decides, and what is left at the end. */
export interface Branches {
  readonly asks: readonly Branch[];
  readonly last: string;
}

const SILENT_WORDS = {
  nothing: 'The last commands stay as they were.',
  cut: 'The motors stop: it drops where it is.',
  glide: 'It comes down where it is.',
  return: '',
} as const;

/**
 * As the firmware decides (`flightController.ts`). A mode makes no difference to it, nor does a route: what was flown
 * before is left. Throttle down is not taken for landed: a glide home looks the same.
 */
export function branchesOf(values: Values, rotors: boolean, units: UnitSystem): Branches {
  const s = settingsOf(values);
  const action = s.choice('lost.action');
  const armed: Branch = { id: 'armed', asks: 'Armed?', otherwise: 'Nothing: it only counts.' };
  if (action === 'nothing') return { asks: [armed], last: SILENT_WORDS.nothing };
  const flown: Branch = {
    id: 'flown',
    asks: 'Has it left the ground?',
    otherwise: 'The motors stop: before a launch and on the ground it stays where it is.',
  };
  const guard = s.number('lost.guard');
  const after =
    guard > 0
      ? ` In the air it first ${rotors ? 'stays where it is' : 'flies straight on'} for ${formatQuantity(guard, 's', units)}.`
      : '';
  if (action !== 'return') return { asks: [armed, flown], last: `${SILENT_WORDS[action]}${after}` };
  const down = rotors ? 'It sinks where it is' : 'It glides down in a circle';
  const can: Branch = {
    id: 'can-return',
    asks: `A home, a position${rotors ? ', a heading' : ''} and ${s.number('return.satellites')} satellites?`,
    otherwise: `${down}: it cannot find home.`,
  };
  const near = s.number('lost.near');
  const far: Branch = {
    id: 'far',
    asks: `Farther from home than ${formatQuantity(near, 'm', units, 0)}?`,
    otherwise: `It goes home at the height it has, and ${rotors ? 'hovers' : 'circles'} or lands there.`,
  };
  return {
    asks: near > 0 ? [armed, flown, can, far] : [armed, flown, can],
    last: `It returns home as set, from every mode and from a route.${after}`,
  };
}
