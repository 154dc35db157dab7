import { useEffect, useMemo, useRef, useState } from 'react';
import { gyroAtRest } from '#core/calibration/gyroRest.ts';
import {
  judgeShake,
  SHAKE_BAD,
  SHAKE_GOOD,
  type Shake,
  type ShakeVerdict,
  shakeOf,
} from '#core/calibration/shake.ts';
import { commandedBy } from '#core/mixer/commanded.ts';
import type { StreamRing } from '#link/streamRing.ts';
import { useRefusedSwitch, useSampled, useStatus } from '../../live/hooks.ts';
import { useChips, useStreamRing } from '../../live/streams.ts';
import { live } from '../../live/telemetry.ts';
import { recordProof } from '../../session.ts';
import { useApp } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Select } from '../../ui/Select.tsx';
import { Lead } from '../Lead.tsx';
import { Figure } from './Figure.tsx';
import { useProven } from './useGestures.ts';

const DEG = 180 / Math.PI;
const RATE = 1000;
const REST_S = 10;
const WINDOW_S = 1;
/** Throttles are kept apart by tenths. */
const BANDS = 10;
const MOST_HZ = 400;
/** A window counts where the throttle was held within this since the one before. */
const STEADY = 0.03;

/** The newest seconds of a ring, x y z by turns. */
function newest(ring: StreamRing, seconds: number): Float32Array | null {
  const n = Math.round(seconds / (ring.dtS || 1 / RATE));
  if (ring.unbroken < n) return null;
  const axes = [0, 1, 2].map((k) => ring.newest(k, n));
  const out = new Float32Array(3 * n);
  for (let i = 0; i < n; i++) for (let k = 0; k < 3; k++) out[3 * i + k] = axes[k]![i]!;
  return out;
}

const verdicts: Readonly<Record<ShakeVerdict, string>> = {
  good: 'So little shake needs no filter beyond the usual.',
  filter: 'It hums, and a filter takes that out: see the lines, and set the notch on the strongest.',
  balance:
    'Most of it comes once a turn: a propeller or a motor bell is out of balance. Balance it; no filter mends that.',
  'soft-mount':
    'It shakes harder than any filter should have to take. Set the board softly, and look for a loose motor or mount.',
};

const lineNames = {
  shaft: 'once a turn',
  blades: 'the blades',
  'twice-blades': 'twice the blades',
  unknown: '',
} as const;

