import type { ReactNode } from 'react';
import { DEG, wrapBearingDeg } from '#core/math/scalar.ts';
import type { LastSeen } from '#core/search/lastSeen.ts';
import { Check } from '../../../ui/Check.tsx';
import { Named } from '../../../ui/Named.tsx';
import { QuantityField } from '../../../ui/Quantity.tsx';
import { PlaceField } from './PlaceField.tsx';

interface Props {
  readonly seen: LastSeen;
  readonly onChange: (seen: LastSeen) => void;
}

/** What was last known of it, figure by figure. */
export function SeenPart({ seen, onChange }: Props) {
  const put = (change: Partial<LastSeen>) => onChange({ ...seen, ...change });
  const bearing = (rad: number) => Math.round(wrapBearingDeg(rad / DEG));
  return (
    <dl className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(128px,1fr))] gap-x-5 gap-y-2">
      <Named name="at" className="col-span-2">
        <PlaceField label="Where it was last seen" place={seen} onChange={put} />
      </Named>
      <Named name="above the sea">
        <QuantityField
          label="Height above the sea"
          value={seen.heightM}
          unit="m"
          min={-100}
          max={9000}
          step={1}
          onChange={(heightM) => put({ heightM })}
        />
      </Named>
      <Named name="moving to">
        <QuantityField
          label="Course"
          value={bearing(seen.courseRad)}
          unit="deg"
          min={0}
          max={360}
          step={1}
          onChange={(d) => put({ courseRad: d * DEG })}
        />
      </Named>
      <Named name="over the ground">
        <QuantityField
          label="Speed over the ground"
          value={seen.speedMps}
          unit="m/s"
          min={0}
          max={120}
          step={1}
          onChange={(speedMps) => put({ speedMps })}
        />
      </Named>
      <Named name="climbing">
        <QuantityField
          label="Climb"
          value={seen.climbMps}
          unit="m/s"
          min={-60}
          max={60}
          step={0.5}
          onChange={(climbMps) => put({ climbMps })}
        />
      </Named>
      <Named name="place good to">
        <QuantityField
          label="Accuracy of the place"
          value={seen.accuracyM}
          unit="m"
          min={0.5}
          max={2000}
          step={1}
          onChange={(accuracyM) => put({ accuracyM })}
        />
      </Named>
      <Named name="wind from">
        <QuantityField
          label="Wind from"
          value={bearing(seen.windFromRad)}
          unit="deg"
          min={0}
          max={360}
          step={5}
          onChange={(d) => put({ windFromRad: d * DEG })}
        />
      </Named>
      <Named name="wind at 10 m">
        <QuantityField
          label="Wind"
          value={seen.windMps}
          unit="m/s"
          min={0}
          max={50}
          step={0.5}
          onChange={(windMps) => put({ windMps })}
        />
      </Named>
      <Named name="battery left">
        <QuantityField
          label="Battery left"
          value={100 * (seen.batteryShare ?? 0.6)}
          unit="percent"
          min={0}
          max={100}
          step={5}
          onChange={(p) => put({ batteryShare: p / 100 })}
        />
      </Named>
      <Mode>
        <Check checked={seen.returning} onChange={(e) => put({ returning: e.target.checked })}>
          it was on its way home by itself
        </Check>
      </Mode>
    </dl>
  );
}

const Mode = ({ children }: { readonly children: ReactNode }) => (
  <div className="col-span-2 self-end">
    <dt className="sr-only">what it did</dt>
    <dd>{children}</dd>
  </div>
);
