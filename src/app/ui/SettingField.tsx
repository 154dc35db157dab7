import type { SettingValue } from '#core/settings/catalogue.ts';
import type { SettingEntry } from '#core/settings/catalogueSchema.ts';
import type { SettingKey } from '#core/settings/typed.ts';
import { valueText } from '#core/settings/valueText.ts';
import { displayOf, formatNumber, type UnitSystem } from '#core/units/units.ts';
import { selectCatalogue, selectValues } from '../store/selectors.ts';
import { staged } from '../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { Check } from './Check.tsx';
import { NumberField } from './NumberField.tsx';
import { Select } from './Select.tsx';
import { TextField } from './TextField.tsx';
import { WhyValue } from './WhyValue.tsx';

interface Props<Key extends string = SettingKey> {
  readonly name: Key;
  readonly size?: 'large' | 'small';
}

/** One setting as a person edits it, and why it has the value it has where that was computed. */
export const SettingField = (props: Props) => <AnySettingField {...props} />;

/** The same for whatever setting a board has, known here or not. */
export function AnySettingField(props: Props<string>) {
  return (
    <span className="inline-flex max-w-full flex-wrap items-baseline gap-x-1.5">
      <Field {...props} />
      <WhyValue name={props.name} />
    </span>
  );
}

/** The edit goes to the tray. */
function Field({ name, size = 'small' }: Props<string>) {
  const entry = useApp(selectCatalogue).entry(name);
  const value = useApp((s) => selectValues(s)[name]);
  const units = useApp((s) => s.ui.units);
  const dispatch = useAppDispatch();
  if (!entry || value === undefined) return <span className="text-faint">not on this board</span>;
  const put = (v: SettingValue) => dispatch(staged({ [name]: v }));
  if (entry.type === 'flag') {
    return (
      <Check checked={value === true} onChange={(e) => put(e.target.checked)}>
        {entry.label}
      </Check>
    );
  }
  if (entry.type === 'choice') {
    return (
      <Select
        aria-label={entry.label}
        value={String(value)}
        onChange={(e) => put(e.target.value)}
        className="w-full min-w-32 max-w-60"
      >
        {!entry.choices?.some((c) => c.value === value) && (
          <option value={String(value)}>{String(value)}, which is none of its choices</option>
        )}
        {entry.choices?.map((c) => (
          <option key={c.value} value={c.value}>
            {c.label}
          </option>
        ))}
      </Select>
    );
  }
  if (entry.type === 'text')
    return (
      <TextField
        label={entry.label}
        value={String(value)}
        most={entry.max ?? 64}
        fits={(text) => /^[ -~]*$/.test(text)}
        otherwise="Letters, digits and signs that any keyboard has: a picture can show no others."
        onChange={put}
      />
    );
  if (typeof value !== 'number' || entry.type === 'other')
    return (
      <span>
        <span className="num">{valueText(entry, value, units)}</span>{' '}
        <span className="text-soft">of a kind that is only shown here</span>
      </span>
    );
  const { symbol, factor } = displayOf(entry.unit, units);
  const step = factor === 1 ? (entry.step ?? 1) : niceStep((entry.step ?? 1) * factor);
  return (
    <NumberField
      label={entry.label}
      value={value * factor}
      symbol={symbol}
      min={(entry.min ?? -1e9) * factor}
      max={(entry.max ?? 1e9) * factor}
      step={step}
      size={size}
      hint={rangeHint(entry, units)}
      onChange={(v) => {
        const raw = v / factor;
        const kept = entry.type === 'integer' ? Math.round(raw) : Number(raw.toPrecision(7));
        put(Math.min(entry.max ?? kept, Math.max(entry.min ?? kept, kept)));
      }}
    />
  );
}

function niceStep(step: number): number {
  const size = 10 ** Math.floor(Math.log10(step));
  return step / size >= 5 ? 5 * size : step / size >= 2 ? 2 * size : size;
}

function rangeHint(entry: SettingEntry, units: UnitSystem): string {
  const { symbol, factor } = displayOf(entry.unit, units);
  const n = (v: number | undefined) => (v === undefined ? 'any' : formatNumber(v * factor));
  const usual = typeof entry.default === 'number' ? `, as delivered ${n(entry.default)}` : '';
  return `${n(entry.min)} to ${n(entry.max)}${symbol ? ` ${symbol}` : ''}${usual}`;
}
