import { useState } from 'react';
import { actuatorNames } from '#core/airframe/actuators.ts';
import type { Airframe } from '#core/airframe/airframe.ts';
import { DEG } from '#core/math/scalar.ts';
import { edgeOf } from '#core/mixer/linkage.ts';
import { directionWords } from '#core/mixer/roles.ts';
import { builtAs, chordMmOf, HALF_TURN_MM } from '#core/mixer/throws.ts';
import { formatQuantity } from '#core/units/units.ts';
import { turnRods } from '../session.ts';
import { useApp } from '../store/store.ts';
import { Select } from '../ui/Select.tsx';

/** A ruler is read to half a millimetre, a protractor to half a degree. */
const READ = 0.5;

/** A ruler at a trailing edge, and the clevis at its horn. */
export function BenchRods({
  airframe,
  angles,
}: {
  readonly airframe: Airframe;
  readonly angles: readonly number[];
}) {
  const rods = useApp((s) => s.craft.file?.bench?.linkages) ?? [];
  const units = useApp((s) => s.ui.units);
  const [at, setAt] = useState(0);
  const surface = airframe.surfaces[at] ?? airframe.surfaces[0];
  if (!surface) return <p className="w-[300px] text-[13px]">This craft has no surface to measure.</p>;
  const angle = angles[airframe.surfaces.indexOf(surface)] ?? 0;
  const chord = chordMmOf(airframe, surface);
  const raw = chord === null ? angle / DEG : edgeOf(angle, chord);
  const read = Math.round(raw / READ) * READ;
  const [positive, negative] = directionWords(surface.id);
  const turn = (halves: number) => {
    const rod = rods.find((r) => r.surface === surface.id) ?? builtAs(surface);
    const turned = { ...rod, rodMm: rod.rodMm + halves * HALF_TURN_MM };
    void turnRods([...rods.filter((r) => r.surface !== surface.id), turned]);
  };
  return (
    <div className="grid w-[300px] content-start gap-y-1.5 text-[13px]">
      <label className="flex items-center gap-1.5">
        Held at
        <Select
          look="wood"
          className="flex-1"
          value={surface.id}
          onChange={(e) => setAt(airframe.surfaces.findIndex((s) => s.id === e.target.value))}
        >
          {airframe.surfaces.map((s) => (
            <option key={s.id} value={s.id}>
              {actuatorNames[s.id]}
            </option>
          ))}
        </Select>
      </label>
      <p className="flex items-baseline justify-between">
        {chord === null ? 'Protractor' : 'Ruler, at its inner end'}
        <b className="num font-semibold" data-testid="ruler">
          {chord === null
            ? `${Math.abs(read).toFixed(1)}°`
            : formatQuantity(Math.abs(read), 'mm', units, units === 'imperial' ? 2 : 1)}
          {read === 0 ? '' : ` ${read > 0 ? positive : negative}`}
        </b>
      </p>
      <p className="flex items-center justify-between gap-2">
        Clevis
        <span className="flex gap-1">
          <button
            type="button"
            className="rounded-[4px] border border-wood-dark px-2 py-0.5"
            onClick={() => turn(-1)}
          >
            half a turn in
          </button>
          <button
            type="button"
            className="rounded-[4px] border border-wood-dark px-2 py-0.5"
            onClick={() => turn(1)}
          >
            half a turn out
          </button>
        </span>
      </p>
    </div>
  );
}
