import { Link } from 'react-router';
import type { StationId } from '#core/findings/rule.ts';
import { type LegId, lackingAt, legs, stationProgress } from '../legs/legs.ts';
import { progressWords } from '../legs/station.ts';
import { selectFindings, selectProgress } from '../store/selectors.ts';
import { useApp } from '../store/store.ts';
import { Waymark } from '../ui/Waymark.tsx';

/** The stations of the leg, in the order people do them. */
export function Stations({ leg: legId, here }: { readonly leg: LegId; readonly here: StationId | null }) {
  const leg = legs.find((l) => l.id === legId)!;
  const progress = useApp(selectProgress);
  const findings = useApp(selectFindings);
  return (
    <nav aria-label={`Stations of ${leg.name}`} className="overflow-y-auto border-line border-r pt-3.5 pl-5">
      <h2 className="label">Stations of {leg.name}</h2>
      {leg.stations.length === 0 && <p className="mt-2 pr-3 text-faint text-sm">None yet.</p>}
      <ol className="relative mt-2 before:absolute before:top-4 before:bottom-5 before:left-[7px] before:border-contour before:border-l-2 before:border-dotted">
        {leg.stations.map((s) => {
          const state = progress ? stationProgress(s, progress) : 'open';
          const count = findings.filter((f) => f.station === s.id).length;
          const current = s.id === here;
          const known = progress && lackingAt(s, progress.has).length === 0;
          const said = known && state !== 'stale' ? s.small?.(progress, s) : null;
          const small =
            count > 0 ? `${count} ${count === 1 ? 'finding' : 'findings'}` : (said ?? progressWords[state]);
          return (
            <li key={s.id} className="relative">
              {current && <span className="absolute top-1 bottom-1 -left-5 w-1 rounded-r-[3px] bg-forest" />}
              <Link
                to={`/${leg.id}/${s.id}`}
                aria-current={current ? 'step' : undefined}
                className="relative flex gap-2 py-[7px] pr-3 leading-[18px]"
              >
                <span className="mt-px">
                  <Waymark progress={state} here={current} />
                </span>
                <span className={current ? 'font-semibold' : ''}>
                  {s.name}
                  <small
                    className={`block text-[12px] leading-[15px] font-normal ${state === 'stale' || state === 'blocked' ? 'text-red' : 'text-faint'}`}
                  >
                    {small}
                    {small !== progressWords[state] && (
                      <span className="sr-only">, {progressWords[state]}</span>
                    )}
                  </small>
                </span>
              </Link>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}
