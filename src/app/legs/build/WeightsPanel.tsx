import { useMemo, useState } from 'react';
import {
  type Airframe,
  isRotorcraft,
  MOST_WEIGHTS,
  partSchemas,
  type Weight,
} from '#core/airframe/airframe.ts';
import { performanceOf } from '#core/airframe/performance.ts';
import { balanceOf, boardOffset, placeFor, weightsOf, withWeights } from '#core/airframe/weights.ts';
import { limitsOf } from '#core/formats/limits.ts';
import { formatQuantity } from '#core/units/units.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { QuantityField } from '../../ui/Quantity.tsx';
import { TextButton } from '../../ui/TextButton.tsx';

const [, HEAVIEST] = limitsOf(partSchemas.weight.massKg);
const [FOREMOST, REARMOST] = limitsOf(partSchemas.weight.aftM);

interface Props {
  readonly airframe: Airframe;
  readonly onChange: (next: Airframe) => void;
}

/** What the parts weigh together, and where the battery has to go for the margin that is wanted. */
export function WeightsSummary({ airframe, onChange }: Props) {
  const units = useApp((s) => s.ui.units);
  const dispatch = useAppDispatch();
  const weights = useMemo(() => weightsOf(airframe), [airframe]);
  const { massKg, aftM, rightM } = balanceOf(weights);
  const rotors = isRotorcraft(airframe);
  const margin = rotors ? 0 : performanceOf(airframe).staticMargin;
  const [wanted, setWanted] = useState(12);
  const place = rotors ? null : placeFor(airframe, weights, 'battery', wanted / 100);
  const offset = boardOffset(airframe);
  const mm = (m: number) => formatQuantity(1000 * m, 'mm', units, 0);
  const moveBattery = (at: number) =>
    onChange(
      withWeights(
        airframe,
        weights.map((w) => (w.id === 'battery' ? { ...w, aftM: at } : w)),
      ),
    );
  const board = offset && {
    'mount.forward': Math.round(1000 * offset.forwardM),
    'mount.right': Math.round(1000 * offset.rightM),
    'mount.up': Math.round(1000 * offset.upM),
  };
  return (
    <section aria-label="Balance by weights" className="text-[13px]">
      <p className="text-soft">All together</p>
      <p className="num text-[20px] leading-7">{formatQuantity(massKg, 'kg', units, 3)}</p>
      <p className="mt-2 text-soft">Balances aft of the nose</p>
      <p className="num text-[20px] leading-7">{mm(aftM)}</p>
      {Math.abs(rightM) > 0.003 && (
        <p className="text-amber">
          {mm(Math.abs(rightM))} to the {rightM > 0 ? 'right' : 'left'} of the middle
        </p>
      )}
      {place && (
        <>
          <p className="mt-2 text-soft">Static margin</p>
          <p className={`num text-[20px] leading-7 ${margin < 0.05 ? 'text-red' : ''}`}>
            {(100 * margin).toFixed(1)} %
          </p>
          <div className="mt-2 flex items-baseline gap-2">
            <span className="text-soft">For</span>
            <QuantityField
              label="Wanted static margin"
              unit="percent"
              value={wanted}
              min={3}
              max={30}
              step={1}
              onChange={setWanted}
            />
          </div>
          {place.inside ? (
            <>
              <p>the battery’s middle goes to {mm(place.aftM)}.</p>
              <Button className="mt-1" onClick={() => moveBattery(place.aftM)}>
                Move it there
              </Button>
            </>
          ) : (
            <p className="text-amber">
              the battery would have to lie at {mm(place.aftM)}, outside the craft. At{' '}
              {mm(place.instead!.aftM)} it takes{' '}
              {formatQuantity(Math.max(0.005, place.instead!.ballastKg), 'kg', units, 3)} more there.
            </p>
          )}
        </>
      )}
      {board && (
        <Button className="mt-3 whitespace-normal! text-left" onClick={() => dispatch(staged(board))}>
          Put the board’s place into the tray
        </Button>
      )}
    </section>
  );
}

/** Every part with its weight and place; the first change takes the estimate over as weighed. */
export function WeightsTable({
  airframe,
  onChange,
  picked,
  onPick,
}: Props & { readonly picked: string | null; readonly onPick: (id: string | null) => void }) {
  const weights = useMemo(() => weightsOf(airframe), [airframe]);
  const put = (id: string, change: Partial<Weight>) => {
    const next = weights.map((w) => (w.id === id ? { ...w, ...change } : w));
    if (balanceable(next)) onChange(withWeights(airframe, next));
  };
  const add = () => {
    let n = 1;
    while (weights.some((w) => w.id === `own.${n}`)) n++;
    const own = { id: `own.${n}`, name: `part ${n}`, massKg: 0.05, aftM: airframe.cgAftM, rightM: 0, upM: 0 };
    onChange(withWeights(airframe, [...weights, own]));
    onPick(own.id);
  };
  return (
    <section aria-label="Weights" className="mt-2 border-line border-t pt-2 text-[13px]">
      <p className="text-soft">
        {airframe.weights
          ? 'Weighed parts. Drag a part on the drawing, or say where its middle is; mass and balance follow.'
          : 'Estimated from mass and dimensions. Put in what the scale says: mass and balance then follow from it.'}
        {airframe.weights && (
          <TextButton
            className="ml-3"
            onClick={() => {
              const { weights: _, ...rest } = airframe;
              onChange(rest);
            }}
          >
            Forget the weights, keep mass and balance
          </TextButton>
        )}
      </p>
      <ul className="mt-1 grid gap-x-8 min-[1180px]:grid-cols-2">
        {weights.map((w) => (
          <li
            key={w.id}
            className={`flex items-baseline gap-2 border-line border-b py-0.5 ${picked === w.id ? 'bg-lake-wash' : ''}`}
            onFocus={() => onPick(w.id)}
          >
            {w.id.startsWith('own.') ? (
              <input
                aria-label="Name of the part"
                className="min-w-0 flex-1 border-contour border-b border-dotted bg-transparent"
                value={w.name}
                maxLength={60}
                onChange={(e) => e.target.value !== '' && put(w.id, { name: e.target.value })}
              />
            ) : (
              <span className="min-w-0 flex-1 truncate">{w.name}</span>
            )}
            <QuantityField
              label={`Weight of the ${w.name}`}
              unit="g"
              value={1000 * w.massKg}
              min={0}
              max={1000 * HEAVIEST}
              step={1}
              onChange={(g) => put(w.id, { massKg: g / 1000 })}
            />
            <QuantityField
              label={`Place of the ${w.name}, aft of the nose`}
              unit="mm"
              value={1000 * w.aftM}
              min={1000 * FOREMOST}
              max={1000 * REARMOST}
              step={1}
              onChange={(v) => put(w.id, { aftM: v / 1000 })}
            />
            {w.id.startsWith('own.') && (
              <TextButton
                aria-label={`Take away: ${w.name}`}
                tone="faint"
                onClick={() =>
                  onChange(
                    withWeights(
                      airframe,
                      weights.filter((x) => x.id !== w.id),
                    ),
                  )
                }
              >
                away
              </TextButton>
            )}
          </li>
        ))}
      </ul>
      <TextButton
        tone="soft"
        className="mt-1"
        disabled={weights.length >= MOST_WEIGHTS}
        title={weights.length >= MOST_WEIGHTS ? `A craft has up to ${MOST_WEIGHTS} weighed parts` : undefined}
        onClick={add}
      >
        Another part…
      </TextButton>
    </section>
  );
}

const balanceable = (weights: readonly Weight[]) => weights.some((w) => w.massKg > 0);
