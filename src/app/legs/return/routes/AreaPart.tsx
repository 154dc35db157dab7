import { useMemo, useState } from 'react';
import type { Place } from '#core/navigation/earth.ts';
import { type Fence, type FlightPlan, MOST_CORNERS, MOST_FENCES, USUAL_POINT } from '#core/plan/plan.ts';
import { type Survey, surveyOf } from '#core/plan/survey.ts';
import type { Site } from '#core/site/site.ts';
import { formatDuration, formatQuantity } from '#core/units/units.ts';
import { useApp } from '../../../store/store.ts';
import { Button } from '../../../ui/Button.tsx';
import { Named } from '../../../ui/Named.tsx';
import { Notice } from '../../../ui/Notice.tsx';
import { NumberField } from '../../../ui/NumberField.tsx';
import { QuantityField } from '../../../ui/Quantity.tsx';
import { Select } from '../../../ui/Select.tsx';
import { TextButton } from '../../../ui/TextButton.tsx';
import { freeName, withFence } from './edits.ts';

interface Props {
  readonly corners: readonly Place[];
  readonly plan: FlightPlan;
  readonly site: Site;
  /** Of its circles, m: tracks nearer to each other than across one are not met in one turn. 0 for rotors. */
  readonly radiusM: number;
  readonly speedMps: number;
  readonly onSquare: () => void;
  readonly onBack: () => void;
  readonly onEnd: () => void;
  readonly onChange: (plan: FlightPlan) => void;
}

/** An area that was drawn: surveyed in parallel tracks, or made a fence. */
export function AreaPart({
  corners,
  plan,
  site,
  radiusM,
  speedMps,
  onSquare,
  onBack,
  onEnd,
  onChange,
}: Props) {
  const units = useApp((s) => s.ui.units);
  const [spacingM, setSpacing] = useState(80);
  const [heightM, setHeight] = useState(100);
  const [above, setAbove] = useState<'home' | 'ground'>('home');
  const [beyondM, setBeyond] = useState(60);
  const [cameraDeg, setCamera] = useState(90);
  const [bearing, setBearing] = useState<number | null>(null);
  const made = useMemo((): Survey | string => {
    try {
      const point = { heightM, above, speedMps: USUAL_POINT.speedMps, cameraDeg };
      return surveyOf(
        { corners, spacingM, beyondM, point, ...(bearing === null ? {} : { bearingDeg: bearing }) },
        site.home,
      );
    } catch (error) {
      return error instanceof Error ? error.message : String(error);
    }
  }, [corners, spacingM, heightM, above, beyondM, cameraDeg, bearing, site.home]);
  const closed = corners.length >= 3;
  const m = (v: number) => formatQuantity(v, 'm', units, 0);
  const fence = (keep: Fence['keep']) => {
    const drawn: Fence = {
      name: freeName(plan, keep === 'in' ? 'Keep in' : 'Keep out'),
      keep,
      area: { corners: corners.map(({ lat, lon }) => ({ lat, lon })) },
      fromM: 0,
      toM: keep === 'in' ? 0 : 150,
    };
    onChange(withFence(plan, drawn));
    onEnd();
  };
  return (
    <section aria-label="The area" className="mt-2 rounded-[4px] border border-lake bg-lake-wash px-3 py-2">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="font-semibold">An area</h2>
        <span className="text-soft" role="status">
          {closed
            ? `${corners.length} corners`
            : `Click its corners on the map, at least three${corners.length > 0 ? `: ${corners.length} so far` : ''}.`}
        </span>
        {corners.length === 0 && <TextButton onClick={onSquare}>begin with a square</TextButton>}
        {corners.length > 0 && <TextButton onClick={onBack}>last corner away</TextButton>}
        <TextButton onClick={onEnd}>leave it</TextButton>
        {corners.length >= MOST_CORNERS && (
          <span className="text-soft">No more than {MOST_CORNERS} are kept.</span>
        )}
      </div>
      {closed && (
        <>
          <dl className="mt-1 grid grid-cols-2 gap-x-4 gap-y-2 min-[820px]:grid-cols-6 [&_dt]:text-soft">
            <Named name="Between tracks">
              <QuantityField
                label="Between tracks"
                unit="m"
                value={spacingM}
                min={5}
                max={2000}
                step={5}
                onChange={setSpacing}
              />
            </Named>
            <Named name="Height">
              <QuantityField
                label="Height of the survey"
                unit="m"
                value={heightM}
                min={-500}
                max={3000}
                step={5}
                onChange={setHeight}
              />
            </Named>
            <Named name="Above">
              <Select
                look="small"
                aria-label="Height of the survey is above"
                value={above}
                onChange={(e) => setAbove(e.target.value as 'home' | 'ground')}
              >
                <option value="home">home</option>
                <option value="ground">the ground</option>
              </Select>
            </Named>
            <Named name="Beyond the ends">
              <QuantityField
                label="Beyond the ends"
                unit="m"
                value={beyondM}
                min={0}
                max={1000}
                step={10}
                onChange={setBeyond}
              />
            </Named>
            <Named name="Along">
              <NumberField
                label="Bearing of the tracks"
                value={bearing ?? (typeof made === 'string' ? 0 : made.bearingDeg)}
                symbol="°"
                min={0}
                max={360}
                step={5}
                onChange={setBearing}
              />{' '}
              {bearing === null ? (
                <span className="text-[13px] text-faint">fewest</span>
              ) : (
                <TextButton tone="soft" className="text-[13px]" onClick={() => setBearing(null)}>
                  fewest
                </TextButton>
              )}
            </Named>
            <Named name="Camera down">
              <NumberField
                label="Camera of the survey"
                value={cameraDeg}
                symbol="°"
                min={0}
                max={90}
                step={5}
                onChange={setCamera}
              />
            </Named>
          </dl>
          {typeof made === 'string' ? (
            <Notice tone="amber">{made}</Notice>
          ) : (
            <p className="mt-1 text-soft">
              {made.tracks} {made.tracks === 1 ? 'track' : 'tracks'}, {m(made.lengthM)} with the turns, about{' '}
              {formatDuration(made.lengthM / speedMps)}.
              {radiusM > 0 && spacingM < 2 * radiusM && made.tracks > 1 && (
                <>
                  {' '}
                  Its circles are {m(2 * radiusM)} across, wider than the tracks are apart: it comes onto each
                  track some way in, unless it flies on beyond the ends.
                </>
              )}
            </p>
          )}
          <div className="mt-2 flex flex-wrap gap-2">
            <Button
              kind="live"
              disabled={typeof made === 'string'}
              onClick={() => {
                if (typeof made === 'string') return;
                onChange({ ...plan, points: made.points });
                onEnd();
              }}
            >
              {plan.points.length > 0 ? 'Survey it instead of the route' : 'Survey it'}
            </Button>
            <Button disabled={plan.fences.length >= MOST_FENCES} onClick={() => fence('in')}>
              Keep in
            </Button>
            <Button disabled={plan.fences.length >= MOST_FENCES} onClick={() => fence('out')}>
              Keep out
            </Button>
          </div>
        </>
      )}
    </section>
  );
}
