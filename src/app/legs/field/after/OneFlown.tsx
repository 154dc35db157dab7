import { lazy, Suspense, useCallback, useMemo, useRef, useState } from 'react';
import { EMPTY_BOOK } from '#core/field/fieldBook.ts';
import { compared } from '#core/flown/compare.ts';
import { flownOfRehearsal, groundUnder, indexAt, lastsS, trackPoints } from '#core/flown/flown.ts';
import { type FlownFormat, flownFormats, flownMimes } from '#core/flown/flownFormats.ts';
import { seriesOf } from '#core/flown/series.ts';
import { REHEARSAL_START_MS } from '#core/formats/gpx.ts';
import { saveBytes, saveText, slug } from '../../../files.ts';
import { dropKept, keptBytes } from '../../../flights/index.ts';
import type { KeptLog } from '../../../flights/LogShelf.ts';
import { usePlayed } from '../../../live/usePlayed.ts';
import { notify } from '../../../notify.tsx';
import { useApp } from '../../../store/store.ts';
import { Decisions } from '../../../ui/Decisions.tsx';
import { DrawingTabs } from '../../../ui/DrawingTabs.tsx';
import { Notice } from '../../../ui/Notice.tsx';
import { PlayButton, PlaySpeed } from '../../../ui/PlayParts.tsx';
import { TextButton } from '../../../ui/TextButton.tsx';
import { Told } from '../../../ui/Told.tsx';
import { BesidePart } from './BesidePart.tsx';
import { FlightFigures } from './FlightFigures.tsx';
import { FlownMap } from './FlownMap.tsx';
import { FlownStrip } from './FlownStrip.tsx';
import { FollowList } from './FollowList.tsx';
import { SurpriseList } from './SurpriseList.tsx';
import { useLooked } from './useLooked.ts';

const InTheAir = lazy(() => import('../../../drawing/InTheAir.tsx'));

const views = ['on the map', 'in the air'] as const;
const SPEEDS = [1, 4, 16, 64] as const;
const USUAL_SPEED = 16;
const USUAL_PLOTS = ['airspeed', 'volts'] as const;
/** The least time that is shown, s. */
const LEAST_SPAN_S = 10;
const REHEARSAL = 'rehearsal';

const nameOf = (log: KeptLog) => log.file || `flight ${log.flight}`;

