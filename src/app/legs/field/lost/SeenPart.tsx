import { DEG, wrapBearingDeg } from '#core/math/scalar.ts';
import type { LastSeen } from '#core/search/lastSeen.ts';
import type { UnitId } from '#core/units/units.ts';
import { Check } from '../../../ui/Check.tsx';
import { Named } from '../../../ui/Named.tsx';
import { QuantityField } from '../../../ui/Quantity.tsx';
import { PlaceField } from './PlaceField.tsx';

interface Props {
  readonly seen: LastSeen;
  readonly onChange: (seen: LastSeen) => void;
}

interface Figure {
  readonly name: (seen: LastSeen) => string;
  readonly label: string;
  readonly unit: UnitId;
  readonly least: number;
  readonly most: number;
  readonly step: number;
  readonly of: (seen: LastSeen) => number;
  readonly put: (value: number) => Partial<LastSeen>;
}

/** What a search takes of the battery where nobody knows it (`core/search`). */
const USUAL_LEFT = 0.6;
const bearing = (rad: number) => Math.round(wrapBearingDeg(rad / DEG));

const figures: readonly Figure[] = [
  {
    ...{
      name: () => 'above the sea',
      label: 'Height above the sea',
      unit: 'm',
      least: -100,
      most: 9000,
      step: 1,
    },
    ...{ of: (s) => s.heightM, put: (heightM) => ({ heightM }) },
  },
  {
    ...{ name: () => 'moving to', label: 'Course', unit: 'deg', least: 0, most: 360, step: 1 },
    ...{ of: (s) => bearing(s.courseRad), put: (deg) => ({ courseRad: deg * DEG }) },
  },
  {
    ...{
      name: () => 'over the ground',
      label: 'Speed over the ground',
      unit: 'm/s',
      least: 0,
      most: 120,
      step: 1,
    },
    ...{ of: (s) => s.speedMps, put: (speedMps) => ({ speedMps }) },
  },
  {
    ...{ name: () => 'climbing', label: 'Climb', unit: 'm/s', least: -60, most: 60, step: 0.5 },
    ...{ of: (s) => s.climbMps, put: (climbMps) => ({ climbMps }) },
  },
  {
    ...{
      name: () => 'place good to',
      label: 'Accuracy of the place',
      unit: 'm',
      least: 0.5,
      most: 2000,
      step: 1,
    },
    ...{ of: (s) => s.accuracyM, put: (accuracyM) => ({ accuracyM }) },
  },
  {
    ...{ name: () => 'wind from', label: 'Wind from', unit: 'deg', least: 0, most: 360, step: 5 },
    ...{ of: (s) => bearing(s.windFromRad), put: (deg) => ({ windFromRad: deg * DEG }) },
  },
  {
    ...{ name: () => 'wind at 10 m', label: 'Wind', unit: 'm/s', least: 0, most: 50, step: 0.5 },
    ...{ of: (s) => s.windMps, put: (windMps) => ({ windMps }) },
  },
  {
    name: (s) => (s.batteryShare === undefined ? 'battery not known, taken as' : 'battery left'),
    ...{ label: 'Battery left', unit: 'percent', least: 0, most: 100, step: 5 },
    ...{
      of: (s) => 100 * (s.batteryShare ?? USUAL_LEFT),
      put: (percent) => ({ batteryShare: percent / 100 }),
    },
  },
];

/** What was last known of it, figure by figure. */
export function SeenPart({ seen, onChange }: Props) {
  const put = (change: Partial<LastSeen>) => onChange({ ...seen, ...change });
  return (
    <dl className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(128px,1fr))] gap-x-5 gap-y-2">
      <Named name="at" className="col-span-2">
        <PlaceField label="Where it was last seen" place={seen} onChange={put} />
      </Named>
      {figures.map((f) => (
        <Named key={f.label} name={f.name(seen)}>
          <QuantityField
            {...{ label: f.label, unit: f.unit, min: f.least, max: f.most, step: f.step }}
            value={f.of(seen)}
            onChange={(value) => put(f.put(value))}
          />
        </Named>
      ))}
      <div className="col-span-2 self-end">
        <dt className="sr-only">what it did</dt>
        <dd>
          <Check checked={seen.returning} onChange={(e) => put({ returning: e.target.checked })}>
            it was on its way home by itself
          </Check>
        </dd>
      </div>
    </dl>
  );
}
