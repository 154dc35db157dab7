import { planBytes, planFromBytes, planPrint } from '#core/plan/packPlan.ts';
import type { FlightPlan } from '#core/plan/plan.ts';
import { crc32 } from '#core/wire/crc32.ts';
import { type LinkClient, LinkError } from './client.ts';

/** Route and fences over the link: whole, or not at all. */

const PART_BYTES = 1024;
/** No plan is larger; a board that says so says something else. */
const MOST_BYTES = 64_000;
const STORE_POLL_MS = 40;
const STORE_LIMIT_MS = 8000;

/**
 * What a board holds.
 * @throws LinkError when it says something that is no plan
 */
export async function readPlan(client: LinkClient): Promise<FlightPlan> {
  let bytes: Uint8Array = new Uint8Array(0);
  for (;;) {
    const part = await client.request('plan-read', { from: bytes.length, count: PART_BYTES });
    const longer = new Uint8Array(bytes.length + part.bytes.length);
    longer.set(bytes);
    longer.set(part.bytes, bytes.length);
    bytes = longer;
    if (bytes.length >= part.total || part.bytes.length === 0) {
      const plan = planFromBytes(bytes);
      if (!plan || planPrint(plan) !== part.print)
        throw new LinkError('refused', 'What the board says of its route and fences cannot be understood.');
      return plan;
    }
    if (bytes.length > MOST_BYTES)
      throw new LinkError('refused', 'The board says more of its route than any board keeps.');
  }
}

/**
 * Writes a plan: begin, parts, commit, wait until it is stored, read back, compare.
 * @param held the plan that was read from the board
 * @returns what the board holds now
 * @throws LinkError when the board refuses, is silent or the link closes; then it has either this plan or the one before
 */
export async function writePlan(client: LinkClient, plan: FlightPlan, held: FlightPlan): Promise<FlightPlan> {
  const bytes = planBytes(plan);
  const session = client.acts.fresh();
  await client.request('plan-begin', {
    session,
    base: planPrint(held),
    size: bytes.length,
    crc: crc32(bytes),
  });
  for (let at = 0; at < bytes.length; at += PART_BYTES)
    await client.request('plan-put', { session, at, bytes: bytes.slice(at, at + PART_BYTES) });
  await client.request('plan-commit', { session });
  for (let waited = 0; ; waited += STORE_POLL_MS) {
    const { state } = await client.request('plan-status', { session });
    if (state === 'stored') break;
    if (state === 'failed')
      throw new LinkError(
        'refused',
        'The flash of the board did not take the plan. What it held before stands.',
      );
    if (state === 'none')
      throw new LinkError(
        'refused',
        'The board does not know of the plan any more: it was restarted in the middle. Read it again before you go on.',
      );
    if (waited > STORE_LIMIT_MS)
      throw new LinkError(
        'silent',
        'The board has not finished storing. Read its plan again before you go on.',
      );
    await new Promise((resolve) => setTimeout(resolve, STORE_POLL_MS));
  }
  const now = await readPlan(client);
  if (planPrint(now) !== planPrint(plan))
    throw new LinkError(
      'refused',
      'The board read back another plan than was sent. What it holds now is shown.',
    );
  return now;
}
