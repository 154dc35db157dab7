import { useEffect, useMemo, useState } from 'react';
import { Link } from 'react-router';
import type * as z from 'zod';
import { kindNames } from '#core/airframe/actuators.ts';
import { type Airframe, isRotorcraft, partSchemas, wingOf, withPlanform } from '#core/airframe/airframe.ts';
import { hoverOf, performanceOf } from '#core/airframe/performance.ts';
import { weightsOf, withWeights } from '#core/airframe/weights.ts';
import { limitsOf } from '#core/formats/limits.ts';
import { formatQuantity } from '#core/units/units.ts';
import { airframeChanged, renamed } from '../../store/craftSlice.ts';
import { selectValues } from '../../store/selectors.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Quantity, QuantityField } from '../../ui/Quantity.tsx';
import { textLook } from '../../ui/TextButton.tsx';
import { Lead } from '../Lead.tsx';
import { AirframeDrawing } from './AirframeDrawing.tsx';
import { PartEditor, type PartId, partsOf } from './PartEditor.tsx';
import { WeightsSummary, WeightsTable } from './WeightsPanel.tsx';

/** The craft drawn from its dimensions, its parts to edit, and the numbers that follow. */
export default function AirframeStation() {
  const airframe = useApp((s) => s.craft.airframe)!;
  const dispatch = useAppDispatch();
  const [picked, setPicked] = useState<PartId | null>(null);
  // A part that moves takes its weight along.
  const put = (next: Airframe) =>
    dispatch(airframeChanged(next.weights ? withWeights(next, weightsOf(next)) : next));
  const [weighing, setWeighing] = useState(false);
  const [held, setHeld] = useState<string | null>(null);
  const part = partsOf(airframe).some((p) => p.id === picked) ? picked : null;
  return (
    <>
      <div className="flex items-start gap-4">
        <div className="flex-1">
          <Lead>
            {airframe.name} from above, drawn to scale ({kindNames[airframe.kind]}). Change a part and
            everything that follows from it changes with it.
          </Lead>
        </div>
        <Link to="/craft" className={`shrink-0 pt-1 text-[13px] ${textLook('soft')}`}>
          Begin another craft
        </Link>
      </div>
      <div className="mt-3 grid gap-4 min-[900px]:grid-cols-[minmax(0,1fr)_200px]">
        <AirframeDrawing
          airframe={airframe}
          picked={part}
          onPick={(p) => {
            setWeighing(false);
            setPicked(p);
          }}
          weights={
            weighing
              ? {
                  list: weightsOf(airframe),
                  picked: held,
                  onPick: setHeld,
                  onMove: (id, aftM, rightM) =>
                    put(
                      withWeights(
                        airframe,
                        weightsOf(airframe).map((w) => (w.id === id ? { ...w, aftM, rightM } : w)),
                      ),
                    ),
                }
              : undefined
          }
        />
        <div className="space-y-3 self-center">
          {weighing ? (
            <WeightsSummary airframe={airframe} onChange={put} />
          ) : part === null ? (
            <WholeCraft airframe={airframe} onChange={put} />
          ) : (
            <PartEditor airframe={airframe} part={part} onChange={put} />
          )}
        </div>
      </div>
      <ul aria-label="Parts" className="mt-1 flex flex-wrap gap-0.5">
        <PartChip
          name="whole craft"
          on={part === null && !weighing}
          onClick={() => {
            setWeighing(false);
            setPicked(null);
          }}
        />
        <PartChip name="weights" on={weighing} onClick={() => setWeighing(true)} />
        {partsOf(airframe).map((p) => (
          <PartChip
            key={p.id}
            name={p.name}
            on={part === p.id && !weighing}
            onClick={() => {
              setWeighing(false);
              setPicked(p.id);
            }}
          />
        ))}
      </ul>
      {weighing && <WeightsTable airframe={airframe} onChange={put} picked={held} onPick={setHeld} />}
      {weighing ? null : isRotorcraft(airframe) ? (
        <RotorNumbers airframe={airframe} />
      ) : (
        <WingNumbers airframe={airframe} />
      )}
    </>
  );
}

function PartChip({
  name,
  on,
  onClick,
}: {
  readonly name: string;
  readonly on: boolean;
  readonly onClick: () => void;
}) {
  return (
    <li>
      <button
        type="button"
        aria-pressed={on}
        onClick={onClick}
        className={`rounded-[3px] px-1.5 py-0.5 text-[13px] ${on ? 'bg-lake-wash text-ink' : 'text-soft hover:bg-sunk'}`}
      >
        {name}
      </button>
    </li>
  );
}

interface EditProps {
  readonly airframe: Airframe;
  readonly onChange: (next: Airframe) => void;
}

