import { displayOf, formatNumber, type UnitId } from '#core/units/units.ts';
import { useApp } from '../store/store.ts';
import { NumberField } from './NumberField.tsx';

interface FieldProps {
  readonly label: string;
  readonly value: number;
  readonly unit: UnitId;
  readonly min: number;
  readonly max: number;
  readonly step: number;
  readonly size?: 'large' | 'small';
  readonly onChange: (value: number) => void;
}

/** A number kept in `unit`, edited in the units the person likes. */
export function QuantityField({ value, unit, min, max, step, onChange, ...rest }: FieldProps) {
  const units = useApp((s) => s.ui.units);
  const { symbol, factor } = displayOf(unit, units);
  const shownStep = factor === 1 ? step : 10 ** Math.round(Math.log10(step * factor));
  return (
    <NumberField
      {...rest}
      value={value * factor}
      symbol={symbol}
      min={min * factor}
      max={max * factor}
      step={shownStep}
      hint={`${formatNumber(min * factor)} to ${formatNumber(max * factor)} ${symbol}`}
      onChange={(v) => onChange(v / factor)}
    />
  );
}

interface Props {
  readonly name: string;
  readonly value: number;
  readonly unit: UnitId;
  readonly digits?: number;
  readonly note?: string;
}

/** A computed number, large, with its name and unit. */
export function Quantity({ name, value, unit, digits, note }: Props) {
  const units = useApp((s) => s.ui.units);
  const { symbol, factor } = displayOf(unit, units);
  return (
    <div>
      <p className="text-soft">{name}</p>
      <p className="num text-[20px] leading-7">
        {formatNumber(value * factor, digits)}
        <span className="text-[15px] text-soft"> {symbol}</span>
      </p>
      {note && <p className="text-[13px] text-faint leading-4">{note}</p>}
    </div>
  );
}
