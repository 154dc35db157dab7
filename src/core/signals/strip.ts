import { layoutOf } from '../board/boardRef.ts';
import type { BoardDescription } from '../board/description.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingOf, settingsOf } from '../settings/typed.ts';

/** Where a strip of lamps may hang: its colours are frames of their own, which neither servos nor controllers share a timer with. */

const drives = (values: Values, output: number): string =>
  String(values[`out.${output}.drives`] ?? 'nothing');

/** Why a strip cannot hang on an output, as a sentence's end; null where it can. */
function whyNot(values: Values, description: BoardDescription, output: number): string | null {
  const pad = description.pads.find((p) => p.output === output);
  if (!pad) return `output ${output} has no pad on this board`;
  if (drives(values, output) !== 'nothing')
    return `output ${output} drives the ${drives(values, output).replaceAll('-', ' ')}`;
  const timer = layoutOf(description)?.timers.find((t) => t.n === pad.timer);
  if (timer && !timer.frames) return `the timer of output ${output} cannot send colours`;
  const other = description.pads.find(
    (p) => p.timer === pad.timer && p.output !== output && drives(values, p.output) !== 'nothing',
  );
  return other
    ? `output ${other.output} shares its timer, and drives the ${drives(values, other.output).replaceAll('-', ' ')}`
    : null;
}

/** Outputs that a strip may hang on as the board is set. */
export const stripOutputs = (values: Values, description: BoardDescription): readonly number[] =>
  description.pads.map((p) => p.output).filter((n) => whyNot(values, description, n) === null);

/** What is wrong with where the strip hangs, as a sentence; null where there is none, or it is well. */
export function stripFault(values: Values, description: BoardDescription): string | null {
  const s = settingsOf(values);
  if (settingOf(values, 'light.lamps') === undefined || s.number('light.lamps') === 0) return null;
  const output = s.number('light.output');
  if (output === 0) return 'Lamps are set, and no output is set for their strip: they stay dark.';
  const why = whyNot(values, description, output);
  return why === null ? null : `The strip hangs on output ${output}, but ${why}.`;
}
