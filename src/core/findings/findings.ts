import { type Finding, type FindingInput, finding, type Rule } from './rule.ts';
import { craftRules } from './rules/craft.ts';
import { lostLinkRules } from './rules/lostLink.ts';
import { outputsRules } from './rules/outputs.ts';
import { switchesRules } from './rules/switches.ts';
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
  ...switchesRules,
  ...craftRules,
  ...wiringRules,
  boardRules,
];

/** A fix is offered only when the board takes it: what a craft needs may lie beyond a setting's range. */
function withoutRefusedFix(found: Finding, { catalogue }: FindingInput): Finding {
  const edits = Object.entries(found.fix?.edits ?? {});
  if (edits.every(([key, value]) => catalogue.checkValue(key, value) === null)) return found;
  const { fix: _, ...rest } = found;
  return rest;
}

/** All findings, those that block flight first. */
export function findAll(input: FindingInput): Finding[] {
  const found = rules.flatMap((rule) => rule(input)).map((f) => withoutRefusedFix(f, input));
  return [...found.filter((f) => f.severity === 'blocks'), ...found.filter((f) => f.severity !== 'blocks')];
}
