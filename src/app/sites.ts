import { bareSite, fieldYear, type Home, makeSite, type Site } from '#core/site/site.ts';
import { readSiteFile, writeSiteFile } from '#core/site/siteFile.ts';
import skerrow from '#demo/sites/skerrow.wanderweg-site.json?url';
import torvholm from '#demo/sites/torvholm.wanderweg-site.json?url';
import { records } from './crafts/kept.ts';
import type { Replaced } from './crafts/records.ts';
import { saveText, slug } from './files.ts';
import { notify } from './notify.tsx';
import { siteNamed } from './store/craftSlice.ts';
import { rows } from './store/database.ts';
import { sitesKnown, siteTaken } from './store/siteSlice.ts';
import { store } from './store/store.ts';
import { bench, workshop } from './workers/index.ts';

/**
 * Sites: those that the demo brings, and those of files and typed in, which this browser keeps by their names. The
 * craft names the one it is set up for.
 */

const brought: Readonly<Record<string, string>> = { Torvholm: torvholm, Skerrow: skerrow };

/** The last of what is being kept. */
let keeping: Promise<void> = Promise.resolve();
/** Sites that the browser did not keep live in this tab. */
const inTab = new Map<string, string>();

export const isBrought = (name: string): boolean => name in brought;

/** A site by its name; null where it is neither brought nor kept here. */
async function load(name: string): Promise<Site | null> {
  let text: string | undefined;
  if (inTab.has(name)) text = inTab.get(name);
  else if (name in brought) text = await (await fetch(brought[name]!)).text();
  else text = (await rows.get('sites', name)) as string | undefined;
  if (text === undefined) return null;
  const read = readSiteFile(text);
  return read.ok ? read.site : null;
}

async function listNames(): Promise<void> {
  const kept = await rows.keys('sites').catch(() => []);
  store.dispatch(sitesKnown([...new Set([...Object.keys(brought), ...kept, ...inTab.keys()])]));
}

/**
 * Takes a site as the one flown at.
 * @param carried the bench goes there; where a site is only described otherwise it stays where it stands, so that a
 *   board's fix can tell what was typed wrongly
 */
async function take(site: Site, named: boolean, carried: boolean): Promise<void> {
  store.dispatch(siteTaken({ site, named }));
  const { home, year } = site;
  if (carried) await bench.carry({ home, year });
}

/** Before a craft is opened: the site that it names, or none of which the ground is known. */
export async function goToSiteOf(name: string | undefined, home: Home): Promise<Site> {
  await listNames();
  const found = name === undefined ? null : await load(name).catch(() => null);
  const site = found ?? bareSite(home, fieldYear(Date.now()));
  store.dispatch(siteTaken({ site, named: found !== null }));
  if (name !== undefined && !found)
    void notify(
      `The craft is set up for the site ${name}, which this browser does not keep. Open its file at Where it flies; until then the ground is not known.`,
    );
  return site;
}

/** Counts the choices. */
let choices = 0;

/** Chooses another of those kept. */
export async function chooseSite(name: string): Promise<void> {
  const mine = ++choices;
  await keeping;
  const site = await load(name).catch(() => null);
  // Of two that were chosen one after the other the later one counts, however long either takes to load.
  if (mine !== choices) return;
  if (!site) {
    void notify(`${name} cannot be read any more. The site is as before.`);
    return;
  }
  await take(site, true, true);
  store.dispatch(siteNamed(name));
}

export type Kept = { readonly ok: true } | { readonly ok: false; readonly why: string };

/**
 * Keeps a site under its name and takes it.
 * @param before its name until now, where it had one. @param carried the bench goes there
 */
