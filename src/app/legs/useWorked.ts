import { useRef, useState } from 'react';

/** What a worker was asked for last: a flight, or a file to be read. */
export type Doing<Seen> =
  | { readonly kind: 'nothing' }
  | { readonly kind: 'flying' | 'reading' }
  | { readonly kind: 'seen'; readonly seen: Seen }
  /** A table waits for its columns to be named. */
  | { readonly kind: 'columns'; readonly file: File; readonly names: readonly string[] }
  | { readonly kind: 'fault'; readonly why: string };

/**
 * One thing at a time, worked out in a worker: what comes of an older one is dropped.
 * @param Of what it was asked of, kept beside it
 */
export function useWorked<Seen, Of>(none: Of) {
  const [state, setState] = useState<{ readonly doing: Doing<Seen>; readonly of: Of }>({
    doing: { kind: 'nothing' },
    of: none,
  });
  const newest = useRef(0);
  /** @param nothing what is said where it throws, without a full stop */
  const work = async (
    kind: 'flying' | 'reading',
    of: Of,
    does: () => Promise<Doing<Seen>>,
    nothing: string,
  ) => {
    const mine = ++newest.current;
    setState({ doing: { kind }, of });
    let doing: Doing<Seen>;
    try {
      doing = await does();
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      doing = { kind: 'fault', why: `${nothing}: ${why}. Nothing was changed.` };
    }
    if (mine === newest.current) setState({ doing, of });
  };
  return { ...state, work };
}
