import { type Airframe, isRotorcraft } from '../../airframe/airframe.ts';
import type { BoardDescription } from '../../board/description.ts';
import type { Values } from '../../settings/catalogue.ts';
import { type ManoeuvreId, rotorManoeuvres, wingManoeuvres } from './manoeuvres.ts';
import { predictRotors } from './rotorOuter.ts';
import type { Trace } from './trace.ts';
import { predictWing } from './wingOuter.ts';

/** How a craft went through what was asked of it. */
export type OuterTraces = Readonly<Partial<Record<ManoeuvreId, Trace>>>;

/** How the craft will go through each of what is asked of its outer loops; null where its model does not fly. */
export function predictAll(
  airframe: Airframe,
  values: Values,
  pads: BoardDescription['pads'],
): readonly { readonly id: ManoeuvreId; readonly trace: Trace | null }[] {
  return isRotorcraft(airframe)
    ? rotorManoeuvres.map((id) => ({ id, trace: predictRotors(airframe, values, pads, id) }))
    : wingManoeuvres.map((id) => ({ id, trace: predictWing(airframe, values, pads, id) }));
}
