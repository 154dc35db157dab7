import { lazy, Suspense, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { usualBatch } from '#core/formats/batch.ts';
import { verdictWords } from '#core/formats/rehearsalResult.ts';
import { staleWords } from '#core/proofs/proofs.ts';
import { GROUND_UNKNOWN } from '#core/site/site.ts';
import { displayOf, formatDuration, formatNumber, formatQuantity } from '#core/units/units.ts';
import { canResume, flyBatch, stopBatch } from '../../batch.ts';
import type { BatchFlight } from '../../store/batchSlice.ts';
import { scenarioChanged } from '../../store/rehearsalSlice.ts';
import { selectProofWorld } from '../../store/selectors.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { Told } from '../../ui/Told.tsx';
import { Lead } from '../Lead.tsx';
import { LastFlown } from './LastFlown.tsx';

const ByStrength = lazy(() => import('./ByStrength.tsx'));

const { directionsDeg, strengthsMps } = usualBatch;
const INNER = 26;
const OUTER = 196;
const SLICE = 360 / directionsDeg.length;

interface Cell {
  readonly fromDeg: number;
  readonly speedMps: number;
}

/** The flight in many winds, drawn as a rose: where from, how strong, home or not. */
export default function ManyWindsStation() {
  const { flights, total, run, proof } = useApp((s) => s.batch);
  const known = useApp((s) => s.site.current?.terrain.known ?? true);
  const kept = useApp((s) => s.craft.proofs.find((p) => p.id === 'winds'));
  const world = useApp(selectProofWorld)!;
  const stale = staleWords(proof ?? kept, world);
  const [cell, setCell] = useState<Cell | null>(null);
  const resumes = useApp(canResume);
  const flying = run.kind === 'flying';
  const left = useTimeLeft(flights.length, total, flying);
  const home = flights.filter((f) => f.verdict === 'home').length;
  return (
    <div className="flex min-h-[600px] flex-col min-[900px]:h-full">
      <div className="flex items-start gap-4">
        <div className="flex-1">
          <Lead>
            The flight of the station before, again and again: wind from {directionsDeg.length} sides, in{' '}
            {strengthsMps.length} strengths, with {usualBatch.seeds.length} kinds of gusts each. The rose
            shows which winds it comes home in.
          </Lead>
          {!known && <p className="mt-1 text-amber">{GROUND_UNKNOWN}</p>}
        </div>
        {flying ? (
          <Button onClick={stopBatch}>Stop</Button>
        ) : (
          <>
            {resumes && (
              <Button kind="go" onClick={() => void flyBatch(true)}>
                Fly the other {total - flights.length}
              </Button>
            )}
            <Button kind={resumes ? 'plain' : 'go'} onClick={() => void flyBatch()}>
              {total > 0
                ? resumes
                  ? 'All anew'
                  : 'Fly them again'
                : `Fly all ${directionsDeg.length * strengthsMps.length * usualBatch.seeds.length}`}
            </Button>
          </>
        )}
      </div>
      {total > 0 && (
        <p role="status" className="mt-2 text-soft">
          <b className={`num font-medium ${home === flights.length ? 'text-forest' : 'text-ink'}`}>{home}</b>{' '}
          of <span className="num">{flights.length}</span> flown come home
          {flying && `; ${total - flights.length} still to fly`}
          {flying && left !== null && `, about ${formatDuration(left)}`}
          {run.kind === 'cancelled' && `; stopped with ${total - flights.length} not flown`}.
          {!flying && stale && <b className="font-medium text-red"> Since then {stale}.</b>}
        </p>
      )}
      {total === 0 && kept?.seen.kind === 'winds' && (
        <LastFlown at={kept.at} stale={stale}>
          {kept.seen.home} of {kept.seen.total} come home
        </LastFlown>
      )}
      {run.kind === 'failed' && <Notice>{run.why}</Notice>}
      <div className="mt-2 grid min-h-0 flex-1 gap-5 min-[900px]:grid-cols-[minmax(0,1fr)_270px]">
        <Rose flights={flights} picked={cell} onPick={setCell} />
        <div>
          <CellDetail flights={flights} cell={cell} />
          <Suspense>{flights.length > 0 && <ByStrength flights={flights} />}</Suspense>
        </div>
      </div>
    </div>
  );
}

/** How long a batch will still take, from the pace so far, s; null before there is one. */
function useTimeLeft(flown: number, total: number, flying: boolean): number | null {
  const begun = useRef<{ atMs: number; flown: number } | null>(null);
  if (!flying) begun.current = null;
  else begun.current ??= { atMs: performance.now(), flown };
  const since = begun.current;
  if (!since || flown - since.flown < 5) return null;
  const perFlight = (performance.now() - since.atMs) / 1000 / (flown - since.flown);
  return Math.max(5, 5 * Math.round((perFlight * (total - flown)) / 5));
}

const at = (deg: number, r: number) => {
  const a = (deg * Math.PI) / 180;
  return `${(r * Math.sin(a)).toFixed(1)} ${(-r * Math.cos(a)).toFixed(1)}`;
};
const ringOf = (i: number) => INNER + ((OUTER - INNER) * i) / strengthsMps.length;
const nameOf = (deg: number) =>
  ['north', 'north-east', 'east', 'south-east', 'south', 'south-west', 'west', 'north-west'][
    Math.round(deg / 45) % 8
  ]!;

function Rose({
  flights,
  picked,
  onPick,
}: {
  readonly flights: readonly BatchFlight[];
  readonly picked: Cell | null;
  readonly onPick: (c: Cell) => void;
}) {
  const units = useApp((s) => s.ui.units);
  const speed = displayOf('m/s', units);
  const move = (fromDeg: number, speedMps: number, key: string): Cell | null => {
    const d = directionsDeg.indexOf(fromDeg);
    const s = strengthsMps.indexOf(speedMps);
    const n = directionsDeg.length;
    if (key === 'ArrowRight') return { fromDeg: directionsDeg[(d + 1) % n]!, speedMps };
    if (key === 'ArrowLeft') return { fromDeg: directionsDeg[(d + n - 1) % n]!, speedMps };
    if (key === 'ArrowUp' && s < strengthsMps.length - 1) return { fromDeg, speedMps: strengthsMps[s + 1]! };
    if (key === 'ArrowDown' && s > 0) return { fromDeg, speedMps: strengthsMps[s - 1]! };
    return null;
  };
  const current = picked ?? { fromDeg: directionsDeg[0]!, speedMps: strengthsMps[0]! };
  return (
    <svg
      viewBox="-240 -222 480 444"
      className="h-full max-h-[600px] min-h-[430px] w-full min-w-[440px]"
      role="listbox"
      aria-label="Winds: arrows left and right turn, up and down change the strength"
      tabIndex={0}
      aria-activedescendant={`cell-${current.fromDeg}-${current.speedMps}`}
      onKeyDown={(e) => {
        const next = move(current.fromDeg, current.speedMps, e.key);
        if (!next) return;
        e.preventDefault();
        onPick(next);
      }}
    >
      <defs>
        <pattern id="lost" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="5" height="5" fill="var(--red-wash)" />
          <path d="M0 0V5" stroke="var(--red)" strokeWidth="1" />
        </pattern>
      </defs>
      {directionsDeg.flatMap((fromDeg) =>
        strengthsMps.map((speedMps, i) => {
          const here = flights.filter((f) => f.fromDeg === fromDeg && f.speedMps === speedMps);
          const home = here.filter((f) => f.verdict === 'home').length;
          const fill =
            here.length === 0
              ? 'var(--sheet)'
              : home === here.length
                ? 'var(--forest-wash)'
                : home === 0
                  ? 'url(#lost)'
                  : 'var(--amber-wash)';
          const [a, b, r0, r1] = [fromDeg - SLICE / 2, fromDeg + SLICE / 2, ringOf(i), ringOf(i + 1)];
          const on = picked?.fromDeg === fromDeg && picked.speedMps === speedMps;
          const [tx, ty] = at(fromDeg, (r0 + r1) / 2).split(' ');
          return (
            <g
              key={`${fromDeg}-${speedMps}`}
              id={`cell-${fromDeg}-${speedMps}`}
              role="option"
              aria-selected={on}
              aria-label={`${formatQuantity(speedMps, 'm/s', units, 0)} from ${fromDeg}°: ${here.length === 0 ? 'not flown' : `${home} of ${here.length} come home`}`}
              className="cursor-pointer"
              onClick={() => onPick({ fromDeg, speedMps })}
            >
              <path
                d={`M${at(a, r0)}A${r0} ${r0} 0 0 1 ${at(b, r0)}L${at(b, r1)}A${r1} ${r1} 0 0 0 ${at(a, r1)}Z`}
                fill={fill}
                stroke={on ? 'var(--ink)' : 'var(--line)'}
                strokeWidth={on ? 2 : 0.8}
              />
              {here.length > 0 && home !== here.length && home > 0 && (
                <text
                  x={tx}
                  y={ty}
                  dy={4}
                  textAnchor="middle"
                  fontSize={12.5}
                  className="num"
                  fill="var(--amber)"
                >
                  {home}/{here.length}
                </text>
              )}
            </g>
          );
        }),
      )}
      <path d="M0 -9L9 0 0 9-9 0Z" fill="var(--forest)" />
      {(['N', 'E', 'S', 'W'] as const).map((name, i) => (
        <text
          key={name}
          x={Number(at(90 * i, OUTER + 14).split(' ')[0])}
          y={Number(at(90 * i, OUTER + 14).split(' ')[1]) + 5}
          textAnchor="middle"
          fontSize={14}
          fontWeight={600}
          fill="var(--soft)"
        >
          {name}
        </text>
      ))}
      {strengthsMps.map((s, i) => (
        <text
          key={s}
          x={Number(at(SLICE / 2, (ringOf(i) + ringOf(i + 1)) / 2).split(' ')[0])}
          y={Number(at(SLICE / 2, (ringOf(i) + ringOf(i + 1)) / 2).split(' ')[1]) + 4}
          textAnchor="middle"
          fontSize={12.5}
          className="num"
          fill="var(--soft)"
          stroke="var(--sheet)"
          strokeWidth={3}
          paintOrder="stroke"
        >
          {formatNumber(s * speed.factor, 0)}
        </text>
      ))}
      <text x={-232} y={212} fontSize={13} fill="var(--soft)">
        rings: wind at {formatQuantity(10, 'm', units, 0)}, {speed.symbol}
      </text>
    </svg>
  );
}

function CellDetail({
  flights,
  cell,
}: {
  readonly flights: readonly BatchFlight[];
  readonly cell: Cell | null;
}) {
  const scenario = useApp((s) => s.rehearsal.scenario);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const units = useApp((s) => s.ui.units);
  const here = cell ? flights.filter((f) => f.fromDeg === cell.fromDeg && f.speedMps === cell.speedMps) : [];
  return (
    <aside className="self-start pt-3 text-[13px]" aria-live="polite">
      {!cell && (
        <>
          <h2 className="label">How to read it</h2>
          <ul className="mt-1 space-y-1.5 text-soft">
            <li>
              A field is one wind: its bearing is where the wind comes <i>from</i>, farther out is stronger.
            </li>
            <li>
              <Swatch fill="var(--forest-wash)" /> comes home in every kind of gust
            </li>
            <li>
              <Swatch fill="var(--amber-wash)" /> in some of them
            </li>
            <li>
              <Swatch fill="var(--red-wash)" hatched /> in none
            </li>
          </ul>
          <p className="mt-2 text-soft">Pick a field to read what happened there.</p>
        </>
      )}
      {cell && (
        <>
          <h2 className="label">
            {formatQuantity(cell.speedMps, 'm/s', units, 0)} from {nameOf(cell.fromDeg)} ({cell.fromDeg}°)
          </h2>
          {here.length === 0 && <p className="mt-1 text-soft">Not flown yet.</p>}
          <ul className="mt-1 space-y-2">
            {here.map((f) => (
              <li key={f.seed} className="border-line border-b pb-1.5">
                <b className={`font-semibold ${f.verdict === 'home' ? 'text-forest' : 'text-red'}`}>
                  {verdictWords[f.verdict]}
                </b>
                <span className="text-faint"> watched for {formatDuration(f.seconds)}</span>
                <p className="text-soft leading-[17px]">
                  <Told>{f.reason}</Told>
                </p>
                <TextButton
                  tone="lake"
                  className="mt-0.5"
                  onClick={() => {
                    const gustMps = Math.min(10, 0.2 * f.speedMps);
                    dispatch(
                      scenarioChanged({
                        ...scenario,
                        seed: f.seed,
                        wind: { speedMps: f.speedMps, fromDeg: f.fromDeg, gustMps },
                      }),
                    );
                    navigate('/rehearse/one-flight');
                  }}
                >
                  Look at this flight
                </TextButton>
              </li>
            ))}
          </ul>
        </>
      )}
    </aside>
  );
}

function Swatch({ fill, hatched = false }: { readonly fill: string; readonly hatched?: boolean }) {
  return (
    <svg width="22" height="14" className="mr-1 inline-block align-[-2px]" aria-hidden="true">
      <rect x="0.5" y="0.5" width="21" height="13" fill={fill} stroke="var(--line)" />
      {hatched && <path d="M3 13L14 1M9 13L20 1" stroke="var(--red)" />}
    </svg>
  );
}
