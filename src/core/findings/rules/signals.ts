import { stripFault, stripOutputs } from '../../signals/strip.ts';
import { finding, need, num, type Rule } from '../rule.ts';

/** A strip of lamps that hangs where it cannot be lit. */
const strip: Rule = ({ values, description }) => {
  need(values, 'light.lamps');
  need(values, 'light.output');
  if (!description) return [];
  const fault = stripFault(values, description);
  if (fault === null) return [];
  const free = stripOutputs(values, description);
  const now = num(values, 'light.output');
  return [
    finding(
      'strip-dark',
      'caution',
      'lights-sounds',
      'The lamps stay dark',
      fault,
      ['light.output', ...(now > 0 ? [`out.${now}.drives`] : [])],
      free.length > 0
        ? { label: `Hang it on output ${free[0]}`, edits: { 'light.output': free[0]! } }
        : { label: 'Fly without a strip', edits: { 'light.lamps': 0 } },
    ),
  ];
};

export const signalRules: readonly Rule[] = [strip];
