import { toldFigures } from '#core/toldBack/figures.ts';
import type { ShownSensor } from '#core/toldBack/screen.ts';
import { useApp } from '../store/store.ts';

/** Older than this a figure is no news any more, s. */
const OLD_S = 5;

/** What a transmitter shows of a craft, as lines of text. What is old is set in brackets. */
export function ToldLines({ shown }: { readonly shown: readonly ShownSensor[] }) {
  const units = useApp((s) => s.ui.units);
  if (shown.length === 0) return <p>nothing comes back from a craft</p>;
  return (
    <ul>
      {shown.flatMap(({ id, told, ageS }) =>
        toldFigures(id, told, units).map((f) => (
          <li key={f.name} className="flex justify-between gap-3">
            <span>{f.name}</span>
            <span className="num">{ageS > OLD_S ? `(${f.text})` : f.text}</span>
          </li>
        )),
      )}
    </ul>
  );
}
