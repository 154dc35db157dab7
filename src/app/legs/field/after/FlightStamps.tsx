import { memo } from 'react';
import type { FlownFlight } from '#core/field/fieldBook.ts';
import { eastOf, northOf } from '#core/navigation/earth.ts';
import { formatBytes, formatClock } from '#core/units/units.ts';
import type { BoardFlight } from '#link/flights.ts';
import type { KeptLog } from '../../../flights/LogShelf.ts';
import { when } from '../../../history/words.ts';
import type { ReadingFlight } from '../../../store/flightsSlice.ts';
import { Bar } from '../../../ui/Bar.tsx';
import { TextButton } from '../../../ui/TextButton.tsx';

/** One flight of the row: on the board, kept here, or both. */
export interface Stamp {
  readonly key: string;
  readonly kept: KeptLog | null;
  readonly board: BoardFlight | null;
  readonly told: FlownFlight | null;
}

interface Props {
  readonly stamps: readonly Stamp[];
  readonly chosen: string | null;
  readonly reading: ReadingFlight | null;
  readonly onChoose: (key: string) => void;
  readonly onRead: (flight: BoardFlight) => void;
  readonly onStop: () => void;
}

/** Flights in a row, each known by the shape of its track. */
export function FlightStamps({ stamps, chosen, reading, onChoose, onRead, onStop }: Props) {
  return (
    <ol aria-label="Flights" className="mt-3 flex gap-2 overflow-x-auto pb-1">
      {stamps.map((s) => {
        const mine =
          reading && s.board?.flight === reading.flight && s.board.startedS === reading.startedS
            ? reading
            : null;
        const whole = s.kept !== null && s.kept.upTo >= s.kept.total;
        const name = s.kept?.file || `Flight ${s.kept?.flight ?? s.board?.flight}`;
        return (
          <li
            key={s.key}
            className={`w-[136px] shrink-0 rounded-[4px] border px-2 pt-1.5 pb-1.5 ${s.key === chosen ? 'border-forest bg-forest-wash' : 'border-line bg-sheet'}`}
          >
            <button
              type="button"
              aria-pressed={s.key === chosen}
              disabled={!s.kept || s.kept.upTo === 0}
              className="block w-full text-left disabled:cursor-default"
              onClick={() => onChoose(s.key)}
            >
              <span className="block truncate font-semibold" title={name}>
                {name}
              </span>
              <Track points={s.told?.stamp ?? []} />
              <span className="block truncate text-[13px] text-soft">
                {s.told ? (
                  <>
                    <span className="num">{formatClock(s.told.seconds)}</span> in the air
                  </>
                ) : s.kept?.file ? (
                  when(s.kept.readAt)
                ) : s.board ? (
                  <>
                    on the board, <span className="num">{formatBytes(s.board.bytes)}</span>
                  </>
                ) : (
                  'read in part'
                )}
              </span>
            </button>
            {mine && mine.state !== 'stopped' && mine.state !== 'failed' ? (
              <div className="mt-1 text-[13px]">
                <Bar share={mine.upTo / Math.max(1, mine.total)} />
                <span className="flex justify-between">
                  <span className="num" role="status">
                    {mine.state === 'away'
                      ? 'waits'
                      : `${Math.floor((100 * mine.upTo) / Math.max(1, mine.total))} %`}
                  </span>
                  <TextButton tone="soft" onClick={onStop}>
                    Stop
                  </TextButton>
                </span>
              </div>
            ) : (
              s.board &&
              !whole && (
                <TextButton
                  className="mt-1 text-[13px]"
                  onClick={() => onRead(s.board!)}
                  aria-label={`Read flight ${s.board.flight} from the board`}
                >
                  {s.kept && s.kept.upTo > 0 ? 'Read on' : 'Read it'}
                </TextButton>
              )
            )}
            {whole && !s.kept.whole && <span className="mt-1 block text-[13px] text-amber">was cut off</span>}
          </li>
        );
      })}
    </ol>
  );
}

const WIDE = 120;
const HIGH = 46;

/** The shape of a track, north up. */
const Track = memo(function Track({ points }: { readonly points: readonly number[] }) {
  const xs: number[] = [];
  const ys: number[] = [];
  for (let i = 0; i + 1 < points.length; i += 2) {
    xs.push(eastOf(points[0]!, points[1]!, points[i + 1]!));
    ys.push(-northOf(points[0]!, points[i]!));
  }
  const [west, east] = [Math.min(...xs), Math.max(...xs)];
  const [top, low] = [Math.min(...ys), Math.max(...ys)];
  const k = Math.min((WIDE - 8) / Math.max(1, east - west), (HIGH - 8) / Math.max(1, low - top));
  const at = (i: number) =>
    `${(WIDE / 2 + k * (xs[i]! - (west + east) / 2)).toFixed(1)} ${(HIGH / 2 + k * (ys[i]! - (top + low) / 2)).toFixed(1)}`;
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="my-0.5 block w-full" aria-hidden="true">
      {xs.length > 1 ? (
        <path
          d={`M${xs.map((_, i) => at(i)).join('L')}`}
          fill="none"
          stroke="var(--lake)"
          strokeWidth={1.4}
          strokeLinejoin="round"
        />
      ) : (
        <path d={`M20 ${HIGH / 2}H100`} stroke="var(--line)" strokeWidth={1.2} strokeDasharray="3 4" />
      )}
      {xs.length > 1 && (
        <path
          transform={`translate(${at(0)})`}
          d="M0 -2.400 2.400 0 0 2.400 -2.400 0Z"
          fill="var(--forest)"
        />
      )}
    </svg>
  );
});
