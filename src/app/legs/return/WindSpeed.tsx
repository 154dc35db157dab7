import { scenarioChanged } from '../../store/rehearsalSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { QuantityField } from '../../ui/Quantity.tsx';

const MOST_MPS = 40;
const MOST_GUST_MPS = 10;

/** A wind with the gusts that usually go with it: a fifth of it. */
export const withGusts = (speedMps: number) => Math.min(MOST_GUST_MPS, Number((0.2 * speedMps).toFixed(1)));

/** How strong the wind of the rehearsal is; its gusts follow. */
export function WindSpeed({ label }: { readonly label: string }) {
  const wind = useApp((s) => s.rehearsal.scenario.wind);
  const dispatch = useAppDispatch();
  return (
    <QuantityField
      label={label}
      unit="m/s"
      value={wind.speedMps}
      min={0}
      max={MOST_MPS}
      step={1}
      onChange={(speedMps) =>
        dispatch(scenarioChanged({ wind: { ...wind, speedMps, gustMps: withGusts(speedMps) } }))
      }
    />
  );
}
