import { endOf, type FailWorld, faultName, phaseNames } from '../../fails/failTable.ts';
import { isFresh } from '../../fails/prints.ts';
import { truthFromSettings } from '../../formats/benchTruth.ts';
import { finding, type Rule } from '../rule.ts';

const ENDS = { down: 'comes down where it is', lost: 'is lost', home: 'comes home' } as const;

/** A failure that was flown and ended badly, where a change of settings was flown as well and came home. */
const savedBySetting: Rule = ({ airframe, values, fails, evidence }) => {
  if (!fails || !evidence) return [];
  const { built, site, scenario, board, plan } = evidence.world;
  const world: FailWorld = {
    airframe,
    values,
    truth: built ?? truthFromSettings(airframe, values),
    site,
    scenario,
    fences: plan?.fences,
  };
  const saved = fails.filter((c) => c.saved && isFresh(c, world, board.target));
  return [...new Set(saved.map((c) => c.fault))].map((fault) => {
    const cells = saved.filter((c) => c.fault === fault);
    const { label, edits } = cells[0]!.saved!;
    const where = cells.map((c) => phaseNames[c.phase]).join(', ');
    const worst = cells.some((c) => endOf(c.verdict) === 'lost') ? 'lost' : 'down';
    return finding(
      `failure-saved.${fault}`,
      'caution',
      'if-it-fails',
      `If this happens it ${ENDS[worst]}, and a setting would bring it home: ${faultName(fault, airframe)}`,
      `It was flown (${where}). ${cells[0]!.reason} The same flight with “${label}” came home.`,
      Object.keys(edits),
      { label, edits },
    );
  });
};

export const failsRules: readonly Rule[] = [savedBySetting];
