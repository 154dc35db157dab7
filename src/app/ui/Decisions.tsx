import { useEffect, useRef } from 'react';
import { formatClock } from '#core/units/units.ts';
import { Told } from './Told.tsx';

interface Props {
  readonly decisions: readonly { readonly atS: number; readonly text: string }[];
  /** The moment that is looked at, s. */
  readonly nowS: number;
  readonly onGo: (atS: number) => void;
}

/** What the board decided, in words; the newest before the cursor is marked. */
export function Decisions({ decisions, nowS, onGo }: Props) {
  const current = decisions.findLastIndex((d) => d.atS <= nowS);
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
      {decisions.length === 0 && <p className="px-3 pb-2 text-soft">Nothing by itself.</p>}
      <ol ref={list} className="min-h-0 flex-1 overflow-y-auto pb-1">
        {decisions.map((d, i) => (
          <li key={`${d.atS}${d.text}`}>
            <button
              type="button"
              aria-current={i === current}
              className={`grid w-full grid-cols-[40px_1fr] gap-1 px-3 py-0.5 text-left leading-[17px] ${i === current ? 'bg-lake-wash' : 'hover:bg-sunk'}`}
              onClick={() => onGo(d.atS)}
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
