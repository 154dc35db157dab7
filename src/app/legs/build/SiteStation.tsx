import { useRef, useState } from 'react';
import { groundAbout, groundHeight } from '#core/flight/terrain.ts';
import { eastOf, northOf } from '#core/navigation/earth.ts';
import {
  GROUND_UNKNOWN,
  homeInSea,
  homeOnGround,
  makeSite,
  type Site,
  type SiteFields,
} from '#core/site/site.ts';
import { MAX_SITE_BYTES } from '#core/site/siteFile.ts';
import { formatQuantity } from '#core/units/units.ts';
import { notify } from '../../notify.tsx';
import {
  chooseSite,
  isBrought,
  type Kept,
  keepSite,
  letSiteGo,
  openGround,
  openSiteText,
  saveSite,
} from '../../sites.ts';
import { useApp } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { FileInput, JSON_FILES } from '../../ui/FileInput.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { RadioCards } from '../../ui/RadioCards.tsx';
import { Lead } from '../Lead.tsx';
import { Obstacles } from './Obstacles.tsx';
import { SiteFacts } from './SiteFacts.tsx';
import { SiteMap } from './SiteMap.tsx';

const MAX_GROUND_BYTES = 60_000_000;

/** A name that no other site has. */
function freeName(wanted: string, names: readonly string[]): string {
  for (let n = 1; ; n++) {
    const name = n === 1 ? wanted : `${wanted} ${n}`;
    if (!names.includes(name)) return name;
  }
}

