import { useMemo } from 'react';
import { selectValues, toFly } from '../../../store/selectors.ts';
import { store, useApp } from '../../../store/store.ts';
import { workshop } from '../../../workers/index.ts';
import type { OverlayFlown } from '../../../workers/overlayFlown.ts';
import { useWorked } from '../../useWorked.ts';

/** What a flight rests on: all that is set but the overlay, which can be changed over a flight that was flown. */
const printOf = (values: Readonly<Record<string, unknown>>) =>
  JSON.stringify(Object.entries(values).filter(([key]) => !key.startsWith('overlay.')));

/** A flight in the bench to be looked at under the overlay; kept until something changes that it rests on. */
export function useFlownPicture() {
  const values = useApp(selectValues);
  const print = useMemo(() => printOf(values), [values]);
  const { doing, of, work } = useWorked<OverlayFlown, string>('');
  const rehearse = () => {
    const what = toFly(store.getState());
    if (!what) return;
    void work(
      'flying',
      printOf(what.values),
      async () => {
        const flown = await workshop().flyOverlay(what);
        return 'refused' in flown
          ? { kind: 'fault', why: `${flown.refused} There is nothing to look at.` }
          : { kind: 'seen', seen: flown };
      },
      'It could not be rehearsed',
    );
  };
  return {
    rehearse,
    flying: doing.kind === 'flying',
    fault: doing.kind === 'fault' ? doing.why : null,
    flown: doing.kind === 'seen' && of === print ? doing.seen : null,
    /** It was flown, and something that it rests on was changed since. */
    stale: doing.kind === 'seen' && of !== print,
  };
}
