import * as z from 'zod';
import { parsed } from '#core/parsed.ts';
import { makeProof, stickNames } from '#core/proofs/proofs.ts';
import type { SettingValue } from '#core/settings/catalogue.ts';
import { settingOf } from '#core/settings/typed.ts';
import type { SessionParts } from '../board/BoardSession.ts';
import type { Lesson } from '../board/ProcedureRunner.ts';
import { proofTaken } from '../store/craftSlice.ts';
import { selectProofWorld, selectValues } from '../store/selectors.ts';
import { staged } from '../store/settingsSlice.ts';

const askedSchema = z.object({ stick: z.enum(stickNames) });
const foundSchema = z.object({
  channel: z.number().int().min(1).max(16),
  fromUs: z.number().transform(Math.round),
  toUs: z.number().transform(Math.round),
});

/** A stick was moved and its channel found: the setting goes into the tray, what was seen is kept. */
export const stickLearnt =
  (store: SessionParts['store']): Lesson =>
  (asked, found) => {
    const { stick } = askedSchema.parse(asked);
    const read = parsed(foundSchema, found);
    if (!read.success)
      throw new Error('What the board says of the stick makes no sense here. Nothing was set; ask again.');
    const { channel, fromUs, toUs } = read.data;
    const values = selectValues(store.getState());
    const edits: Record<string, SettingValue> = { [`rx.${stick}.channel`]: channel };
    // The stick that had this channel trades places, so that no two sticks share one on the way.
    const other = stickNames.find((s) => s !== stick && settingOf(values, `rx.${s}.channel`) === channel);
    if (other) edits[`rx.${other}.channel`] = settingOf(values, `rx.${stick}.channel`)!;
    if (stick === 'pitch') edits['rx.pitch.pullHigh'] = toUs > fromUs;
    store.dispatch(staged(edits));
    const world = selectProofWorld(store.getState());
    const seen = { kind: 'stick', stick, channel, fromUs, toUs } as const;
    if (world) store.dispatch(proofTaken(makeProof(seen, world, new Date().toISOString())));
    return stick !== 'pitch' && toUs < fromUs
      ? `Channel ${channel} went from ${fromUs} down to ${toUs} us. The transmitter sends ${stick} the wrong way round: reverse it there, then ask again.`
      : `Channel ${channel} went from ${fromUs} to ${toUs} us, so it carries ${stick}.`;
  };
