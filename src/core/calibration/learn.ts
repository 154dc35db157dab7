import { mean, spread } from '../analysis/spread.ts';
import type { SamplesTable } from '../formats/samplesTable.ts';
import { tripleAt } from '../formats/samplesTable.ts';
import { Matrix3 } from '../math/matrix3.ts';
import { DEG } from '../math/scalar.ts';
import type { Triple } from '../math/triple.ts';
import type { Values } from '../settings/catalogue.ts';
import { type FieldSample, fitCompass, type ModelField } from './compassFit.ts';
import { LEVEL_MOST_DEG, levelTrimFrom } from './levelTrim.ts';
import { attitudeOfMount, confirmWing, type FoundMounting, mountingFrom, mountingWords } from './mounting.ts';
import { type PoseId, poseIds, poses } from './poses.ts';
import { currentFrom, voltageScaleFrom } from './power.ts';
import { corrected, fitPoses, lookAtPose, type PoseTaken } from './sixPoses.ts';
import { type StillTime, StillWatch } from './stillness.ts';

export const lessons = ['mounting', 'poses', 'level', 'compass', 'voltage', 'current'] as const;
export type LessonId = (typeof lessons)[number];

/** What follows from recorded samples: figures by name, and the edits that put the board right. */
type Answer =
  | {
      readonly ok: true;
      readonly says: string;
      /** SI, and degrees where a name ends with Deg. */
      readonly figures: Readonly<Record<string, number>>;
      readonly edits: Values;
    }
  | { readonly ok: false; readonly refused: string };
export type Learnt = Answer & { readonly lesson: LessonId };

/** Where the samples were taken, for lessons that need it. */
export interface LearnPlace {
  readonly model: ModelField;
  /** Settings that follow from the place: declination, strength. */
  readonly settings: Values;
}

/** The same lessons as on the bench, from samples that were recorded. Steps tell gestures, poses and loads apart. */
export const learnFrom = (lesson: LessonId, table: SamplesTable, place: LearnPlace | null): Learnt => ({
  ...teach[lesson](table, place),
  lesson,
});

const no = (refused: string): Answer => ({ ok: false, refused });
const yes = (says: string, figures: Record<string, number>, edits: Values): Answer => ({
  ok: true,
  says,
  figures,
  edits,
});

