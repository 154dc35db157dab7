import type { Values } from '#core/settings/catalogue.ts';
import { SettingsPages } from '#firmware/pages.ts';
import { MemoryFlash } from './memoryFlash.ts';

/** A flash that holds these settings, as if the board had stored them. */
export function flashWith(values: Values): MemoryFlash {
  const flash = new MemoryFlash();
  const pages = new SettingsPages(flash);
  pages.begin(values);
  while (!pages.step(1024)) if (!pages.writing) throw new Error('flash did not take the settings');
  return flash;
}
