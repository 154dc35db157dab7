import { useState } from 'react';
import type { SetCraft } from '#core/answers/loggedAnswer.ts';
import type { Catalogue, SettingValue } from '#core/settings/catalogue.ts';
import { selectCatalogue, selectDescription, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { store, useAppDispatch } from '../../store/store.ts';

/** Settings that were found, or why there are none. */
type Outcome = { readonly edits: Readonly<Record<string, SettingValue>> } | { readonly fault: string };

/** Settings worked out by a worker: what is found goes to the tray as any edit, as far as the board has it. */
export function useFinding() {
  const dispatch = useAppDispatch();
  const [finding, setFinding] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  /** @returns whether something was found and staged */
  const find = async (
    does: (craft: SetCraft, catalogue: Catalogue) => Promise<Outcome>,
  ): Promise<boolean> => {
    const state = store.getState();
    const { airframe } = state.craft;
    if (!airframe) return false;
    const values = selectValues(state);
    const catalogue = selectCatalogue(state);
    setFinding(true);
    setFault(null);
    try {
      const outcome = await does({ airframe, values, pads: selectDescription(state)?.pads ?? [] }, catalogue);
      // Of settings that were changed meanwhile it says nothing.
      if (selectValues(store.getState()) !== values) return false;
      if ('fault' in outcome) {
        setFault(outcome.fault);
        return false;
      }
      const had = Object.entries(outcome.edits).filter(([key]) => catalogue.entry(key));
      dispatch(staged(Object.fromEntries(had)));
      return true;
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      setFault(`None were found: ${why}. Nothing was changed.`);
      return false;
    } finally {
      setFinding(false);
    }
  };
  return { finding, fault, find };
}
