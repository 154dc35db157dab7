import { useState } from 'react';
import type { Place } from '#core/navigation/earth.ts';
import { type Fence, type FlightPlan, MOST_FENCES } from '#core/plan/plan.ts';
import type { Site } from '#core/site/site.ts';
import { formatQuantity } from '#core/units/units.ts';
import { useApp } from '../../../store/store.ts';
import { Named } from '../../../ui/Named.tsx';
import { QuantityField } from '../../../ui/Quantity.tsx';
import { Select } from '../../../ui/Select.tsx';
import { SettingField } from '../../../ui/SettingField.tsx';
import { TextButton } from '../../../ui/TextButton.tsx';
import { freeName, moved, withFence, withFenceChanged, withoutFence } from './edits.ts';

interface Props {
  readonly plan: FlightPlan;
  readonly site: Site;
  readonly at: number | null;
  readonly onChange: (plan: FlightPlan) => void;
  readonly onPick: (at: number | null) => void;
}

const ROUND_M = 300;

/** Fences: what they keep in or out, how high, and what happens at them. */
export function FencePart({ plan, site, at, onChange, onPick }: Props) {
  const units = useApp((s) => s.ui.units);
  const { fences } = plan;
  const fence = at === null ? null : fences[at];
  const set = (change: Partial<Fence>) => at !== null && onChange(withFenceChanged(plan, at, change));
  const add = (keep: Fence['keep']) => {
    const centre: Place = keep === 'in' ? site.home : moved(site.home, 800, 0);
    const { lat, lon } = centre;
    onChange(
      withFence(plan, {
        name: freeName(plan, keep === 'in' ? 'Keep in' : 'Keep out'),
        keep,
        area: { lat, lon, radiusM: keep === 'in' ? 2000 : ROUND_M },
        fromM: 0,
        toM: keep === 'in' ? 0 : 150,
      }),
    );
    onPick(fences.length);
  };
  return (
    <section aria-label="Fences" className="mt-3 border-line border-t pt-2">
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <h2 className="font-semibold">Fences</h2>
        {fences.map((f, i) => (
          <TextButton
            key={i}
            aria-pressed={i === at}
            className={i === at ? 'font-semibold' : ''}
            onClick={() => onPick(i === at ? null : i)}
          >
            {f.name}
          </TextButton>
        ))}
        {fences.length < MOST_FENCES && (
          <>
            <TextButton tone="soft" onClick={() => add('in')}>
              a circle to keep in
            </TextButton>
            <TextButton tone="soft" onClick={() => add('out')}>
              a circle to keep out of
            </TextButton>
          </>
        )}
        {fences.length === 0 && <span className="text-soft">or draw an area on the map.</span>}
      </div>
      {fence && (
        <>
          <dl className="mt-1 grid grid-cols-2 gap-x-4 gap-y-2 min-[820px]:grid-cols-6 [&_dt]:text-soft">
            <Named name="Name" className="col-span-2">
              <NameField key={at} name={fence.name} onName={(name) => set({ name })} />
            </Named>
            <Named name="Keeps">
              <Select
                look="small"
                aria-label="The fence keeps"
                value={fence.keep}
                onChange={(e) => {
                  const keep = e.target.value as Fence['keep'];
                  // What is kept out of has to have a top above its bottom.
                  set(
                    keep === 'out' && fence.toM <= fence.fromM ? { keep, toM: fence.fromM + 150 } : { keep },
                  );
                }}
              >
                <option value="in">in</option>
                <option value="out">out</option>
              </Select>
            </Named>
            {!('corners' in fence.area) && (
              <Named name="Radius">
                <QuantityField
                  label="Radius of the fence"
                  unit="m"
                  value={fence.area.radiusM}
                  min={20}
                  max={20_000}
                  step={10}
                  onChange={(radiusM) => 'corners' in fence.area || set({ area: { ...fence.area, radiusM } })}
                />
              </Named>
            )}
            {fence.keep === 'out' && (
              <Named name="From">
                <QuantityField
                  label="Fence from"
                  unit="m"
                  value={fence.fromM}
                  min={-500}
                  max={3000}
                  step={10}
                  onChange={(fromM) => set({ fromM })}
                />
              </Named>
            )}
            <Named name={fence.keep === 'out' ? 'To, above home' : 'Top above home'}>
              <QuantityField
                label="Fence to"
                unit="m"
                value={fence.toM}
                min={0}
                max={3000}
                step={10}
                onChange={(toM) => set({ toM })}
              />
              {fence.keep === 'in' && fence.toM === 0 && <span className="text-faint"> no top</span>}
            </Named>
          </dl>
          <TextButton
            tone="red"
            className="mt-1"
            onClick={() => {
              onChange(withoutFence(plan, at!));
              onPick(null);
            }}
          >
            take away
          </TextButton>
        </>
      )}
      <dl className="mt-2 grid grid-cols-2 gap-x-4 gap-y-2 min-[820px]:grid-cols-3 [&_dt]:text-soft">
        <Named name="At a fence">
          <SettingField name="fence.action" />
        </Named>
        <Named name="Farthest from home">
          <SettingField name="fence.radius" />
        </Named>
        <Named name="Highest above home">
          <SettingField name="fence.top" />
        </Named>
      </dl>
      <p className="mt-1 text-[13px] text-soft leading-4">
        {fences.filter((f) => f.keep === 'in').length > 1
          ? 'Of several areas to keep in it has to be in one. '
          : ''}
        Up to {MOST_FENCES}, heights above home; back inside counts from {formatQuantity(15, 'm', units, 0)}{' '}
        on.
      </p>
    </section>
  );
}

function NameField({ name, onName }: { readonly name: string; readonly onName: (name: string) => void }) {
  const [text, setText] = useState(name);
  return (
    <input
      aria-label="Name of the fence"
      value={text}
      maxLength={40}
      className="w-full max-w-[220px] rounded-[3px] border border-line bg-sheet px-1.5"
      onChange={(e) => setText(e.target.value)}
      onBlur={() => {
        const said = text.trim();
        if (said === '') setText(name);
        else if (said !== name) onName(said);
      }}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur();
      }}
    />
  );
}
