import type { checkAll } from '#core/findings/findings.ts';
import type { AppDispatch } from './store.ts';
import { uiChanged } from './uiSlice.ts';

/** The rules that find what is wrong: they come after the first page, which is drawn without them. */
let rules: typeof checkAll | null = null;

/** The rules, once the store says that they are there. */
export const theRules = () => rules;

/** Fetches the rules and says so to a store; until then it knows of nothing that would be wrong, nor of how far the craft is. */
export async function loadRules(store: { readonly dispatch: AppDispatch }): Promise<void> {
  ({ checkAll: rules } = await import('#core/findings/findings.ts'));
  store.dispatch(uiChanged({ rulesThere: true }));
}
