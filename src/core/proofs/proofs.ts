import * as z from 'zod';
import { type ActuatorId, type Airframe, actuatorsOf, motorIds, surfaceIds } from '../airframe/airframe.ts';
import type { Values } from '../settings/catalogue.ts';
import { fingerprintOf } from '../settings/fingerprint.ts';

export const tilts = ['roll-right', 'roll-left', 'nose-up', 'nose-down'] as const;
export type Tilt = (typeof tilts)[number];
export const stickNames = ['roll', 'pitch', 'throttle', 'yaw'] as const;
export type StickName = (typeof stickNames)[number];

/** Something a person saw on the bench, with what it was measured on and what it depends on. */
export const proofSchema = z.object({
  id: z.string().max(60),
  at: z.string().max(40),
  /** Serial number of the board it was seen on. */
  board: z.string().max(40),
  fingerprint: z.string().max(16),
  seen: z.discriminatedUnion('kind', [
    z.object({
      kind: z.literal('moved'),
      output: z.number().int().min(1).max(32),
      actuator: z.enum([...motorIds, ...surfaceIds]),
      first: z.enum(['down', 'up', 'left', 'right', 'turned']),
    }),
    z.object({ kind: z.literal('still'), output: z.number().int().min(1).max(32) }),
    z.object({
      kind: z.literal('opposes'),
      tilt: z.enum(tilts),
      tiltDeg: z.number(),
      surfaces: z.array(z.enum(surfaceIds)).max(12),
    }),
    z.object({
      kind: z.literal('stick'),
      stick: z.enum(stickNames),
      channel: z.number().int().min(1).max(16),
      fromUs: z.number(),
      toUs: z.number(),
    }),
  ]),
});
export type Proof = z.infer<typeof proofSchema>;
export type Seen = Proof['seen'];
export type ProofState = 'none' | 'proven' | 'stale';

/** The name under which a proof is kept: a newer one of the same name takes its place. */
export function proofId(seen: Seen): string {
  switch (seen.kind) {
    case 'moved':
    case 'still':
      return `output.${seen.output}`;
    case 'opposes':
      return `opposes.${seen.tilt}`;
    case 'stick':
      return `stick.${seen.stick}`;
  }
}

/** Settings on which what was seen depends; when one of them changes, the proof is stale. */
export function dependsOn(seen: Seen, values: Values): string[] {
  switch (seen.kind) {
    case 'moved':
    case 'still':
      return [`out.${seen.output}.drives`, `out.${seen.output}.reversed`];
    case 'opposes':
      return Object.keys(values).filter(
        (k) => /^out\.\d+\.(drives|reversed)$/.test(k) || /^(mix|mount)\./.test(k) || k === 'craft.kind',
      );
    case 'stick':
      return [`rx.${seen.stick}.channel`, ...(seen.stick === 'pitch' ? ['rx.pitch.pullHigh'] : [])];
  }
}

export function makeProof(seen: Seen, values: Values, board: string, at: string): Proof {
  return { id: proofId(seen), at, board, seen, fingerprint: fingerprintOf(values, dependsOn(seen, values)) };
}

export function stateOf(proof: Proof | undefined, values: Values): ProofState {
  if (!proof) return 'none';
  return proof.fingerprint === fingerprintOf(values, dependsOn(proof.seen, values)) ? 'proven' : 'stale';
}

/** A proof set with one more; an older one of the same name goes. */
export function withProof(proofs: readonly Proof[], proof: Proof): Proof[] {
  return [...proofs.filter((p) => p.id !== proof.id), proof];
}

/** The proof that an actuator was seen to move on the output that drives it. */
export function movedProof(proofs: readonly Proof[], actuator: ActuatorId): Proof | undefined {
  return proofs.find((p) => p.seen.kind === 'moved' && p.seen.actuator === actuator);
}

/** Several proof states as one: the worst that is there, `none` while any is missing. */
export function together(states: readonly ProofState[]): ProofState {
  if (states.includes('stale')) return 'stale';
  return states.length > 0 && states.every((s) => s === 'proven') ? 'proven' : 'none';
}

/** Whether every actuator of a craft was seen to answer the right way. */
export function movesProven(airframe: Airframe, proofs: readonly Proof[], values: Values): ProofState {
  return together(actuatorsOf(airframe).map((id) => stateOf(movedProof(proofs, id), values)));
}
