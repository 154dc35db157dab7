import type { ReactNode } from 'react';

type Tone = 'red' | 'amber' | 'grave' | 'plain';

const looks: Readonly<Record<Tone, string>> = {
  red: 'bg-red-wash px-3 py-1.5 text-red',
  amber: 'bg-amber-wash px-3 py-1.5 text-amber',
  /** With more to read in it than a sentence. */
  grave: 'border border-line border-l-4 border-l-red bg-paper px-3.5 py-2',
  plain: 'border border-line bg-paper px-3.5 py-2.5',
};

interface Props {
  readonly tone?: Tone;
  /** Where it stands and how wide it may be. */
  readonly className?: string;
  /** What may be done about it, beside it. */
  readonly action?: ReactNode;
  readonly children: ReactNode;
}

/** A sentence that has to be seen: what went wrong, what is in the way, what to know here. A red or amber one is read out at once. */
export function Notice({ tone = 'red', className = 'mt-2', action, children }: Props) {
  return (
    <div
      role={tone === 'plain' ? 'status' : 'alert'}
      className={`rounded-[4px] ${action ? 'flex items-center gap-4' : ''} ${looks[tone]} ${className}`}
    >
      {action ? <div className="flex-1">{children}</div> : children}
      {action}
    </div>
  );
}
