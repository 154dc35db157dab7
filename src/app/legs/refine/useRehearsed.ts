import { selectValues, toFly } from '../../store/selectors.ts';
import { store, useApp } from '../../store/store.ts';
import type { ToFly } from '../../workers/toFly.ts';
import { useWorked } from '../useWorked.ts';

/**
 * A flight in the bench of what is drafted; it is seen until the draft changes.
 * @param fly in a worker
 * @param so what does not come of it where it is refused, as a sentence
 */
export function useRehearsed<Seen extends object>(
  fly: (what: ToFly) => Promise<Seen | { readonly refused: string }>,
  so: string,
) {
  const values = useApp(selectValues);
  const { doing, of, work } = useWorked<Seen, unknown>(null);
  const rehearse = () => {
    const what = toFly(store.getState());
    if (!what) return;
    void work(
      'flying',
      what.values,
      async () => {
        const flown = await fly(what);
        return 'refused' in flown
          ? { kind: 'fault', why: `${flown.refused} ${so}` }
          : { kind: 'seen', seen: flown };
      },
      'It could not be rehearsed',
    );
  };
  return {
    rehearse,
    flying: doing.kind === 'flying',
    fault: doing.kind === 'fault' ? doing.why : null,
    seen: doing.kind === 'seen' && of === values ? doing.seen : null,
  };
}
