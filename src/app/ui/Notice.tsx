import type { ReactNode } from 'react';

type Tone = 'red' | 'amber' | 'plain';

const looks: Readonly<Record<Tone, string>> = {
  red: 'bg-red-wash text-red',
  amber: 'bg-amber-wash text-amber',
  plain: 'border border-line bg-paper',
};

interface Props {
  readonly tone?: Tone;
  /** Where it stands and how wide it may be. */
  readonly className?: string;
  readonly children: ReactNode;
}

/** A sentence that has to be seen: what went wrong, what is in the way, what to know here. A red or amber one is read out at once. */
export function Notice({ tone = 'red', className = 'mt-2', children }: Props) {
  return (
    <div
      role={tone === 'plain' ? 'status' : 'alert'}
      className={`rounded-[4px] px-3 py-1.5 ${looks[tone]} ${className}`}
    >
      {children}
    </div>
  );
}
