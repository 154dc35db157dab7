import { useDeferredValue, useMemo } from 'react';
import { DIALS, dialKey, dialsOf } from '#core/control/dials.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { selectCatalogue, selectDescription, selectValues } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { Lead } from '../Lead.tsx';
import { DialPart } from './dials/DialPart.tsx';

const noPads: [] = [];
const parts = ['channel', 'moves', 'by', 'span', 'step'] as const;

/** Settings that the pilot moves while it flies. */
export default function ByDialStation() {
  const airframe = useApp((s) => s.craft.airframe)!;
  const values = useDeferredValue(useApp(selectValues));
  const base = useApp((s) => s.settings.base);
  const met = useApp((s) => s.settings.baseFrom === 'board');
  const catalogue = useApp(selectCatalogue);
  const pads = useApp((s) => selectDescription(s)?.pads) ?? noPads;
  const dials = useMemo(() => dialsOf(values), [values]);
  const flownSet = Number(settingsOf(values).choice('set.active'));
  return (
    <>
      <Lead />
      <div className="mt-3 flex flex-col gap-4">
        {Array.from({ length: DIALS }, (_, i) => (
          <DialPart
            key={dialKey(i + 1, 'channel')}
            dial={i + 1}
            set={dials.find((d) => d.dial === i + 1) ?? null}
            flownSet={flownSet}
            airframe={airframe}
            values={values}
            pads={pads}
            catalogue={catalogue}
            base={base}
            onBoard={met && parts.every((p) => base[dialKey(i + 1, p)] === values[dialKey(i + 1, p)])}
          />
        ))}
      </div>
    </>
  );
}
