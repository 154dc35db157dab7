import type { ComponentType } from 'react';
import type { Finding, StationId } from '#core/findings/rule.ts';
import { type Proof, type ProofState, type ProofWorld, stateOf, together } from '#core/proofs/proofs.ts';
import type { SettingKey } from '#core/settings/typed.ts';
import type { UnitSystem } from '#core/units/units.ts';
import type { RequestKind } from '#core/wire/messages.ts';
import type { TelemetryGroup } from '#core/wire/telemetry.ts';

/** How far a station or leg is: nothing done, set and on the board, seen and still true, changed since, blocked. */
export type Progress = 'open' | 'set' | 'proven' | 'stale' | 'blocked';

export const progressWords: Readonly<Record<Progress, string>> = {
  open: 'open',
  set: 'set',
  proven: 'proven',
  stale: 'changed since',
  blocked: 'blocked',
};

export interface ProgressInput {
  /** All that proofs rest on, craft and drafted settings among it. */
  readonly world: ProofWorld;
  readonly proofs: readonly Proof[];
  readonly findings: readonly Finding[];
  /** Its values look as if they were computed for this craft. */
  readonly started: boolean;
  /** A board was met and its settings are those shown. */
  readonly boardMet: boolean;
  /** Whether the board has this setting. */
  readonly has: (key: string) => boolean;
  /** A snapshot of these very settings is kept. */
  readonly kept: boolean;
  /** Edits wait to be written. */
  readonly pendingKeys: readonly string[];
  /** What the board that was met calls itself; null before one was. */
  readonly boardName: string | null;
  readonly units: UnitSystem;
}

/** What a station cannot begin without. */
export type Need = 'board' | 'battery';

/**
 * A station of the walk, whole: trail, routes, keys, find, help and the tests of the views go by it. Its module is the
 * only place that names it, and is found by its file name, `*.station.ts`.
 */
export interface Station {
  readonly id: StationId;
  /** Its place among the stations of its leg: where people do it. */
  readonly place: number;
  readonly name: string;
  /** What is done here, in a sentence or two. */
  readonly about: string;
  /** What has to be at hand before it can begin. */
  readonly needs?: readonly Need[];
  /** Settings without which there is nothing to do here: a board that has them not is told so. */
  readonly requires?: readonly SettingKey[];
  /** What is asked of the board here: one that cannot do it is told so. */
  readonly asks?: readonly (RequestKind | TelemetryGroup)[];
  /** Keys of the settings that are made here. */
  readonly settings?: RegExp;
  /** What stands under its name: what was seen, or what it needs; null where how far it is says enough. */
  readonly small?: (p: ProgressInput, station: Station) => string | null;
  /** How far it is, but for findings that block it. */
  readonly progress: (p: ProgressInput, station: Station) => Progress;
  /** It is done once it is set, and there is something that proves it besides. */
  readonly provable?: true;
  /** Loads what is shown; begun when the station is first gone to. */
  readonly view: () => Promise<{ readonly default: ComponentType }>;
}

/** Set once none of its settings waits to be written to the board that was met. */
export function written(p: ProgressInput, station: Station): Progress {
  return p.boardMet && !p.pendingKeys.some((k) => station.settings?.test(k)) ? 'set' : 'open';
}

/** How many of its settings wait to be written, as a line; null where none do. */
export function waits(p: ProgressInput, station: Station): string | null {
  const n = p.pendingKeys.filter((k) => station.settings?.test(k)).length;
  return n === 0 ? null : `${n} ${n === 1 ? 'edit waits' : 'edits wait'}`;
}

/** Needs the board, as a line, before one was met. */
export const needsBoard = (p: ProgressInput): string | null => (p.boardMet ? null : 'needs the board');

/** The proof of a name, where it still holds. */
export function held(id: string, p: ProgressInput): Proof | null {
  const proof = p.proofs.find((x) => x.id === id);
  return stateOf(proof, p.world) === 'proven' ? proof! : null;
}

export const fromProof = (state: ProofState): Progress => (state === 'none' ? 'open' : state);

/** Of several proofs by their names: no better than the least. */
export const togetherOf = (ids: readonly string[], p: ProgressInput): ProofState =>
  together(
    ids.map((id) =>
      stateOf(
        p.proofs.find((x) => x.id === id),
        p.world,
      ),
    ),
  );
