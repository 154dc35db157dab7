import { DEG } from '#core/math/scalar.ts';
import type { WalkStep } from '#core/search/walk.ts';
import { displayOf, formatBearing, formatNumber } from '#core/units/units.ts';
import { useApp } from '../../../store/store.ts';
import { Button } from '../../../ui/Button.tsx';

interface Props {
  readonly step: WalkStep;
  /** Whether a beacon there could be seen from where one stands; null where the ground is not known. */
  readonly sees: boolean | null;
  readonly onSearched: () => void;
  readonly onFound: () => void;
}

/** The square to walk to now: which way, how far, and whether anything of it is heard from here. Read at arm's length. */
export function NextSquare({ step, sees, onSearched, onFound }: Props) {
  const units = useApp((s) => s.ui.units);
  const { symbol, factor } = displayOf('m', units);
  return (
    <section aria-label="The next square">
      <p className="label">Walk there next</p>
      <div className="mt-1 flex items-center gap-3">
        <svg viewBox="-24 -24 48 48" width={72} height={72} aria-hidden="true">
          <circle r={22} fill="none" stroke="var(--contour)" strokeWidth={0.8} />
          <path d="M0 -22V-18" stroke="var(--ink)" strokeWidth={1.4} />
          <text y={-11} fontSize={6} textAnchor="middle" fill="var(--soft)">
            N
          </text>
          <g transform={`rotate(${step.bearingRad / DEG})`}>
            <path d="M0 -20 5.500 6 0 2.500 -5.500 6Z" fill="var(--forest)" />
          </g>
        </svg>
        <p className="leading-7">
          <span className="num text-[24px] font-medium">{formatNumber(step.distanceM * factor, 0)}</span>{' '}
          <span className="text-[15px] text-soft">{symbol}</span>
          <br />
          <span className="num text-[20px]">{formatBearing(step.bearingRad)}</span>
        </p>
      </div>
      <p className="mt-1 text-[13px] text-soft">
        A square of <span className="num">{formatNumber(step.sideM * factor, 0)}</span> {symbol}:{' '}
        <span className="num">{formatNumber(100 * step.chance, 1)} %</span> that it lies there.
        {sees !== null &&
          (sees ? ' A beacon there is in sight from here.' : ' From here the ground hides a beacon there.')}
      </p>
      <div className="mt-2 flex flex-col gap-2">
        <Button className="min-h-11" onClick={onSearched}>
          Looked over, not there
        </Button>
        <Button kind="go" className="min-h-11" onClick={onFound}>
          It is found
        </Button>
      </div>
    </section>
  );
}
