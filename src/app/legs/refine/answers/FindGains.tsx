import { useState } from 'react';
import type { Axis } from '#core/mixer/authority.ts';
import { Button } from '../../../ui/Button.tsx';
import { Notice } from '../../../ui/Notice.tsx';
import { NumberField } from '../../../ui/NumberField.tsx';
import { workshop } from '../../../workers/index.ts';
import { useFinding } from '../useFinding.ts';
import { gainEdits } from './gains.ts';

/** A wanted answer: how far it may go over. What is found goes to the tray, as any edit. */
export function FindGains({ axis, speedMps }: { readonly axis: Axis; readonly speedMps: number }) {
  const [percent, setPercent] = useState(10);
  const { finding, fault, find } = useFinding();
  const gains = () =>
    find(async ({ airframe, values, pads }, catalogue) => {
      const found = await workshop().solveGains(airframe, values, pads, axis, speedMps, percent / 100);
      return found
        ? { edits: gainEdits(found, axis, catalogue) }
        : {
            fault: `No gains keep it under ${percent} % over, bring it to what is asked and leave enough until it rings. Allow more, or look at what the ribbon is spent on.`,
          };
    });
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
      <Button className="mt-1" disabled={finding} onClick={() => void gains()}>
        Find gains
      </Button>
      {fault && <Notice className="mt-2">{fault}</Notice>}
    </div>
  );
}
