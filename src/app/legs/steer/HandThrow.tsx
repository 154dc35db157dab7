import { useRef, useState } from 'react';
import { type ThrowTold, throwIn } from '#core/arming/throwWatch.ts';
import { attitudeOfMount } from '#core/calibration/mounting.ts';
import { toEarth } from '#core/math/quaternion.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { valueText } from '#core/settings/valueText.ts';
import { formatQuantity } from '#core/units/units.ts';
import { useSampled } from '../../live/hooks.ts';
import { useStreamRing } from '../../live/streams.ts';
import { selectCatalogue, selectValues, toFly } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { store, useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { workshop } from '../../workers/index.ts';
import { meant, mountSet } from '../sense/useGestures.ts';

const HZ = 200;
const SECONDS = 3;

/** The throw: felt in the hand, and flown from bad ones. */
export function HandThrow() {
  return (
    <>
      <InTheHand />
      <BadThrows />
    </>
  );
}

/** Push along the nose of the last seconds, against what counts as a throw. */
function InTheHand() {
  const base = useApp((s) => s.settings.base);
  const { ring, fault } = useStreamRing('accelerometer', HZ, 3, SECONDS);
  const threshold = settingsOf(base).number('launch.accel');
  // The best swing stays, until a better one or another threshold comes.
  const best = useRef<{ told: ThrowTold; pushes: Float64Array; threshold: number } | null>(null);
  const shown = useSampled(() => {
    const mount = attitudeOfMount(mountSet(base));
    const [x, y, z] = [0, 1, 2].map((k) => ring.newest(k, HZ * SECONDS));
    const pushes = new Float64Array(x!.length);
    const f = new Float64Array(3);
    for (let k = 0; k < pushes.length; k++) {
      const [a, b, c] = meant(base, 1, [x![k]!, y![k]!, z![k]!]);
      f[0] = a;
      f[1] = b;
      f[2] = c;
      toEarth(f, mount, f);
      pushes[k] = f[0]!;
    }
    const told = throwIn(pushes, threshold, 1 / HZ);
    if (best.current?.threshold !== threshold) best.current = null;
    if (told.mostMps2 > 5 && (!best.current || told.longestS >= best.current.told.longestS))
      best.current = { told, pushes, threshold };
    return best.current ?? { told, pushes, threshold };
  }, 150);
  const { told } = shown;
  return (
    <section className="mt-4 border-line border-t pt-3" aria-label="The throw in the hand">
      <h2 className="font-semibold">The throw, in the hand</h2>
      <p className="max-w-[660px] text-soft">
        Swing the craft as if to throw it, and keep hold. A push along its nose above{' '}
        <SettingField name="launch.accel" /> for six hundredths of a second is a throw; then the motor waits{' '}
        <SettingField name="launch.delay" />.
      </p>
      {fault && <p className="mt-1 text-amber">{fault}</p>}
      <PushCurve pushes={shown.pushes} threshold={threshold} atS={told.atS} />
      <p role="status" className={told.atS !== null ? 'text-forest' : 'text-soft'}>
        {told.mostMps2 < 5
          ? 'No swing was felt yet.'
          : told.atS !== null
            ? `That is a throw: ${told.mostMps2.toFixed(0)} m/s² along the nose, above the threshold for ${(1000 * told.longestS).toFixed(0)} ms.`
            : told.longestS > 0
              ? `Too short: ${told.mostMps2.toFixed(0)} m/s², and above the threshold for ${(1000 * told.longestS).toFixed(0)} ms only.`
              : `Too weak: ${told.mostMps2.toFixed(0)} m/s² at most. A threshold a little below that would feel it, and must stay above what carrying gives.`}
      </p>
    </section>
  );
}

const W = 700;
const H = 112;
const MOST = 60;

function PushCurve({
  pushes,
  threshold,
  atS,
}: {
  readonly pushes: Float64Array;
  readonly threshold: number;
  readonly atS: number | null;
}) {
  const y = (push: number) => H - 24 - ((H - 34) * Math.max(-10, Math.min(MOST, push) + 10)) / (MOST + 10);
  const x = (k: number) => 40 + ((W - 60) * k) / Math.max(1, HZ * SECONDS - 1);
  const path = Array.from(
    pushes,
    (p, k) => `${k === 0 ? 'M' : 'L'}${x(k).toFixed(1)} ${y(p).toFixed(1)}`,
  ).join('');
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="mt-2 w-full min-w-[640px] max-w-[760px]"
      role="img"
      aria-label="Push along the nose over the last three seconds"
    >
      <line x1={40} y1={y(0)} x2={W - 20} y2={y(0)} stroke="var(--contour)" />
      <line
        x1={40}
        y1={y(threshold)}
        x2={W - 20}
        y2={y(threshold)}
        stroke="var(--amber)"
        strokeDasharray="5 4"
      />
      <text x={W - 22} y={y(threshold) - 5} textAnchor="end" fontSize={13} fill="var(--amber)">
        a throw is above this
      </text>
      <path d={path} fill="none" stroke="var(--lake)" strokeWidth={1.6} />
      {atS !== null && (
        <g>
          <line x1={x(atS * HZ)} y1={8} x2={x(atS * HZ)} y2={H - 24} stroke="var(--forest)" strokeWidth={2} />
          <text x={x(atS * HZ) + 6} y={20} fontSize={13} fill="var(--forest)">
            felt
          </text>
        </g>
      )}
      <text x={40} y={H - 6} fontSize={13} fill="var(--soft)">
        {SECONDS} s ago
      </text>
      <text x={W - 20} y={H - 6} textAnchor="end" fontSize={13} fill="var(--soft)">
        now
      </text>
    </svg>
  );
}