/** Gyro at rest, then in a run-up that the pilot makes by the transmitter. */
export default function ShakenStation() {
  const chips = useChips();
  const first = useStreamRing('gyro', RATE, 3, REST_S + 1);
  const second = useStreamRing('gyro-2', RATE, 3, REST_S + 1);
  const status = useStatus();
  const armed = status?.armed ?? false;
  const refusedSwitch = useRefusedSwitch();
  const base = useApp((s) => s.settings.base);
  const rest = useProven('gyro.1');
  const shaken = useProven('shake');
  const [said, setSaid] = useState<string | null>(null);
  /** By chip: the worst window of each tenth of throttle. */
  const [heard, setHeard] = useState<readonly (readonly Shake[])[]>([[], []]);
  const [chip, setChip] = useState<0 | 1>(0);
  const shakes = heard[chip]!;
  /** Of each propeller: lines lie at multiples of the shaft by it. */
  const [blades, setBlades] = useState(2);
  const lastThrottle = useRef(0);
  const bands = useRef([new Map<number, Shake>(), new Map<number, Shake>()]);

  const seconds = useSampled(() => first.ring.unbroken * (first.ring.dtS || 0), 300);
  const lost = useSampled(() => first.ring.lost, 500);

  // While armed, a window a second; the worst of each tenth of throttle is kept.
  useEffect(() => {
    if (!armed) return;
    const timer = setInterval(() => {
      const outputs = live('outputs');
      if (!outputs) return;
      const commanded = Object.entries(commandedBy(base, outputs.pulses)).filter(([id]) => /motor/.test(id));
      const throttle = Math.max(0, ...commanded.map(([, v]) => v ?? 0));
      const steady = Math.abs(throttle - lastThrottle.current) < STEADY;
      lastThrottle.current = throttle;
      if (throttle < 0.05 || !steady) return;
      const band = Math.min(BANDS - 1, Math.floor(throttle * BANDS));
      [first.ring, second.ring].forEach((ring, i) => {
        const samples = newest(ring, WINDOW_S);
        const shake = samples && shakeOf(samples, RATE, { throttle, shaftHz: Number.NaN, blades });
        const of = bands.current[i]!;
        const before = of.get(band);
        if (shake && !(before && before.gyroRms > shake.gyroRms)) of.set(band, shake);
      });
      setHeard(bands.current.map((of) => [...of.values()].sort((a, b) => a.throttle - b.throttle)));
    }, 700);
    return () => clearInterval(timer);
  }, [armed, base, blades, first.ring, second.ring]);

  const takeRest = () => {
    const rings = chips === 2 ? [first.ring, second.ring] : [first.ring];
    const results = rings.map((ring) => {
      const samples = newest(ring, REST_S);
      return samples
        ? gyroAtRest(samples, RATE)
        : { refused: 'Samples were lost on the cable. Wait ten seconds more.' };
    });
    const bad = results.find((r) => 'refused' in r);
    if (bad && 'refused' in bad) {
      setSaid(bad.refused);
      return;
    }
    setSaid(null);
    results.forEach((r, i) => {
      if ('refused' in r) return;
      const { bias, density, drift, verdict } = r;
      recordProof({
        kind: 'gyro-rest',
        chip: (i + 1) as 1 | 2,
        bias: [...bias],
        density,
        drift,
        seconds: r.seconds,
        verdict,
      });
    });
  };
  const judged = judgeShake(shakes);
  const span = shakes.length > 0 ? shakes.at(-1)!.throttle - shakes[0]!.throttle : 0;
  const proof = rest?.seen.kind === 'gyro-rest' ? rest.seen : null;
  const shake = shaken?.seen.kind === 'shake' ? shaken.seen : null;
  return (
    <>
      <Lead />
      <section className="mt-3 grid gap-x-6 gap-y-2 border-t border-line pt-3 min-[860px]:grid-cols-[minmax(0,1fr)_auto]">
        <div>
          <h2 className="font-semibold">At rest</h2>
          {first.fault ? (
            <p role="alert" className="text-red">
              {first.fault}
            </p>
          ) : proof ? (
            <p className="mt-1">
              <Figure value={(Math.hypot(...proof.bias) * DEG).toFixed(2)} unit="°/s" words="of its own" />
              <Figure value={(proof.density * DEG).toFixed(4)} unit="°/s per √Hz" words="of noise" />
              <Figure value={(proof.drift * DEG).toFixed(2)} unit="°/s a minute" words="of drift" />
            </p>
          ) : (
            <p className="mt-1 text-soft" role="status">
              {seconds === 0
                ? 'Nothing comes from the board yet.'
                : seconds < REST_S
                  ? `${seconds.toFixed(0)} of ${REST_S} s heard. Leave it on the table, hands off.`
                  : 'Ten seconds are there. Was it left alone all the while?'}
              {lost > 0 && ` ${lost} blocks were lost on the cable; the time began anew each time.`}
            </p>
          )}
          {proof && (
            <p className="text-soft">
              {proof.verdict === 'good'
                ? 'As a good chip of its class, and warm.'
                : proof.verdict === 'warming'
                  ? 'It still warms up, which goes by itself: wait a minute before flight, and do not arm while it does.'
                  : proof.verdict === 'noisy'
                    ? 'Louder than its class: something shook it, or the chip or its supply is bad.'
                    : 'More of its own than its class has: cold, knocked, or broken.'}
            </p>
          )}
          {said && (
            <p className="mt-1 text-amber" role="alert">
              {said}
            </p>
          )}
        </div>
        <Button
          kind={proof ? 'plain' : 'go'}
          className="self-start"
          disabled={seconds < REST_S || armed}
          onClick={takeRest}
        >
          {proof ? 'Measure again' : 'It was left alone'}
        </Button>
      </section>
      <section className="mt-3 border-t border-line pt-3">
        <div className="flex flex-wrap items-baseline gap-3">
          <h2 className="font-semibold">Run up</h2>
          <p className="flex-1 text-soft" role="status">
            {armed
              ? shakes.length === 0
                ? 'Armed. Raise the throttle slowly, hold it for a second at each step.'
                : `Heard at ${shakes.length} ${shakes.length === 1 ? 'step' : 'steps'} of throttle. Close it and disarm when it was up as far as you fly.`
              : refusedSwitch !== null
                ? refusedSwitch
                : shakes.length > 0
                  ? 'Disarmed.'
                  : 'Tie it down, propellers on, nobody in front. Arm by your transmitter; this page only listens.'}
          </p>
          <label className="flex items-center gap-1.5 text-soft">
            Blades
            <Select look="small" value={blades} onChange={(e) => setBlades(Number(e.target.value))}>
              {[2, 3, 4, 5, 6].map((n) => (
                <option key={n}>{n}</option>
              ))}
            </Select>
          </label>
          {shakes.length > 0 && !armed && (
            <Button
              kind={shake ? 'plain' : 'go'}
              disabled={!judged || span < 0.2}
              onClick={() => {
                if (!judged) return;
                const { worst, verdict } = judged;
                recordProof({ kind: 'shake', rms: worst.gyroRms, throttle: worst.throttle, verdict });
              }}
            >
              Keep this run-up
            </Button>
          )}
        </div>
        {chips === 2 && heard[1]!.length > 0 && (
          <fieldset className="mt-1 flex gap-1 text-[13px]">
            <legend className="sr-only">Chip</legend>
            {([0, 1] as const).map((i) => (
              <button
                key={i}
                type="button"
                aria-pressed={chip === i}
                className={`rounded-[4px] border px-2 py-0.5 ${chip === i ? 'border-forest bg-forest-wash font-semibold' : 'border-line'}`}
                onClick={() => setChip(i)}
              >
                {i === 0 ? 'first chip' : 'second chip'}
              </button>
            ))}
          </fieldset>
        )}
        {shakes.length > 0 ? (
          <Spectra shakes={shakes} />
        ) : shake ? (
          <p className="mt-1">
            <Figure
              value={(shake.rms * DEG).toFixed(1)}
              unit="°/s"
              words={`at ${Math.round(100 * shake.throttle)} % throttle, the worst`}
            />
          </p>
        ) : null}
        {(judged ?? shake) && (
          <p
            className={`mt-1 ${(judged?.verdict ?? shake!.verdict) === 'good' ? 'text-forest' : 'text-amber'}`}
          >
            {verdicts[judged?.verdict ?? shake!.verdict]}
          </p>
        )}
        {shakes.length > 0 && !armed && span < 0.2 && (
          <p className="text-soft">
            Throttle was raised by {Math.round(100 * span)} % only; run it up by 20 % or more to keep it.
          </p>
        )}
      </section>
    </>
  );
}

