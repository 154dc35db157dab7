import { Fragment, useMemo } from 'react';
import { gnssLoadOf } from '#core/board/budget.ts';
import { skylineAt, skylineOf } from '#core/navigation/skyline.ts';
import { settingOf } from '#core/settings/typed.ts';
import { groundOf } from '#core/site/site.ts';
import { formatQuantity } from '#core/units/units.ts';
import type { Telemetry } from '#core/wire/telemetry.ts';
import { procedures } from '../../board/procedures.ts';
import { useSampled } from '../../live/hooks.ts';
import { live, recent } from '../../live/telemetry.ts';
import { usePortBytes } from '../../live/usePortBytes.ts';
import { recordProof } from '../../session.ts';
import { selectValues } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { Lead } from '../Lead.tsx';
import { SatelliteTime } from './SatelliteTime.tsx';
import { Sky } from './Sky.tsx';
import { useProven } from './useGestures.ts';

const fields = [
  ['gnss.baud', 'speed of the port'],
  ['gnss.rate', 'solutions a second'],
  ['gnss.systems', 'satellites'],
] as const;

type SkyNow = Telemetry['sky'];

/** Seconds to a first fix under open sky, as receivers of this class have them. */
const starts = [
  { kind: 'hot', mostS: 6, words: 'hot: it knew the sky' },
  { kind: 'warm', mostS: 26, words: 'warm: it knew roughly where and when it was' },
  { kind: 'cold', mostS: 60, words: 'cold: it knew nothing' },
] as const;
/** All satellites gone at once within this is no cloud, s. */
const GONE_S = 25;

/** What came within this counts as coming now, s. */
const NOW_S = 2.5;

/** The newest word of the board, with what came at the port within the last seconds in place of all that ever came. */
function skyNow(): SkyNow | null {
  const said = recent('sky', NOW_S);
  const last = said.at(-1)?.value;
  if (!last) return null;
  const first = said.length > 1 ? said[0]!.value : null;
  const came = (of: 'bytes' | 'sentences' | 'onTx') =>
    first && last[of] >= first[of] ? last[of] - first[of] : last[of];
  const sentences = came('sentences');
  return {
    ...last,
    bytes: came('bytes'),
    sentences,
    onTx: came('onTx'),
    ...(sentences === 0 ? { satellites: [], used: 0, fixS: -1 } : {}),
  };
}

/** Which start it was, by the time from the first word to the first fix. */
function startOf({ spokeS, fixS }: SkyNow) {
  const s = fixS - spokeS;
  return starts.find((x) => s <= x.mostS) ?? null;
}

/** What is still wanting, in words, and how long that takes. */
function wanting(sky: SkyNow | null, needed: number, before: number): string {
  if (!sky) return 'The board tells nothing of its receiver yet.';
  if (sky.sentences === 0)
    return sky.onTx > 0
      ? 'It is heard on the pad that the board sends on: its two signal wires are swapped.'
      : sky.bytes > 0
        ? 'Bytes come, and make no sentence: the speed is wrong. Let the board listen at every speed.'
        : 'Nothing comes. Let the board listen at every speed, and look at the receiver’s power.';
  const tracked = sky.satellites.filter((s) => s.strength > 0).length;
  if (tracked === 0 && before >= 8)
    return 'All satellites were lost at once while the receiver goes on speaking: it is jammed. Look for a video transmitter or a camera near its antenna.';
  if (tracked === 0)
    return 'No satellite is heard. Under a roof that stays so; under the sky the first come within ten seconds.';
  if (sky.fixS < 0)
    return `${tracked} are heard, four with good signal are needed for a fix. From cold that takes half a minute to some minutes, warm about ten seconds.`;
  if (sky.used < needed)
    return `${sky.used} are used; arming waits for ${needed}. Low ones come last, within a minute or two.`;
  return 'Good enough to store a home.';
}

