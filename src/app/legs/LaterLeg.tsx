import { type LegId, legs } from './legs.ts';

/** A leg that has no stations yet says so in one sentence. */
export function LaterLeg({ leg }: { readonly leg: LegId }) {
  const l = legs.find((x) => x.id === leg)!;
  return (
    <>
      <h1>{l.name}</h1>
      <p className="mt-1 max-w-[640px] text-soft">{l.later}</p>
    </>
  );
}
