import { type WalkLine, walkLines } from '#core/field/walk.ts';
import type { ProgressInput } from '../../station.ts';

/** The walk as it is now, by what the shell knows. @param launchMps where it is told how fast it is thrown */
export const linesOf = (p: ProgressInput, now: Date, launchMps?: number): readonly WalkLine[] =>
  walkLines({
    world: p.world,
    proofs: p.proofs,
    blocking: p.findings.filter((f) => f.severity === 'blocks').map((f) => `${f.title}.`),
    waiting: p.boardMet ? p.pendingKeys.length : null,
    launchMps,
    units: p.units,
    now,
  });
