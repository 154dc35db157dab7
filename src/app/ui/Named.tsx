import type { ReactNode } from 'react';

interface Props {
  readonly name: string;
  /** Columns that it takes of its list, if not one. */
  readonly className?: string;
  readonly children: ReactNode;
}

/** Something with its name above it, in a `<dl>` of several beside each other. */
export const Named = ({ name, className, children }: Props) => (
  <div className={className}>
    <dt className="text-soft">{name}</dt>
    <dd>{children}</dd>
  </div>
);
