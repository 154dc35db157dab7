import type { ComponentProps } from 'react';
import { NumberField } from '../../ui/NumberField.tsx';

/** A figure that a person types in, large, with what it is of. */
export function TypedFigure({
  words,
  ...field
}: Omit<ComponentProps<typeof NumberField>, 'size' | 'hint'> & { readonly words: string }) {
  return (
    <span className="mr-7 inline-block">
      <NumberField {...field} size="large" />
      <span className="block text-[13px] text-soft">{words}</span>
    </span>
  );
}

/** A measured figure, large, with what it is of. */
export function Figure({
  value,
  unit = '',
  words,
}: {
  readonly value: string;
  readonly unit?: string;
  readonly words: string;
}) {
  const at = unit === '' ? value.indexOf(' ') : -1;
  const [number, symbol] = at < 0 ? [value, unit] : [value.slice(0, at), value.slice(at + 1)];
  return (
    <span className="mr-7 inline-block">
      <span className="num text-[22px]">{number}</span> <span className="text-soft">{symbol}</span>
      <span className="block text-[13px] text-soft">{words}</span>
    </span>
  );
}
