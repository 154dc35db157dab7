import { useState } from 'react';
import type { ThrottleSpectra } from '#core/analysis/throttleSpectra.ts';
import { type FilterChoice, shaftLine } from '#core/answers/filterChoice.ts';
import type { Axis } from '#core/mixer/authority.ts';
import type { SettingValue } from '#core/settings/catalogue.ts';
import { formatNumber } from '#core/units/units.ts';
import { selectCatalogue, selectDescription, selectValues } from '../../../store/selectors.ts';
import { staged } from '../../../store/settingsSlice.ts';
import { store, useApp, useAppDispatch } from '../../../store/store.ts';
import { Button } from '../../../ui/Button.tsx';
import { Notice } from '../../../ui/Notice.tsx';
import { NumberField } from '../../../ui/NumberField.tsx';
import { workshop } from '../../../workers/index.ts';

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
  const dispatch = useAppDispatch();
  const values = useApp(selectValues);
  const [percent, setPercent] = useState(0.5);
  const [finding, setFinding] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const [found, setFound] = useState<{ readonly choice: FilterChoice; readonly values: unknown } | null>(
    null,
  );
  const find = async () => {
    const state = store.getState();
    const { airframe } = state.craft;
    const drafted = selectValues(state);
    const catalogue = selectCatalogue(state);
    if (!airframe) return;
    setFinding(true);
    setFault(null);
    try {
      const pads = selectDescription(state)?.pads ?? [];
      const choice = await workshop().chooseFilters(airframe, drafted, pads, axis, speedMps, spectra, {
        middle,
        shaft: shaftLine(spectra, shaft, middle),
        crossHz,
        allowed: percent / 100,
        plain: !catalogue.entry('gyro.notchPower'),
      });
      // Of settings that were changed meanwhile it says nothing.
      if (selectValues(store.getState()) !== drafted || !choice) return;
      if (!choice.enough)
        setFault(
          `No notch and low-pass of this firmware keep it under ${formatNumber(percent, 2)} %: the quietest leave ${formatNumber(100 * choice.shake, 2)} %. Balance the propellers, lay the board softer, or allow more.`,
        );
      else {
        const { set } = choice;
        const edits: Record<string, SettingValue> = {
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
        };
        dispatch(staged(Object.fromEntries(Object.entries(edits).filter(([key]) => catalogue.entry(key)))));
        setFound({ choice, values: selectValues(store.getState()) });
      }
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      setFault(`None were found: ${why}. Nothing was changed.`);
    } finally {
      setFinding(false);
    }
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
        <Button disabled={finding} onClick={() => void find()}>
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
