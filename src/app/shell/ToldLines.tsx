import { toldFigures } from '#core/toldBack/figures.ts';
import type { ShownSensor } from '#core/toldBack/screen.ts';
import { useApp } from '../store/store.ts';

/** Older than this a figure is no news any more, s. */
const OLD_S = 5;

/** The screen of the transmitter on the bench: what it shows of the craft. What is old is set in brackets. */
export function ToldLines({ shown }: { readonly shown: readonly ShownSensor[] }) {
  const units = useApp((s) => s.ui.units);
  return (
    <section
      aria-label="Its screen"
      tabIndex={0}
      className="h-[150px] w-[326px] overflow-y-auto rounded-[4px] border border-wood-dark px-2 py-0.5 text-[12px] leading-[16px]"
    >
      {shown.length === 0 && <p>Nothing comes back from a craft.</p>}
      <ul className="grid grid-cols-2 gap-x-4">
        {shown.flatMap(({ id, told, ageS }) =>
          toldFigures(id, told, units).map((f) => (
            <li key={f.name} className="flex justify-between gap-3">
              <span>{f.name}</span>
              <span className="num">{ageS > OLD_S ? `(${f.text})` : f.text}</span>
            </li>
          )),
        )}
      </ul>
    </section>
  );
}
