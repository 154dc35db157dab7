import type { ReactNode } from 'react';

interface Props {
  /** Where it stands, and other columns or gaps than the usual. */
  readonly className?: string;
  /** Pairs of `<dt>` and `<dd>`. */
  readonly children: ReactNode;
}

/** Names with their values beside them. */
export const Facts = ({ className = 'gap-x-4', children }: Props) => (
  <dl className={`grid grid-cols-[auto_1fr] content-start [&>dt]:text-soft ${className}`}>{children}</dl>
);
