import { useEffect, useRef, useState } from 'react';
import { actuatorNames, type Surface } from '#core/airframe/airframe.ts';
import { DEG } from '#core/math/scalar.ts';
import { outputDriving } from '#core/mixer/commanded.ts';
import { edgeOf } from '#core/mixer/linkage.ts';
import { directionWords } from '#core/mixer/roles.ts';
import {
  angleAt,
  angleRead,
  chordMmOf,
  describedThrow,
  endsOf,
  halfTurnsFor,
  playOf,
  SAME_US,
  servoTravel,
  type Throw,
  type ThrowReading,
  throwFrom,
  throwsSeen,
  twin,
  unevenness,
  usFor,
  wantedThrow,
} from '#core/mixer/throws.ts';
import { stateOf } from '#core/proofs/proofs.ts';
import { settingOf, settingsOf } from '#core/settings/typed.ts';
import { displayOf, formatNumber, formatQuantity } from '#core/units/units.ts';
import type { BenchTarget } from '#core/wire/messages.ts';
import { useSampled, useStatus } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { recordProof } from '../../session.ts';
import { proofsDropped } from '../../store/craftSlice.ts';
import { selectCatalogue, selectDescription, selectProofWorld, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Check } from '../../ui/Check.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { RadioCards } from '../../ui/RadioCards.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { Lead } from '../Lead.tsx';
import { HoldBar } from './HoldBar.tsx';
import { ThrowDrawing } from './ThrowDrawing.tsx';

/** Surfaces beside their servos: measured with a ruler, set in degrees. */
export default function ThrowsStation() {
  const airframe = useApp((s) => s.craft.airframe)!;
  const world = useApp(selectProofWorld)!;
  const proofs = useApp((s) => s.craft.proofs);
  const [id, setId] = useState(airframe.surfaces[0]?.id);
  const surface = airframe.surfaces.find((s) => s.id === id) ?? airframe.surfaces[0];
  const seen = throwsSeen(proofs, world);
  if (!surface)
    return (
      <>
        <Lead begins={false} />
        <p className="mt-3 text-soft">This craft steers by its motors alone: it has no surface to measure.</p>
      </>
    );
  return (
    <>
      <Lead />
      <RadioCards
        label="Surface"
        className="mt-3 flex flex-wrap gap-1.5"
        value={surface.id}
        cards={airframe.surfaces.map((s) => ({
          id: s.id,
          name: `${actuatorNames[s.id]}${seen.has(s.id) ? ' ✓' : ''}`,
        }))}
        onChange={setId}
      />
      <OneThrow key={surface.id} surface={surface} />
    </>
  );
}

/** How long a pulse has to stand before what hangs on it stands too, ms; and how often it is looked at. */
const SETTLED_MS = 700;
const LOOK_MS = 100;
/** So far off the others a reading is doubted, deg. */
const DOUBT_DEG = 2.5;
/** A trim of less than this keeps the travel to both sides, us. */
const SMALL_TRIM_US = 40;

const targets: readonly { readonly id: BenchTarget; readonly name: string }[] = [
  { id: 'middle', name: 'servo’s middle' },
  { id: 'low', name: 'short-pulse end' },
  { id: 'high', name: 'long-pulse end' },
  { id: 'centre', name: 'trimmed centre' },
  { id: 'sweep', name: 'to and fro' },
  { id: 'middle-from-low', name: 'middle, come from shorter pulses' },
  { id: 'middle-from-high', name: 'middle, come from longer pulses' },
];

