import { useEffect, useMemo, useState } from 'react';
import { groundAbout, groundHeight } from '#core/flight/terrain.ts';
import { eastOf, northOf, type Place } from '#core/navigation/earth.ts';
import { endings, endingWords } from '#core/search/endings.ts';
import type { LastSeen, Search } from '#core/search/lastSeen.ts';
import { withSearched } from '#core/search/likelihood.ts';
import { inSight, searchWalk } from '#core/search/walk.ts';
import { formatBearing, formatQuantity } from '#core/units/units.ts';
import { FLOWN_FILES, saveText, slug } from '../../files.ts';
import { flightReader, keptBytes } from '../../flights/index.ts';
import type { KeptLog } from '../../flights/LogShelf.ts';
import { useSampled } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { useAwake } from '../../offline/useAwake.ts';
import { searchChanged } from '../../store/craftSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { DrawingTabs } from '../../ui/DrawingTabs.tsx';
import { FileWords } from '../../ui/FileInput.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { workshop } from '../../workers/index.ts';
import { Lead } from '../Lead.tsx';
import { fromBoard, fromRehearsal, TYPED, toBeTyped } from './lost/lastWord.ts';
import { NextSquare } from './lost/NextSquare.tsx';
import { PlaceField } from './lost/PlaceField.tsx';
import { placeFrom, SearchMap } from './lost/SearchMap.tsx';
import { SeenPart } from './lost/SeenPart.tsx';
import { useLikelihood } from './lost/useLikelihood.ts';

const LIVE_MS = 1000;
const views = ['all of it', 'the squares'] as const;
/** As far as the walk is written out. */
const TOLD_STEPS = 8;

