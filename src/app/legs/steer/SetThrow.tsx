import { useState } from 'react';
import { actuatorNames } from '#core/airframe/actuators.ts';
import type { Surface } from '#core/airframe/airframe.ts';
import { DEG } from '#core/math/scalar.ts';
import { edgeOf } from '#core/mixer/linkage.ts';
import { directionWords } from '#core/mixer/roles.ts';
import {
  angleAt,
  endsOf,
  type Throw,
  throwsSeen,
  twin,
  unevenness,
  usFor,
  wantedThrow,
} from '#core/mixer/throws.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { formatNumber, formatQuantity } from '#core/units/units.ts';
import { selectCatalogue, selectProofWorld, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { NumberField } from '../../ui/NumberField.tsx';

/** A trim of less than this keeps the travel to both sides, us. */
const SMALL_TRIM_US = 40;

/** An end or the rest of a surface, rad, down positive. */
type Put = (part: 'up' | 'rest' | 'down', angle: number) => void;

/** Stages a place of a surface in degrees as its pulse, or says why that cannot be. */
export function usePut(
  surface: Surface,
  output: number,
  t: Throw | null,
): readonly [Put, fault: string | null] {
  const catalogue = useApp(selectCatalogue);
  const centre = useApp((s) => settingsOf(selectValues(s)).number(`out.${output}.centre`));
  const dispatch = useAppDispatch();
  const [fault, setFault] = useState<string | null>(null);
  const [positive, negative] = directionWords(surface.id);
  const put: Put = (part, angle) => {
    if (!t) return;
    const us = Math.round(usFor(t, angle));
    if (Number.isNaN(us))
      return setFault(
        `The linkage does not go so far: it is free from ${formatNumber(Math.abs(Math.min(angleAt(t, t.freeFromUs), angleAt(t, t.freeToUs))) / DEG, 1)}° ${negative} to ${formatNumber(Math.max(angleAt(t, t.freeFromUs), angleAt(t, t.freeToUs)) / DEG, 1)}° ${positive}. Another hole in the arm or the horn gives more.`,
      );
    const key = part === 'rest' ? `out.${output}.centre` : `out.${output}.${us < centre ? 'low' : 'high'}`;
    const why = catalogue.checkValue(key, us);
    setFault(why === null ? null : `That would be ${us} µs, which the board refuses: ${why}`);
    if (why === null) dispatch(staged({ [key]: us }));
  };
  return [put, fault];
}

/** Middle by the linkage, what is left by trim, then the ends; all in degrees. */
export function SetThrow({
  surface,
  output,
  chordMm,
  halfTurns,
  put,
}: {
  readonly surface: Surface;
  readonly output: number;
  readonly chordMm: number | null;
  readonly halfTurns: number;
  readonly put: Put;
}) {
  const airframe = useApp((s) => s.craft.airframe)!;
  const values = useApp(selectValues);
  const units = useApp((s) => s.ui.units);
  const proofs = useApp((s) => s.craft.proofs);
  const world = useApp(selectProofWorld)!;
  const seen = throwsSeen(proofs, world);
  const t = seen.get(surface.id);
  const ends = t && endsOf(t, values);
  if (!t || !ends) return null;
  const [positive, negative] = directionWords(surface.id);
  const s = settingsOf(values);
  const centre = s.number(`out.${output}.centre`);
  const flushUs = usFor(t, 0);
  const turns = Math.round(halfTurns);
  const wanted = wantedThrow(airframe, values, surface.id);
  const wantedDeg = wanted && wanted.angle / DEG;
  const least = Math.min(Math.abs(ends.up - ends.rest), Math.abs(ends.down - ends.rest)) / DEG;
  const otherId = twin(airframe, surface.id);
  const other = otherId && seen.get(otherId);
  const otherEnds = other && endsOf(other, values);
  const uneven = unevenness(t, s.number(`out.${output}.low`), s.number(`out.${output}.high`));
  const mm = (angle: number) =>
    chordMm === null
      ? ''
      : formatQuantity(Math.abs(edgeOf(angle, chordMm)), 'mm', units, units === 'imperial' ? 2 : 1);
  const field = (part: 'up' | 'rest' | 'down', label: string, angle: number, sign: 1 | -1) => (
    <>
      <NumberField
        label={label}
        value={Math.round((sign * angle * 10) / DEG) / 10 + 0}
        symbol="°"
        min={-80}
        max={80}
        step={0.5}
        onChange={(deg) => put(part, sign * deg * DEG)}
      />{' '}
      <span className="text-[13px] text-soft">{mm(angle)}</span>
    </>
  );
  return (
    <section
      aria-label="Middle and ends"
      className="mt-3 grid max-w-[760px] gap-x-6 gap-y-3 border-line border-t pt-3 min-[900px]:grid-cols-3"
    >
      <div>
        <h2 className="font-semibold">1. Middle by the linkage</h2>
        <p className="text-soft">
          {turns === 0
            ? 'With the servo at its middle the surface is flush to within half a turn of the clevis.'
            : `With the servo at its middle it stands ${formatNumber(Math.abs(angleAt(t, 1500)) / DEG, 1)}° ${angleAt(t, 1500) > 0 ? positive : negative}. Turn the clevis ${turns > 0 ? 'out' : 'in'} by ${Math.abs(turns)} half ${Math.abs(turns) === 1 ? 'turn' : 'turns'}, then measure it anew.`}
        </p>
      </div>
      <div>
        <h2 className="font-semibold">2. Then what is left by trim</h2>
        <p className="text-soft">
          At rest it stands{' '}
          {field('rest', `${actuatorNames[surface.id]} at rest, ${positive} positive`, ends.rest, 1)}
        </p>
        {Number.isFinite(flushUs) && Math.abs(flushUs - centre) >= 1 ? (
          <p className="mt-1">
            <Button onClick={() => put('rest', 0)}>
              Trim it flush, {flushUs > centre ? '+' : '−'}
              {Math.abs(Math.round(flushUs - centre))} µs
            </Button>
          </p>
        ) : (
          <p className="text-soft">Flush.</p>
        )}
        {Math.abs(centre - 1500) <= SMALL_TRIM_US && Math.abs(flushUs - centre) > SMALL_TRIM_US && (
          <p className="mt-1 text-amber">So much trim costs travel to one side: the linkage first.</p>
        )}
        {Math.abs(centre - 1500) > SMALL_TRIM_US && (
          <p className="mt-1 text-amber">
            {Math.abs(centre - 1500)} µs of trim cost travel to one side: do it by the linkage.
          </p>
        )}
      </div>
      <div>
        <h2 className="font-semibold">3. Last the ends</h2>
        <p>
          {negative} {field('up', `${actuatorNames[surface.id]} ${negative}`, ends.up, -1)}
        </p>
        <p>
          {positive} {field('down', `${actuatorNames[surface.id]} ${positive}`, ends.down, 1)}
        </p>
      </div>
      <ul className="text-[13px] text-soft min-[900px]:col-span-3">
        {wanted && wantedDeg !== null && (
          <li className={least < wantedDeg - 0.5 ? 'text-amber' : ''}>
            {wantedDeg > 60
              ? `${formatNumber(wanted.rateDeg, 0)} °/s of ${wanted.axis} at ${formatQuantity(wanted.speedMps, 'm/s', units, 1)} cannot be had from this surface: ask for less.`
              : `To ${wanted.axis} at the ${formatNumber(wanted.rateDeg, 0)} °/s that it is set to, at ${formatQuantity(wanted.speedMps, 'm/s', units, 1)}, it wants ${formatNumber(wantedDeg, 1)}° to either side; it has ${formatNumber(least, 1)}°.`}
          </li>
        )}
        <li>
          {Math.abs(uneven) < 0.02
            ? 'Servo and surface go evenly from end to end.'
            : `At its ends a degree of the servo moves it ${formatNumber(100 * Math.abs(uneven), 0)} % ${uneven < 0 ? 'less' : 'more'} than in the middle.`}
          {t.binds && ' It binds within the servo’s travel.'}
        </li>
        {otherEnds && (
          <li>
            Its twin, the {actuatorNames[otherId]}, goes {formatNumber(Math.abs(otherEnds.up) / DEG, 1)}°{' '}
            {negative} and {formatNumber(Math.abs(otherEnds.down) / DEG, 1)}° {positive}, and rests at{' '}
            {formatNumber(Math.abs(otherEnds.rest) / DEG, 1)}° {otherEnds.rest > 0 ? positive : negative}.
          </li>
        )}
        {Math.abs(ends.up) > 0 && (
          <li>
            Differential: it goes {formatNumber(Math.abs((ends.up - ends.rest) / (ends.down - ends.rest)), 2)}{' '}
            times as far {negative} as {positive}.
          </li>
        )}
      </ul>
    </section>
  );
}
