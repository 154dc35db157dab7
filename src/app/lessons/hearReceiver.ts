import * as z from 'zod';
import { portKey } from '#core/board/portUses.ts';
import { parsed } from '#core/parsed.ts';
import { protocolNames } from '#core/sensors/receiverFrames.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { SessionParts } from '../board/BoardSession.ts';
import type { Lesson } from '../board/ProcedureRunner.ts';
import { selectValues } from '../store/selectors.ts';
import { staged } from '../store/settingsSlice.ts';

const foundSchema = z.object({
  kind: z.enum(['found', 'garbage', 'silent']),
  protocol: z.string().max(20),
  turned: z.boolean().catch(false),
  oneWire: z.boolean().catch(false),
  /** 0 is the one that is set for it. */
  port: z.number().int().min(0).max(16).catch(0),
});

/** The port that was set for the receiver, for nothing from now on. */
function portLeft(values: Values): Values {
  const key = Object.keys(values).find((k) => /^port\.\d+\.use$/.test(k) && values[k] === 'receiver');
  return key ? { [key]: 'free' } : {};
}

/** The board has listened for every protocol: the one that makes whole frames goes into the tray. */
export const receiverHeard =
  (store: SessionParts['store']): Lesson =>
  (_asked, found) => {
    const read = parsed(foundSchema, found);
    if (!read.success)
      throw new Error('What the board says it heard makes no sense here. Nothing was set; listen again.');
    const { kind, protocol, turned, oneWire, port } = read.data;
    if (kind === 'silent')
      return 'Nothing comes to this port, nor to one that is free: the receiver has no power, its signal wire is off, or it is silent without its transmitter. Look at its lamp, and at Wiring.';
    if (kind === 'garbage')
      return 'Something comes, and no whole frame of any protocol that this board knows, whichever way round its levels are: it speaks another protocol.';
    if (!Object.hasOwn(protocolNames, protocol))
      return `It speaks ${protocol}, which the board cannot be set to.`;
    const name = protocolNames[protocol as keyof typeof protocolNames];
    const how = `${name}${turned ? ' with its levels turned round' : ''}${oneWire ? ' on one wire' : ''}${port > 0 ? ` at port ${port}, which is set for nothing` : ''}`;
    const values = selectValues(store.getState());
    const wanted: Values = {
      'rx.protocol': protocol,
      'rx.levels': turned ? 'turned' : 'usual',
      'rx.wires': oneWire ? 'one' : 'two',
      ...(port > 0 ? { ...portLeft(values), [portKey(port)]: 'receiver' } : {}),
    };
    const edits = Object.fromEntries(
      Object.entries(wanted).filter(([key, v]) => values[key] !== undefined && values[key] !== v),
    );
    if (Object.keys(edits).length === 0) return `It speaks ${how}, as the board is set.`;
    store.dispatch(staged(edits));
    return `It speaks ${how}: that is in the tray. It takes effect with a restart.`;
  };