export async function keepSite(site: Site, before?: string, carried = false): Promise<Kept> {
  const { name } = site;
  if (isBrought(name))
    return {
      ok: false,
      why: `${name} comes with the demo and stays as it is. Give yours another name. Nothing was changed.`,
    };
  if (before !== name && store.getState().site.names.includes(name))
    return {
      ok: false,
      why: `There is a site ${name} already. Give this one another name. Nothing was changed.`,
    };
  // What was chosen before this and is still loading does not take its place.
  choices++;
  const gone = before !== undefined && before !== name ? before : null;
  // Taken at once, so that what is typed next builds on it; kept behind that, one after the other.
  const names = store.getState().site.names.filter((n) => n !== gone);
  store.dispatch(sitesKnown(names.includes(name) ? names : [...names, name]));
  store.dispatch(siteNamed(name));
  const taken = take(site, true, carried);
  keeping = keeping.then(() => put(site, gone));
  await Promise.all([taken, keeping]);
  return { ok: true };
}

/** Puts a site into the browser's store, or into this tab where that refuses. Never throws. */
async function put(site: Site, gone: string | null): Promise<void> {
  const { name } = site;
  try {
    await rows.write([
      { in: 'sites', put: writeSiteFile(site), key: name },
      ...(gone === null ? [] : [{ in: 'sites', delete: gone } as const]),
    ]);
    inTab.delete(name);
  } catch {
    if (!inTab.has(name))
      void notify(`This browser does not keep ${name}: it lives in this tab. Save it to a file.`);
    inTab.set(name, writeSiteFile(site));
  }
  if (gone !== null) inTab.delete(gone);
}

/** Lets a kept site go; the craft stays without one where it was set up for it. */
export async function letSiteGo(name: string): Promise<void> {
  const { current } = store.getState().site;
  await keeping;
  try {
    if (!inTab.delete(name)) {
      const text = (await rows.get('sites', name)) as string;
      await records.replace('site', name, 'let go', text, [{ in: 'sites', delete: name }]);
    }
  } catch {
    void notify(`The browser did not let ${name} go. It is as before.`);
    return;
  }
  await listNames();
  if (current?.name !== name) return;
  store.dispatch(siteNamed(undefined));
  await take(bareSite(current.home, current.year), false, false);
}

/** Opens a site from a file's text. On any fault nothing changes. */
export async function openSiteText(text: string): Promise<Kept> {
  const read = readSiteFile(text);
  if (!read.ok) return read;
  // The same file once more takes the place of what was opened before.
  const names = store.getState().site.names;
  const { name } = read.site;
  const before = names.includes(name) ? await rows.get('sites', name).catch(() => undefined) : undefined;
  if (typeof before === 'string' && before !== writeSiteFile(read.site)) {
    await records.replace('site', name, 'replaced by a file of that name', before).catch(() => {});
    void notify(`${name} took the place of what was kept under that name. It can be had back at All craft.`);
  }
  return keepSite(read.site, names.includes(read.site.name) ? read.site.name : undefined, true);
}

/** Brings back a site that was let go, or that another took the place of; what has its name now is replaced by it. */
export async function bringSiteBack({ id, what }: Replaced): Promise<void> {
  if (typeof what !== 'string') return;
  const read = readSiteFile(what);
  if (!read.ok) throw new Error(read.why);
  const { name } = read.site;
  const now = await rows.get('sites', name);
  if (typeof now === 'string')
    await records.replace('site', name, 'replaced by one that was brought back', now);
  await rows.write([
    { in: 'sites', put: what, key: name },
    { in: 'replaced', delete: id },
  ]);
  await listNames();
  if (store.getState().site.current?.name === name) await take(read.site, true, false);
}

export function saveSite(site: Site): void {
  saveText(`${slug(site.name)}.wanderweg-site.json`, 'application/json', writeSiteFile(site));
}

/** Puts the ground of files under a site: `.hgt` tiles or one ASCII grid. */
export async function openGround(site: Site, files: readonly File[]): Promise<Kept> {
  const parts = await Promise.all(
    files.map(async (f) => ({ name: f.name, bytes: new Uint8Array(await f.arrayBuffer()) })),
  );
  const read = await workshop().readGround(parts, site.home);
  if (!read.ok) return read;
  const { bare, terrain, ...fields } = site;
  return keepSite(makeSite(fields, read.terrain), site.name);
}
