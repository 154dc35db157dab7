import { usualBatch } from '#core/formats/batch.ts';
import { formatQuantity } from '#core/units/units.ts';
import type { BatchFlight } from '../../store/batchSlice.ts';
import { useApp } from '../../store/store.ts';
import { BarChart } from '../../ui/BarChart.tsx';

/** How many come home of those flown, by the strength of the wind. */
export default function ByStrength({ flights }: { readonly flights: readonly BatchFlight[] }) {
  const units = useApp((s) => s.ui.units);
  const bars = usualBatch.strengthsMps.flatMap((speed) => {
    const flown = flights.filter((f) => f.speedMps === speed);
    if (flown.length === 0) return [];
    const home = flown.filter((f) => f.verdict === 'home').length;
    return [
      {
        name: formatQuantity(speed, 'm/s', units, 0),
        value: home / flown.length,
        words: `${home}/${flown.length}`,
      },
    ];
  });
  if (bars.length === 0) return null;
  const said = bars.map((b) => `${b.words.replace('/', ' of ')} at ${b.name}`).join(', ');
  return (
    <section className="mt-4">
      <h2 className="label">Home, by strength of the wind</h2>
      <BarChart label={`Come home: ${said}`} bars={bars} most={1} heightPx={130} token="--forest" />
    </section>
  );
}
