import * as z from 'zod';
import { parsed } from '#core/parsed.ts';
import { protocolNames } from '#core/sensors/receiverFrames.ts';
import { settingOf } from '#core/settings/typed.ts';
import type { SessionParts } from '../board/BoardSession.ts';
import type { Lesson } from '../board/ProcedureRunner.ts';
import { selectValues } from '../store/selectors.ts';
import { staged } from '../store/settingsSlice.ts';

const foundSchema = z.object({
  kind: z.enum(['found', 'garbage', 'silent']),
  protocol: z.string().max(20),
});

/** The board has listened for every protocol: the one that makes whole frames goes into the tray. */
export const receiverHeard =
  (store: SessionParts['store']): Lesson =>
  (_asked, found) => {
    const read = parsed(foundSchema, found);
    if (!read.success)
      throw new Error('What the board says it heard makes no sense here. Nothing was set; listen again.');
    const { kind, protocol } = read.data;
    if (kind === 'silent')
      return 'Nothing comes to this port: the receiver has no power or hangs on another port, its signal wire is off, or it is silent without its transmitter. Look at its lamp, and at Wiring.';
    if (kind === 'garbage')
      return 'Something comes, and no whole frame of any protocol that this board knows: its levels may be turned round for this port, or it speaks another protocol. See what the port can do in Wiring.';
    if (!Object.hasOwn(protocolNames, protocol))
      return `It speaks ${protocol}, which the board cannot be set to.`;
    const name = protocolNames[protocol as keyof typeof protocolNames];
    if (settingOf(selectValues(store.getState()), 'rx.protocol') === protocol)
      return `It speaks ${name}, as the board is set.`;
    store.dispatch(staged({ 'rx.protocol': protocol }));
    return `It speaks ${name}: that is in the tray. It takes effect with a restart.`;
  };
