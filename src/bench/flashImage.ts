import { packPlan } from '#core/plan/packPlan.ts';
import { type FlightPlan, isEmptyPlan } from '#core/plan/plan.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { FlashPages } from '#firmware/pages.ts';
import { STORED_BY } from '#firmware/pfad.ts';
import { WRITTEN_VERSION } from '#firmware/versions.ts';
import { MemoryFlash } from './memoryFlash.ts';

/** A flash that holds these settings, as if a board with that firmware had stored them. */
export function flashWith(values: Values, version: string = WRITTEN_VERSION): MemoryFlash {
  return holding<Values>({ ...values, [STORED_BY]: version });
}

/** A flash that holds a route and fences; empty where there are none. */
export function planFlashWith(plan: FlightPlan): MemoryFlash {
  return isEmptyPlan(plan) ? new MemoryFlash() : holding(packPlan(plan));
}

function holding<T extends object>(content: T): MemoryFlash {
  const flash = new MemoryFlash();
  const pages = new FlashPages<T>(flash);
  pages.begin(content);
  while (!pages.step(1024)) if (!pages.writing) throw new Error('flash did not take it');
  return flash;
}
