import type { ReactNode } from 'react';
import { InHand } from './InHand.tsx';
import { useStationHere } from './stationHere.ts';

interface Props {
  readonly children?: ReactNode;
  /** Whether it can begin at all, once what it needs is at hand. */
  readonly begins?: boolean;
}

/** A station's name, what to do here, and what is still wanting before it can begin. */
export function Lead({ children, begins = true }: Props) {
  const { name, about, needs = [] } = useStationHere();
  return (
    <>
      <header>
        <h1>{name}</h1>
        <p className="mt-0.5 max-w-[660px] text-soft">{children ?? about}</p>
      </header>
      {begins && needs.length > 0 && <InHand needs={needs} />}
    </>
  );
}
