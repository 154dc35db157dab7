import { useId, useRef, useState } from 'react';
import { formatNumber } from '#core/units/units.ts';

interface Props {
  readonly label: string;
  readonly value: number;
  /** Shown after the number; always visible. */
  readonly symbol: string;
  /** In shown units. */
  readonly min: number;
  readonly max: number;
  readonly step: number;
  readonly hint?: string;
  readonly size?: 'large' | 'small';
  readonly onChange: (value: number) => void;
}

/**
 * A number edited where it stands: click, type, arrows step, Shift steps ten. Out of range says so at once and
 * is not taken.
 */
export function NumberField({ label, value, symbol, min, max, step, hint, size = 'small', onChange }: Props) {
  const [text, setText] = useState<string | null>(null);
  const cancelled = useRef(false);
  const id = useId();
  const digits = step >= 1 ? 0 : Math.min(6, Math.ceil(-Math.log10(step) - 1e-9));
  const shown = text ?? formatNumber(value, Math.max(digits, 0));
  const parsed = text === null ? value : Number(text.replace(',', '.').trim());
  const fault =
    text === null
      ? null
      : text.trim() === '' || !Number.isFinite(parsed)
        ? 'needs a number'
        : parsed < min - 1e-9 || parsed > max + 1e-9
          ? `goes from ${formatNumber(min, digits)} to ${formatNumber(max, digits)}${symbol ? ` ${symbol}` : ''}`
          : null;
  const nudge = (by: number) => {
    const from = fault === null ? parsed : value;
    const next = Math.min(max, Math.max(min, Math.round((from + by) / step) * step));
    setText(formatNumber(next, digits));
    onChange(Number(next.toFixed(6)));
  };
  const big = size === 'large';
  return (
    <span className="relative inline-flex items-baseline gap-1">
      <input
        aria-label={label}
        aria-invalid={fault !== null}
        aria-describedby={id}
        inputMode="decimal"
        value={shown}
        style={{ width: `${Math.max(1, shown.length) + 0.7}ch` }}
        className={`num rounded-[3px] border-b border-dotted bg-transparent px-0.5 hover:bg-lake-wash focus:bg-lake-wash ${
          fault ? 'border-red text-red' : 'border-contour text-ink'
        } ${big ? 'text-[20px] leading-7 font-medium' : 'text-[14px]'}`}
        onFocus={(e) => {
          cancelled.current = false;
          e.currentTarget.select();
        }}
        onChange={(e) => {
          setText(e.target.value.slice(0, 12));
        }}
        onKeyDown={(e) => {
          if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
            e.preventDefault();
            nudge((e.key === 'ArrowUp' ? 1 : -1) * step * (e.shiftKey ? 10 : 1));
          } else if (e.key === 'Enter') e.currentTarget.blur();
          else if (e.key === 'Escape') {
            cancelled.current = true;
            setText(null);
            e.currentTarget.blur();
          }
        }}
        onBlur={() => {
          if (!cancelled.current && text !== null && fault === null && parsed !== value) onChange(parsed);
          setText(null);
        }}
      />
      {symbol && <span className={`text-soft ${big ? 'text-[15px]' : ''}`}>{symbol}</span>}
      <span
        id={id}
        role={fault ? 'alert' : undefined}
        className={`pointer-events-none absolute top-full left-0 z-20 mt-0.5 w-max max-w-60 rounded-[3px] px-1.5 py-0.5 text-[12px] leading-4 shadow-sm ${
          fault ? 'bg-red-wash text-red' : 'bg-sunk text-soft'
        } ${text !== null || fault ? 'block' : 'hidden'}`}
      >
        {fault ? `${label} ${fault}` : (hint ?? '')}
      </span>
    </span>
  );
}
