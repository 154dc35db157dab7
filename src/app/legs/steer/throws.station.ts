import { stateOf } from '#core/proofs/proofs.ts';
import { type ProgressInput, type Station, togetherOf, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    throws: true;
  }
}

/** Looked at with a ruler near both ends: pulses that far apart tie them to degrees, us. */
const APART_US = 200;

/** Surfaces whose throw is tied to degrees; what the linkage is from that comes with the view. */
const measured = (p: ProgressInput) =>
  p.proofs.filter((proof) => {
    const { seen } = proof;
    if (seen.kind !== 'throw' || stateOf(proof, p.world) !== 'proven') return false;
    const at = seen.readings.map((r) => r.us);
    return Math.max(...at) - Math.min(...at) > APART_US;
  }).length;

const station: Station = {
  id: 'throws',
  place: 12,
  name: 'Throws',
  about:
    'Each surface beside its servo, to scale. Two looks with a ruler tie pulses to degrees; then its middle is set by the linkage first and by trim last, and its ends in degrees.',
  needs: ['board', 'battery'],
  asks: ['bench-move', 'status', 'outputs'],
  requires: ['out.1.low', 'out.1.centre', 'out.1.high'],
  settings: /^out\.\d+\.(low|centre|high)$/,
  small: (p, station) => {
    const { surfaces } = p.world.airframe;
    const n = measured(p);
    return waits(p, station) ?? (n > 0 && n < surfaces.length ? `${n} of ${surfaces.length} measured` : null);
  },
  progress: (p, station) => {
    const { surfaces } = p.world.airframe;
    const state = togetherOf(
      surfaces.map((s) => `throw.${s.id}`),
      p,
    );
    // What was not measured may still be as it was set.
    if (state === 'stale') return state;
    return surfaces.length > 0 && measured(p) === surfaces.length ? 'proven' : written(p, station);
  },
  view: () => import('./ThrowsStation.tsx'),
};
export default station;
