import type { SelectHTMLAttributes } from 'react';

type Look = 'usual' | 'small' | 'wood';

const looks: Readonly<Record<Look, string>> = {
  usual: 'rounded-[4px] border-line bg-sheet px-2 py-1 font-medium text-ink',
  small: 'rounded-[3px] border-line bg-sheet px-1 text-[12.5px] text-ink',
  /** On the bench. */
  wood: 'rounded-[4px] border-wood-dark bg-transparent px-1 [&_option]:bg-sheet [&_option]:text-ink',
};

/**
 * One of several by name. The browser's own: by keys, by voice and by a phone's wheel it is what people know, and it costs
 * nothing to load. `className` places it.
 */
export function Select({
  look = 'usual',
  className = '',
  ...rest
}: SelectHTMLAttributes<HTMLSelectElement> & { readonly look?: Look }) {
  return <select className={`min-w-0 border disabled:opacity-50 ${looks[look]} ${className}`} {...rest} />;
}
