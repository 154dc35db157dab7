import { type Airframe, actuatorsOf, isRotorcraft } from '../airframe/airframe.ts';
import { hoverOf, stallSpeed } from '../airframe/performance.ts';
import {
  homeProven,
  movesProven,
  type Proof,
  type ProofState,
  type ProofWorld,
  stateOf,
  stickNames,
  tilts,
  together,
} from '../proofs/proofs.ts';
import { answersTilt } from '../proofs/surfaceAnswers.ts';
import type { Values } from '../settings/catalogue.ts';
import { type Finding, outputsOf } from './rule.ts';
import { type LegId, legs, type StationId } from './stations.ts';

/** How far a station or leg is: nothing done, set and on the board, seen and still true, changed since, blocked. */
export type Progress = 'open' | 'set' | 'proven' | 'stale' | 'blocked';

export interface ProgressInput {
  /** All that proofs rest on, craft and drafted settings among it. */
  readonly world: ProofWorld;
  readonly proofs: readonly Proof[];
  readonly findings: readonly Finding[];
  /** A board was met and its settings are those shown. */
  readonly boardMet: boolean;
  /** A snapshot of these very settings is kept. */
  readonly kept: boolean;
  /** Edits wait to be written. */
  readonly pendingKeys: readonly string[];
}

/** Whether the gains look as if they were computed for this craft, or tuned on it. */
function startedFor(airframe: Airframe, values: Values): boolean {
  const near = (key: string, wanted: number) => Math.abs((values[key] as number) / wanted - 1) < 0.15;
  if (values['craft.kind'] !== airframe.kind) return false;
  return isRotorcraft(airframe)
    ? near('hover.throttle', hoverOf(airframe).throttle)
    : near('rate.reference', 1.8 * stallSpeed(airframe));
}

const fromProof = (state: ProofState): Progress => (state === 'none' ? 'open' : state);

function ownState(station: StationId, p: ProgressInput): Progress {
  const written = (pattern: RegExp): Progress =>
    p.boardMet && !p.pendingKeys.some((k) => pattern.test(k)) ? 'set' : 'open';
  switch (station) {
    case 'board':
      return p.boardMet ? 'proven' : 'open';
    case 'keep':
      return p.kept ? 'set' : 'open';
    case 'firmware':
      return p.boardMet ? 'set' : 'open';
    case 'airframe':
      return 'set';
    case 'wiring': {
      const driven = new Set(outputsOf(p.world.values).map((o) => o.drives));
      return actuatorsOf(p.world.airframe).every((id) => driven.has(id)) ? 'set' : 'open';
    }
    case 'starting-values':
      return startedFor(p.world.airframe, p.world.values) ? written(/^(rate|level|nav|motor)\./) : 'open';
    case 'which-moved':
      return fromProof(movesProven(p.proofs, p.world));
    case 'sticks':
      return fromProof(
        together(
          stickNames.map((s) =>
            stateOf(
              p.proofs.find((x) => x.id === `stick.${s}`),
              p.world,
            ),
          ),
        ),
      );
    case 'switches':
      return written(/^(arm|mode)\./);
    case 'opposes':
      if (!answersTilt(p.world.airframe)) return 'set';
      return fromProof(
        together(
          tilts.map((t) =>
            stateOf(
              p.proofs.find((x) => x.id === `opposes.${t}`),
              p.world,
            ),
          ),
        ),
      );
    case 'lost-link':
      return written(/^lost\./);
    case 'way-home':
      return written(/^(return|loiter)\./);
    case 'one-flight':
      return fromProof(homeProven('flight', p.proofs, p.world));
    case 'many-winds':
      return fromProof(homeProven('winds', p.proofs, p.world));
    case 'trust':
      return 'set';
  }
}

export function stationProgress(station: StationId, p: ProgressInput): Progress {
  if (p.findings.some((f) => f.station === station && f.severity === 'blocks')) return 'blocked';
  return ownState(station, p);
}

/** A leg is as far as its least station; blocked and stale win over open. */
export function legProgress(leg: LegId, p: ProgressInput): Progress {
  const stations = legs.find((l) => l.id === leg)!.stations;
  const states = stations.map((s) => stationProgress(s.id, p));
  if (states.includes('blocked')) return 'blocked';
  if (states.includes('stale')) return 'stale';
  if (states.length === 0 || states.includes('open')) return 'open';
  return states.includes('proven') ? 'proven' : 'set';
}
