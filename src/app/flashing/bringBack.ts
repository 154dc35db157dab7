import * as z from 'zod';
import { sameValue } from '#core/settings/catalogue.ts';
import { boardSession } from '../board/session.ts';
import { contentOf } from '../history.ts';
import type { Returning } from '../store/firmwareSlice.ts';
import { store } from '../store/store.ts';
import { workshop } from '../workers/index.ts';
import { change, faultText, now, recall, remember } from './imageInHand.ts';

/** Settings that were kept before another firmware came, on their way back to the board. */

/** Notes which settings are to come back, over a reload as well; null for none. */
export async function waitToReturn(returning: Returning | null): Promise<void> {
  change({ returning });
  await remember('returning', returning);
}

const returningSchema = z.object({ serial: z.string(), snapshot: z.string() });

/** After a reload: which settings are to come back. */
export async function recallReturning(): Promise<void> {
  if (now().returning !== null) return;
  const kept = returningSchema.safeParse(await recall('returning'));
  if (kept.success) change({ returning: kept.data });
}

/** Works out what the kept settings are under the firmware that runs now. */
export async function prepareReturn(chosen: Readonly<Record<string, number>> = {}): Promise<void> {
  const { board, history } = store.getState();
  const { returning } = now();
  const { identity } = board;
  if (!returning || identity?.serial !== returning.serial) return;
  const snapshot = history.snapshots.find((s) => s.id === returning.snapshot);
  const values = await contentOf(returning.snapshot);
  if (!snapshot || !values) {
    change({
      back: { kind: 'failed', why: 'The settings that were kept of it are not in this browser any more.' },
    });
    return;
  }
  const report = await workshop().carry(values, snapshot.version, identity.version, chosen);
  if (!report) {
    const why = `There is no table that leads from ${snapshot.version} to ${identity.version}; the settings stay under What was kept.`;
    change({ back: { kind: 'failed', why } });
    return;
  }
  change({ report });
  const holds = boardSession.holds();
  // The same version with its settings kept has nothing to bring back.
  if (Object.entries(report.values).every(([k, v]) => sameValue(holds[k], v))) {
    await waitToReturn(null);
    change({ report: null, back: { kind: 'done', count: 0 } });
  }
}

/** The person took the report: what differs is written, and counts once the board has read it back. */
export async function bringBack(): Promise<void> {
  const { report } = now();
  if (!report || now().back.kind === 'writing') return;
  change({ back: { kind: 'writing' } });
  try {
    const holds = boardSession.holds();
    const edits = Object.fromEntries(
      Object.entries(report.values).filter(([k, v]) => !sameValue(holds[k], v)),
    );
    await boardSession.writeOwn(edits);
    await waitToReturn(null);
    change({ report: null, back: { kind: 'done', count: Object.keys(edits).length } });
  } catch (error) {
    change({ back: { kind: 'failed', why: faultText(error) } });
  }
}

/** The person leaves the board on its defaults; what was kept stays kept. */
export async function leaveAsItIs(): Promise<void> {
  await waitToReturn(null);
  change({ report: null, back: { kind: 'idle' } });
}
