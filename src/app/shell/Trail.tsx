import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { findingsOf, type LegId, legProgress, legs, pathOfLeg } from '../legs/legs.ts';
import { progressWords } from '../legs/station.ts';
import { selectFindings, selectProgress } from '../store/selectors.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { uiChanged } from '../store/uiSlice.ts';
import { TextButton } from '../ui/TextButton.tsx';
import { Waymark } from '../ui/Waymark.tsx';

const HEIGHT = 84;

/** Height of the path at a share of the way, px from the top: a walk over low hills. */
function pathY(t: number): number {
  return 34 - 9 * Math.sin(9.5 * t - 0.4) - 8 * Math.sin(4.1 * t - 0.9);
}

function line(width: number, from: number, to: number, down = 0): string {
  const points: string[] = [];
  for (let k = 0; k <= 60; k++) {
    const t = from + ((to - from) * k) / 60;
    points.push(
      `${(t * width).toFixed(1)} ${(pathY(t) + down * (1 + 0.25 * Math.sin(6 * t + down))).toFixed(1)}`,
    );
  }
  return `M${points.join('L')}`;
}

const placeOf = (index: number) => 0.055 + (index * 0.9) / legs.length;

/** The seven legs as one path with waymarks: where one is, what is proven, what has changed since. */
export function Trail({ here }: { readonly here: LegId }) {
  const box = useRef<HTMLElement>(null);
  const [width, setWidth] = useState(1280);
  const progress = useApp(selectProgress);
  const findings = useApp(selectFindings);
  const last = useApp((s) => s.ui.stations);
  const dispatch = useAppDispatch();
  useEffect(() => {
    const watch = new ResizeObserver(([e]) => setWidth(e!.contentRect.width));
    watch.observe(box.current!);
    return () => watch.disconnect();
  }, []);
  const walked = placeOf(legs.findIndex((l) => l.id === here));
  return (
    <nav ref={box} aria-label="Trail" className="relative shrink-0" style={{ height: HEIGHT }}>
      <svg width={width} height={HEIGHT} className="absolute inset-0" aria-hidden="true">
        {[12, 22, 33, 45].map((d, i) => (
          <path key={d} d={line(width, 0, 1, d)} fill="none" stroke="var(--line)" opacity={0.55 - 0.1 * i} />
        ))}
        <path
          d={line(width, walked, 1)}
          fill="none"
          stroke="var(--contour)"
          strokeWidth={2}
          strokeDasharray="2 5"
          strokeLinecap="round"
        />
        <path
          d={line(width, 0, walked)}
          fill="none"
          stroke="var(--forest)"
          strokeWidth={3}
          strokeLinecap="round"
        />
      </svg>
      {legs.map((leg, i) => {
        const state = progress ? legProgress(leg.id, progress) : 'open';
        const found = findingsOf(findings, leg.id);
        const count = found.length;
        const t = placeOf(i);
        const current = leg.id === here;
        return (
          <div key={leg.id} className="absolute" style={{ left: t * width - 10, top: pathY(t) - 10 }}>
            <Link
              to={pathOfLeg(leg.id, last)}
              aria-current={current ? 'page' : undefined}
              aria-label={`${leg.name}, ${progressWords[state]}`}
              className="flex items-start gap-1.5"
            >
              <Waymark progress={state} here={current} size={20} />
              <span
                className={`mt-2.5 font-label ${current ? 'font-semibold text-[16px]' : 'font-medium text-[15px]'}`}
              >
                {leg.name}
              </span>
              {count === 0 && (
                <span
                  className={`mt-3 font-label text-[13px] ${state === 'stale' ? 'text-red' : 'text-faint'}`}
                >
                  {state === 'open' ? '' : progressWords[state]}
                </span>
              )}
            </Link>
            {count > 0 && (
              <TextButton
                tone={found.some((f) => f.severity === 'blocks') ? 'red' : 'amber'}
                className="ml-[26px] block font-label text-[13px] leading-4"
                onClick={() => dispatch(uiChanged({ findingsOpen: leg.id }))}
              >
                {count} {count === 1 ? 'finding' : 'findings'}
              </TextButton>
            )}
          </div>
        );
      })}
    </nav>
  );
}
