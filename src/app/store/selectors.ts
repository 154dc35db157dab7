import { createSelector } from '@reduxjs/toolkit';
import { boardTitle, knownDescription, layoutOf } from '#core/board/boardRef.ts';
import type { BoardDescription } from '#core/board/description.ts';
import type { Checked } from '#core/findings/findings.ts';
import type { Finding } from '#core/findings/rule.ts';
import { type CraftFile, writeCraftFile } from '#core/formats/craftFile.ts';
import { contentName, type Snapshot } from '#core/formats/history.ts';
import { EMPTY_PLAN, type FlightPlan } from '#core/plan/plan.ts';
import type { ProofWorld } from '#core/proofs/proofs.ts';
import { Catalogue, type Values } from '#core/settings/catalogue.ts';
import { changesOf, drafted } from '#core/settings/draft.ts';
import { groundOf } from '#core/site/site.ts';
import type { ProgressInput } from '../legs/station.ts';
import type { ToFly } from '../workers/toFly.ts';
import { theRules } from './rules.ts';
import type { AppState } from './store.ts';

/** The ground about home; undefined where it is not known. */
const selectGround = (s: AppState) => (s.site.current ? groundOf(s.site.current) : undefined);

/** Route and fences of the craft. */
export const selectPlan = (s: AppState): FlightPlan => s.craft.file?.plan ?? EMPTY_PLAN;

const settings = (s: AppState) => s.settings;
export const selectCatalogue = createSelector(
  [(s: AppState) => s.settings.entries, (s: AppState) => s.settings.rules],
  (entries, rules) => new Catalogue(entries, rules),
);

/** Board copy with the waiting edits laid over it. */
export const selectValues = createSelector(
  [(s: AppState) => s.settings.base, (s: AppState) => s.settings.edits],
  (base, edits) => drafted(base, edits),
);

export const selectChanges = createSelector([selectCatalogue, settings], (catalogue, s) =>
  changesOf(catalogue, s.base, s.edits),
);

/** What the board that the craft is for says of itself, or what is known of its make; null where nothing is. */
export const selectDescription = createSelector(
  [(s: AppState) => s.board.description, (s: AppState) => s.craft.file?.board.target],
  (met, target): BoardDescription | null => {
    if (target === undefined) return null;
    return met?.target === target ? met : knownDescription({ target });
  },
);

/** What the board that the craft is for is made of; null for a make that neither it nor anything here tells of. */
export const selectLayout = createSelector([selectDescription], (d) => layoutOf(d));

/** Whether the board on the cable is of the make that the craft is for. */
export const selectOnCable = (s: AppState): boolean =>
  s.board.link === 'ready' && s.board.identity?.target === s.craft.file?.board.target;

/** All that proofs rest on, as it is now; null before a craft is open. */
export const selectProofWorld = createSelector(
  [
    selectValues,
    (s: AppState) => s.craft.airframe,
    (s: AppState) => s.craft.file?.board,
    (s: AppState) => selectDescription(s),
    (s: AppState) => s.craft.file?.bench,
    (s: AppState) => s.rehearsal.scenario,
    (s: AppState) => s.site.current,
    selectPlan,
  ],
  (values, airframe, board, description, built, scenario, site, plan): ProofWorld | null =>
    airframe && board && site ? { values, airframe, board, description, built, scenario, site, plan } : null,
);

const NOTHING_CHECKED: Checked = { found: [], lacking: [], started: false };

/** What the rules found, and what the board has no settings for. */
export const selectChecked = createSelector(
  [
    selectCatalogue,
    selectValues,
    (s: AppState) => s.craft.airframe,
    (s: AppState) => selectDescription(s),
    (s: AppState) => s.craft.file?.wiring,
    (s: AppState) => s.craft.file?.transmitter,
    selectGround,
    (s: AppState) => s.ui.units,
    (s: AppState) => s.site.current,
    selectProofWorld,
    (s: AppState) => s.craft.proofs,
    (s: AppState) => (selectOnCable(s) ? s.board.selfTest : null),
    (s: AppState) => (selectOnCable(s) ? s.board.live : null),
    (s: AppState) => s.fails.cells,
    selectPlan,
    (s: AppState) => (selectOnCable(s) ? s.board.plan : null),
    (s: AppState) => s.routes.thought?.problems,
    (s: AppState) => (s.ui.rulesThere ? theRules() : null),
  ],
  (
    catalogue,
    values,
    airframe,
    description,
    wiring,
    transmitter,
    ground,
    units,
    site,
    world,
    proofs,
    selfTest,
    live,
    fails,
    plan,
    held,
    routeProblems,
    check,
  ): Checked => {
    if (!check || !airframe || catalogue.entries.length === 0) return NOTHING_CHECKED;
    return check({
      airframe,
      values,
      catalogue,
      description: description ?? undefined,
      ground,
      units,
      site: site ?? undefined,
      wiring,
      transmitter,
      evidence: world ? { proofs, world } : undefined,
      selfTest: selfTest ?? undefined,
      live: live ?? undefined,
      fails: Object.values(fails),
      plan,
      boardPlan: held ?? undefined,
      routeProblems,
    });
  },
);

export const selectFindings = (s: AppState): readonly Finding[] => selectChecked(s).found;

/** What a rehearsal flies now; null before a craft is open. */
export function toFly(state: AppState): ToFly | null {
  const { airframe, file } = state.craft;
  const site = state.site.current;
  if (!airframe || !file || !site) return null;
  return {
    airframe,
    site,
    target: file.board.target,
    board: selectLayout(state),
    values: selectValues(state),
    truth: file.bench ?? null,
    scenario: state.rehearsal.scenario,
    plan: selectPlan(state),
  };
}

export const selectProgress = createSelector(
  [
    selectProofWorld,
    (s: AppState) => s.craft.proofs,
    selectChecked,
    (s: AppState) => s.settings.baseFrom,
    (s: AppState) => s.settings.edits,
    (s: AppState) => s.board.native ?? s.settings.base,
    (s: AppState) => s.board.lacks,
    (s: AppState) => s.history.snapshots,
    selectCatalogue,
    (s: AppState) => s.craft.file?.board,
    (s: AppState) => s.ui.units,
    (s: AppState) => s.ui.rulesThere,
  ],
  (
    world,
    proofs,
    checked,
    baseFrom,
    edits,
    base,
    lacks,
    snapshots,
    catalogue,
    board,
    units,
    rulesThere,
  ): ProgressInput | null =>
    // Without its rules nobody could say that all is well.
    world && rulesThere
      ? {
          world,
          proofs,
          findings: checked.found,
          started: checked.started,
          boardMet: baseFrom === 'board',
          has: (key) => catalogue.entry(key) !== undefined && !lacks.includes(key),
          kept: isKept(snapshots, base),
          pendingKeys: Object.keys(edits),
          boardName: baseFrom === 'board' && board ? boardTitle(board) : null,
          units,
        }
      : null,
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
    edits: state.settings.edits,
    proofs: [...proofs],
  };
}

export function craftTextNow(state: AppState): string | null {
  const craft = craftFileNow(state);
  return craft && writeCraftFile(craft);
}
