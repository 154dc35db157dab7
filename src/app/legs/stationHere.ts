import { createContext, useContext } from 'react';
import type { Station } from './station.ts';

/** The station whose view is shown. */
export const StationHere = createContext<Station | null>(null);

export function useStationHere(): Station {
  const station = useContext(StationHere);
  if (!station) throw new Error('shown outside a station');
  return station;
}
