import { memo } from 'react';
import type { Surprise } from '#core/flown/surprises.ts';
import { formatClock } from '#core/units/units.ts';
import { TextButton } from '../../../ui/TextButton.tsx';

interface Props {
  readonly surprises: readonly Surprise[];
  /** Of the flight's moments. */
  readonly seconds: Float64Array;
  readonly onGo: (atS: number) => void;
}

/** What was not as one would wish it, numbered as on the map. */
export const SurpriseList = memo(function SurpriseList({ surprises, seconds, onGo }: Props) {
  return (
    <section aria-label="What surprised" className="shrink-0">
      <h2 className="font-semibold">What surprised</h2>
      {surprises.length === 0 && <p className="text-soft">Nothing that we look for.</p>}
      <ol className="mt-1 space-y-1.5 text-[13px] leading-[17px]">
        {surprises.map((s, i) => (
          <li key={s.kind} className="grid grid-cols-[18px_1fr]">
            <span className="num text-amber">{i + 1}</span>
            <span>
              <TextButton onClick={() => onGo(seconds[s.at]!)}>{s.title}</TextButton>{' '}
              <span className="num text-soft">{formatClock(s.fromS)}</span>
              <span className="block text-soft">
                {s.words}
                {s.again.length > 0 && `; ${s.again.length} ${s.again.length === 1 ? 'time' : 'times'} more`}.{' '}
                {s.advice}
              </span>
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
});
