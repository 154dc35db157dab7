import * as z from 'zod';
import { parsed } from '#core/parsed.ts';
import { makeProof, stateOf } from '#core/proofs/proofs.ts';
import { type StickName, stickNames } from '#core/proofs/seen.ts';
import type { SettingValue } from '#core/settings/catalogue.ts';
import { settingOf } from '#core/settings/typed.ts';
import type { SessionParts } from '../board/BoardSession.ts';
import type { Lesson } from '../board/ProcedureRunner.ts';
import { proofTaken } from '../store/craftSlice.ts';
import { selectProofWorld, selectValues } from '../store/selectors.ts';
import { staged } from '../store/settingsSlice.ts';
import type { AppState } from '../store/store.ts';

const askedSchema = z.object({ stick: z.enum(stickNames) });
const foundSchema = z.object({
  channel: z.number().int().min(1).max(16),
  fromUs: z.number().transform(Math.round),
  toUs: z.number().transform(Math.round),
});

/** A stick that is pushed to its end changes its channel by at least this, us. */
const LEAST_TRAVEL_US = 300;

/** Why what was moved is not taken for what was asked for; null where it may be. */
function doubtOf(
  stick: StickName,
  { channel, fromUs, toUs }: z.infer<typeof foundSchema>,
  state: AppState,
): string | null {
  const travel = Math.abs(toUs - fromUs);
  if (travel < LEAST_TRAVEL_US)
    return `Channel ${channel} moved by ${travel} µs only. Was ${stick} pushed to its end? Nothing was kept; ask again, or widen its travel in the transmitter.`;
  const world = selectProofWorld(state);
  const taken = state.craft.proofs.find(
    (p) =>
      p.seen.kind === 'stick' &&
      p.seen.stick !== stick &&
      p.seen.channel === channel &&
      world !== null &&
      stateOf(p, world) === 'proven',
  );
  if (taken?.seen.kind !== 'stick') return null;
  return `Channel ${channel} moved, and that one was seen to carry ${taken.seen.stick}. Nothing was kept: either another stick was pushed than the ${stick} stick that was asked for, or ${taken.seen.stick} was answered wrongly. Ask for ${taken.seen.stick} again if so.`;
}

/** A stick was moved and its channel found: the setting goes into the tray, what was seen is kept. */
export const stickLearnt =
  (store: SessionParts['store']): Lesson =>
  (asked, found) => {
    const { stick } = askedSchema.parse(asked);
    const read = parsed(foundSchema, found);
    if (!read.success)
      throw new Error('What the board says of the stick makes no sense here. Nothing was set; ask again.');
    const { channel, fromUs, toUs } = read.data;
    const state = store.getState();
    const values = selectValues(state);
    const doubt = doubtOf(stick, read.data, state);
    if (doubt) return doubt;
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
      ? `Channel ${channel} went from ${fromUs} down to ${toUs} µs. The transmitter sends ${stick} the wrong way round: reverse it there, then ask again.`
      : `Channel ${channel} went from ${fromUs} to ${toUs} µs, so it carries ${stick}.${other ? ` Until now it was set to carry ${other}: the two trade places. If it was the ${other} stick that you pushed, ask again.` : ''}`;
  };
