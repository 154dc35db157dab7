import { retold } from '#core/units/retell.ts';
import { useApp } from '../store/store.ts';

/** Tells sentences that are written in metric in the units that the person likes. */
export function useTold(): (text: string) => string {
  const units = useApp((s) => s.ui.units);
  return (text) => retold(text, units);
}

/** One such sentence. */
export function Told({ children }: { readonly children: string }) {
  return useTold()(children);
}
