import { type FlightPlan, type PointAction, pointActions, type RoutePoint } from '#core/plan/plan.ts';
import { Named } from '../../../ui/Named.tsx';
import { NumberField } from '../../../ui/NumberField.tsx';
import { QuantityField } from '../../../ui/Quantity.tsx';
import { Select } from '../../../ui/Select.tsx';
import { TextButton } from '../../../ui/TextButton.tsx';
import { turnedRound, withAllPoints, withoutPoint, withPoint, withPointChanged } from './edits.ts';

const actionWords: Readonly<Record<PointAction, string>> = {
  pass: 'fly past',
  circle: 'circle',
  climb: 'climb there',
  camera: 'point the camera',
  land: 'land',
};

interface Props {
  readonly plan: FlightPlan;
  /** The point that is picked, 0-based; null for none. */
  readonly at: number | null;
  readonly rotors: boolean;
  /** The usual speed, which nought stands for, m/s. */
  readonly usualMps: number;
  readonly onChange: (plan: FlightPlan) => void;
  readonly onPick: (at: number | null) => void;
}

/** What is asked at a point, or of all of them. */
export function PointPart({ plan, at, rotors, usualMps, onChange, onPick }: Props) {
  const { points } = plan;
  const point = at === null ? null : points[at];
  const set = (change: Partial<RoutePoint>) =>
    onChange(at === null ? withAllPoints(plan, change) : withPointChanged(plan, at, change));
  const shown = point ?? points[0];
  if (!shown) return null;
  const name = point ? `Point ${at! + 1}` : 'All points';
  return (
    <section aria-label={name} className="mt-2">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="font-semibold">
          {name}
          {point && <span className="font-normal text-soft"> of {points.length}</span>}
        </h2>
        {point ? (
          <>
            <TextButton disabled={at === 0} onClick={() => onPick(at! - 1)}>
              before
            </TextButton>
            <TextButton disabled={at === points.length - 1} onClick={() => onPick(at! + 1)}>
              next
            </TextButton>
            <TextButton onClick={() => onPick(null)}>all points</TextButton>
            <TextButton
              onClick={() => {
                const after = points[at! + 1];
                const place = after
                  ? { lat: (point.lat + after.lat) / 2, lon: (point.lon + after.lon) / 2 }
                  : { lat: point.lat + 0.002, lon: point.lon };
                onChange(withPoint(plan, place, at!));
                onPick(at! + 1);
              }}
            >
              one more after it
            </TextButton>
            <TextButton
              tone="red"
              onClick={() => {
                onChange(withoutPoint(plan, at!));
                onPick(points.length === 1 ? null : Math.min(at!, points.length - 2));
              }}
            >
              take away
            </TextButton>
          </>
        ) : (
          <>
            <TextButton onClick={() => onPick(0)}>one by one</TextButton>
            <TextButton onClick={() => onChange(turnedRound(plan))}>the other way round</TextButton>
            <TextButton tone="red" onClick={() => onChange({ ...plan, points: [] })}>
              take all away
            </TextButton>
          </>
        )}
      </div>
      <dl className="mt-1 grid grid-cols-2 gap-x-4 gap-y-2 min-[820px]:grid-cols-6 [&_dt]:text-soft">
        <Named name="Height">
          <QuantityField
            label={`Height of ${name.toLowerCase()}`}
            unit="m"
            value={shown.heightM}
            min={-500}
            max={3000}
            step={5}
            onChange={(heightM) => set({ heightM })}
          />
        </Named>
        <Named name="Above">
          <Select
            look="small"
            aria-label={`Height of ${name.toLowerCase()} is above`}
            value={shown.above}
            onChange={(e) => set({ above: e.target.value as RoutePoint['above'] })}
          >
            <option value="home">home</option>
            <option value="ground">the ground</option>
          </Select>
        </Named>
        <Named name={point ? 'Speed on the way to it' : 'Speed'}>
          <QuantityField
            label={`Speed to ${name.toLowerCase()}`}
            unit="m/s"
            value={shown.speedMps || usualMps}
            min={1}
            max={60}
            step={0.5}
            onChange={(speedMps) => set({ speedMps })}
          />{' '}
          {shown.speedMps > 0 ? (
            <TextButton tone="soft" className="text-[13px]" onClick={() => set({ speedMps: 0 })}>
              usual
            </TextButton>
          ) : (
            <span className="text-[13px] text-faint">usual</span>
          )}
        </Named>
        {point ? (
          <>
            <Named name="There">
              <Select
                look="small"
                aria-label={`What is done at point ${at! + 1}`}
                value={point.do}
                onChange={(e) => set({ do: e.target.value as PointAction })}
              >
                {pointActions.map((a) => (
                  <option key={a} value={a}>
                    {actionWords[a]}
                  </option>
                ))}
              </Select>
            </Named>
            {point.do === 'circle' && (
              <>
                <Named name="At least">
                  <NumberField
                    label="Time there"
                    value={point.seconds}
                    symbol="s"
                    min={0}
                    max={3600}
                    step={5}
                    onChange={(seconds) => set({ seconds })}
                  />
                </Named>
                {!rotors && (
                  <Named name="And">
                    <NumberField
                      label="Turns there"
                      value={point.turns}
                      symbol="turns"
                      min={0}
                      max={50}
                      step={1}
                      onChange={(turns) => set({ turns })}
                    />
                  </Named>
                )}
              </>
            )}
            {point.do === 'camera' && (
              <Named name="Below the horizon">
                <NumberField
                  label="Camera below the horizon"
                  value={point.cameraDeg}
                  symbol="°"
                  min={0}
                  max={90}
                  step={5}
                  onChange={(cameraDeg) => set({ cameraDeg })}
                />
              </Named>
            )}
          </>
        ) : (
          <Named name="After the last">
            <Select
              look="small"
              aria-label="After the last point"
              value={plan.end}
              onChange={(e) => onChange({ ...plan, end: e.target.value as FlightPlan['end'] })}
            >
              <option value="return">return home</option>
              <option value="circle">circle there</option>
            </Select>
          </Named>
        )}
      </dl>
    </section>
  );
}
