import { useEffect, useRef, useState } from 'react';
import { actuatorNames } from '#core/airframe/actuators.ts';
import type { Surface } from '#core/airframe/airframe.ts';
import { DEG } from '#core/math/scalar.ts';
import { edgeOf } from '#core/mixer/linkage.ts';
import { directionWords } from '#core/mixer/roles.ts';
import { angleRead, playOf, type ThrowReading } from '#core/mixer/throws.ts';
import { displayOf, formatNumber, formatQuantity } from '#core/units/units.ts';
import { useStatus } from '../../live/hooks.ts';
import { useApp } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Check } from '../../ui/Check.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { NumberField } from '../../ui/NumberField.tsx';

/** How long a pulse has to stand before what hangs on it stands too, ms; and how often it is looked at. */
const SETTLED_MS = 700;
export const LOOK_MS = 100;

/** What play it has, or how that is read. */
export function Play({
  surface,
  readings,
  chordMm,
}: {
  readonly surface: Surface;
  readonly readings: readonly ThrowReading[];
  readonly chordMm: number | null;
}) {
  const units = useApp((s) => s.ui.units);
  const play = playOf(readings);
  const size =
    play === null
      ? ''
      : `${formatNumber(play / DEG, 1)}°${chordMm === null ? '' : `, ${formatQuantity(Math.abs(edgeOf(play, chordMm)), 'mm', units, units === 'imperial' ? 2 : 1)}`}`;
  return (
    <p className="mt-1 text-[13px] text-soft">
      {play === null
        ? `Play shows where the ${actuatorNames[surface.id]} is read twice at its middle: once come from shorter pulses, once from longer ones.`
        : play < SEEN_PLAY
          ? 'Read from both sides: no play that a ruler shows.'
          : `Read from both sides: ${size} of play.`}
    </p>
  );
}
/** Less than a ruler shows on a small surface, rad. */
const SEEN_PLAY = 0.3 * DEG;

/** A pulse that goes to and fro by less than this has not gone anywhere, us. */
const TREMBLES_US = 12;

interface Stood {
  /** us */
  readonly us: number;
  /** From which side it came there; undefined before it was seen to move. */
  readonly from: 'below' | 'above' | undefined;
}

/** Where the surface last stood still while it was held; null before that. */
export function useStood(output: number, nowUs: number | null): Stood | null {
  const moving = useStatus()?.moving ?? 0;
  const still = useRef({ us: 0, atMs: 0 });
  const came = useRef<Stood>({ us: 0, from: undefined });
  const [stood, setStood] = useState<Stood | null>(null);
  useEffect(() => {
    if (nowUs === null) return;
    if (Math.abs(still.current.us - nowUs) > 1) still.current = { us: nowUs, atMs: performance.now() };
    const { us } = came.current;
    // Seen for the first time it has come from nowhere; a stick that trembles brings it nowhere.
    if (us === 0) came.current = { us: nowUs, from: undefined };
    else if (Math.abs(nowUs - us) > TREMBLES_US)
      came.current = { us: nowUs, from: nowUs > us ? 'below' : 'above' };
  }, [nowUs]);
  useEffect(() => {
    if (moving !== output || nowUs === null) return;
    const look = () => {
      const { us, atMs } = still.current;
      const { from } = came.current;
      if (performance.now() - atMs > SETTLED_MS)
        setStood((was) => (was?.us === us && was.from === from ? was : { us, from }));
    };
    look();
    const timer = setInterval(look, LOOK_MS);
    return () => clearInterval(timer);
  }, [moving, output, nowUs]);
  return stood;
}

/** Where the trailing edge stood, as it is read off a ruler or a protractor. */
export function Read({
  surface,
  chordMm,
  stood,
  onTake,
}: {
  readonly surface: Surface;
  readonly chordMm: number | null;
  readonly stood: Stood | null;
  readonly onTake: (angle: number) => void;
}) {
  const units = useApp((s) => s.ui.units);
  const [size, setSize] = useState(0);
  const [byAngle, setByAngle] = useState(chordMm === null);
  const [positive, negative] = directionWords(surface.id);
  const { symbol, factor } = byAngle ? { symbol: '°', factor: 1 } : displayOf('mm', units);
  const [fault, setFault] = useState<string | null>(null);
  const take = (sign: number) => {
    const angle = angleRead(byAngle ? { deg: sign * size } : { mm: (sign * size) / factor }, chordMm ?? 1);
    if (Number.isNaN(angle))
      return setFault('A trailing edge cannot stand off so far. Measure from flush, at the inner end.');
    setFault(null);
    onTake(angle);
  };
  return (
    <section aria-label="Reading" className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1">
      {stood === null ? (
        <span className="text-soft">
          Hold it until it stands, look how far its trailing edge is from flush
          {chordMm !== null &&
            `, at its inner end, ${formatQuantity(chordMm, 'mm', units, units === 'imperial' ? 2 : 0)} behind the hinge`}
          , and say so here.
        </span>
      ) : (
        <>
          <span>
            At <span className="num">{Math.round(stood.us)} µs</span> it stood
          </span>
          <NumberField
            label="Trailing edge from flush"
            value={size}
            symbol={symbol}
            min={0}
            max={byAngle ? 80 : 400 * factor}
            step={factor === 1 ? 0.5 : 0.01}
            onChange={setSize}
          />
          <Button onClick={() => take(1)}>{positive}</Button>
          <Button onClick={() => take(-1)}>{negative}</Button>
          <Button onClick={() => onTake(0)}>flush</Button>
          {chordMm !== null && (
            <Check checked={byAngle} onChange={(e) => setByAngle(e.target.checked)}>
              by protractor
            </Check>
          )}
        </>
      )}
      {fault && <Notice className="mt-0">{fault}</Notice>}
    </section>
  );
}

export function Angle({
  surface,
  angle,
  chordMm,
}: {
  readonly surface: Surface;
  readonly angle: number;
  readonly chordMm: number | null;
}) {
  const units = useApp((s) => s.ui.units);
  const [positive, negative] = directionWords(surface.id);
  const mm =
    chordMm === null
      ? ''
      : `, ${formatQuantity(Math.abs(edgeOf(angle, chordMm)), 'mm', units, units === 'imperial' ? 2 : 1)}`;
  const flush = Math.abs(angle) < 0.05 * DEG;
  return (
    <span>
      {flush ? 'flush' : `${formatNumber(Math.abs(angle) / DEG, 1)}° ${angle > 0 ? positive : negative}${mm}`}
    </span>
  );
}
