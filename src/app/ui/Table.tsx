import type { ReactNode } from 'react';

/** Rows under thin lines, heads in soft words, numbers in their own letters (`num`). */
export function Table({
  className = '',
  children,
}: {
  readonly className?: string;
  readonly children: ReactNode;
}) {
  return (
    <table
      className={`w-full text-[13px] [&_.num]:whitespace-nowrap [&_td]:border-line [&_td]:border-t [&_td]:py-1 [&_td]:pr-4 [&_tbody_th]:border-line [&_tbody_th]:border-t [&_tbody_th]:py-1 [&_th]:pr-4 [&_th]:text-left [&_th]:font-normal [&_th]:text-soft ${className}`}
    >
      {children}
    </table>
  );
}
