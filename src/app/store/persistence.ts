import * as z from 'zod';
import { type CraftFile, readCraftFile } from '#core/formats/craftFile.ts';
import { scenarioSchema } from '#core/formats/scenario.ts';
import { settingValueSchema } from '#core/settings/catalogue.ts';
import { unitSystems } from '#core/units/units.ts';
import { rows } from './database.ts';
import { craftTextNow } from './selectors.ts';
import { type AppState, store } from './store.ts';
import { uiChanged } from './uiSlice.ts';

/** What is kept between visits besides the craft itself. */
const keptSchema = z.object({
  craft: z.string(),
  past: z.array(z.record(z.string(), settingValueSchema)).max(500),
  future: z.array(z.record(z.string(), settingValueSchema)).max(500),
  baseFrom: z.enum(['file', 'board']),
  scenario: scenarioSchema,
  theme: z.enum(['day', 'dusk']),
  units: z.enum(unitSystems as unknown as ['metric']),
  paneOpen: z.boolean(),
});

export interface Kept {
  readonly craft: CraftFile;
  readonly rest: Omit<z.infer<typeof keptSchema>, 'craft'>;
}

const SAVE_AFTER_MS = 120;

/** What was kept last time; null on a first visit. Throws a sentence where something is there but unusable. */
export async function loadKept(): Promise<Kept | null> {
  const raw: unknown = await rows.get('craft', 'current');
  if (raw === undefined) return null;
  const parsed = keptSchema.safeParse(raw);
  if (!parsed.success) throw new Error('What the browser kept is damaged; the demo craft is opened instead.');
  const { craft, ...rest } = parsed.data;
  const read = readCraftFile(craft);
  if (!read.ok) throw new Error(`What the browser kept is damaged: ${read.why}`);
  return { craft: read.craft, rest };
}

function snapshot(state: AppState): z.infer<typeof keptSchema> | null {
  const craft = craftTextNow(state);
  if (craft === null) return null;
  return {
    craft,
    past: [...state.settings.draft.past],
    future: [...state.settings.draft.future],
    baseFrom: state.settings.baseFrom,
    scenario: state.rehearsal.scenario,
    theme: state.ui.theme,
    units: state.ui.units as 'metric',
    paneOpen: state.ui.paneOpen,
  };
}

export const STORAGE_REFUSED =
  'This browser keeps nothing for us (a private window, or the disk is full). Your work lives only in this tab: save the craft to a file before you close it.';

/** Keeps every change within a moment, and at once when the page is hidden or left. */
export function startPersistence(): void {
  let timer: ReturnType<typeof setTimeout> | null = null;
  // Said once, and again only after it worked in between.
  let told = store.getState().ui.storageFault === STORAGE_REFUSED;
  let last: unknown[] = [];
  let lastSave = Number.NEGATIVE_INFINITY;
  const save = async () => {
    timer = null;
    lastSave = performance.now();
    const kept = snapshot(store.getState());
    if (!kept) return;
    try {
      await rows.write([{ in: 'craft', put: kept, key: 'current' }]);
      if (told) store.dispatch(uiChanged({ storageFault: null }));
      told = false;
    } catch {
      if (store.getState().ui.storageFault === null)
        store.dispatch(uiChanged({ storageFault: STORAGE_REFUSED }));
    }
  };
  store.subscribe(() => {
    const s = store.getState();
    const now = [
      s.craft,
      s.settings.base,
      s.settings.draft,
      s.rehearsal.scenario,
      s.ui.theme,
      s.ui.units,
      s.ui.paneOpen,
    ];
    if (now.every((v, i) => v === last[i])) return;
    last = now;
    // The first change after a pause is kept at once, those that follow closely together.
    const wait = Math.max(0, lastSave + SAVE_AFTER_MS - performance.now());
    if (timer === null) timer = setTimeout(() => void save(), wait);
  });
  const flush = () => {
    if (timer !== null) {
      clearTimeout(timer);
      void save();
    }
  };
  document.addEventListener('visibilitychange', flush);
  window.addEventListener('pagehide', flush);
}
