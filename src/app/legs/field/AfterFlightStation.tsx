import { lazy, Suspense, useEffect, useMemo, useState } from 'react';
import { EMPTY_BOOK } from '#core/field/fieldBook.ts';
import { compared } from '#core/flown/compare.ts';
import { flownOfRehearsal, groundUnder, indexAt, lastsS, trackPoints } from '#core/flown/flown.ts';
import { type FlownFormat, flownFormats, flownMimes } from '#core/flown/flownFormats.ts';
import { seriesOf } from '#core/flown/series.ts';
import { REHEARSAL_START_MS } from '#core/formats/gpx.ts';
import { formatClock, formatQuantity } from '#core/units/units.ts';
import { FLOWN_FILES, saveBytes, saveText, slug } from '../../files.ts';
import { dropKept, flightReader, keptBytes, takeFile } from '../../flights/index.ts';
import { type KeptLog, logId } from '../../flights/LogShelf.ts';
import { usePlayed } from '../../live/usePlayed.ts';
import { fieldBookChanged } from '../../store/craftSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Decisions } from '../../ui/Decisions.tsx';
import { DrawingTabs } from '../../ui/DrawingTabs.tsx';
import { FileWords } from '../../ui/FileInput.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { PlayButton, PlaySpeed } from '../../ui/PlayParts.tsx';
import { Select } from '../../ui/Select.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { Told } from '../../ui/Told.tsx';
import { Lead } from '../Lead.tsx';
import { BesidePart } from './after/BesidePart.tsx';
import { FlightStamps, type Stamp } from './after/FlightStamps.tsx';
import { FlownMap } from './after/FlownMap.tsx';
import { FlownStrip } from './after/FlownStrip.tsx';
import { useLooked } from './after/useLooked.ts';

const InTheAir = lazy(() => import('../../drawing/InTheAir.tsx'));

const views = ['on the map', 'in the air'] as const;
const SPEEDS = [1, 4, 16, 64] as const;
const USUAL_SPEED = 16;
const USUAL_PLOTS = ['airspeed', 'volts'] as const;
const MOST_PLOTS = 4;
/** The least time that is shown, s. */
const LEAST_SPAN_S = 10;
const REHEARSAL = 'rehearsal';

/** Flights read from the board and looked at. */
export default function AfterFlightStation() {
  const craft = useApp((s) => s.crafts.id);
  const link = useApp((s) => s.board.link);
  const serial = useApp((s) => s.board.identity?.serial);
  const { kept, onBoard, reading, craft: listed } = useApp((s) => s.flights);
  const book = useApp((s) => s.craft.file!.field) ?? EMPTY_BOOK;
  const [chosen, setChosen] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  useEffect(() => {
    void flightReader.listKept();
  }, [craft]);
  const look = () => void flightReader.listBoard().then((why) => setFault(why));
  useEffect(() => {
    if (link === 'ready') look();
  }, [link, serial]);
  const own = listed === craft ? kept : [];
  const there = link === 'ready' && onBoard && onBoard.serial === serial ? onBoard.flights : [];
  const told = (s: string, flight: number, startedS: number) =>
    book.flown.find((f) => f.serial === s && f.flight === flight && f.startedS === startedS) ?? null;
  const stamps: Stamp[] = [
    ...there.toReversed().map((b) => {
      const key = logId(craft ?? '', serial ?? '', b.flight, b.startedS);
      return {
        key,
        board: b,
        kept: own.find((k) => k.id === key) ?? null,
        told: told(serial ?? '', b.flight, b.startedS),
      };
    }),
    ...own
      .filter((k) => !there.some((b) => logId(craft ?? '', serial ?? '', b.flight, b.startedS) === k.id))
      .map((k) => ({ key: k.id, board: null, kept: k, told: told(k.serial, k.flight, k.startedS) })),
  ];
  const open = async (file: File) => {
    setFault(null);
    try {
      const took = await takeFile(file);
      if ('refused' in took) setFault(took.refused);
      else setChosen(took.id);
    } catch (error) {
      setFault((error as Error).message);
    }
  };
  const shown = own.find((k) => k.id === chosen) ?? own.find((k) => k.upTo > 0) ?? null;
  return (
    <>
      <Lead />
      {stamps.length > 0 && (
        <FlightStamps
          stamps={stamps}
          chosen={shown?.id ?? null}
          reading={reading}
          onChoose={setChosen}
          onRead={(flight) => {
            setFault(null);
            setChosen(logId(craft ?? '', serial ?? '', flight.flight, flight.startedS));
            void flightReader.read(flight);
          }}
          onStop={() => flightReader.stop()}
        />
      )}
      <p className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-[13px]">
        {link === 'ready' ? (
          <>
            {there.length === 0 && <span className="text-soft">There is no flight on the board.</span>}
            <TextButton onClick={look}>Look on the board again</TextButton>
          </>
        ) : (
          <span className="text-soft">
            {own.length === 0
              ? 'Plug the board in after the flight: its flights stand here then. Or open one from a file.'
              : 'Flights on the board stand here once it is plugged in.'}
          </span>
        )}
        <FileWords label="Flight log or track" accept={FLOWN_FILES} onFile={(f) => void open(f)}>
          Open a flight or a track
        </FileWords>
      </p>
      {reading && reading.says !== '' && (
        <Notice tone={reading.state === 'away' ? 'amber' : 'red'}>{reading.says}</Notice>
      )}
      {fault && <Notice>{fault}</Notice>}
      {shown && (
        <OneFlown
          key={shown.id}
          log={shown}
          others={own.filter((k) => k.id !== shown.id && k.upTo > 0)}
          onFault={setFault}
        />
      )}
    </>
  );
}

