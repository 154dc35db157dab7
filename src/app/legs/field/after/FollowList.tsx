import { formatQuantity } from '#core/units/units.ts';
import { useApp } from '../../../store/store.ts';
import type { ToldSeries } from './FlownStrip.tsx';

const MOST_PLOTS = 4;

interface Props {
  readonly series: readonly ToldSeries[];
  /** Ids of those that are drawn along time. */
  readonly plots: readonly string[];
  readonly cursor: number;
  readonly onPlots: (plots: readonly string[]) => void;
}

/** Everything that can be followed, as it is at the cursor; pressed, it is drawn along time. */
export function FollowList({ series, plots, cursor, onPlots }: Props) {
  const units = useApp((s) => s.ui.units);
  const drawn = series.filter((s) => plots.includes(s.id)).length;
  return (
    <section aria-label="What can be followed" className="mt-1">
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(172px,1fr))] gap-x-2 gap-y-0.5 text-[13px]">
        {series.map((s) => {
          const on = plots.includes(s.id);
          const v = s.values[cursor]!;
          return (
            <li key={s.id}>
              <button
                type="button"
                aria-pressed={on}
                disabled={!on && drawn >= MOST_PLOTS}
                className="flex w-full justify-between gap-2 rounded-[3px] px-1.5 py-0.5 text-left hover:bg-sunk disabled:opacity-60 aria-pressed:bg-lake-wash"
                onClick={() => onPlots(on ? plots.filter((id) => id !== s.id) : [...plots, s.id])}
              >
                <span className="min-w-0 truncate text-soft" title={s.name}>
                  {s.name}
                </span>
                <span className="num shrink-0">
                  {Number.isFinite(v) ? formatQuantity(v, s.unit, units, s.digits) : '–'}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