/** Name, span, mass and balance. */
function WholeCraft({ airframe, onChange }: EditProps) {
  const dispatch = useAppDispatch();
  const [name, setName] = useState(airframe.name);
  useEffect(() => setName(airframe.name), [airframe.name]);
  const rotors = isRotorcraft(airframe);
  const units = useApp((s) => s.ui.units);
  const large = (
    title: string,
    label: string,
    unit: 'm' | 'kg' | 'mm',
    value: number,
    by: z.ZodType,
    /** What one of the kept unit shows as. */
    shown: number,
    step: number,
    change: (v: number) => Airframe,
  ) => {
    const [min, max] = limitsOf(by);
    return (
      <div>
        <p className="text-soft">{title}</p>
        <QuantityField
          label={label}
          size="large"
          unit={unit}
          value={value}
          min={min * shown}
          max={max * shown}
          step={step}
          onChange={(v) => onChange(change(v))}
        />
      </div>
    );
  };
  return (
    <>
      <label className="block text-soft">
        Name
        <input
          value={name}
          maxLength={80}
          onChange={(e) => setName(e.target.value)}
          onBlur={() => {
            const wanted = name.trim();
            if (wanted === '') setName(airframe.name);
            else if (wanted !== airframe.name) dispatch(renamed(wanted));
          }}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
          className="block w-full rounded-[3px] border-contour border-b border-dotted bg-transparent font-medium text-[16px] text-ink hover:bg-lake-wash focus:bg-lake-wash"
        />
      </label>
      {!rotors &&
        large('Span', 'Span', 'm', wingOf(airframe).spanM, partSchemas.planform.spanM, 1, 0.01, (spanM) =>
          withPlanform(airframe, 'wing', { spanM }),
        )}
      {airframe.weights ? (
        <p className="text-soft">
          Mass {formatQuantity(airframe.massKg, 'kg', units, 2)} and balance{' '}
          {formatQuantity(1000 * airframe.cgAftM, 'mm', units, 0)} aft of the nose follow from the weights.
        </p>
      ) : (
        <>
          {large(
            'Mass ready to fly',
            'Mass',
            'kg',
            airframe.massKg,
            partSchemas.airframe.massKg,
            1,
            0.01,
            (massKg) => ({
              ...airframe,
              massKg,
            }),
          )}
          {large(
            'Centre of gravity, aft of the nose',
            'Centre of gravity',
            'mm',
            airframe.cgAftM * 1000,
            partSchemas.airframe.cgAftM,
            1000,
            1,
            (mm) => ({ ...airframe, cgAftM: mm / 1000 }),
          )}
        </>
      )}
      {!rotors && <Balance airframe={airframe} />}
    </>
  );
}

function Balance({ airframe }: { readonly airframe: Airframe }) {
  const p = useMemo(() => performanceOf(airframe), [airframe]);
  const inRange = airframe.cgAftM >= p.cgForwardM && airframe.cgAftM <= p.cgAftLimitM;
  const words = inRange ? 'Balanced' : p.staticMargin < 0.05 ? 'Tail-heavy' : 'Nose-heavy';
  return (
    <p className={inRange ? 'text-forest' : 'text-red'}>
      {words}, static margin {(100 * p.staticMargin).toFixed(0)} %
    </p>
  );
}

const numbers = 'mt-2 grid grid-cols-3 gap-x-6 gap-y-3 border-line border-t pt-3 min-[1180px]:grid-cols-6';

function WingNumbers({ airframe }: { readonly airframe: Airframe }) {
  const units = useApp((s) => s.ui.units);
  const p = useMemo(() => performanceOf(airframe), [airframe]);
  return (
    <div className={numbers}>
      <Quantity
        name="Wing area"
        value={p.wingAreaM2}
        unit="m2"
        digits={3}
        note={`aspect ratio ${p.aspectRatio.toFixed(1)}`}
      />
      <Quantity name="Wing loading" value={p.wingLoading} unit="kg/m2" digits={2} />
      <Quantity name="Stalls at" value={p.stallMps} unit="m/s" digits={1} note="wings level" />
      <Quantity
        name="Glides best at"
        value={p.bestGlideMps}
        unit="m/s"
        digits={1}
        note={`${p.bestGlideRatio.toFixed(0)} to 1`}
      />
      <Quantity
        name="Neutral point"
        value={p.neutralPointAftM * 1000}
        unit="mm"
        digits={0}
        note="aft of the nose"
      />
      <Quantity
        name="Balance from"
        value={p.cgForwardM * 1000}
        unit="mm"
        digits={0}
        note={`to ${formatQuantity(p.cgAftLimitM * 1000, 'mm', units, 0)}`}
      />
    </div>
  );
}

function RotorNumbers({ airframe }: { readonly airframe: Airframe }) {
  const tilt = useApp(selectValues)['hover.tilt'];
  const h = useMemo(() => hoverOf(airframe), [airframe]);
  const lean = typeof tilt === 'number' ? tilt : 30;
  return (
    <div className={numbers}>
      <Quantity name="Hovers at" value={100 * h.throttle} unit="percent" digits={0} note="of full throttle" />
      <Quantity name="Thrust" value={h.thrustToWeight} unit="count" digits={1} note="times the weight" />
      <Quantity name="Draws in hover" value={h.currentA} unit="a" digits={1} />
      <Quantity
        name="Hovers for"
        value={h.minutes}
        unit="count"
        digits={0}
        note="minutes, on four fifths of the pack"
      />
      <Quantity
        name="Fastest"
        value={h.topSpeedMps((lean * Math.PI) / 180)}
        unit="m/s"
        digits={1}
        note={`leaning ${lean}° in still air`}
      />
      <Quantity name="Rotors" value={airframe.motors.length} unit="count" digits={0} />
    </div>
  );
}