const teach: Readonly<Record<LessonId, (table: SamplesTable, place: LearnPlace | null) => Answer>> = {
  mounting(table) {
    const found = mountingOf(table);
    if ('refused' in found) return no(found.refused);
    const wing = stillIn(table, gestureStep(table, 'right-wing-down'));
    const seen = wing && confirmWing(found.attitude, wing.force);
    if (seen && seen.kind !== 'fits') return no(wingWords[seen.kind]);
    const { lies, arrow } = mountingWords(found.square);
    const { rollDeg, pitchDeg, yawDeg } = found.square;
    return yes(
      `The board lies ${lies}, ${arrow}${wing ? '; the wing confirms it' : '; no step right-wing-down confirms it'}.`,
      { fineDeg: found.fineDeg, nextDeg: found.nextDeg, liftDeg: found.liftDeg, confirmed: wing ? 1 : 0 },
      { 'mount.roll': rollDeg, 'mount.pitch': pitchDeg, 'mount.yaw': yawDeg },
    );
  },

  poses(table) {
    const taken = posesOf(table);
    if ('refused' in taken) return no(taken.refused);
    const fit = fitPoses(taken);
    if ('refused' in fit) return no(fit.refused);
    const { offset, scale } = fit.calibration;
    return yes(
      `Each pose is within ${fit.worstAfter.toFixed(3)} m/s² of gravity; it was ${fit.worstBefore.toFixed(2)} before.`,
      {
        worstBefore: fit.worstBefore,
        worstAfter: fit.worstAfter,
        ...Object.fromEntries(poseIds.map((p) => [`after ${p}`, fit.after[p]])),
      },
      Object.fromEntries(
        axes.flatMap((k, i) => [
          [`accel.1.offset.${k}`, Math.round(offset[i]! * 1000) / 1000],
          [`accel.1.scale.${k}`, fine(scale[i]!)],
        ]),
      ),
    );
  },

  level(table) {
    const steps = stepsOf(table);
    const unnamed = steps.filter((s) => !isNamed(s));
    const still = stillIn(table, steps.includes('level') ? 'level' : (unnamed.at(-1) ?? ''));
    if (!still)
      return no('No row tells the attitude that is to be level: a step named level, held still for 1.2 s.');
    const mount = steps.includes('flat') ? mountingOf(table) : null;
    if (mount && 'refused' in mount) return no(mount.refused);
    // With all six poses in the file the chip is taught first.
    const taken = poseIds.every((id) => steps.includes(id)) ? posesOf(table) : null;
    const fit = taken && !('refused' in taken) ? fitPoses(taken) : null;
    const force = fit && !('refused' in fit) ? corrected(fit.calibration, still.force) : still.force;
    const square = attitudeOfMount(mount?.square ?? asItIsTold);
    const trim = levelTrimFrom(Matrix3.fromQuaternion(square).times(force));
    if (!trim)
      return no(
        `That is more than ${LEVEL_MOST_DEG} degrees from how the board is mounted; nobody cruises so. With steps flat and nose-up the mounting is found from the same file.`,
      );
    return yes(
      `Nose ${trim.pitchDeg.toFixed(1)} degrees up and right wing ${trim.rollDeg.toFixed(1)} degrees down count as level.`,
      { pitchDeg: trim.pitchDeg, rollDeg: trim.rollDeg },
      { 'mount.levelPitch': tenth(trim.pitchDeg), 'mount.levelRoll': tenth(trim.rollDeg) },
    );
  },

  compass(table, place) {
    const samples: FieldSample[] = [];
    for (let row = 0; row < table.rows; row++) {
      const field = tripleAt(table, ['mx', 'my', 'mz'], row);
      if (field) samples.push({ field, force: tripleAt(table, ['ax', 'ay', 'az'], row) });
    }
    if (samples.length === 0) return no('It has no columns mx_ut, my_ut and mz_ut with values.');
    const fit = fitCompass(samples, place?.model ?? null);
    if ('refused' in fit) return no(fit.refused);
    const { offset, matrix } = fit.calibration;
    const aligned = fit.alignment?.clear ? fit.alignment.square : null;
    return yes(
      `A heading is within ${(fit.headingError / DEG).toFixed(1)} degrees (one sigma), ${(100 * fit.residual).toFixed(1)} % of the field is left over, ${fit.ironSize.toFixed(1)} µT is the craft's own.`,
      {
        coverage: fit.coverage,
        residual: fit.residual,
        strengthUt: fit.strength,
        ironUt: fit.ironSize,
        dipDeg: fit.dip / DEG,
        headingErrorDeg: fit.headingError / DEG,
      },
      {
        ...Object.fromEntries(axes.map((k, i) => [`compass.${k}`, tenth(offset[i]!)])),
        'compass.xx': fine(matrix.rows[0][0]),
        'compass.yy': fine(matrix.rows[1][1]),
        'compass.zz': fine(matrix.rows[2][2]),
        'compass.xy': fine(matrix.rows[0][1]),
        'compass.xz': fine(matrix.rows[0][2]),
        'compass.yz': fine(matrix.rows[1][2]),
        ...(aligned && {
          'compass.roll': aligned.rollDeg,
          'compass.pitch': aligned.pitchDeg,
          'compass.yaw': aligned.yawDeg,
        }),
        ...place?.settings,
      },
    );
  },

  voltage(table) {
    const board = valuesOf(table, 'voltage');
    const meter = knownOf(table, 'meter').filter(Number.isFinite);
    if (board.length === 0 || meter.length === 0)
      return no(
        'It needs the columns voltage_v (the board) and meter_v (the meter); a step that is a number counts for the meter as well.',
      );
    const [boardV, meterV] = [mean(board), mean(meter)];
    const found = voltageScaleFrom(boardV, meterV, 1, spread(board));
    if ('refused' in found) return no(found.refused);
    return yes(
      `The board says ${(100 * Math.abs(found.offByShare)).toFixed(1)} % too ${found.offByShare < 0 ? 'little' : 'much'}.`,
      { scale: found.scale, offByShare: found.offByShare, boardV, meterV },
      { 'battery.scale': Math.round(found.scale * 1000) / 1000 },
    );
  },

  current(table) {
    const said = table.columns.get('current');
    const known = knownOf(table, 'known');
    const rows = Array.from(known, (_, i) => i).filter(
      (i) => Number.isFinite(known[i]!) && Number.isFinite(said?.[i]),
    );
    if (!said || rows.length === 0)
      return no(
        'It needs the columns current_a (the board) and known_a (what flowed); a step that is a number counts for what flowed as well.',
      );
    const flowed = rows.map((i) => known[i]!);
    const middle = (Math.min(...flowed) + Math.max(...flowed)) / 2;
    const reading = (more: boolean) => {
      const part = rows.filter((i) => known[i]! > middle === more);
      return { boardA: mean(part.map((i) => said[i]!)), knownA: mean(part.map((i) => known[i]!)) };
    };
    const found = currentFrom(reading(false), reading(true), { scale: 1, offset: 0 });
    if ('refused' in found) return no(found.refused);
    return yes(
      `Current is ${found.scale.toFixed(3)} times what the board says less ${found.offset.toFixed(2)} A.`,
      { scale: found.scale, offsetA: found.offset },
      {
        'battery.currentScale': Math.round(found.scale * 200) / 200,
        'battery.currentOffset': Math.round(found.offset * 20) / 20,
      },
    );
  },
};

