import { useMemo } from 'react';
import type { Airframe } from '#core/airframe/airframe.ts';
import { ringingOf } from '#core/answers/ringing.ts';
import type { BoardDescription } from '#core/board/description.ts';
import { type DialSettings, dialKey, dialled, keysMoved } from '#core/control/dials.ts';
import type { Catalogue, Values } from '#core/settings/catalogue.ts';
import { useSampled } from '../../../live/hooks.ts';
import { live } from '../../../live/telemetry.ts';
import { selectFindings } from '../../../store/selectors.ts';
import { staged } from '../../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../../store/store.ts';
import { Button } from '../../../ui/Button.tsx';
import { Named } from '../../../ui/Named.tsx';
import { SettingField } from '../../../ui/SettingField.tsx';
import { DialScale, shownGain } from './DialScale.tsx';

interface Props {
  readonly dial: number;
  /** As it is drafted; null where it moves nothing. */
  readonly set: DialSettings | null;
  readonly flownSet: number;
  readonly airframe: Airframe;
  readonly values: Values;
  readonly pads: BoardDescription['pads'];
  readonly catalogue: Catalogue;
  /** What the board has: its dials multiply that. */
  readonly base: Values;
  /** Its settings are those of the board: what it tells is of them. */
  readonly onBoard: boolean;
}

/** Less than this off what is written is as written. */
const OFF = 0.01;

/** One dial: its channel and what it moves, how far, where it rings, what it gives now. */
export function DialPart({ dial, set, flownSet, airframe, values, pads, catalogue, base, onBoard }: Props) {
  const dispatch = useAppDispatch();
  const times = useSampled(() => (onBoard ? (live('dials')?.times[dial - 1] ?? null) : null));
  const keys = set ? keysMoved(set, flownSet).filter((k) => catalogue.entry(k)) : [];
  const ringsFrom = useMemo(
    () => (set ? ringsFromPlace(set, flownSet, airframe, values, pads, catalogue) : null),
    [set, flownSet, airframe, values, pads, catalogue],
  );
  const first = keys[0];
  const written = first === undefined ? null : (values[first] as number);
  const at = (by: number) => (written === null ? '' : shownGain(written * by));
  const onIt = first === undefined ? null : (base[first] as number | undefined);
  const given = times === null || typeof onIt !== 'number' ? null : shownGain(onIt * times);
  const off = times !== null && Math.abs(times - 1) > OFF;
  const taken = () => {
    const turned = Array.from({ length: dial }, (_, i) => (i === dial - 1 ? times! : 1));
    const all = dialled(base, turned, flownSet, (key) => catalogue.entry(key));
    dispatch(staged(Object.fromEntries(Object.entries(all).filter(([key]) => keys.includes(key as never)))));
  };
  const found = useApp(selectFindings).filter((f) => f.station === 'by-dial' && f.id.endsWith(`.${dial}`));
  return (
    <section aria-label={`Dial ${dial}`} className="border-line border-t pt-3">
      <h2 className="font-semibold">Dial {dial}</h2>
      {found.map((f) => (
        <div
          key={f.id}
          className={`mt-1 border-l-4 pl-3 ${f.severity === 'blocks' ? 'border-red' : 'border-amber'}`}
        >
          <p>
            {f.title}. <span className="text-soft">{f.why}</span>
          </p>
          {f.fix && (
            <Button className="mt-1" onClick={() => f.fix && dispatch(staged(f.fix.edits))}>
              {f.fix.label}
            </Button>
          )}
        </div>
      ))}
      <div className="mt-1 grid gap-x-8 gap-y-3 min-[720px]:grid-cols-[minmax(0,1fr)_280px]">
        <dl className="grid content-start gap-x-6 gap-y-3 min-[420px]:grid-cols-2">
          <Named name="channel">
            <SettingField name={dialKey(dial, 'channel')} size="large" />
          </Named>
          <Named name="moves">
            <SettingField name={dialKey(dial, 'moves')} />
          </Named>
          {set && (
            <>
              <Named name="is">
                <SettingField name={dialKey(dial, 'by')} />
              </Named>
              <Named name="no farther than, times">
                <SettingField name={dialKey(dial, 'span')} size="large" />
              </Named>
              {set.by === 'switch' && (
                <Named name="at each flick, share">
                  <SettingField name={dialKey(dial, 'step')} size="large" />
                </Named>
              )}
            </>
          )}
        </dl>
        {set && written !== null && (
          <div>
            <DialScale
              low={at(1 / set.span)}
              middle={at(1)}
              high={at(set.span)}
              ringsFrom={ringsFrom}
              at={times === null ? null : Math.log(times) / Math.log(set.span)}
              now={given}
              steps={set.by === 'switch' ? stepsOf(set) : []}
            />
            <p role="status" className="text-[14px]">
              {times === null ? (
                <span className="text-soft">
                  {onBoard
                    ? 'The board tells nothing of it now.'
                    : 'What it gives is seen once this is on the board.'}
                </span>
              ) : (
                <>
                  {keys.length > 1 ? 'They are now at ' : 'It is now at '}
                  <b className="num text-lake">{keys.length > 1 ? `${shownGain(times)} ×` : given}</b>
                  {off ? '.' : ', as written.'}
                </>
              )}
            </p>
            {off && (
              <>
                <Button className="mt-1" onClick={taken}>
                  Keep what it gives
                </Button>
                <p className="mt-1 text-[13px] text-soft">
                  Turn it back to its middle before this is written: it multiplies what is written.
                </p>
              </>
            )}
          </div>
        )}
      </div>
    </section>
  );
}

/** Places that flicks come to, from the middle. */
function stepsOf({ span, step }: DialSettings): readonly number[] {
  const each = Math.log(1 + step) / Math.log(span);
  const n = Math.min(12, Math.floor(1 / each));
  return Array.from({ length: 2 * n + 1 }, (_, i) => (i - n) * each);
}

/** Parts of the way from the middle up in which ringing is looked for. */
const PARTS = 4;

/** Where a dial begins to ring; null where it does not on all of its way. */
function ringsFromPlace(
  set: DialSettings,
  flownSet: number,
  airframe: Airframe,
  values: Values,
  pads: BoardDescription['pads'],
  catalogue: Catalogue,
): number | null {
  if (!keysMoved(set, 1).some((k) => k.startsWith('rate.'))) return null;
  const ringsAt = (place: number) => {
    const turned = Array.from({ length: set.dial }, (_, i) => (i === set.dial - 1 ? set.span ** place : 1));
    const moved = { ...values, ...dialled(values, turned, flownSet, (key) => catalogue.entry(key)) };
    return ringingOf(airframe, moved, pads).some((r) => r.state === 'rings');
  };
  if (!ringsAt(1)) return null;
  for (let k = 0; k < PARTS; k++) if (ringsAt(k / PARTS)) return k / PARTS;
  return 1 - 0.5 / PARTS;
}
