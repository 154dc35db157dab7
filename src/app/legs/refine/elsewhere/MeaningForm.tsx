import type { ReactNode } from 'react';
import { usualFull } from '#core/answers/conventions.ts';
import type { Convention } from '#core/formats/convention.ts';
import { displayOf } from '#core/units/units.ts';
import { useApp } from '../../../store/store.ts';
import { Check } from '../../../ui/Check.tsx';
import { NumberField } from '../../../ui/NumberField.tsx';
import { Select } from '../../../ui/Select.tsx';

interface Props {
  readonly convention: Convention;
  readonly onChange: (change: Partial<Convention>) => void;
}

type Choices<K extends keyof Convention> = readonly (readonly [Convention[K], string])[];

const errors: Choices<'error'> = [
  ['rad/s', 'a radian per second'],
  ['deg/s', 'a degree per second'],
  ['share', 'a full stick'],
];
const outputs: Choices<'output'> = [
  ['share', 'shares of full command'],
  ['percent', 'per cent of it'],
  ['us', 'microseconds of pulse'],
  ['deg', 'degrees of surface'],
  ['counts', 'counts of its own'],
];
const sums: Choices<'sums'> = [
  ['seconds', 'by the second'],
  ['steps', 'by the step of its loop'],
  ['time', 'as a time beside P'],
];
const angles: Choices<'angle'> = [
  ['rate', 'a rate for each of angle, 1/s'],
  ['time', 'a time, s'],
];
const filters: Choices<'filter'> = [
  ['hz', 'a cut-off, Hz'],
  ['seconds', 'a time constant, s'],
  ['share', 'a share of each step'],
];

/** What the numbers of another scale count, in words that its manual answers. */
export function MeaningForm({ convention: c, onChange }: Props) {
  const speed = displayOf(
    'm/s',
    useApp((s) => s.ui.units),
  );
  const steps = c.sums === 'steps' || c.slopes === 'steps' || c.filter === 'share';
  return (
    <div className="mt-2 grid gap-x-6 gap-y-3 min-[560px]:grid-cols-2 min-[860px]:grid-cols-3">
      <Asked name="P of one answers an error of">
        <Choose label="Error" value={c.error} choices={errors} onChange={(error) => onChange({ error })} />
      </Asked>
      {c.error === 'share' && (
        <Asked name="which asks for">
          <NumberField
            label="Rate of a full stick"
            value={c.fullStickDps}
            symbol="°/s"
            min={10}
            max={2000}
            step={5}
            onChange={(fullStickDps) => onChange({ fullStickDps })}
          />
        </Asked>
      )}
      <Asked name="with">
        <Choose
          label="Output"
          value={c.output}
          choices={outputs}
          onChange={(output) => onChange({ output, fullOutput: usualFull[output] })}
        />
      </Asked>
      <Asked name="of which a full command is">
        <NumberField
          label="Full command"
          value={c.fullOutput}
          symbol=""
          min={0.001}
          max={1e7}
          step={0.001}
          onChange={(fullOutput) => onChange({ fullOutput })}
        />
      </Asked>
      <Asked name="What is written counts times">
        <NumberField
          label="Times what is written"
          value={c.per}
          symbol=""
          min={1e-6}
          max={1e6}
          step={0.000001}
          onChange={(per) => onChange({ per })}
        />
      </Asked>
      <Asked name="I sums up">
        <Choose label="Sums" value={c.sums} choices={sums} onChange={(v) => onChange({ sums: v })} />
      </Asked>
      <Asked name="D tells slopes">
        <Choose label="Slopes" value={c.slopes} choices={sums} onChange={(v) => onChange({ slopes: v })} />
      </Asked>
      {steps && (
        <Asked name="Its loop runs, times a second">
          <NumberField
            label="Steps of its loop"
            value={c.loopHz}
            symbol="Hz"
            min={10}
            max={32000}
            step={10}
            onChange={(loopHz) => onChange({ loopHz })}
          />
        </Asked>
      )}
      <Asked name="Its levelling is">
        <Choose
          label="Levelling"
          value={c.angle}
          choices={angles}
          onChange={(angle) => onChange({ angle })}
        />
      </Asked>
      <Asked name="Its low-pass is">
        <Choose
          label="Low-pass"
          value={c.filter}
          choices={filters}
          onChange={(filter) => onChange({ filter })}
        />
      </Asked>
      <Asked name="Its gains hold at a speed of">
        <span className="flex items-baseline gap-3">
          <Check
            checked={c.speedMps !== null}
            onChange={(e) => onChange({ speedMps: e.target.checked ? 15 : null })}
          >
            known
          </Check>
          {c.speedMps !== null && (
            <NumberField
              label="Speed at which its gains hold"
              value={c.speedMps * speed.factor}
              symbol={speed.symbol}
              min={1}
              max={100 * speed.factor}
              step={0.5}
              onChange={(v) => onChange({ speedMps: Number((v / speed.factor).toFixed(3)) })}
            />
          )}
        </span>
      </Asked>
      <Asked name={' '}>
        <Check checked={c.slopeOfError} onChange={(e) => onChange({ slopeOfError: e.target.checked })}>
          Its D looks at the error
        </Check>
      </Asked>
    </div>
  );
}

function Asked({ name, children }: { readonly name: string; readonly children: ReactNode }) {
  return (
    <div>
      <p className="text-[13px] text-soft">{name}</p>
      {children}
    </div>
  );
}

function Choose<V extends string>({
  label,
  value,
  choices,
  onChange,
}: {
  readonly label: string;
  readonly value: V;
  readonly choices: readonly (readonly [V, string])[];
  readonly onChange: (value: V) => void;
}) {
  return (
    <Select
      aria-label={label}
      className="w-full max-w-60"
      value={value}
      onChange={(e) => onChange(e.target.value as V)}
    >
      {choices.map(([id, name]) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </Select>
  );
}