/** Where the craft flies: choose, describe, open, and see it. */
export default function SiteStation() {
  const site = useApp((s) => s.site.current)!;
  const { named, names } = useApp((s) => s.site);
  const [fault, setFault] = useState<string | null>(null);
  const fileInput = useRef<HTMLInputElement>(null);
  const groundInput = useRef<HTMLInputElement>(null);
  const own = named && !isBrought(site.name);
  const { bare, terrain, ...fields } = site;

  const settle = async (work: Promise<Kept>) => {
    const done = await work;
    setFault(done.ok ? null : done.why);
    return done.ok;
  };
  const change = (to: Partial<SiteFields>) => {
    const next = { ...fields, ...to };
    const known = bare.known ? bare : null;
    // Home moved over known ground stands on it.
    if (
      to.home &&
      known &&
      homeOnGround({ ...site, home: next.home }) &&
      to.home.heightM === fields.home.heightM
    ) {
      const { homeEastM, homeNorthM } = groundAbout(bare, next.home);
      next.home = { ...next.home, heightM: Math.round(groundHeight(bare, homeEastM, homeNorthM)) };
    }
    void settle(keepSite(makeSite(next, known), site.name));
  };
  const begin = (name: string, from: Site | null) => {
    const free = freeName(name, names);
    const { home, year } = fields;
    const blank: SiteFields = { name: free, home, year, obstacles: [], places: [] };
    void settle(
      keepSite(makeSite(from ? { ...fields, name: free } : blank, from?.bare.known ? from.bare : null)),
    );
  };
  const openFile = async (file: File) => {
    if (file.size > MAX_SITE_BYTES)
      return setFault(
        `${file.name} has ${(file.size / 1e6).toFixed(0)} MB; a site has at most ${MAX_SITE_BYTES / 1e6} MB. It was not opened.`,
      );
    if (await settle(openSiteText(await file.text()))) void notify(`${file.name} is open.`);
  };
  const openTiles = async (files: readonly File[]) => {
    const size = files.reduce((sum, f) => sum + f.size, 0);
    if (size > MAX_GROUND_BYTES)
      return setFault(
        `The files have ${(size / 1e6).toFixed(0)} MB together; up to ${MAX_GROUND_BYTES / 1e6} MB are read. Nothing was changed.`,
      );
    if (files.length > 0 && (await settle(openGround(site, files))))
      void notify(`The ground of ${site.name} is known now.`);
  };

  return (
    <>
      <div className="flex flex-wrap items-start gap-4">
        <div className="min-w-[300px] flex-1">
          <Lead />
        </div>
        <div className="flex gap-2">
          <Button onClick={() => fileInput.current?.click()}>Open a site file…</Button>
          <Button onClick={() => saveSite(site)}>Save to a file</Button>
        </div>
      </div>
      <FileInput ref={fileInput} label="Site file" accept={JSON_FILES} onFile={(f) => void openFile(f)} />
      <input
        ref={groundInput}
        type="file"
        multiple
        accept=".hgt,.asc,.txt"
        aria-label="Ground files"
        className="hidden"
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = '';
          void openTiles(files);
        }}
      />
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <RadioCards
          label="Sites"
          className="flex flex-wrap gap-2"
          value={named ? site.name : null}
          cards={names.map((name) => ({ id: name, name }))}
          onChange={(name) => {
            setFault(null);
            void chooseSite(name);
          }}
        />
        <Button kind="flat" onClick={() => begin('New site', null)}>
          Begin another…
        </Button>
      </div>
      {fault && <Notice>{fault}</Notice>}
      {!own && (
        <p className="mt-2 flex flex-wrap items-center gap-3 text-soft">
          {named
            ? `${site.name} comes with the demo and stays as it is.`
            : 'The craft is not set up for any site. Choose one, or begin another.'}
          {named && (
            <Button kind="flat" onClick={() => begin(`${site.name}, mine`, site)}>
              Make a copy to change
            </Button>
          )}
        </p>
      )}
      {!site.terrain.known && <p className="mt-2 text-amber">{GROUND_UNKNOWN}</p>}
      {(bare.guessedShare ?? 0) > 0.005 && (
        <Notice tone="amber">
          {Math.round(100 * bare.guessedShare!)} % of the ground about home has no height in the files: tiles
          that do not meet, or holes. There it is taken to be as high as the nearest that has one. Open the
          tiles that are missing together with these.
        </Notice>
      )}
      {homeOnGround(site) && homeInSea(site) && (
        <Notice tone="amber">
          Home lies in the sea, or below it, on this ground. Move home, or look whether it is the right tile.
        </Notice>
      )}
      {bare.known && !homeOnGround(site) && (
        <Notice>Home lies outside the ground that is known; nothing can be flown from there.</Notice>
      )}
      <div className="mt-3 grid gap-x-7 gap-y-4 2xl:grid-cols-[minmax(0,1fr)_316px]">
        <div className="min-w-0">
          <SiteMap
            site={site}
            onHome={own ? (place) => change({ home: { ...place, heightM: fields.home.heightM } }) : null}
          />
          <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-soft">
            <GroundWords site={site} />
            {own && (
              <span className="ml-auto flex gap-2">
                <Button onClick={() => groundInput.current?.click()}>Open ground (.hgt, .asc)…</Button>
                {bare.known && (
                  <Button
                    kind="flat"
                    onClick={() => void settle(keepSite(makeSite(fields, null), site.name))}
                  >
                    Forget the ground
                  </Button>
                )}
              </span>
            )}
          </div>
        </div>
        <div className="min-w-0">
          <SiteFacts site={site} own={own} onChange={change} />
          <Obstacles key={site.name} site={site} own={own} onChange={(obstacles) => change({ obstacles })} />
          {own && (
            <Button kind="flat" className="mt-3 -ml-3" onClick={() => void letSiteGo(site.name)}>
              Let {site.name} go
            </Button>
          )}
        </div>
      </div>
    </>
  );
}

/** What is known of the ground, in words. */
function GroundWords({ site }: { readonly site: Site }) {
  const units = useApp((s) => s.ui.units);
  const { bare, home } = site;
  if (!bare.known) return <span>No ground is known.</span>;
  const { origin, westM, southM, cellM, columns, rows } = bare;
  const east = westM - eastOf(origin.lat, origin.lon, home.lon);
  const north = southM - northOf(origin.lat, home.lat);
  const reach = Math.min(-east, -north, east + (columns - 1) * cellM, north + (rows - 1) * cellM);
  return (
    <span>
      Heights every <span className="num">{formatQuantity(cellM, 'm', units, 0)}</span>, known to{' '}
      <span className="num">{formatQuantity(Math.max(0, reach), 'm', units, 0)}</span> from home on all sides.
    </span>
  );
}
