import { createSelector } from '@reduxjs/toolkit';
import { knownDescription } from '#core/board/boardRef.ts';
import type { BoardDescription } from '#core/board/description.ts';
import { findAll } from '#core/findings/findings.ts';
import type { ProgressInput } from '#core/findings/progress.ts';
import type { Finding } from '#core/findings/rule.ts';
import { parseAsciiGrid } from '#core/formats/asciiGrid.ts';
import { type CraftFile, writeCraftFile } from '#core/formats/craftFile.ts';
import { contentName, type Snapshot } from '#core/formats/history.ts';
import { MOSSVIK, TORVHOLM } from '#core/formats/scenario.ts';
import { eastOf, northOf } from '#core/navigation/earth.ts';
import type { ProofWorld } from '#core/proofs/proofs.ts';
import { Catalogue, type Values } from '#core/settings/catalogue.ts';
import { changesOf, drafted } from '#core/settings/draft.ts';
import torvholmText from '#demo/terrain/torvholm-map.asc?raw';
import type { ToFly } from '../workers/workshop.worker.ts';
import type { AppState } from './store.ts';

/** Ground of Torvholm by its highest point in each 90 m, and home at Mossvik on it, m from the grid's centre. */
export const torvholm = parseAsciiGrid(torvholmText);
export const homeOnGround = {
  terrain: torvholm,
  homeEastM: eastOf(TORVHOLM.lat, TORVHOLM.lon, MOSSVIK.lon),
  homeNorthM: northOf(TORVHOLM.lat, MOSSVIK.lat),
};

const settings = (s: AppState) => s.settings;
export const selectCatalogue = createSelector(
  [(s: AppState) => s.settings.entries, (s: AppState) => s.settings.rules],
  (entries, rules) => new Catalogue(entries, rules),
);

/** Board copy with the waiting edits laid over it. */
export const selectValues = createSelector(
  [(s: AppState) => s.settings.base, (s: AppState) => s.settings.draft.edits],
  (base, edits) => drafted(base, edits),
);

export const selectChanges = createSelector([selectCatalogue, settings], (catalogue, s) =>
  changesOf(catalogue, s.base, s.draft.edits),
);

/** What the board that the craft is for says of itself, or what is known of its make; null where nothing is. */
export const selectDescription = createSelector(
  [(s: AppState) => s.board.description, (s: AppState) => s.craft.file?.board.target],
  (met, target): BoardDescription | null => {
    if (target === undefined) return null;
    return met?.target === target ? met : knownDescription({ target });
  },
);

/** Whether the board on the cable is of the make that the craft is for. */
export const selectOnCable = (s: AppState): boolean =>
  s.board.link === 'ready' && s.board.identity?.target === s.craft.file?.board.target;

const NO_FINDINGS: readonly Finding[] = [];

export const selectFindings = createSelector(
  [
    selectCatalogue,
    selectValues,
    (s: AppState) => s.craft.airframe,
    (s: AppState) => selectDescription(s),
    (s: AppState) => s.craft.file?.wiring,
  ],
  (catalogue, values, airframe, description, wiring): readonly Finding[] => {
    if (!airframe || catalogue.entries.length === 0) return NO_FINDINGS;
    return findAll({
      airframe,
      values,
      catalogue,
      description: description ?? undefined,
      ground: homeOnGround,
      wiring,
    });
  },
);

/** What a rehearsal flies now; null before a craft is open. */
export function toFly(state: AppState): ToFly | null {
  const { airframe, file } = state.craft;
  if (!airframe || !file) return null;
  return {
    airframe,
    target: file.board.target,
    values: selectValues(state),
    truth: file.bench ?? null,
    scenario: state.rehearsal.scenario,
  };
}

/** All that proofs rest on, as it is now; null before a craft is open. */
export const selectProofWorld = createSelector(
  [
    selectValues,
    (s: AppState) => s.craft.airframe,
    (s: AppState) => s.craft.file?.board,
    (s: AppState) => selectDescription(s),
    (s: AppState) => s.craft.file?.bench,
    (s: AppState) => s.rehearsal.scenario,
  ],
  (values, airframe, board, description, built, scenario): ProofWorld | null =>
    airframe && board ? { values, airframe, board, description, built, scenario } : null,
);

export const selectProgress = createSelector(
  [
    selectProofWorld,
    (s: AppState) => s.craft.proofs,
    selectFindings,
    (s: AppState) => s.settings.baseFrom,
    (s: AppState) => s.settings.draft.edits,
    (s: AppState) => s.board.native ?? s.settings.base,
    (s: AppState) => s.history.snapshots,
  ],
  (world, proofs, findings, baseFrom, edits, base, snapshots): ProgressInput | null =>
    world && {
      world,
      proofs,
      findings,
      boardMet: baseFrom === 'board',
      kept: isKept(snapshots, base),
      pendingKeys: Object.keys(edits),
    },
);

const isKept = createSelector(
  [(snapshots: readonly Snapshot[]) => snapshots, (_: readonly Snapshot[], base: Values) => base],
  (snapshots, base) => {
    if (snapshots.length === 0) return false;
    const name = contentName(base);
    return snapshots.some((s) => s.content === name);
  },
);

/** The craft as it would be saved now, or null before one is open. */
export function craftFileNow(state: AppState): CraftFile | null {
  const { file, airframe, proofs } = state.craft;
  if (!file || !airframe) return null;
  return {
    ...file,
    airframe,
    settings: state.settings.base,
    edits: state.settings.draft.edits,
    proofs: [...proofs],
  };
}

export function craftTextNow(state: AppState): string | null {
  const craft = craftFileNow(state);
  return craft && writeCraftFile(craft);
}