/** The sky over the receiver, the wire it speaks on, and how it came to its fix. */
export default function PositionStation() {
  const site = useApp((s) => s.site.current);
  const base = useApp((s) => s.settings.base);
  const values = useApp(selectValues);
  const units = useApp((s) => s.ui.units);
  const proof = useProven('fix');
  const sky = useSampled(skyNow, 500);
  const before = useSampled(
    () =>
      Math.max(
        0,
        ...recent('sky', GONE_S).map((s) => s.value.satellites.filter((x) => x.strength > 0).length),
      ),
    1000,
  );
  const accuracy = useSampled(() => live('estimates')?.position.accuracy ?? Number.NaN, 500);
  const newest = useApp((s) => (s.procedure.newest?.kind === 'listen-port' ? s.procedure.newest : null));
  const listening = newest?.state === 'running' || newest?.state === 'away';
  const ready = useApp((s) => s.board.link === 'ready');
  const skyline = useMemo(() => {
    const ground = site && groundOf(site);
    return ground ? skylineOf(ground, site.home.heightM + 1) : null;
  }, [site]);
  const peaks = useMemo(() => (site ? site.places : []), [site]);
  const needed = settingOf(values, 'arm.satellites') ?? 6;
  const load = gnssLoadOf(values);
  const start = sky && sky.fixS >= 0 ? startOf(sky) : null;
  const reflected =
    skyline && sky
      ? sky.satellites.filter((s) => s.used && s.elevationDeg < skylineAt(skyline, s.azimuthDeg) - 2)
      : [];
  const good = sky !== null && sky.fixS >= 0 && sky.used >= needed;
  return (
    <>
      <Lead />
      <div className="mt-2 grid gap-x-5 min-[900px]:grid-cols-[minmax(0,6fr)_minmax(0,5fr)]">
        <Sky satellites={sky?.satellites ?? []} skyline={skyline} site={site} peaks={peaks} />
        <div className="content-start pt-2">
          <p>
            <span className="num text-[34px] leading-9">{sky?.used ?? 0}</span>{' '}
            <span className="text-soft">used of {sky?.satellites.length ?? 0} seen</span>
          </p>
          <p className="text-soft">
            {sky && sky.fixS >= 0 ? (
              <>
                within <span className="num">{formatQuantity(accuracy, 'm', units, 1)}</span>, dilution{' '}
                <span className="num">{sky.hdop.toFixed(1)}</span>
              </>
            ) : (
              'no fix'
            )}
          </p>
          <p className={`mt-1 ${good ? 'text-forest' : ''}`} role="status">
            {wanting(sky, needed, before)}
          </p>
          {reflected.length > 0 && (
            <p className="text-amber">
              {reflected.length === 1 ? 'One that is used stands' : `${reflected.length} that are used stand`}{' '}
              behind the ground: heard by reflection, which puts a position wrong by some metres.
            </p>
          )}
          <div className="mt-2 border-t border-line pt-2">
            <Heard baud={settingOf(base, 'gnss.baud') ?? ''} sky={sky} />
            <div className="mt-2 flex flex-wrap items-center gap-2">
              {listening ? (
                <Button onClick={() => void procedures.cancel()}>Stop listening</Button>
              ) : (
                <Button
                  kind={sky && sky.sentences === 0 ? 'go' : 'plain'}
                  disabled={!ready}
                  onClick={() => void procedures.begin('listen-port', {})}
                >
                  Listen at every speed
                </Button>
              )}
              {newest && (
                <p
                  className={`min-w-[200px] flex-1 text-[13px] ${newest.state === 'failed' ? 'text-red' : 'text-soft'}`}
                  role="status"
                >
                  {newest.says}
                </p>
              )}
            </div>
          </div>
          <div className="mt-2 border-t border-line pt-2">
            <p className="text-[13px] text-soft">How full the wire is, as set</p>
            <Pipe wanted={load.wanted} room={load.room} />
            <div className="mt-1 grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 gap-y-1">
              {fields.map(([key, words]) => (
                <Fragment key={key}>
                  <span className="text-soft">{words}</span>
                  <SettingField name={key} />
                </Fragment>
              ))}
            </div>
          </div>
        </div>
      </div>
      <SatelliteTime sky={sky} needed={needed} />
      <div className="mt-2 flex flex-wrap items-center gap-3 rounded-[4px] border border-line border-l-4 border-l-forest bg-paper px-3.5 py-2.5">
        <p className="min-w-[240px] flex-1" role="status">
          {proof?.seen.kind === 'fix' ? (
            <>
              <b className="font-semibold">Seen.</b> A fix after{' '}
              <span className="num">{proof.seen.seconds.toFixed(0)}</span> s
              {proof.seen.start !== 'waited' && `, from ${proof.seen.start}`}, with{' '}
              <span className="num">{proof.seen.used}</span> satellites.
            </>
          ) : good ? (
            <>
              It spoke after <span className="num">{sky.spokeS.toFixed(1)}</span> s and had its fix{' '}
              <span className="num">{(sky.fixS - sky.spokeS).toFixed(0)}</span> s later
              {start ? `, ${start.words}.` : ': it had to wait for the sky.'}
            </>
          ) : (
            'A fix that is good enough to store a home is kept as seen.'
          )}
        </p>
        <Button
          kind={proof ? 'plain' : 'go'}
          disabled={!good || !(accuracy < 10)}
          onClick={() =>
            sky &&
            recordProof({
              kind: 'fix',
              start: start?.kind ?? 'waited',
              seconds: sky.fixS - sky.spokeS,
              used: sky.used,
              accuracyM: accuracy,
            })
          }
        >
          {proof ? 'Keep it anew' : 'Keep this fix'}
        </Button>
      </div>
    </>
  );
}

