import { useEffect, useMemo, useRef, useState } from 'react';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import { type CompassFit, calibratedField, fitCompass } from '#core/calibration/compassFit.ts';
import { FACETS, facetOf, middleOf } from '#core/calibration/coverage.ts';
import { attitudeOfMount } from '#core/calibration/mounting.ts';
import { nextFacet, partsTowards } from '#core/calibration/nextFacet.ts';
import { Matrix3 } from '#core/math/matrix3.ts';
import { norm, type Triple, unit } from '#core/math/triple.ts';
import { magneticField } from '#core/navigation/magneticField.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { fieldSettings } from '#core/settings/fieldSettings.ts';
import { settingOf } from '#core/settings/typed.ts';
import { useSampled } from '../../live/hooks.ts';
import { recordProof } from '../../session.ts';
import { selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { Lead } from '../Lead.tsx';
import { CompassCurrent } from './CompassCurrent.tsx';
import { Globe } from './Globe.tsx';
import { useCompassRun } from './useCompassRun.ts';
import { mountSet, useProven } from './useGestures.ts';

const DEG = 180 / Math.PI;
/** After writing, the field has to keep its strength in so many facets, within this share. */
const PROVEN_FACETS = 10;
const PROVEN_SHARE = 0.04;
const keys = ['x', 'y', 'z'] as const;
const cells = [
  ['xx', 0, 0],
  ['yy', 1, 1],
  ['zz', 2, 2],
  ['xy', 0, 1],
  ['xz', 0, 2],
  ['yz', 1, 2],
] as const;

/** What a compass is set to mean by what it says. */
function compassOf(values: Values): { offset: Triple; matrix: Matrix3 } {
  const n = (key: string, usual: number) =>
    typeof values[`compass.${key}`] === 'number' ? (values[`compass.${key}`] as number) : usual;
  const [xy, xz, yz] = [n('xy', 0), n('xz', 0), n('yz', 0)];
  return {
    offset: [n('x', 0), n('y', 0), n('z', 0)],
    matrix: new Matrix3([
      [n('xx', 1), xy, xz],
      [xy, n('yy', 1), yz],
      [xz, yz, n('zz', 1)],
    ]),
  };
}

/** The compass: whether there is to be one, what it was taught, and what the motors do to it. */
export default function CompassStation() {
  const airframe = useApp((s) => s.craft.airframe)!;
  const values = useApp(selectValues);
  const rotors = isRotorcraft(airframe);
  if (settingOf(values, 'compass.fitted') !== true)
    return (
      <>
        <Lead begins={false}>
          {rotors
            ? 'A craft that can stand still in the air has no course to take its heading from.'
            : 'This craft needs none.'}
        </Lead>
        <div className="mt-3 grid max-w-[660px] gap-3">
          <p>
            {rotors
              ? 'Without a compass it does not know where its nose points until it has flown a stretch, and a return that begins from a hover may begin the wrong way.'
              : 'A wing flies where its nose points, but for the wind, which the board works out on the way. Its heading follows from the course over ground as soon as it moves; a compass would add a second opinion that iron, servos and the motor’s wire can bend. Leave it out, unless it is to know its heading before it is launched.'}
          </p>
          <p className="flex items-center gap-3">
            <span className="text-soft">A compass is fitted</span>
            <SettingField name="compass.fitted" />
          </p>
        </div>
      </>
    );
  return <Teach />;
}

function Teach() {
  const base = useApp((s) => s.settings.base);
  const edits = useApp((s) => s.settings.edits);
  const site = useApp((s) => s.site.current);
  const restart = useApp((s) => s.board.live?.restartNeeded ?? false);
  const dispatch = useAppDispatch();
  const { run, fault } = useCompassRun(true);
  const proof = useProven('compass');
  const [fit, setFit] = useState<ReturnType<typeof fitCompass> | null>(null);
  /** What the last good fit said, for the proof after writing. */
  const [taught, setTaught] = useState<CompassFit | null>(null);
  const model = useMemo(() => {
    if (!site) return null;
    const f = magneticField(site.home.lat, site.home.lon, 0, site.year);
    return { strength: f.strengthNt / 1000, dip: f.inclination };
  }, [site]);
  const waits = Object.keys(edits).some((k) => k.startsWith('compass.'));

  const counted = useRef(0);
  useEffect(() => {
    const timer = setInterval(() => {
      if (run.samples.length === counted.current || run.running) return;
      counted.current = run.samples.length;
      setFit(fitCompass(run.samples, model));
    }, 1000);
    return () => clearInterval(timer);
  }, [run, model]);

  const live = useSampled(
    () => ({ now: run.now, samples: run.samples.length, newest: run.samples.at(-1) ?? null }),
    200,
  );
  const good = fit && !('refused' in fit) ? fit : null;
  const used = good?.calibration ?? taught?.calibration ?? compassOf(base);
  const now = live.now ? unit(calibratedField(used, live.now)) : null;
  // After writing: as the board's own settings have it.
  const stored = compassOf(base);
  const strength = settingOf(base, 'compass.strength') ?? model?.strength ?? Number.NaN;
  const check = useMemo(() => {
    if (!taught || live.samples < 20) return null;
    const fields = run.samples.map((s) => calibratedField(stored, s.field));
    const mean = fields.reduce((sum, f) => sum + norm(f), 0) / fields.length;
    const off = Math.sqrt(fields.reduce((sum, f) => sum + (norm(f) / strength - 1) ** 2, 0) / fields.length);
    return { facets: new Set(fields.map(facetOf)).size, off, mean };
  }, [taught, live.samples, run, stored, strength]);
  const seen = useMemo(() => {
    if (good) return good.seen;
    // Before a fit is possible: about the middle of what was seen.
    const out = new Array<boolean>(FACETS).fill(false);
    for (const { field } of run.samples) out[facetOf(unit(calibratedField(used, field)))] = true;
    return fit && 'refused' in fit && fit.code !== 'coverage' ? fit.seen : out;
  }, [good, run, live.samples, used, fit]);
  const next = now && !taught ? nextFacet(seen, now) : null;
  const toBody = (v: Triple) =>
    Matrix3.fromQuaternion(attitudeOfMount(mountSet(base))).times(
      Matrix3.fromQuaternion(attitudeOfMount(mountSet(base, 'compass'))).times(v),
    );
  const count = seen.filter(Boolean).length;

  const stage = () => {
    if (!good) return;
    const { offset, matrix } = good.calibration;
    const round = (v: number, to: number) => Math.round(v / to) * to;
    const aligned = good.alignment?.clear ? good.alignment.square : mountSet(base, 'compass');
    dispatch(
      staged({
        ...Object.fromEntries(keys.map((k, i) => [`compass.${k}`, round(offset[i]!, 0.1)])),
        ...Object.fromEntries(cells.map(([k, i, j]) => [`compass.${k}`, round(matrix.rows[i]![j]!, 0.0001)])),
        'compass.roll': aligned.rollDeg,
        'compass.pitch': aligned.pitchDeg,
        'compass.yaw': aligned.yawDeg,
        ...(site ? fieldSettings(site) : {}),
      }),
    );
    setTaught(good);
    run.begin();
    setFit(null);
  };
  const begin = () => {
    run.begin();
    counted.current = 0;
    setFit(null);
    setTaught(null);
  };
  const proven = proof?.seen.kind === 'compass' ? proof.seen : null;
  return (
    <>
      <Lead />
      <div className="mt-2 grid gap-x-6 min-[900px]:grid-cols-[minmax(0,7fr)_minmax(0,4fr)]">
        <div>
          <p>
            <span className="num text-[28px]">{count}</span>{' '}
            <span className="text-soft">
              of {FACETS} facets{good && `, ${good.ironSize.toFixed(1)} µT of its own iron`}
            </span>
          </p>
          <Globe seen={seen} next={next?.facet ?? null} now={now} />
          <p className="min-h-[40px]" role="status">
            {next ? (
              <>
                <b className="font-semibold">Next:</b> its {partsTowards(toBody(middleOf(next.facet)))}{' '}
                {model && model.dip > 0 ? 'to the floor and a little north' : 'along the field'}, a turn of{' '}
                <span className="num">{next.turnDeg.toFixed(0)}°</span>.
              </>
            ) : (
              !now &&
              (fault ??
                'Nothing comes from the compass. On many boards the bus it is on has power from the battery only.')
            )}
          </p>
        </div>
        <dl className="grid content-start gap-2">
          <Reading
            name="Field strength"
            value={good ? good.strength.toFixed(1) : '–'}
            unit="µT"
            words={model ? `${model.strength.toFixed(1)} µT by the model` : ''}
          />
          <Reading
            name="Below the horizon"
            value={good && Number.isFinite(good.dip) ? (good.dip * DEG).toFixed(0) : '–'}
            unit="°"
            words={model ? `${(model.dip * DEG).toFixed(0)}° by the model` : ''}
          />
          <Reading
            name="Left over after the fit"
            value={good ? (100 * good.residual).toFixed(1) : '–'}
            unit="%"
            words="good below 2 %"
          />
          <Reading
            name="Heading will be within"
            value={good ? (good.headingError * DEG).toFixed(1) : '–'}
            unit="°"
            words="one sigma, craft level"
          />
        </dl>
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-3 rounded-[4px] border border-line border-l-4 border-l-forest bg-paper px-3.5 py-2.5">
        <p className="min-w-[240px] flex-1" role="status">
          {proven && !taught && live.samples < 20 ? (
            <>
              <b className="font-semibold">Seen.</b> The field kept its strength within{' '}
              <span className="num">{(100 * proven.residual).toFixed(1)} %</span> all round; a heading is
              within <span className="num">{proven.headingErrorDeg.toFixed(1)}°</span>.
            </>
          ) : taught && waits ? (
            'In the tray. Write it to the board.'
          ) : taught && restart ? (
            'The board has it, and takes how the compass lies after a restart. Restart it from the tray.'
          ) : taught && check ? (
            check.facets < PROVEN_FACETS ? (
              `Now turn it once more: ${check.facets} of ${PROVEN_FACETS} facets, the field ${check.mean.toFixed(1)} µT.`
            ) : check.off < PROVEN_SHARE ? (
              `As the board is set, the field keeps its strength within ${(100 * check.off).toFixed(1)} % all round.`
            ) : (
              <span className="text-red">
                The field changes by {(100 * check.off).toFixed(0)} % as it is turned, though it was taught.
                Metal moved, or the compass did: begin again.
              </span>
            )
          ) : taught ? (
            'The board has it. Turn the craft once more, and the field has to keep its strength.'
          ) : fit && 'refused' in fit && live.samples > 60 ? (
            <span className={fit.code === 'coverage' ? '' : 'text-red'}>{fit.refused}</span>
          ) : good ? (
            'The field lies on one ellipsoid. More facets make it surer.'
          ) : (
            'Turn it slowly, so that each of its sides once points where the field does.'
          )}
        </p>
        {(live.samples > 20 || taught) && (
          <Button kind="flat" onClick={begin}>
            Begin again
          </Button>
        )}
        {taught && !waits && !restart ? (
          <Button
            kind="go"
            disabled={!check || !site || check.facets < PROVEN_FACETS || check.off >= PROVEN_SHARE}
            onClick={() => {
              if (!check || !site) return;
              recordProof({
                kind: 'compass',
                coverage: taught.coverage,
                residual: check.off,
                strength: check.mean,
                headingErrorDeg: taught.headingError * DEG,
                lat: site.home.lat,
                lon: site.home.lon,
              });
              begin();
            }}
          >
            Keep it as seen
          </Button>
        ) : (
          <Button kind="go" disabled={!good || waits} onClick={stage}>
            Put into the tray
          </Button>
        )}
      </div>
      {good?.alignment && !good.alignment.clear && (
        <Notice tone="plain" className="mt-2">
          How the compass lies against the board does not show yet: nod and bank it, not only turn it.
        </Notice>
      )}
      {model && <CompassCurrent run={run} levelField={model.strength * Math.cos(model.dip)} />}
    </>
  );
}

function Reading({
  name,
  value,
  unit,
  words,
}: {
  readonly name: string;
  readonly value: string;
  readonly unit: string;
  readonly words: string;
}) {
  return (
    <div className="border-t border-line pt-1.5">
      <dt className="text-[13px] text-soft">{name}</dt>
      <dd className="flex items-baseline justify-between gap-3">
        <span className="whitespace-nowrap">
          <span className="num text-[22px]">{value}</span> <span className="text-soft">{unit}</span>
        </span>
        <span className="text-right text-[13px] text-soft">{words}</span>
      </dd>
    </div>
  );
}
