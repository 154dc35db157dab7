import { isRotorcraft } from '#core/airframe/airframe.ts';
import { trimLevel } from '#core/airframe/performance.ts';
import { type LevelCommand, TRIM_FLOWN_S, type TrimFlown, trimEdits } from '#core/calibration/surfaceTrim.ts';
import { aloftOverHome } from '#core/formats/scenario.ts';
import { onlyMode } from './outerFlown.ts';
import { Rehearsal, type RehearsalInput } from './rehearsal.ts';
import type { Refused } from './stepFlown.ts';

const HEIGHT_M = 120;
const LONGEST_S = 90;
const SETTLES_S = 6;
const STEPS = 1000;

function flyLevel(input: RehearsalInput): (LevelCommand & { seconds: number; speedMps: number }) | Refused {
  const { scenario: s, truth } = input;
  const { craft, result } = new Rehearsal({
    ...input,
    values: onlyMode(input.values, truth.channels.attitude, 'height'),
    scenario: aloftOverHome(s, HEIGHT_M),
  });
  if (result) return { refused: result.reason };
  const { controller } = craft.pfad;
  craft.radio.attitude = 2;
  for (let k = 0; k < SETTLES_S * STEPS; k++) craft.step();
  const { trim } = controller;
  trim.reset();
  for (let k = 0; k < LONGEST_S * STEPS && trim.seconds < TRIM_FLOWN_S && craft.aboveGround > 10; k++)
    craft.step();
  if (trim.seconds < TRIM_FLOWN_S)
    return { refused: `In ${LONGEST_S} s it was not straight and level for ${TRIM_FLOWN_S} of them.` };
  const { roll, pitch } = trim;
  return { roll, pitch, seconds: trim.seconds, speedMps: controller.airspeed };
}

/** Flown over home in the wind of the scenario, as it is set and then with the middles that came of it. */
export function flyTrim(input: RehearsalInput): TrimFlown | Refused {
  const { airframe, values } = input;
  if (isRotorcraft(airframe)) return { refused: 'Rotors have no surfaces to trim.' };
  const flown = flyLevel(input);
  if ('refused' in flown) return flown;
  const { roll, pitch, seconds, speedMps } = flown;
  const learnt = { roll, pitch };
  const edits = trimEdits(airframe, values, learnt);
  const again = flyLevel({ ...input, values: { ...values, ...edits } });
  if ('refused' in again) return again;
  const left = { roll: again.roll, pitch: again.pitch };
  return { learnt, seconds, speedMps, edits, left, modelPitch: trimLevel(airframe, speedMps)?.pitch ?? null };
}