/** A search for a craft that did not come back. */
export default function WhenLostStation() {
  useAwake();
  const dispatch = useAppDispatch();
  const site = useApp((s) => s.site.current)!;
  const units = useApp((s) => s.ui.units);
  const craft = useApp((s) => s.craft.file!.name);
  const capacity = useApp((s) => s.craft.airframe!.battery.capacityMah);
  const lost = useApp((s) => s.craft.file!.lost);
  const flown = useApp((s) => s.rehearsal.result);
  const scenario = useApp((s) => s.rehearsal.scenario);
  const navigation = useSampled(() => live('navigation'), LIVE_MS);
  const [fault, setFault] = useState<string | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [view, setView] = useState<(typeof views)[number]>('all of it');
  const seen = lost?.seen ?? null;
  const lastRead = useApp((s) => s.flights.kept.find((k) => k.flight > 0 && k.upTo > 0));
  useEffect(() => {
    void flightReader.listKept();
  }, []);
  const { map: whole, flying, fault: flightFault } = useLikelihood(seen);
  const stands: Place = lost?.stands ?? site.home;
  const searched = lost?.searched ?? [];
  const map = useMemo(
    () =>
      whole && seen
        ? withSearched(
            whole,
            searched.map((s) => ({
              north: northOf(seen.lat, s.lat),
              east: eastOf(seen.lat, seen.lon, s.lon),
              sideM: s.sideM,
            })),
          )
        : null,
    [whole, seen, searched],
  );
  const walk = useMemo(
    () =>
      map && seen
        ? searchWalk(map, northOf(seen.lat, stands.lat), eastOf(seen.lat, seen.lon, stands.lon))
        : [],
    [map, seen, stands],
  );
  const put = (change: Partial<Search>) => lost && dispatch(searchChanged({ ...lost, ...change }));
  const begin = (last: LastSeen, by: string) => {
    setFault(null);
    dispatch(
      searchChanged({
        seen: last,
        by,
        searched: lost?.searched ?? [],
        ...(lost?.stands ? { stands: lost.stands } : {}),
      }),
    );
  };
  const ofBoard = () => {
    const last = fromBoard(scenario, site.home);
    if (last) begin(last, 'the board that is connected');
  };
  const ofRehearsal = () => {
    if (!flown) return;
    const { seen: last, by } = fromRehearsal(flown, scenario);
    begin(last, by);
  };
  const openLog = async (file: File) => {
    const found = await workshop().openSeen(file, site.home, capacity);
    if ('refused' in found) setFault(found.refused);
    else begin(found, file.name.slice(0, 80));
  };
  const ofRead = async (log: KeptLog) => {
    const bytes = await keptBytes(log.id).catch(() => null);
    if (!bytes) setFault('The bytes of this flight are not in this browser any more. Read it again.');
    else await openLog(new File([bytes as Uint8Array<ArrayBuffer>], `flight ${log.flight}`));
  };
  const locate = () => {
    setFault(null);
    if (!('geolocation' in navigator)) {
      setFault('This device does not tell where it is. Type it, or drag yourself on the map.');
      return;
    }
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => put({ stands: { lat: coords.latitude, lon: coords.longitude } }),
      () => setFault('This device did not tell where it is. Type it, or drag yourself on the map.'),
      { enableHighAccuracy: true, timeout: 20_000 },
    );
  };
  const missing = [
    ...(navigation?.hasFix ? [] : ['a board that is connected and has a fix']),
    ...(flown ? [] : ['a flight that was rehearsed']),
  ];
  const sources = (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
      <FileWords label="Flight log or track" accept={FLOWN_FILES} onFile={(f) => void openLog(f)}>
        Open a log or a track
      </FileWords>
      {lastRead && (
        <TextButton onClick={() => void ofRead(lastRead)}>
          From flight {lastRead.flight}, read from the board
        </TextButton>
      )}
      <TextButton disabled={!navigation?.hasFix} onClick={ofBoard}>
        From the board that is connected
      </TextButton>
      <TextButton disabled={!flown} onClick={ofRehearsal}>
        From the last rehearsal, for practice
      </TextButton>
      {!lost && (
        <Button onClick={() => begin(toBeTyped(scenario, site.home), TYPED)}>Type what is known</Button>
      )}
      {missing.length > 0 && !lost && (
        <p className="basis-full text-[13px] text-soft">
          It can begin from {missing.join(' or ')} as well, once there is one.
        </p>
      )}
    </div>
  );
  if (!lost || !seen)
    return (
      <>
        <Lead />
        <p className="mt-4 max-w-[620px]">
          Note the last place, height and heading before anything else: from the transmitter’s screen, a
          recording of the picture, or a log. From them a few thousand endings are flown, in the wind of the
          day.
        </p>
        <div className="mt-3">{sources}</div>
        {fault && <Notice>{fault}</Notice>}
        {said && <Notice tone="plain">{said}</Notice>}
      </>
    );
  const first = walk[0];
  const to = first && placeFrom(seen, first.north, first.east);
  const { homeEastM, homeNorthM, terrain } = groundAbout(site.terrain, site.home);
  const ground = { homeEastM, homeNorthM, terrain };
  const below = groundHeight(
    terrain,
    homeEastM + eastOf(site.home.lat, site.home.lon, seen.lon),
    homeNorthM + northOf(site.home.lat, seen.lat),
  );
  const save = async (kind: 'geojson' | 'gpx') => {
    if (!map) return;
    const { searchGeoJson, walkToGpx } = await import('#core/search/searchFiles.ts');
    if (kind === 'geojson')
      saveText(
        `${slug(craft)}-search.geojson`,
        'application/geo+json',
        JSON.stringify(searchGeoJson(map, walk, seen)),
      );
    else
      saveText(
        `${slug(craft)}-search.gpx`,
        'application/gpx+xml',
        walkToGpx(`Search for ${craft}`, walk, seen),
      );
  };
  return (
    <>
      <Lead />
      {(fault ?? flightFault) && <Notice>{fault ?? flightFault}</Notice>}
      {lost.by === TYPED && seen.lat === site.home.lat && seen.lon === site.home.lon && (
        <Notice tone="amber">
          Nothing was typed yet: what stands below is home, a hundred metres up. Put in where it was last
          seen, how high, and which way it went.
        </Notice>
      )}
      {seen.heightM < below - 5 && (
        <Notice tone="amber">
          The ground there is {formatQuantity(below, 'm', units)} above the sea, higher than the craft is said
          to have been. Is its height counted from home?
        </Notice>
      )}
      <div className="mt-3 flex flex-wrap gap-4">
        <div className="relative min-w-[420px] flex-1">
          <div className="absolute top-2 right-2">
            <DrawingTabs label="What the map shows" value={view} tabs={views} onChange={setView} />
          </div>
          <SearchMap
            {...{ site, seen, map, walk, stands, searched }}
            near={view === 'the squares'}
            onStand={(place) => put({ stands: place })}
          />
          <p className="mt-1.5 flex flex-wrap items-center gap-x-3 text-[13px] text-soft">
            <span className="inline-flex items-center gap-1">
              <Shade of={0.85} /> first twentieth
            </span>
            <span className="inline-flex items-center gap-1">
              <Shade of={0.42} /> first fifth
            </span>
            <span className="inline-flex items-center gap-1">
              <Shade of={0.11} /> all that is searched
            </span>
            {map && (
              <span className="num ml-auto">
                {formatQuantity((map.order.length * map.cellM ** 2) / 10_000, 'none', 'metric', 0)} ha hold
                nine tenths of the chance
              </span>
            )}
            {flying && <span role="status">flying endings …</span>}
          </p>
        </div>
        <div className="w-[216px]">
          {first && to ? (
            <NextSquare
              step={first}
              sees={site.terrain.known ? inSight(ground, site.home, stands, to) : null}
              onSearched={() => put({ searched: [...searched, { ...to, sideM: first.sideM }], stands: to })}
              onFound={() => {
                setSaid(`Found. ${searched.length + 1} squares were looked over.`);
                dispatch(searchChanged(undefined));
              }}
            />
          ) : (
            <p className="text-soft">
              {flying ? 'The endings are being flown.' : 'Everything likely was looked over.'}
            </p>
          )}
          <p className="label mt-4">Where you stand</p>
          <p className="mt-0.5">
            <PlaceField label="Where you stand" place={stands} onChange={(place) => put({ stands: place })} />
          </p>
          <p className="mt-1 flex flex-col items-start gap-1 text-[13px]">
            <TextButton onClick={locate}>Where this device is</TextButton>
            {searched.length > 0 && (
              <TextButton tone="soft" onClick={() => put({ searched: searched.slice(0, -1) })}>
                Take the last square back
              </TextButton>
            )}
          </p>
        </div>
      </div>
      <section aria-label="The walk" className="mt-3">
        <ol className="flex flex-wrap gap-x-5 gap-y-1 text-[13px]">
          {walk.slice(1, TOLD_STEPS).map((s, i) => (
            <li key={`${s.north} ${s.east}`} className="text-soft">
              <b className="num font-medium text-ink">{i + 2}</b>{' '}
              <span className="num">{formatQuantity(s.distanceM, 'm', units, 0)}</span> at{' '}
              <span className="num">{formatBearing(s.bearingRad)}</span>, found by then{' '}
              <span className="num">{Math.round(100 * s.found)} %</span>
            </li>
          ))}
        </ol>
        <p className="mt-2 flex gap-4 text-[13px]">
          <TextButton onClick={() => void save('gpx')}>Save the walk as GPX</TextButton>
          <TextButton onClick={() => void save('geojson')}>Save map and walk as GeoJSON</TextButton>
        </p>
      </section>
      <section aria-label="What was last known" className="mt-4 border-line border-t pt-3">
        <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
          <h2 className="font-semibold">What was last known</h2>
          <span className="text-[13px] text-soft">by {lost.by}</span>
          <span className="ml-auto text-[13px]">{sources}</span>
        </div>
        <SeenPart seen={seen} onChange={(next) => put({ seen: next })} />
      </section>
      {map && (
        <section aria-label="How it may have ended" className="mt-4 border-line border-t pt-3">
          <h2 className="font-semibold">How it may have ended</h2>
          <ul className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(260px,1fr))] gap-x-6 text-[13px]">
            {endings
              .filter((e) => map.shares[e] >= 0.01)
              .sort((a, b) => map.shares[b] - map.shares[a])
              .map((e) => (
                <li key={e} className="flex items-center gap-2">
                  <span className="num w-9 text-right">{Math.round(100 * map.shares[e])} %</span>
                  <span className="h-1.5 rounded-sm bg-roll" style={{ width: `${90 * map.shares[e]}px` }} />
                  <span className="text-soft">{endingWords[e]}</span>
                </li>
              ))}
          </ul>
        </section>
      )}
    </>
  );
}

function Shade({ of }: { readonly of: number }) {
  return <span aria-hidden className="inline-block h-3 w-4 rounded-[2px] bg-roll" style={{ opacity: of }} />;
}
