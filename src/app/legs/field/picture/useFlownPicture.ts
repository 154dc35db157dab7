import { selectValues, toFly } from '../../../store/selectors.ts';
import { store, useApp } from '../../../store/store.ts';
import { workshop } from '../../../workers/index.ts';
import type { OverlayFlown } from '../../../workers/overlayFlown.ts';
import type { ToFly } from '../../../workers/toFly.ts';
import { useWorked } from '../../useWorked.ts';

/** All that a flight rests on, settings but for the overlay, which can be changed over a flight that was flown. */
type Of = Pick<ToFly, 'airframe' | 'site' | 'scenario' | 'plan' | 'truth'> & { readonly values: string };

const printOf = (values: Readonly<Record<string, unknown>>) =>
  JSON.stringify(Object.entries(values).filter(([key]) => !key.startsWith('overlay.')));
const ofFlight = ({ airframe, site, scenario, plan, truth, values }: ToFly): Of => ({
  ...{ airframe, site, scenario, plan, truth },
  values: printOf(values),
});
const same = (a: Of, b: Of) => (Object.keys(a) as (keyof Of)[]).every((k) => a[k] === b[k]);

/** A flight in the bench to be looked at under the overlay; kept until something changes that it rests on. */
export function useFlownPicture() {
  // Asked for anew with each of them.
  useApp(selectValues);
  useApp((s) => s.craft.file);
  useApp((s) => s.craft.airframe);
  useApp((s) => s.site.current);
  useApp((s) => s.rehearsal.scenario);
  const { doing, of, work } = useWorked<OverlayFlown, Of | null>(null);
  const rehearse = () => {
    const what = toFly(store.getState());
    if (!what) return;
    void work(
      'flying',
      ofFlight(what),
      async () => {
        const flown = await workshop().flyOverlay(what);
        return 'refused' in flown
          ? { kind: 'fault', why: `${flown.refused} There is nothing to look at.` }
          : { kind: 'seen', seen: flown };
      },
      'It could not be rehearsed',
    );
  };
  const now = doing.kind === 'seen' ? toFly(store.getState()) : null;
  const holds = now !== null && of !== null && same(of, ofFlight(now));
  return {
    rehearse,
    flying: doing.kind === 'flying',
    fault: doing.kind === 'fault' ? doing.why : null,
    flown: doing.kind === 'seen' && holds ? doing.seen : null,
    /** It was flown, and something that it rests on was changed since. */
    stale: doing.kind === 'seen' && !holds,
  };
}