/** One flight, on the ground and along time. */
export function OneFlown({
  log,
  others,
  onFault,
}: {
  readonly log: KeptLog;
  readonly others: readonly KeptLog[];
  readonly onFault: (why: string | null) => void;
}) {
  const units = useApp((s) => s.ui.units);
  const site = useApp((s) => s.site.current)!;
  const airframe = useApp((s) => s.craft.airframe)!;
  const craftName = useApp((s) => s.craft.file!.name);
  const rehearsed = useApp((s) => s.rehearsal.result);
  const book = useApp((s) => s.craft.file!.field) ?? EMPTY_BOOK;
  const { at: looked, why } = useLooked(log);
  const [view, setView] = useState<(typeof views)[number]>('on the map');
  const [span, setSpan] = useState<readonly [number, number] | null>(null);
  const [plots, setPlots] = useState<readonly string[]>(USUAL_PLOTS);
  const [besideId, setBesideId] = useState('');
  const ends = looked ? lastsS(looked.flown) : 0;
  const [playedS, setPlayedS] = useState(0);
  const clock = usePlayed(ends, setPlayedS, USUAL_SPEED);
  const besideLog = others.find((k) => k.id === besideId) ?? null;
  const { at: besideLooked } = useLooked(besideLog);
  const beside = useMemo(() => {
    if (besideId !== REHEARSAL) return besideLooked?.flown ?? null;
    return rehearsed && rehearsed.track.length > 1 ? flownOfRehearsal(rehearsed, site) : null;
  }, [besideId, besideLooked, rehearsed, site]);
  const series = useMemo(() => (looked ? seriesOf(looked.flown, looked.groundM) : []), [looked]);
  const plotted = useMemo(() => series.filter((s) => plots.includes(s.id)), [series, plots]);
  const found = useMemo(
    () => (looked && beside ? compared(looked.flown, beside, units) : null),
    [looked, beside, units],
  );
  const besideShown = useMemo(
    () =>
      beside && found
        ? {
            seconds: beside.seconds,
            series: seriesOf(beside, groundUnder(beside, site)),
            offsetS: found.offsetS,
          }
        : null,
    [beside, found, site],
  );
  const air = useMemo(() => {
    if (!looked || view !== 'in the air') return null;
    const track = trackPoints(looked.flown, looked.groundM);
    return { track, seconds: Float64Array.from(track, (p) => p.atS) };
  }, [looked, view]);
  const latest = useRef((_s: number) => {});
  latest.current = (s) => {
    clock.rest();
    clock.goTo(s);
    // What is gone to is seen.
    if (span && (s < span[0] || s > span[1])) {
      const wide = span[1] - span[0];
      const from = Math.min(Math.max(0, s - wide / 2), ends - wide);
      setSpan([from, from + wide]);
    }
  };
  // The same one always, so that nothing is drawn anew for it.
  const go = useCallback((s: number) => latest.current(s), []);
  const choices = useMemo(
    () => [
      ...(rehearsed ? [{ id: REHEARSAL, name: 'the last rehearsal' }] : []),
      ...others.map((k) => ({ id: k.id, name: nameOf(k) })),
    ],
    [rehearsed, others],
  );
  if (why) return <Notice>{why}</Notice>;
  if (!looked) return <p className="mt-4 text-soft">It is being opened.</p>;
  const { flown, figures, surprises, groundM } = looked;
  // While it plays every frame has its own moment.
  const atS = clock.playing ? playedS : clock.atS;
  const cursor = indexAt(flown.seconds, atS);
  const shownSpan = span ?? ([0, ends] as const);
  const near = (factor: number) => {
    const wide = Math.min(ends, Math.max(LEAST_SPAN_S, (shownSpan[1] - shownSpan[0]) * factor));
    const from = Math.min(Math.max(0, atS - wide / 2), ends - wide);
    setSpan(wide >= ends ? null : [from, from + wide]);
  };
  const told = book.flown.find(
    (f) => f.serial === log.serial && f.flight === log.flight && f.startedS === log.startedS,
  );
  const save = async (format: FlownFormat) => {
    const { flownFile } = await import('#core/flown/flownFiles.ts');
    const startMs = looked.startMs ?? Date.parse(log.readAt) - 1000 * Math.ceil(ends);
    saveText(
      `${slug(craftName)}-${slug(nameOf(log))}.${format}`,
      flownMimes[format],
      flownFile(
        flown,
        `${craftName}, ${nameOf(log)}`,
        format,
        Number.isFinite(startMs) ? startMs : REHEARSAL_START_MS,
      ),
    );
  };
  const saveLog = async () => {
    const bytes = await keptBytes(log.id).catch(() => null);
    if (bytes) saveBytes(`${slug(craftName)}-${slug(nameOf(log))}.cbor`, 'application/cbor', bytes);
    else onFault('The bytes of this flight are not in this browser any more. Read it again.');
  };
  const letGo = async () => {
    const fault = (e: unknown) => onFault((e as Error).message);
    const putBack = await dropKept(log).catch(fault);
    if (putBack)
      void notify(`${log.file || `Flight ${log.flight}`} is in this browser no more.`, {
        label: 'Put it back',
        onClick: () => void putBack().catch(fault),
      });
  };
  return (
    <section aria-label={nameOf(log)} className="mt-3">
      <FlightFigures figures={figures} told={told ?? null} />
      {(flown.dropped > 0 || flown.gaps > 0 || log.upTo < log.total || !log.whole) && (
        <p className="mt-1 text-[13px] text-amber">
          {[
            log.upTo < log.total ? 'It is here in part: read on for the rest.' : '',
            !log.whole ? 'The board did not end it: the power went, and what came before that is shown.' : '',
            flown.gaps > 0
              ? `Moments are missing at ${flown.gaps} ${flown.gaps === 1 ? 'place' : 'places'}.`
              : '',
            flown.dropped > 0 ? `${flown.dropped} moments were left out: their time ran backwards.` : '',
          ]
            .filter(Boolean)
            .join(' ')}
        </p>
      )}
      <div className="mt-2 grid grid-cols-[minmax(0,1fr)_236px] gap-4 max-[900px]:grid-cols-1">
        <div>
          {air && air.track.length > 1 ? (
            <div className="relative aspect-[1.5] w-full overflow-hidden rounded-[4px] border border-line">
              <Suspense fallback={null}>
                <InTheAir
                  airframe={airframe}
                  site={site}
                  track={air.track}
                  cursor={indexAt(air.seconds, atS)}
                />
              </Suspense>
            </div>
          ) : (
            <FlownMap
              {...{ site, flown, beside, surprises, cursor }}
              besideCursor={beside && found ? indexAt(beside.seconds, atS + found.offsetS) : -1}
              onGo={go}
            />
          )}
        </div>
        <div className="relative min-h-[300px]">
          <div className="absolute inset-0 flex flex-col gap-3 overflow-y-auto">
            <SurpriseList surprises={surprises} seconds={flown.seconds} onGo={go} />
            <div className="min-h-[120px] flex-1 overflow-hidden rounded-[4px] border border-line border-l-0 [&>section]:h-full">
              <Decisions decisions={flown.decisions} nowS={atS} onGo={go} />
            </div>
          </div>
        </div>
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1 text-[13px]">
        <DrawingTabs label="How it is shown" value={view} tabs={views} onChange={setView} />
        <PlayButton playing={clock.playing} onToggle={clock.toggle} />
        <PlaySpeed speed={clock.speed} speeds={SPEEDS} onSpeed={clock.setSpeed} />
        <TextButton onClick={() => near(0.5)}>Nearer</TextButton>
        <TextButton disabled={!span} onClick={() => near(2)}>
          Farther
        </TextButton>
        <TextButton disabled={!span} onClick={() => setSpan(null)}>
          All of it
        </TextButton>
        {flown.mode[cursor]! >= 0 && (
          <span className="ml-auto text-soft">
            flown in <b className="font-medium text-ink">{flown.modes[flown.mode[cursor]!]}</b>
          </span>
        )}
      </div>
      <FlownStrip
        {...{ flown, groundM, plotted, units, surprises, atS }}
        beside={besideShown}
        span={shownSpan}
        onGo={go}
      />
      <FollowList series={series} plots={plots} cursor={cursor} onPlots={setPlots} />
      <BesidePart {...{ choices, found, units }} chosen={besideId} onChoose={setBesideId} onGo={go} />
      <p className="mt-4 flex flex-wrap gap-x-4 gap-y-1 border-line border-t pt-3 text-[13px]">
        <span className="text-soft">Save it as</span>
        {flownFormats.map((f) => (
          <TextButton key={f} onClick={() => void save(f)}>
            {f === 'geojson' ? 'GeoJSON' : f.toUpperCase()}
          </TextButton>
        ))}
        {flown.kind === 'board' && (
          <TextButton onClick={() => void saveLog()}>the board’s own log</TextButton>
        )}
        <TextButton tone="soft" className="ml-auto" onClick={() => void letGo()}>
          Let it go from this browser
        </TextButton>
      </p>
      {Object.keys(flown.settings).length > 0 && (
        <p className="mt-1 text-[13px] text-soft">
          Flown on <Told>{flown.firmware}</Told> by {Object.keys(flown.settings).length} settings unlike its
          defaults.
        </p>
      )}
    </section>
  );
}
