import { type ReactNode, useState } from 'react';
import { Link } from 'react-router';
import { isFirstFlight, type LookedAt, lookFigures } from '#core/field/looks.ts';
import type { WalkLine } from '#core/field/walk.ts';
import { formatQuantity } from '#core/units/units.ts';
import { when } from '../../../history/words.ts';
import { useApp } from '../../../store/store.ts';
import { Button } from '../../../ui/Button.tsx';
import { QuantityField } from '../../../ui/Quantity.tsx';
import { Waymark } from '../../../ui/Waymark.tsx';
import { pathOf, stationOf } from '../../legs.ts';
import { LiveFigure } from './LiveFigure.tsx';

interface Props {
  readonly line: WalkLine;
  /** Which of them it is. */
  readonly place: string;
  /** What it looks like, where a picture says it sooner. */
  readonly picture: ReactNode;
  readonly onSay: (good: boolean, figure?: number) => void;
}

/** The one thing that is looked at now: what to do, what to see, and what is known of it. */
export function LineCard({ line, place, picture, onSay }: Props) {
  const wrong = line.state === 'stale' || line.state === 'blocked';
  return (
    <div className="flex flex-1 flex-col">
      <p className="label">{place}</p>
      <h2 className="mt-1 font-label font-semibold text-[26px] leading-8">{line.title}</h2>
      {picture}
      <p className="mt-3 font-medium">{line.look}</p>
      <LiveFigure line={line.id} />
      <div className="mt-auto pt-4">
        {(line.seen ?? line.why) && (
          <p className="flex gap-2">
            <span className="mt-0.5">
              <Waymark progress={line.state} here={false} />
            </span>
            <span>
              {line.seen && (
                <span className="block">
                  {line.seen}
                  {line.at && `, ${when(line.at)}`}
                </span>
              )}
              {line.why && <b className={`block font-medium ${wrong ? 'text-red' : ''}`}>{line.why}</b>}
            </span>
          </p>
        )}
        <div className="mt-3 flex flex-wrap gap-2.5">
          {line.station ? (
            <Link
              to={pathOf(line.station)}
              className="inline-flex min-h-11 items-center rounded-[4px] border border-contour px-3.5 font-medium"
            >
              {stationOf(line.station).name}
            </Link>
          ) : line.id === 'nothing-blocks' ? null : (
            <Say line={line} onSay={onSay} key={line.id} />
          )}
        </div>
      </div>
    </div>
  );
}

/** What was seen is said, with its figure where one is measured: that tells by itself whether it is well. */
function Say({ line, onSay }: Pick<Props, 'line' | 'onSay'>) {
  const of = lookFigures[line.id as LookedAt];
  const [figure, setFigure] = useState<number | null>(null);
  const units = useApp((s) => s.ui.units);
  return (
    <>
      {of && (
        <p className="flex basis-full items-baseline gap-2">
          <span className="text-soft">{of.name}</span>
          <QuantityField
            label={of.name}
            value={figure ?? 0}
            unit={of.unit}
            min={0}
            max={of.most}
            step={of.step}
            size="large"
            onChange={setFigure}
          />
          <span className="text-[13px] text-soft">
            well from {formatQuantity(of.least, of.unit, units)} on
          </span>
        </p>
      )}
      <Button
        kind="go"
        className="min-h-11"
        disabled={of !== undefined && !(figure !== null && figure >= of.least)}
        onClick={() => onSay(true, figure ?? undefined)}
      >
        {isFirstFlight(line.id) ? 'It flew so' : 'It is so'}
      </Button>
      <Button className="min-h-11" onClick={() => onSay(false, figure ?? undefined)}>
        {isFirstFlight(line.id) ? 'It did not' : 'It is not'}
      </Button>
    </>
  );
}
