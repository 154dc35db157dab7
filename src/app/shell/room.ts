import { useSyncExternalStore } from 'react';

/**
 * How much room the window gives. `small`: as with 200 % zoom, where trail, stations and craft pane fold away into a list
 * and the work has all of it. `low`: where the bench lies over the work as a sheet that one can pull.
 */
export interface Room {
  readonly small: boolean;
  readonly low: boolean;
  /** The craft pane takes too much of it; it is folded away until somebody asks for it. */
  readonly narrow: boolean;
}

const queries = {
  small: '(max-width: 899px), (max-height: 559px)',
  low: '(max-height: 819px), (max-width: 1199px)',
  narrow: '(max-width: 1199px)',
} as const;

const lists = Object.entries(queries).map(([name, query]) => [name, matchMedia(query)] as const);
let now = read();

function read(): Room {
  return Object.fromEntries(lists.map(([name, list]) => [name, list.matches])) as unknown as Room;
}

function subscribe(changed: () => void): () => void {
  const look = () => {
    now = read();
    changed();
  };
  for (const [, list] of lists) list.addEventListener('change', look);
  return () => {
    for (const [, list] of lists) list.removeEventListener('change', look);
  };
}

export const useRoom = (): Room => useSyncExternalStore(subscribe, () => now);