const axes = ['x', 'y', 'z'] as const;
/** A board that lies as its arrow says. */
const asItIsTold = { rollDeg: 0, pitchDeg: 0, yawDeg: 0 };

const wingWords = {
  opposite:
    'In the step right-wing-down the left wing went down, or the nose was lowered instead of lifted: repeat the gestures.',
  'other-axis': 'In the step right-wing-down it was tilted about another axis: repeat the gestures.',
  'too-little': 'In the step right-wing-down it hardly leant: tip it by 20 degrees at least.',
} as const;

/**
 * The six poses of a file. Steps that have a pose's name have to show it, by the mounting that flat and nose up tell; steps of
 * other names are taken for what they show of a board that lies as it is told.
 */
function posesOf(table: SamplesTable): PoseTaken | { readonly refused: string } {
  const steps = stepsOf(table);
  const named = steps.filter(isPose);
  const found = named.length > 0 ? mountingOf(table) : null;
  if (found && 'refused' in found) return found;
  const square = attitudeOfMount(found?.square ?? asItIsTold);
  const taken: Partial<Record<PoseId, Triple>> = {};
  for (const step of named.length > 0 ? named : steps) {
    const still = stillIn(table, step);
    if (!still) return { refused: `The step ${step} was not held still for 1.2 s. Take it again.` };
    const look = lookAtPose(still, square, taken);
    if (look.kind === 'refused') return { refused: `In the step ${step}: ${look.says}` };
    if (isPose(step) && look.pose !== step)
      return { refused: `The step ${step} shows the craft ${poses[look.pose].name}. Take it again.` };
    taken[look.pose] = still.force;
  }
  const missing = poseIds.find((id) => !taken[id]);
  return missing ? { refused: `The pose ${missing} is missing. Six are wanted.` } : (taken as PoseTaken);
}

const isPose = (step: string): step is PoseId => (poseIds as readonly string[]).includes(step);

function mountingOf(table: SamplesTable): FoundMounting | { readonly refused: string } {
  const flat = stillIn(table, gestureStep(table, 'flat'));
  const up = stillIn(table, gestureStep(table, 'nose-up'));
  if (!flat || !up)
    return { refused: `The step ${flat ? 'nose-up' : 'flat'} is missing, or was not held still for 1.2 s.` };
  return (
    mountingFrom(flat.force, up.force) ?? {
      refused: 'The nose was lifted by too little, or by too much, to tell: between 20 and 60 degrees.',
    }
  );
}

const gestures = ['flat', 'nose-up', 'right-wing-down'] as const;

/** Steps that mean something by their name. */
const isNamed = (step: string) =>
  (gestures as readonly string[]).includes(step) || isPose(step) || step === 'level';

/** Steps in the order in which they begin. */
const stepsOf = ({ steps }: SamplesTable) => [...new Set(steps)].filter((s) => s !== '');

/** The step of a gesture: by its name, or, where none has such a name, by its place in the order of gestures. */
function gestureStep(table: SamplesTable, gesture: (typeof gestures)[number]): string {
  const steps = stepsOf(table);
  return steps.some(isNamed) ? gesture : (steps[gestures.indexOf(gesture)] ?? gesture);
}

/** What was known at each row: of a column, or of a step that is a number. */
function knownOf(table: SamplesTable, column: string): readonly number[] {
  const told = table.columns.get(column);
  return told
    ? Array.from(told)
    : table.steps.map((s) => (/^-?\d+(\.\d+)?$/.test(s) ? Number(s) : Number.NaN));
}

/** How often a record is looked at for a still time, samples. */
const LOOK_EVERY = 10;

/** The stillest time of a step; null where it moves all the while. */
function stillIn(table: SamplesTable, step: string): StillTime | null {
  const watch = new StillWatch();
  let best: StillTime | null = null;
  const t = table.columns.get('t');
  let n = 0;
  for (let row = 0; row < table.rows; row++) {
    if (table.steps[row] !== step) continue;
    const force = tripleAt(table, ['ax', 'ay', 'az'], row);
    if (!force || !t) continue;
    watch.push(t[row]!, force, tripleAt(table, ['gx', 'gy', 'gz'], row));
    if (++n % LOOK_EVERY !== 0) continue;
    const still = watch.still();
    if (still && (!best || still.spread < best.spread)) best = still;
  }
  const last = watch.still();
  return last && (!best || last.spread < best.spread) ? last : best;
}

const valuesOf = ({ columns }: SamplesTable, name: string) =>
  Array.from(columns.get(name) ?? []).filter(Number.isFinite);
const tenth = (v: number) => Math.round(v * 10) / 10 + 0;
const fine = (v: number) => Math.round(v * 10_000) / 10_000 + 0;
