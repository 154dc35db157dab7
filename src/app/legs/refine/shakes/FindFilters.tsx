import { useState } from 'react';
import type { ThrottleSpectra } from '#core/analysis/throttleSpectra.ts';
import { type FilterChoice, shaftLine } from '#core/answers/filterChoice.ts';
import { type FilterSet, filtersOf } from '#core/control/gyroFilter.ts';
import type { Axis } from '#core/mixer/authority.ts';
import type { SettingValue } from '#core/settings/catalogue.ts';
import { formatNumber } from '#core/units/units.ts';
import { selectValues } from '../../../store/selectors.ts';
import { store, useApp } from '../../../store/store.ts';
import { Button } from '../../../ui/Button.tsx';
import { Notice } from '../../../ui/Notice.tsx';
import { NumberField } from '../../../ui/NumberField.tsx';
import { workshop } from '../../../workers/index.ts';
import { useFinding } from '../useFinding.ts';

interface Props {
  readonly spectra: ThrottleSpectra;
  readonly middle: number;
  readonly axis: Axis;
  readonly speedMps: number;
  readonly crossHz: number;
  /** What the model of the motors says, Hz by throttle. */
  readonly shaft: (throttle: number) => number;
  readonly moves: 'servos' | 'motors';
}

/** The filters with least delay that leave no more shake than wanted; what is found goes to the tray, as any edit. */
export function FindFilters({ spectra, middle, axis, speedMps, crossHz, shaft, moves }: Props) {
  const values = useApp(selectValues);
  const [percent, setPercent] = useState(0.5);
  const [found, setFound] = useState<{ readonly choice: FilterChoice; readonly values: unknown } | null>(
    null,
  );
  const { finding, fault, find } = useFinding();
  const filters = async () => {
    let choice: FilterChoice | null = null;
    const staged = await find(async (craft, catalogue) => {
      choice = await workshop().chooseFilters(
        craft.airframe,
        craft.values,
        craft.pads,
        axis,
        speedMps,
        spectra,
        {
          middle,
          shaft: shaftLine(spectra, shaft, middle),
          crossHz,
          allowed: percent / 100,
          told: filtersOf(craft.values).told,
          plain: !catalogue.entry('gyro.notchPower'),
        },
      );
      if (choice?.enough) return { edits: editsOf(choice.set) };
      const left = choice
        ? `the quietest leave ${formatNumber(100 * choice.shake, 2)} %`
        : 'nothing turns it so';
      return {
        fault: `No notch and low-pass of this firmware keep it under ${formatNumber(percent, 2)} %: ${left}. Balance the propellers, lay the board softer, or allow more.`,
      };
    });
    if (staged && choice) setFound({ choice, values: selectValues(store.getState()) });
  };
  return (
    <section aria-label="Filters for this shake" className="mt-3 border-line border-t pt-3">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <p>
          Shake may move its {moves} by{' '}
          <NumberField
            label={`Most that shake may move the ${moves}`}
            value={percent}
            symbol="%"
            min={0.01}
            max={5}
            step={0.01}
            onChange={setPercent}
          />{' '}
          of their way
        </p>
        <Button disabled={finding} onClick={() => void filters()}>
          Find filters
        </Button>
      </div>
      {fault && <Notice>{fault}</Notice>}
      {found?.values === values && (
        <p className="mt-2 text-soft">
          Found: least delay that leaves {formatNumber(100 * found.choice.shake, 2)} %,{' '}
          {formatNumber(found.choice.degrees, 1)}° at {formatNumber(crossHz, 1)} Hz. They wait in the tray.
        </p>
      )}
    </section>
  );
}

const editsOf = (set: FilterSet): Record<string, SettingValue> => ({
  'gyro.notch': set.notchHz,
  ...(set.notchHz > 0
    ? {
        'gyro.notchQ': set.notchQ,
        'gyro.notchHarmonics': set.harmonics,
        'gyro.notchFollows': set.follows,
        'gyro.notchPower': set.power,
      }
    : {}),
  'gyro.cutoff': set.lowPassHz,
  'gyro.poles': set.poles,
  'gyro.kind': set.biquad ? 'biquad' : 'poles',
  'gyro.cutoff2': set.secondHz,
  'gyro.track': set.track,
});
