import type { MountAngles } from '#core/calibration/mounting.ts';
import { type AccelCalibration, corrected } from '#core/calibration/sixPoses.ts';
import type { StillTime } from '#core/calibration/stillness.ts';
import type { Triple } from '#core/math/triple.ts';
import { heldAsSeen } from '#core/proofs/follows.ts';
import { type Proof, stateOf } from '#core/proofs/proofs.ts';
import type { HeldAs } from '#core/proofs/seen.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { settingOf } from '#core/settings/typed.ts';
import { useSampled } from '../../live/hooks.ts';
import { type HeldChip, useHeldChips } from '../../live/streams.ts';
import { recordProof } from '../../session.ts';
import { selectProofWorld } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';

/** What an accelerometer is set to mean by what it says. */
export function calibrationOf(values: Values, chip: 1 | 2): AccelCalibration {
  const of = (what: 'offset' | 'scale', usual: number): Triple => [
    settingOf(values, `accel.${chip}.${what}.x`) ?? usual,
    settingOf(values, `accel.${chip}.${what}.y`) ?? usual,
    settingOf(values, `accel.${chip}.${what}.z`) ?? usual,
  ];
  return { offset: of('offset', 0), scale: of('scale', 1) };
}

const HANGS =
  'The chip says one and the same number: it hangs, or its wire does. Take the power away and give it back; if it stays so, it is broken.';

/** How settings say that the board, or the compass against it, is turned. */
export const mountSet = (values: Values, of: 'mount' | 'compass' = 'mount'): MountAngles => ({
  rollDeg: settingOf(values, `${of}.roll`) ?? 0,
  pitchDeg: settingOf(values, `${of}.pitch`) ?? 0,
  yawDeg: settingOf(values, `${of}.yaw`) ?? 0,
});

export interface Holding {
  readonly chips: readonly HeldChip[];
  readonly fault: string | null;
  /** Still at this moment: of the first chip; null while it moves. */
  readonly still: StillTime | null;
  /** What the first chip feels now, m/s^2, its own axes. */
  readonly force: Triple | null;
  /** How much of the time that is asked for it has been still, 0 to 1. */
  readonly progress: number;
}

/** The craft in hands: what the chips feel, and whether it is still. */
export function useHolding(): Holding {
  const { chips, fault } = useHeldChips();
  const now = useSampled(
    () => ({
      still: chips[0]!.still(),
      force: chips[0]!.force,
      progress: chips[0]!.watch.progress,
      hangs: chips.some((c) => c.watch.hangs),
    }),
    100,
  );
  return { chips, fault: fault ?? (now.hangs ? HANGS : null), ...now };
}

/** Keeps what every chip feels in a gesture or pose; false while one of them moves. */
export function keepHeld(as: HeldAs, chips: readonly HeldChip[]): boolean {
  const stills = chips.map((c) => c.still());
  if (stills.some((s) => s === null)) return false;
  const all = stills as StillTime[];
  recordProof({
    kind: 'held',
    as,
    chips: all.map((s) => [...s.force]),
    seconds: all[0]!.toS - all[0]!.fromS,
  });
  return true;
}

/** What the chips felt in gestures or poses that still hold. */
export function useHeldAs(names: readonly HeldAs[]): Readonly<Partial<Record<HeldAs, readonly Triple[]>>> {
  const proofs = useApp((s) => s.craft.proofs);
  const world = useApp(selectProofWorld);
  if (!world) return {};
  return Object.fromEntries(
    names.flatMap((name) => {
      const seen = heldAsSeen(name, proofs, world);
      return seen ? [[name, seen.chips]] : [];
    }),
  );
}

/** The proof of a name where it still holds; null else. */
export function useProven(id: string): Proof | null {
  const proof = useApp((s) => s.craft.proofs.find((p) => p.id === id));
  const world = useApp(selectProofWorld);
  return world && stateOf(proof, world) === 'proven' ? proof! : null;
}

/** A force as the chip means it. */
export const meant = (values: Values, chip: 1 | 2, said: Triple): Triple =>
  corrected(calibrationOf(values, chip), said);