const nameOf = (log: KeptLog) => log.file || `flight ${log.flight}`;

/** One flight, on the ground and along time. */
function OneFlown({
  log,
  others,
  onFault,
}: {
  readonly log: KeptLog;
  readonly others: readonly KeptLog[];
  readonly onFault: (why: string | null) => void;
}) {
  const dispatch = useAppDispatch();
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
  const [, setShown] = useState(0);
  const clock = usePlayed(ends, setShown, USUAL_SPEED);
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
  const air = useMemo(
    () => (looked && view === 'in the air' ? trackPoints(looked.flown, looked.groundM) : null),
    [looked, view],
  );
  if (why) return <Notice>{why}</Notice>;
  if (!looked) return <p className="mt-4 text-soft">It is being opened.</p>;
  const { flown, figures, surprises, groundM } = looked;
  const { atS } = clock;
  const cursor = indexAt(flown.seconds, atS);
  const shownSpan = span ?? ([0, ends] as const);
  const near = (factor: number) => {
    const wide = Math.min(ends, Math.max(LEAST_SPAN_S, (shownSpan[1] - shownSpan[0]) * factor));
    const from = Math.min(Math.max(0, atS - wide / 2), ends - wide);
    setSpan(wide >= ends ? null : [from, from + wide]);
  };
  const go = (s: number) => {
    clock.rest();
    clock.goTo(s);
    // What is gone to is seen.
    if (span && (s < span[0] || s > span[1])) {
      const wide = span[1] - span[0];
      const from = Math.min(Math.max(0, s - wide / 2), ends - wide);
      setSpan([from, from + wide]);
    }
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
  const choices = [
    ...(rehearsed ? [{ id: REHEARSAL, name: 'the last rehearsal' }] : []),
    ...others.map((k) => ({ id: k.id, name: nameOf(k) })),
  ];
  const metres = (m: number) => formatQuantity(m, 'm', units, 0);
  return (
    <section aria-label={nameOf(log)} className="mt-3">
      <dl className="flex flex-wrap items-end gap-x-7 gap-y-1">
        <Large name="in the air" value={formatClock(figures.seconds)} />
        <Large name="flown" value={metres(figures.wayM)} />
        <Large name="from home at most" value={metres(figures.farthestM)} />
        <Large name="over its start" value={metres(figures.highestM)} />
        {figures.drawnMah !== undefined && (
          <Large name="drawn" value={formatQuantity(figures.drawnMah, 'mah', units, 0)} />
        )}
        {figures.ohm !== undefined && (
          <Large
            name="battery and lead"
            value={`${formatQuantity(1000 * figures.ohm, 'none', units, 0)} mΩ`}
          />
        )}
        {told && (
          <div className="text-[13px]">
            <dt className="text-soft">flown with</dt>
            <dd className="flex gap-2">
              {(['battery', 'propeller'] as const).map((kind) => {
                const names = new Set(book.kit.filter((k) => k.kind === kind).map((k) => k.name));
                if (told[kind] !== '') names.add(told[kind]);
                return (
                  <Select
                    key={kind}
                    aria-label={`${kind} it was flown with`}
                    value={told[kind]}
                    onChange={(e) =>
                      dispatch(
                        fieldBookChanged({
                          ...book,
                          flown: book.flown.map((f) => (f === told ? { ...f, [kind]: e.target.value } : f)),
                        }),
                      )
                    }
                  >
                    <option value="">{kind} not said</option>
                    {[...names].map((n) => (
                      <option key={n} value={n}>
                        {n}
                      </option>
                    ))}
                  </Select>
                );
              })}
            </dd>
          </div>
        )}
      </dl>
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
      <div className="mt-2 grid grid-cols-[minmax(0,1fr)_236px] gap-4">
        <div>
          {air && air.track.length > 1 ? (
            <div className="relative aspect-[1.5] w-full overflow-hidden rounded-[4px] border border-line">
              <Suspense fallback={null}>
                <InTheAir
                  airframe={airframe}
                  site={site}
                  track={air.track}
                  cursor={Math.max(
                    0,
                    indexAt(
                      Float64Array.from(air.track, (p) => p.atS),
                      atS,
                    ),
                  )}
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
            <section aria-label="What surprised" className="shrink-0">
              <h2 className="font-semibold">What surprised</h2>
              {surprises.length === 0 && <p className="text-soft">Nothing that we look for.</p>}
              <ol className="mt-1 space-y-1.5 text-[13px] leading-[17px]">
                {surprises.map((s, i) => (
                  <li key={s.kind} className="grid grid-cols-[18px_1fr]">
                    <span className="num text-amber">{i + 1}</span>
                    <span>
                      <TextButton onClick={() => go(flown.seconds[s.at]!)}>{s.title}</TextButton>{' '}
                      <span className="num text-soft">{formatClock(s.fromS)}</span>
                      <span className="block text-soft">
                        {s.words}
                        {s.again.length > 0 &&
                          `; ${s.again.length} ${s.again.length === 1 ? 'time' : 'times'} more`}
                        . {s.advice}
                      </span>
                    </span>
                  </li>
                ))}
              </ol>
            </section>
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
      <section aria-label="What can be followed" className="mt-1">
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(172px,1fr))] gap-x-2 gap-y-0.5 text-[13px]">
          {series.map((s) => {
            const on = plots.includes(s.id);
            const v = s.values[cursor]!;
            return (
              <li key={s.id}>
                <button
                  type="button"
                  aria-pressed={on}
                  disabled={!on && plotted.length >= MOST_PLOTS}
                  className="flex w-full justify-between gap-2 rounded-[3px] px-1.5 py-0.5 text-left hover:bg-sunk disabled:opacity-60 aria-pressed:bg-lake-wash"
                  onClick={() => setPlots(on ? plots.filter((id) => id !== s.id) : [...plots, s.id])}
                >
                  <span className="min-w-0 truncate text-soft" title={s.name}>
                    {s.name}
                  </span>
                  <span className="num shrink-0">
                    {Number.isFinite(v) ? formatQuantity(v, s.unit, units, s.digits) : '–'}
                  </span>
                </button>
              </li>
            );
          })}
        </ul>
      </section>
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
        <TextButton
          tone="soft"
          className="ml-auto"
          onClick={() => void dropKept(log.id).catch((e: unknown) => onFault((e as Error).message))}
        >
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

const Large = ({ name, value }: { readonly name: string; readonly value: string }) => (
  <div>
    <dt className="text-[13px] text-soft">{name}</dt>
    <dd className="num text-[20px] leading-6">{value}</dd>
  </div>
);