function OneThrow({ surface }: { readonly surface: Surface }) {
  const airframe = useApp((s) => s.craft.airframe)!;
  const values = useApp(selectValues);
  const units = useApp((s) => s.ui.units);
  const proofs = useApp((s) => s.craft.proofs);
  const world = useApp(selectProofWorld)!;
  const dispatch = useAppDispatch();
  const [to, setTo] = useState<BenchTarget>('middle');
  const [pulses, setPulses] = useState(false);
  const s = settingsOf(values);
  const output = outputDriving(values, surface.id);
  const chordMm = chordMmOf(airframe, surface);
  const nowUs = useSampled(
    () => (output === null ? null : live('outputs')?.pulses[output - 1] || null),
    LOOK_MS,
  );
  const stood = useStood(output ?? 0, nowUs);
  const proof = proofs.find((p) => p.id === `throw.${surface.id}`);
  const readings =
    proof?.seen.kind === 'throw' && stateOf(proof, world) === 'proven' ? proof.seen.readings : [];
  const fit = readings.length >= 2 ? throwFrom(surface, readings) : null;
  const refused = fit && 'refused' in fit ? fit.refused : null;
  const measured = fit && !('refused' in fit) ? fit : null;
  const t = measured ?? describedThrow(surface, output !== null && s.flag(`out.${output}.reversed`));
  const play = playOf(readings);
  const timer = useApp(selectDescription)?.pads.find((p) => p.output === output)?.timer;
  const rate = timer === undefined ? undefined : settingOf(values, `timer.${timer}.rate`);
  const [put, fault] = usePut(surface, output ?? 1, measured);
  const doubtful = measured
    ? readings.find((r) => Math.abs(angleAt(measured, r.us) - r.angle) > DOUBT_DEG * DEG)
    : undefined;
  if (output === null)
    return (
      <Notice tone="amber" className="mt-3 max-w-[660px]">
        No output drives the {actuatorNames[surface.id]} yet. Find out which moves it first.
      </Notice>
    );
  const take = (angle: number) => {
    if (stood === null) return;
    const { us, from } = stood;
    // Read again from the same side, it takes the other's place.
    const others = readings
      .filter((r) => Math.abs(r.us - us) > SAME_US || (r.from ?? from) !== from)
      .slice(-5);
    recordProof({
      kind: 'throw',
      surface: surface.id,
      output,
      readings: [...others, { us, angle, ...(from ? { from } : {}) }],
    });
  };
  const [low, centre, high] = [
    s.number(`out.${output}.low`),
    s.number(`out.${output}.centre`),
    s.number(`out.${output}.high`),
  ];
  return (
    <>
      <div className="mt-2">
        <ThrowDrawing
          surface={surface}
          throwOf={t}
          chordMm={chordMm}
          lowUs={low}
          centreUs={centre}
          highUs={high}
          nowUs={nowUs}
          measured={measured !== null}
          pulses={pulses}
          units={units}
          onEnd={measured ? put : undefined}
        />
      </div>
      <p className="flex flex-wrap items-baseline gap-x-4 text-[13px] text-soft">
        <span>
          {measured
            ? `Measured by ${readings.length} readings.`
            : proof && readings.length === 0
              ? 'Something it rests on was changed since it was measured: read it anew.'
              : 'As the craft is described: not measured yet. Read where its trailing edge stands near both ends.'}
        </span>
        <span>{servoWords(surface, rate)}</span>
        <Check checked={pulses} onChange={(e) => setPulses(e.target.checked)}>
          pulses too
        </Check>
      </p>
      <RadioCards
        label="Bring it to"
        className="mt-2 flex flex-wrap gap-1.5"
        value={to}
        cards={targets}
        onChange={setTo}
      />
      <HoldBar
        output={output}
        to={to}
        label={`Hold to bring it to ${to === 'sweep' ? 'its ends, to and fro' : `its ${targets.find((x) => x.id === to)!.name}`}`}
      />
      <Read surface={surface} chordMm={chordMm} stood={stood} onTake={take} />
      {refused && (
        <Notice
          className="mt-2 max-w-[760px]"
          action={<Button onClick={() => dispatch(proofsDropped([proof!.id]))}>Forget these readings</Button>}
        >
          {refused}
        </Notice>
      )}
      {doubtful && (
        <Notice tone="amber" className="mt-2 max-w-[760px]">
          The reading at {Math.round(doubtful.us)} µs does not fit the others within {DOUBT_DEG}°. Read it
          again, or see whether arm and horn are as long as the craft’s description says.
        </Notice>
      )}
      {readings.length > 0 && (
        <ul aria-label="Readings" className="mt-2 flex flex-wrap gap-x-5 gap-y-1 text-[13px]">
          {[...readings]
            .sort((a, b) => a.us - b.us)
            .map((r) => (
              <li key={r.us}>
                <span className="num">{Math.round(r.us)} µs</span>
                {play !== null && r.from && ` from ${r.from === 'below' ? 'shorter' : 'longer'} pulses`}:{' '}
                <Angle surface={surface} angle={r.angle} chordMm={chordMm} />
              </li>
            ))}
          <li>
            <TextButton onClick={() => dispatch(proofsDropped([proof!.id]))}>Measure anew</TextButton>
          </li>
        </ul>
      )}
      {measured && <Play surface={surface} readings={readings} chordMm={chordMm} />}
      {fault && <Notice className="mt-2 max-w-[760px]">{fault}</Notice>}
      {measured && (
        <SetThrow
          surface={surface}
          output={output}
          chordMm={chordMm}
          halfTurns={halfTurnsFor(measured)}
          put={put}
        />
      )}
    </>
  );
}

/** The servo as the craft is described, and how often it gets a pulse. */
function servoWords(surface: Surface, rate: string | undefined): string {
  const speed = surface.linkage?.servoSpeedDegPerS ?? USUAL_SERVO_DEG_PER_S;
  const fast = Number(rate) > 100 ? ', which only a digital one stands' : '';
  return `Servo: 60° in ${formatNumber(60 / speed, 2)} s, ${formatNumber(servoTravel(surface) / DEG, 0)}° to either side${rate ? `, ${rate} pulses a second${fast}` : ''}.`;
}
/** A small servo where the craft says nothing of its own, deg/s. */
const USUAL_SERVO_DEG_PER_S = 500;

/** What play it has, or how that is read. */
function Play({
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
function useStood(output: number, nowUs: number | null): Stood | null {
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
function Read({
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

function Angle({
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

/** An end or the rest of a surface, rad, down positive. */
type Put = (part: 'up' | 'rest' | 'down', angle: number) => void;

/** Stages a place of a surface in degrees as its pulse, or says why that cannot be. */
function usePut(surface: Surface, output: number, t: Throw | null): readonly [Put, fault: string | null] {
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
function SetThrow({
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
