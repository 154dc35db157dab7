import type { Values } from '#core/settings/catalogue.ts';
import { SettingsPages } from '#firmware/pages.ts';
import { STORED_BY } from '#firmware/pfad.ts';
import { WRITTEN_VERSION } from '#firmware/versions.ts';
import { MemoryFlash } from './memoryFlash.ts';

/** A flash that holds these settings, as if a board with that firmware had stored them. */
export function flashWith(values: Values, version: string = WRITTEN_VERSION): MemoryFlash {
  const flash = new MemoryFlash();
  const pages = new SettingsPages(flash);
  pages.begin({ ...values, [STORED_BY]: version });
  while (!pages.step(1024)) if (!pages.writing) throw new Error('flash did not take the settings');
  return flash;
}
