import { EMPTY_BOOK } from '../field/fieldBook.ts';
import type { StationId } from '../findings/rule.ts';
import type { CraftFile } from '../formats/craftFile.ts';
import type { Catalogue, Values } from '../settings/catalogue.ts';

/** A second craft of the same kind: what of a set-up goes over to it, and what is of the one board and frame alone. */

export interface ToTeach {
  readonly name: string;
  readonly why: string;
  readonly station: StationId;
  readonly keys: RegExp;
  /** It goes back to its default; else it is taken over as a beginning, and is to be looked at. */
  readonly anew: boolean;
}

/** What was learnt on one craft and is not the same on another, in the order in which it is done. */
export const toTeach: readonly ToTeach[] = [
  {
    ...{ name: 'Accelerometer', station: 'poses', keys: /^accel\./, anew: true },
    why: 'Offsets and scales are of the one chip.',
  },
  {
    ...{ name: 'Level', station: 'level', keys: /^mount\.level(Roll|Pitch)$/, anew: true },
    why: 'No two boards are stuck in alike.',
  },
  {
    ...{
      name: 'Compass',
      station: 'compass',
      keys: /^compass\.([xyz]{1,2}|strength|perAmp\.[xyz])$/,
      anew: true,
    },
    why: 'What the craft itself does to it hangs on every wire.',
  },
  {
    ...{ name: 'Airspeed', station: 'airspeed', keys: /^pitot\.(zero|scale)$/, anew: true },
    why: 'The zero is of the one sensor, the scale of where its tube stands.',
  },
  {
    ...{
      name: 'Battery sensing',
      station: 'volts',
      keys: /^battery\.(scale|currentScale|currentOffset)$/,
      anew: true,
    },
    why: 'Dividers and shunts differ by some per cent.',
  },
  {
    ...{
      name: 'Range and flow',
      station: 'everything',
      keys: /^(range\.(offset|scale)|flow\.scale)$/,
      anew: true,
    },
    why: 'They are of the one sensor and its place.',
  },
  {
    ...{ name: 'Throws', station: 'throws', keys: /^out\.\d+\.(low|centre|high|reversed)$/, anew: false },
    why: 'Servo arms and rods are set by hand: ends and middles are a beginning, and each way is to be seen.',
  },
];

/** Of these, what this set-up has otherwise than by default, with how many settings. */
export function taughtHere(
  values: Values,
  catalogue: Catalogue,
): readonly (ToTeach & { readonly settings: number })[] {
  return toTeach.flatMap((t) => {
    const settings = catalogue.entries.filter(
      (e) => t.keys.test(e.key) && values[e.key] !== undefined && values[e.key] !== e.default,
    ).length;
    return settings > 0 ? [{ ...t, settings }] : [];
  });
}

/**
 * A twin: shape, wiring, modes, gains, route and layouts go over; what was taught, proven, flown and lost does not.
 * @param values all settings as they are drafted
 */
export function twinOf(file: CraftFile, values: Values, catalogue: Catalogue, name: string): CraftFile {
  const fresh = toTeach.filter((t) => t.anew);
  const settings: Record<string, CraftFile['settings'][string]> = {};
  for (const [key, value] of Object.entries(values)) {
    const entry = catalogue.entry(key);
    settings[key] = entry && fresh.some((t) => t.keys.test(key)) ? entry.default : value;
  }
  const { bench: _, lost: __, field: ___, ...rest } = file;
  const board = { ...file.board, serial: '' };
  return {
    ...rest,
    name,
    board,
    airframe: { ...file.airframe, name },
    settings,
    ...{ edits: {}, proofs: [], notes: '' },
    field: { kit: [...EMPTY_BOOK.kit], signOffs: [], flown: [] },
  };
}
