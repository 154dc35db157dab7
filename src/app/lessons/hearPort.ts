import * as z from 'zod';
import { parsed } from '#core/parsed.ts';
import { settingOf } from '#core/settings/typed.ts';
import type { SessionParts } from '../board/BoardSession.ts';
import type { Lesson } from '../board/ProcedureRunner.ts';
import { selectValues } from '../store/selectors.ts';
import { staged } from '../store/settingsSlice.ts';

const speeds = ['9600', '38400', '57600', '115200'] as const;
const foundSchema = z.object({
  kind: z.enum(['found', 'garbage', 'silent']),
  baud: z.number(),
  crossed: z.boolean(),
});

/** The board has listened at every speed: the one that makes sentences goes into the tray. */
export const portHeard =
  (store: SessionParts['store']): Lesson =>
  (_asked, found) => {
    const read = parsed(foundSchema, found);
    if (!read.success)
      throw new Error('What the board says it heard makes no sense here. Nothing was set; listen again.');
    const { kind, baud, crossed } = read.data;
    if (kind === 'silent')
      return 'Nothing was heard at any speed, on either pad: the receiver has no power, or hangs on another port. Look at its plug, and at Wiring.';
    if (kind === 'garbage')
      return 'Bytes come at no speed that this board knows: the receiver speaks another, or something else hangs there.';
    const speed = speeds.find((s) => Number(s) === baud);
    if (!speed) return `It speaks at ${baud} baud, which the port cannot be set to.`;
    const wires = crossed
      ? ' Its two signal wires are swapped: cross them, since the board hears it on the pad that it sends on.'
      : '';
    if (settingOf(selectValues(store.getState()), 'gnss.baud') === speed)
      return `It speaks at ${baud} baud, as the port is set.${wires}`;
    store.dispatch(staged({ 'gnss.baud': speed }));
    return `It speaks at ${baud} baud: the port’s speed is in the tray.${wires}`;
  };