const W = 700;
const ROW = 34;

/** Spectra by throttle, one ridge behind another, with the lines named on the worst. */
function Spectra({ shakes }: { readonly shakes: readonly Shake[] }) {
  const worst = judgeShake(shakes)!.worst;
  const top = useMemo(
    () => Math.max(1e-9, ...shakes.map((s) => Math.max(...s.spectrum.density.subarray(8)))),
    [shakes],
  );
  const x = (hz: number) => 96 + ((W - 110) * hz) / MOST_HZ;
  const height = 70 + ROW * shakes.length;
  const up = (density: number) => 46 * Math.max(0, 1 + Math.log10(Math.max(density, 1e-12) / top) / 3.5);
  return (
    <svg
      viewBox={`0 0 ${W} ${height + 24}`}
      className="mt-1 max-h-[max(40vh,420px)] w-full"
      role="img"
      aria-label={`Shake by frequency at ${shakes.length} throttles; the worst is ${(worst.gyroRms * DEG).toFixed(1)} degrees per second at ${Math.round(100 * worst.throttle)} per cent`}
    >
      {[0, 100, 200, 300, 400].map((hz) => (
        <g key={hz}>
          <path d={`M${x(hz)} 14V${height}`} stroke="var(--line)" />
          <text
            x={x(hz)}
            y={height + 17}
            fontSize={13}
            textAnchor={hz === MOST_HZ ? 'end' : 'middle'}
            fill="var(--soft)"
          >
            {hz} Hz
          </text>
        </g>
      ))}
      {[...shakes].reverse().map((s, i) => {
        const y = 62 + ROW * i;
        const { density, stepHz } = s.spectrum;
        const last = Math.min(density.length - 1, Math.floor(MOST_HZ / stepHz));
        const points: string[] = [];
        for (let k = Math.ceil(8 / stepHz); k <= last; k++)
          points.push(`${x(k * stepHz).toFixed(1)} ${(y - up(density[k]!)).toFixed(1)}`);
        const bad = s.gyroRms > SHAKE_BAD ? 'red' : s.gyroRms > SHAKE_GOOD ? 'amber' : 'forest';
        return (
          <g key={s.throttle}>
            <path
              d={`M${x(8)} ${y}L${points.join('L')}L${x(MOST_HZ)} ${y}Z`}
              fill="var(--sheet)"
              fillOpacity={0.85}
              stroke={s === worst ? 'var(--ink)' : 'var(--contour)'}
              strokeWidth={s === worst ? 1.8 : 1.1}
            />
            <text x={86} y={y} fontSize={13} textAnchor="end" fill="var(--soft)">
              {Math.round(100 * s.throttle)} %,{' '}
              <tspan className="num" fill={`var(--${bad})`}>
                {(s.gyroRms * DEG).toFixed(1)}
              </tspan>{' '}
              °/s
            </text>
          </g>
        );
      })}
      {worst.lines
        .filter((l) => l.from !== 'unknown' && l.hz < MOST_HZ)
        .map((l) => {
          const { density, stepHz } = worst.spectrum;
          const y = 62 + ROW * (shakes.length - 1 - shakes.indexOf(worst));
          return (
            <text
              key={l.hz}
              x={x(l.hz)}
              y={y - up(density[Math.round(l.hz / stepHz)]!) - 5}
              fontSize={13}
              textAnchor="middle"
              fill="var(--lake)"
              stroke="var(--sheet)"
              strokeWidth={3}
              paintOrder="stroke"
            >
              {lineNames[l.from]} {l.hz.toFixed(0)}
            </text>
          );
        })}
    </svg>
  );
}
