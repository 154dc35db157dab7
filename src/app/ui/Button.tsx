import type { ButtonHTMLAttributes } from 'react';

type Kind = 'plain' | 'go' | 'live' | 'flat';

const kinds: Readonly<Record<Kind, string>> = {
  plain: 'border-line bg-sheet text-ink hover:border-contour',
  go: 'border-forest bg-forest text-on-forest font-semibold hover:opacity-90',
  live: 'border-lake bg-lake text-sheet font-semibold hover:opacity-90',
  flat: 'border-transparent bg-transparent text-soft hover:text-ink',
};

export function Button({
  kind = 'plain',
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { kind?: Kind }) {
  return (
    <button
      type="button"
      className={`whitespace-nowrap rounded-[4px] border px-3 py-1.5 font-medium disabled:opacity-45 ${kinds[kind]} ${className}`}
      {...rest}
    />
  );
}
