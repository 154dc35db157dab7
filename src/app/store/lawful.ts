import type { Middleware } from '@reduxjs/toolkit';
import { airframeSchema } from '#core/airframe/airframe.ts';
import { inconsistencies } from '#core/airframe/consistency.ts';
import { wishesSchema } from '#core/board/wishes.ts';
import { fieldBookSchema } from '#core/field/fieldBook.ts';
import { scenarioSchema } from '#core/formats/scenario.ts';
import { parsed } from '#core/parsed.ts';
import { planFaults, planSchema } from '#core/plan/plan.ts';
import { searchSchema } from '#core/search/lastSeen.ts';
import { videoSupplySchema } from '#core/video/supply.ts';
import {
  airframeChanged,
  fieldBookChanged,
  planChanged,
  renamed,
  searchChanged,
  videoSupplySaid,
  wiringChanged,
} from './craftSlice.ts';
import { scenarioChanged } from './rehearsalSlice.ts';
import { uiChanged } from './uiSlice.ts';

/**
 * Nothing comes into the store that the craft's file could not hold: what was typed and is out of bounds is told in a
 * sentence and does not take place, so that whatever is on the desk can be kept, and read again.
 */
export const lawful: Middleware = (api) => (next) => (action) => {
  const why = refusal(action, api.getState() as { rehearsal: { scenario: object } });
  if (why === null) return next(action);
  return api.dispatch(uiChanged({ refusedEntry: `${why} It stays as it was.` }));
};

function refusal(action: unknown, state: { rehearsal: { scenario: object } }): string | null {
  if (airframeChanged.match(action)) {
    const result = parsed(airframeSchema, action.payload);
    if (!result.success) return faultOf(result.error, 'The craft');
    return inconsistencies(action.payload)[0] ?? null;
  }
  if (renamed.match(action)) {
    const result = parsed(airframeSchema.shape.name, action.payload);
    return result.success ? null : 'A craft’s name has 1 to 80 characters.';
  }
  if (wiringChanged.match(action)) {
    const result = parsed(wishesSchema, action.payload.wishes);
    return result.success ? null : faultOf(result.error, 'The wiring');
  }
  if (planChanged.match(action)) {
    const result = parsed(planSchema, action.payload);
    if (!result.success) return faultOf(result.error, 'The route');
    return planFaults(action.payload)[0] ?? null;
  }
  if (searchChanged.match(action)) {
    if (action.payload === undefined) return null;
    const result = parsed(searchSchema, action.payload);
    return result.success ? null : faultOf(result.error, 'A search');
  }
  if (fieldBookChanged.match(action)) {
    const result = parsed(fieldBookSchema, action.payload);
    return result.success ? null : faultOf(result.error, 'The book of days out');
  }
  if (videoSupplySaid.match(action)) {
    const result = parsed(videoSupplySchema, action.payload);
    return result.success ? null : faultOf(result.error, 'The supply');
  }
  if (scenarioChanged.match(action)) {
    const result = parsed(scenarioSchema, { ...state.rehearsal.scenario, ...action.payload });
    return result.success ? null : faultOf(result.error, 'The flight');
  }
  return null;
}

interface Fault {
  readonly issues: readonly { readonly path: readonly PropertyKey[]; readonly message: string }[];
}

function faultOf({ issues }: Fault, what: string): string {
  const { path, message } = issues[0]!;
  return `${what} cannot be like that: ${path.map(String).join(' ') || 'the whole'}: ${message}.`;
}
