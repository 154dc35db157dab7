import { type Airframe, actuatorsOf, isRotorcraft } from '../airframe/airframe.ts';
import { hoverOf, stallSpeed } from '../airframe/performance.ts';
import {
  movesProven,
  type Proof,
  type ProofState,
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

export type Rehearsed = 'home' | 'stale' | 'no';

export interface ProgressInput {
  readonly airframe: Airframe;
  readonly values: Values;
  readonly proofs: readonly Proof[];
  readonly findings: readonly Finding[];
  /** A board was met and its settings are those shown. */
  readonly boardMet: boolean;
  /** A snapshot of these very settings is kept. */
  readonly kept: boolean;
  /** Edits wait to be written. */
  readonly pendingKeys: readonly string[];
  /** The last rehearsal: came home on these very settings, on others, or has not. */
  readonly rehearsed: Rehearsed;
  /** The same of the last batch in many winds: every flight came home. */
  readonly batch: Rehearsed;
}

const rehearsalState = (r: Rehearsed): Progress =>
  r === 'home' ? 'proven' : r === 'stale' ? 'stale' : 'open';

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
      const driven = new Set(outputsOf(p.values).map((o) => o.drives));
      return actuatorsOf(p.airframe).every((id) => driven.has(id)) ? 'set' : 'open';
    }
    case 'starting-values':
      return startedFor(p.airframe, p.values) ? written(/^(rate|level|nav|motor)\./) : 'open';
    case 'which-moved':
      return fromProof(movesProven(p.airframe, p.proofs, p.values));
    case 'sticks':
      return fromProof(
        together(
          stickNames.map((s) =>
            stateOf(
              p.proofs.find((x) => x.id === `stick.${s}`),
              p.values,
            ),
          ),
        ),
      );
    case 'switches':
      return written(/^(arm|mode)\./);
    case 'opposes':
      if (!answersTilt(p.airframe)) return 'set';
      return fromProof(
        together(
          tilts.map((t) =>
            stateOf(
              p.proofs.find((x) => x.id === `opposes.${t}`),
              p.values,
            ),
          ),
        ),
      );
    case 'lost-link':
      return written(/^lost\./);
    case 'way-home':
      return written(/^(return|loiter)\./);
    case 'one-flight':
      return rehearsalState(p.rehearsed);
    case 'many-winds':
      return rehearsalState(p.batch);
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
