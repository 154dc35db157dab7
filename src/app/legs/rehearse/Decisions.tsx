import { useEffect, useRef } from 'react';
import type { RehearsalResult } from '#core/formats/rehearsalResult.ts';
import { formatClock } from '#core/units/units.ts';
import { Told } from '../../ui/Told.tsx';

interface Props {
  readonly result: RehearsalResult;
  readonly cursor: number;
  readonly onCursor: (index: number) => void;
}

/** What the board decided, in words; the newest before the cursor is marked. */
export function Decisions({ result, cursor, onCursor }: Props) {
  const now = result.track[cursor]?.atS ?? 0;
  const current = result.decisions.findLastIndex((d) => d.atS <= now);
  const list = useRef<HTMLOListElement>(null);
  useEffect(() => {
    list.current?.children[current]?.scrollIntoView({ block: 'nearest' });
  }, [current]);
  return (
    <section
      aria-label="What the board decided"
      className="flex min-h-0 flex-col border-line border-l bg-sheet text-[13px]"
    >
      <h2 className="label px-3 py-1.5">What the board decided</h2>
      {result.decisions.length === 0 && <p className="px-3 pb-2 text-soft">Nothing by itself.</p>}
      <ol ref={list} className="min-h-0 flex-1 overflow-y-auto pb-1">
        {result.decisions.map((d, i) => (
          <li key={`${d.atS}${d.text}`}>
            <button
              type="button"
              aria-current={i === current}
              className={`grid w-full grid-cols-[40px_1fr] gap-1 px-3 py-0.5 text-left leading-[17px] ${i === current ? 'bg-lake-wash' : 'hover:bg-sunk'}`}
              onClick={() => {
                const at = result.track.findIndex((p) => p.atS >= d.atS);
                onCursor(at < 0 ? result.track.length - 1 : at);
              }}
            >
              <span className="num text-soft">{formatClock(Math.max(0, d.atS))}</span>
              <span>
                <Told>{d.text}</Told>
              </span>
            </button>
          </li>
        ))}
      </ol>
    </section>
  );
}
