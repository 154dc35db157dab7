import { useState } from 'react';
import type { Axis } from '#core/mixer/authority.ts';
import { selectCatalogue, selectDescription, selectValues } from '../../../store/selectors.ts';
import { staged } from '../../../store/settingsSlice.ts';
import { store, useAppDispatch } from '../../../store/store.ts';
import { Button } from '../../../ui/Button.tsx';
import { Notice } from '../../../ui/Notice.tsx';
import { NumberField } from '../../../ui/NumberField.tsx';
import { workshop } from '../../../workers/index.ts';
import { gainEdits } from './gains.ts';

/** A wanted answer: how far it may go over. What is found goes to the tray, as any edit. */
export function FindGains({ axis, speedMps }: { readonly axis: Axis; readonly speedMps: number }) {
  const dispatch = useAppDispatch();
  const [percent, setPercent] = useState(10);
  const [finding, setFinding] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const find = async () => {
    const state = store.getState();
    const { airframe } = state.craft;
    const values = selectValues(state);
    if (!airframe) return;
    setFinding(true);
    setFault(null);
    try {
      const pads = selectDescription(state)?.pads ?? [];
      const gains = await workshop().solveGains(airframe, values, pads, axis, speedMps, percent / 100);
      // Of settings that were changed meanwhile it says nothing.
      if (selectValues(store.getState()) !== values) return;
      if (gains) dispatch(staged(gainEdits(gains, axis, selectCatalogue(state))));
      else
        setFault(
          `No gains keep it under ${percent} % over, bring it to what is asked and leave enough until it rings. Allow more, or look at what the ribbon is spent on.`,
        );
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      setFault(`None were found: ${why}. Nothing was changed.`);
    } finally {
      setFinding(false);
    }
  };
  return (
    <div className="border-line border-t pt-3">
      <p className="text-soft">
        at most{' '}
        <NumberField
          label="Most over what is asked"
          value={percent}
          symbol="%"
          min={1}
          max={50}
          step={1}
          onChange={setPercent}
        />{' '}
        over
      </p>
      <Button className="mt-1" disabled={finding} onClick={() => void find()}>
        Find gains
      </Button>
      {fault && <Notice className="mt-2">{fault}</Notice>}
    </div>
  );
}
