import { startedFor } from '../settings/startingValues.ts';
import { type Finding, type FindingInput, finding, NoSetting, type Rule } from './rule.ts';
import { answersRules } from './rules/answers.ts';
import { controllerRules } from './rules/controllers.ts';
import { craftRules } from './rules/craft.ts';
import { dialRules } from './rules/dials.ts';
import { failsRules } from './rules/fails.ts';
import { lostLinkRules } from './rules/lostLink.ts';
import { outputsRules } from './rules/outputs.ts';
import { overlayRules } from './rules/overlay.ts';
import { routeRules } from './rules/routes.ts';
import { seenRules } from './rules/seen.ts';
import { senseRules } from './rules/sense.ts';
import { signalRules } from './rules/signals.ts';
import { siteRules } from './rules/site.ts';
import { switchesRules } from './rules/switches.ts';
import { throwRules } from './rules/throws.ts';
import { toldBackRules } from './rules/toldBack.ts';
import { wayHomeRules } from './rules/wayHome.ts';
import { wiringRules } from './rules/wiring.ts';

const boardRules: Rule = ({ values, catalogue }) =>
  // Ends of outputs have a rule of their own above, which says it better.
  catalogue
    .check(values)
    .filter((r) => !r.key.startsWith('out.'))
    .map((r) =>
      finding(
        `refused.${r.key}`,
        'blocks',
        'starting-values',
        `The board would refuse ${catalogue.entry(r.key)?.label ?? r.key}`,
        r.why,
        [r.key],
      ),
    );

const rules: readonly Rule[] = [
  ...lostLinkRules,
  ...wayHomeRules,
  ...outputsRules,
  ...throwRules,
  ...controllerRules,
  ...switchesRules,
  ...craftRules,
  ...siteRules,
  ...wiringRules,
  ...seenRules,
  ...senseRules,
  ...failsRules,
  ...routeRules,
  ...answersRules,
  ...dialRules,
  ...overlayRules,
  ...signalRules,
  ...toldBackRules,
  boardRules,
];

/** A fix is offered only when the board takes it: what a craft needs may lie beyond a setting's range. */
function withoutRefusedFix(found: Finding, { catalogue }: FindingInput): Finding {
  const edits = Object.entries(found.fix?.edits ?? {});
  if (edits.every(([key, value]) => catalogue.checkValue(key, value) === null)) return found;
  const { fix: _, ...rest } = found;
  return rest;
}

export interface Checked {
  /** Those that block flight first. */
  readonly found: readonly Finding[];
  /** Settings that the board does not have, so that rules about them were left out. */
  readonly lacking: readonly string[];
  /** Whether the values look as if they were computed for this craft, or tuned on it. */
  readonly started: boolean;
}

/** Looks at everything that can be looked at; a rule that asks for a setting that there is not is left out, and that is told. */
export function checkAll(input: FindingInput): Checked {
  const found: Finding[] = [];
  const lacking = new Set<string>();
  for (const rule of rules) {
    try {
      for (const f of rule(input)) found.push(withoutRefusedFix(f, input));
    } catch (error) {
      if (!(error instanceof NoSetting)) throw error;
      lacking.add(error.key);
    }
  }
  const blocks = (f: Finding) => f.severity === 'blocks';
  return {
    found: [...found.filter(blocks), ...found.filter((f) => !blocks(f))],
    lacking: [...lacking].sort(),
    started: startedFor(input.airframe, input.values),
  };
}

export const findAll = (input: FindingInput): readonly Finding[] => checkAll(input).found;
