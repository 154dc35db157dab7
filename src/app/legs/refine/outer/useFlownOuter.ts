import { useEffect, useRef } from 'react';
import type { OuterTraces } from '#core/answers/outer/predict.ts';
import { selectValues, toFly } from '../../../store/selectors.ts';
import { store, useApp } from '../../../store/store.ts';
import { workshop } from '../../../workers/index.ts';
import { useWorked } from '../../useWorked.ts';

/** After the last edit it waits so long before it flies, ms. */
const RESTS_MS = 400;

/** The drafted settings flown anew whenever they rest; what was flown by others is not shown. */
export function useFlownOuter() {
  const values = useApp(selectValues);
  const airframe = useApp((s) => s.craft.airframe);
  const bench = useApp((s) => s.craft.file?.bench);
  const { doing, of, work } = useWorked<OuterTraces, unknown>(null);
  const begin = useRef(work);
  begin.current = work;
  // Whatever of these changes is flown anew.
  useEffect(() => {
    const timer = setTimeout(() => {
      const what = toFly(store.getState());
      if (!what) return;
      void begin.current(
        'flying',
        what.values,
        async () => {
          const flown = await workshop().flyOuter(what);
          return 'refused' in flown
            ? { kind: 'fault', why: `${flown.refused} So what is drawn is only promised.` }
            : { kind: 'seen', seen: flown.flown };
        },
        'It could not be flown',
      );
    }, RESTS_MS);
    return () => clearTimeout(timer);
  }, [values, airframe, bench]);
  return { doing, flown: doing.kind === 'seen' && of === values ? doing.seen : null };
}