/** What comes at the port, as it comes. */
function Heard({ baud, sky }: { readonly baud: string; readonly sky: SkyNow | null }) {
  const bytes = usePortBytes('gnss');
  const state =
    !sky || sky.bytes === 0
      ? sky && sky.onTx > 0
        ? 'on the other pad'
        : 'nothing'
      : sky.sentences > 0
        ? 'sentences'
        : 'garbage';
  const good = state === 'sentences';
  return (
    <>
      <p className="flex items-baseline gap-2">
        <span className="text-[13px] text-soft">Heard at</span>
        <span className="num text-[18px]">{baud}</span> <span className="text-soft">baud:</span>
        <span className={`font-semibold ${good ? 'text-forest' : 'text-red'}`}>{state}</span>
      </p>
      <p
        className={`num mt-1 h-[58px] overflow-hidden rounded-[4px] px-2 py-1 text-[12px] leading-4 break-all ${good ? 'bg-forest-wash' : 'bg-red-wash'}`}
        title="The newest bytes of the port"
      >
        {bytes && bytes.length > 0 ? lastOf(bytes) : '…'}
      </p>
    </>
  );
}

/** The end of what came, with a dot for what is no letter. */
function lastOf(bytes: Uint8Array): string {
  const text = Array.from(bytes.subarray(-160), (b) =>
    b === 10 || b === 13 ? ' ' : b >= 32 && b <= 126 ? String.fromCharCode(b) : '·',
  ).join('');
  const from = text.indexOf('$');
  return from > 0 && from < 90 ? text.slice(from) : text;
}

const TEETH = 26;

/** A wire as a pipe that bytes fill; what does not fit runs over. */
function Pipe({ wanted, room }: { readonly wanted: number; readonly room: number }) {
  const share = room > 0 ? wanted / room : 0;
  const over = share > 1;
  const full = Math.min(TEETH, Math.round(TEETH * share));
  const color = over ? 'var(--red)' : share > 0.85 ? 'var(--amber)' : 'var(--forest)';
  return (
    <div className="flex items-center gap-2">
      <svg viewBox="0 0 250 36" className="h-[34px] w-[230px]" aria-hidden="true">
        <path d="M8 8H212M8 28H212" stroke="var(--contour)" />
        <ellipse cx={8} cy={18} rx={4} ry={10} fill="none" stroke="var(--contour)" />
        <ellipse cx={212} cy={18} rx={4} ry={10} fill="none" stroke="var(--contour)" />
        {Array.from({ length: full }, (_, i) => (
          <path key={`${i + 1}`} d={`M${14 + 7.6 * i} 11V25`} stroke={color} strokeWidth={4} />
        ))}
        {over &&
          [0, 1, 2, 3].map((i) => (
            <path key={i} d={`M${216 + 6 * i} ${12 + 4 * i}l4 12`} stroke={color} strokeWidth={4} />
          ))}
      </svg>
      <span className="num text-[18px]" style={{ color }}>
        {Math.round(100 * share)}
      </span>
      <span className="text-soft">%</span>
    </div>
  );
}
