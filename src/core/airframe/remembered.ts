import type { Airframe } from './airframe.ts';

/** So much of each craft is kept; then the oldest goes. */
const MOST = 60;

/** What takes long to find of a craft is kept as long as the craft is, by what else it rests on. */
export function rememberedOf<Found>() {
  const known = new WeakMap<Airframe, Map<string, Found>>();
  return (airframe: Airframe, key: string, find: () => Found): Found => {
    const here = known.get(airframe) ?? new Map<string, Found>();
    known.set(airframe, here);
    const before = here.get(key);
    if (before !== undefined) return before;
    const found = find();
    if (here.size >= MOST) here.delete(here.keys().next().value!);
    here.set(key, found);
    return found;
  };
}
