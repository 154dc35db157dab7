import { type Tuning, tuningSchema } from '#core/formats/tuning.ts';
import { parsed } from '#core/parsed.ts';
import { rows } from './store/database.ts';

/** Flights that were looked at for how they answered, kept by this browser beside the craft that flew them. */

/** So many are kept of a craft; then the oldest goes. */
const MOST = 60;

/** Of one craft, the newest first. */
export async function tuningsOf(craft: string): Promise<readonly Tuning[]> {
  const all = await rows.all('tunings');
  return all
    .flatMap((row) => {
      const read = parsed(tuningSchema, row);
      return read.success && read.data.craft === craft ? [read.data] : [];
    })
    .sort((a, b) => (a.at < b.at ? 1 : -1));
}

/** @throws StoreFault */
export async function keepTuning(tuning: Tuning): Promise<void> {
  const kept = await tuningsOf(tuning.craft);
  const gone = kept.filter((t) => t.id !== tuning.id).slice(MOST - 1);
  await rows.write([
    { in: 'tunings', put: tuning },
    ...gone.map(({ id }) => ({ in: 'tunings', delete: id }) as const),
  ]);
}

/** @throws StoreFault */
export const dropTuning = (id: string): Promise<void> => rows.write([{ in: 'tunings', delete: id }]);
