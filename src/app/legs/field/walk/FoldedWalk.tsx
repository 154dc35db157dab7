import type { ReactNode } from 'react';
import type { WalkLine } from '#core/field/walk.ts';
import { Waymark } from '../../../ui/Waymark.tsx';

/** Folds to either side, and lines on each. */
const FOLDS = 2;
const ON_A_FOLD = 2;

interface Props {
  readonly lines: readonly WalkLine[];
  readonly open: WalkLine;
  readonly onOpen: (id: string) => void;
  readonly children: ReactNode;
}

/** A map that is folded open where one stands: what was done lies to the left, what comes to the right. */
export function FoldedWalk({ lines, open, onOpen, children }: Props) {
  const at = lines.indexOf(open);
  const reach = FOLDS * ON_A_FOLD;
  return (
    <div className="mt-4 flex items-center justify-center">
      <Side lines={lines} from={at - reach} side="left" onOpen={onOpen} />
      <div className="relative z-10 flex min-h-[380px] w-full max-w-[320px] rounded-[2px] border border-line bg-sheet p-5 shadow-[0_10px_30px_rgb(0_0_0/0.18)] min-[700px]:w-[300px] min-[700px]:shrink-0">
        {children}
      </div>
      <Side lines={lines} from={at + 1} side="right" onOpen={onOpen} />
    </div>
  );
}

interface SideProps {
  readonly lines: readonly WalkLine[];
  /** Which line of the walk its first is; before its beginning and behind its end folds are empty. */
  readonly from: number;
  readonly side: 'left' | 'right';
  readonly onOpen: (id: string) => void;
}

/** Height of the way at a line of the walk, share of the fold: it goes on over the folds. */
const heightAt = (line: number): number =>
  0.5 + 0.07 * Math.sin(1.1 * line) + 0.04 * Math.sin(2.3 * line + 1);

/** The way over a fold, in hundredths of it. */
const wayOver = (first: number): string =>
  `M${Array.from({ length: 11 }, (_, k) => `${10 * k} ${(100 * heightAt(first - 0.5 + k / 5)).toFixed(1)}`).join('L')}`;

function Side({ lines, from, side, onOpen }: SideProps) {
  const folds = Array.from({ length: FOLDS }, (_, k) =>
    Array.from({ length: ON_A_FOLD }, (__, n) => from + k * ON_A_FOLD + n).flatMap((at) => {
      const line = lines[at];
      return line ? [{ line, at }] : [];
    }),
  );
  return (
    <div className="hidden min-w-0 max-w-[224px] flex-1 min-[700px]:flex">
      {folds.map((fold, k) => (
        <div
          // Folds have no name of their own: they are places.
          key={`${side}${k === 0 ? 'first' : 'second'}`}
          className={`relative flex h-[310px] min-w-0 flex-1 flex-col justify-between border-line border-y p-2.5 ${k % 2 === 0 ? 'bg-sunk' : 'bg-paper'}`}
          style={{ transform: `skewY(${(side === 'left') === (k % 2 === 0) ? 5 : -5}deg)` }}
        >
          {fold.length > 0 && (
            <svg
              viewBox="0 0 100 100"
              preserveAspectRatio="none"
              className="pointer-events-none absolute inset-0 h-full w-full"
              aria-hidden="true"
            >
              <path
                d={wayOver(from + k * ON_A_FOLD)}
                fill="none"
                stroke={side === 'left' ? 'var(--forest)' : 'var(--contour)'}
                strokeWidth={2}
                strokeDasharray={side === 'left' ? undefined : '2 5'}
                vectorEffect="non-scaling-stroke"
              />
            </svg>
          )}
          {fold.map(({ line, at }) => (
            <span
              key={`mark of ${line.id}`}
              className="pointer-events-none absolute -translate-x-1/2 -translate-y-1/2"
              style={{
                left: `${25 + 50 * (at - from - k * ON_A_FOLD)}%`,
                top: `${100 * heightAt(at)}%`,
              }}
            >
              <Waymark progress={line.state} here={false} size={18} />
            </span>
          ))}
          {fold.map(({ line }) => (
            <button
              key={line.id}
              type="button"
              className="block w-full text-left"
              onClick={() => onOpen(line.id)}
            >
              <span className="block font-label font-semibold text-[15px] leading-5">{line.title}</span>
              <span
                className={`block text-[13px] leading-4 ${line.state === 'stale' || line.state === 'blocked' ? 'text-red' : 'text-soft'}`}
              >
                {briefOf(line)}
              </span>
            </button>
          ))}
        </div>
      ))}
    </div>
  );
}

/** As little as fits on a fold. */
function briefOf({ state, seen }: WalkLine): string {
  if (state === 'proven') return seen ?? 'proven';
  return { stale: 'changed since', blocked: 'not well', open: 'to do' }[state];
}
