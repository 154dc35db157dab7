import { type ReactNode, useMemo } from 'react';
import { type Airframe, widthOf } from '#core/airframe/airframe.ts';
import { topView } from '#core/airframe/outline.ts';
import { CraftTop } from './CraftTop.tsx';

const W = 480;
const H = 300;

/**
 * A craft from above, as large as it fits, with a line across it for its size.
 * @param children the size, written under that line; left out, there is no line
 */
export function CraftPlan({
  airframe,
  className = '',
  children,
}: {
  readonly airframe: Airframe;
  readonly className?: string;
  readonly children?: ReactNode;
}) {
  const across = widthOf(airframe);
  const { ahead, length } = useMemo(() => topView(airframe), [airframe]);
  const [front, rear] = [-ahead, length];
  const room = children ? 46 : 8;
  const k = Math.min((W - 24) / across, (H - room - 16) / (rear - front));
  const y = H - room + 12;
  return (
    <div className={`relative ${className}`}>
      <svg
        viewBox={`${-W / 2} 0 ${W} ${H}`}
        className="h-full w-full"
        role="img"
        aria-label={`${airframe.name} from above`}
      >
        <g transform={`translate(0 ${8 + (H - room - 16 - k * (rear - front)) / 2 - k * front})`}>
          <CraftTop airframe={airframe} scale={k} />
        </g>
        {children && (
          <path
            d={`M${(-across * k) / 2} ${y - 5}v10m0 -5h${across * k}m0 -5v10`}
            fill="none"
            stroke="var(--soft)"
          />
        )}
      </svg>
      {children && (
        <div className="pointer-events-none absolute inset-x-0 bottom-0 flex justify-center">
          <span className="pointer-events-auto bg-sheet px-2">{children}</span>
        </div>
      )}
    </div>
  );
}
