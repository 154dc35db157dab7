import type { ActuatorId } from '../airframe/actuators.ts';
import { actuatorsOf } from '../airframe/airframe.ts';
import { type Proof, type ProofState, type ProofWorld, stateOf, together } from './proofs.ts';
import type { HeldAs, SeenAs } from './seen.ts';

/** What follows from what was seen to move, and from what was flown. */

/** The proof that an actuator was seen to move on the output that drives it. */
function movedProof(proofs: readonly Proof[], actuator: ActuatorId): Proof | undefined {
  return proofs.find((p) => p.seen.kind === 'moved' && p.seen.actuator === actuator);
}

/**
 * Whether every actuator of a craft was seen to answer the right way, and every other output that a pad has was asked as
 * well: what else moves with a stick is found only so.
 */
export function movesProven(proofs: readonly Proof[], w: ProofWorld): ProofState {
  const moved = actuatorsOf(w.airframe).map((id) => movedProof(proofs, id));
  const asked = (w.description?.pads ?? []).map((p) => proofs.find((x) => x.id === `output.${p.output}`));
  return together([...moved, ...asked].map((proof) => stateOf(proof, w)));
}

/** How many outputs of the board were asked and answered, and of how many. */
export function outputsAsked(proofs: readonly Proof[], w: ProofWorld): { asked: number; of: number } {
  const pads = w.description?.pads ?? [];
  const asked = pads.filter(
    (p) =>
      stateOf(
        proofs.find((x) => x.id === `output.${p.output}`),
        w,
      ) === 'proven',
  ).length;
  return { asked, of: pads.length };
}

/** Motors of rotors that were seen to turn the other way than the craft is described. */
export function turnsWrong(proofs: readonly Proof[], w: ProofWorld): ActuatorId[] {
  return w.airframe.motors.flatMap((m) => {
    const proof = movedProof(proofs, m.id);
    if (proof?.seen.kind !== 'moved' || stateOf(proof, w) !== 'proven') return [];
    const { first } = proof.seen;
    return (first === 'clockwise' || first === 'anticlockwise') && first !== m.spin ? [m.id] : [];
  });
}

/** Whether rehearsals came home on everything as it is now: `none` where the last ended otherwise. */
export function homeProven(id: 'flight' | 'winds', proofs: readonly Proof[], w: ProofWorld): ProofState {
  const proof = proofs.find((p) => p.id === id);
  const state = stateOf(proof, w);
  if (!proof || state !== 'proven') return state;
  const { seen } = proof;
  const home =
    seen.kind === 'flight'
      ? seen.verdict === 'home' && !seen.luck
      : seen.kind === 'winds' && seen.home === seen.total;
  return home ? 'proven' : 'none';
}

/** What the chips felt in a gesture or pose, where that still holds. */
export function heldAsSeen(as: HeldAs, proofs: readonly Proof[], w: ProofWorld): SeenAs<'held'> | null {
  const proof = proofs.find((p) => p.id === as);
  return proof?.seen.kind === 'held' && stateOf(proof, w) === 'proven' ? proof.seen : null;
}