type Flown = Exclude<Awaited<ReturnType<ReturnType<typeof workshop>['throws']>>, string>;

/** Flights from throws as they go wrong. */
function BadThrows() {
  const units = useApp((s) => s.ui.units);
  const values = useApp(selectValues);
  const catalogue = useApp(selectCatalogue);
  const dispatch = useAppDispatch();
  const [flown, setFlown] = useState<{ throws: Flown; on: typeof values } | null>(null);
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const fly = async () => {
    const what = toFly(store.getState());
    if (!what) return;
    setBusy(true);
    try {
      const told = await workshop().throws(what);
      if (typeof told === 'string') setFault(told);
      else {
        setFault(null);
        setFlown({ throws: told, on: values });
      }
    } finally {
      setBusy(false);
    }
  };
  const old = flown !== null && flown.on !== values;
  return (
    <section className="mt-4 border-line border-t pt-3 pb-2" aria-label="Bad throws, flown">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="font-semibold">Bad throws, flown</h2>
        <p className="min-w-[240px] flex-1 text-soft" role="status">
          {busy
            ? 'Five throws are flown…'
            : old
              ? 'Settings were changed since these were flown.'
              : 'The draft is thrown too slow, banked, nose up and nose down, and flown for twelve seconds.'}
        </p>
        <Button kind={flown && !old ? 'plain' : 'go'} disabled={busy} onClick={() => void fly()}>
          {flown ? 'Throw again' : 'Throw it'}
        </Button>
      </div>
      {fault && <Notice className="mt-2">{fault}</Notice>}
      {flown && (
        <ul className={`mt-2 grid gap-x-5 gap-y-3 min-[700px]:grid-cols-2 ${old ? 'opacity-50' : ''}`}>
          {flown.throws.map((t) => (
            <li key={t.name} className="min-w-0">
              <p>
                <b className="font-medium">{t.name}</b>{' '}
                <span className={t.flew ? 'text-forest' : 'text-red'}>
                  {t.notFlown
                    ? 'was not thrown'
                    : t.flew
                      ? `flew on, ${formatQuantity(t.endM, 'm', units, 0)} up after 12 s`
                      : 'came down'}
                </span>
              </p>
              {t.notFlown ? (
                <p className="text-soft">{t.notFlown}</p>
              ) : (
                <ThrowPath path={t.path} flew={t.flew} />
              )}
              {t.saves && (
                <p className="text-[13px] text-soft">
                  {t.saves.key.startsWith('launch.') ? (
                    <>
                      It would have flown with {catalogue.entry(t.saves.key)?.label}{' '}
                      {valueText(catalogue.entry(t.saves.key), t.saves.value, units)}.{' '}
                      <Button
                        className="ml-1 px-2 py-0.5"
                        onClick={() => dispatch(staged({ [t.saves!.key]: t.saves!.value }))}
                      >
                        Put into the tray
                      </Button>
                    </>
                  ) : (
                    'The board’s own Hand launch would have saved it. Give it a position, in What the switches do.'
                  )}
                </p>
              )}
              {!t.flew && !t.saves && !t.notFlown && (
                <p className="text-[13px] text-soft">
                  No single setting of the launch saves it: throw it otherwise.
                </p>
              )}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

const PW = 320;
const PH = 84;

/** A flight from the side: from the hand, over the ground. */
function ThrowPath({ path, flew }: { readonly path: Flown[number]['path']; readonly flew: boolean }) {
  const far = Math.max(40, ...path.map(([along]) => along));
  const high = Math.max(20, ...path.map(([, above]) => above));
  const d = path
    .map(
      ([along, above], k) =>
        `${k === 0 ? 'M' : 'L'}${(10 + ((PW - 20) * along) / far).toFixed(1)} ${(PH - 8 - ((PH - 20) * above) / high).toFixed(1)}`,
    )
    .join('');
  const last = path.at(-1);
  return (
    <svg viewBox={`0 0 ${PW} ${PH}`} className="w-full max-w-[360px]" aria-hidden="true">
      <path d={`M0 ${PH - 7}H${PW}`} stroke="var(--contour)" strokeWidth={2} />
      <path d={d} fill="none" stroke={flew ? 'var(--forest)' : 'var(--red)'} strokeWidth={2} />
      {last && !flew && (
        <circle
          cx={10 + ((PW - 20) * last[0]) / far}
          cy={PH - 8 - ((PH - 20) * last[1]) / high}
          r={4}
          fill="var(--red)"
        />
      )}
    </svg>
  );
}
