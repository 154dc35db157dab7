import type { Airframe } from '#core/airframe/airframe.ts';
import { refTo } from '#core/board/boardRef.ts';
import { boardOf } from '#core/board/boards.ts';
import { describeBoard } from '#core/board/describe.ts';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import { CRAFT_FORMAT, CRAFT_VERSION, type CraftFile, readCraftFile } from '#core/formats/craftFile.ts';
import { Catalogue, sameValue, type Values } from '#core/settings/catalogue.ts';
import { preparedSettings } from '#core/settings/preparedSettings.ts';
import { bareSite } from '#core/site/site.ts';
import asFound from '#demo/turnstone-as-found.wanderweg.json?raw';
import { desk } from '../crafts/index.ts';
import { goToSiteOf } from '../sites.ts';
import type { KnownFirmware } from '../store/settingsSlice.ts';
import { store } from '../store/store.ts';
import { bench } from '../workers/index.ts';

/** The ways to a craft: the demo, one's own, a file. Loaded when one of them is gone. */

export type Opened =
  | { readonly ok: true; readonly name: string }
  | { readonly ok: false; readonly why: string };

/** Why the settings of a file are not of a firmware; null where they are. */
function notOfFirmware({ settings, edits }: CraftFile, known: KnownFirmware): string | null {
  const catalogue = new Catalogue(known.entries, known.rules);
  const mine = (values: Values) =>
    Object.fromEntries(Object.entries(values).filter(([key]) => catalogue.entry(key)));
  if (Object.keys(settings).length > 0 && Object.keys(mine({ ...settings, ...edits })).length === 0)
    return 'None of the settings in the file belong to the firmware this application knows. Nothing was changed.';
  // What a rule between settings forbids is found at its station; a value that can be no value is not let in.
  const wrong = [mine(settings), mine(edits)]
    .flatMap((values) => catalogue.check(values))
    .filter((r) => r.code !== 'rule');
  if (wrong.length === 0) return null;
  const more = wrong.length > 3 ? ` And ${wrong.length - 3} more.` : '';
  return `Settings in the file are not right: ${wrong
    .slice(0, 3)
    .map((r) => r.why)
    .join(' ')}${more} Nothing was changed.`;
}

/** Opens a craft from a file's text, beside those that are kept. On any fault nothing changes. */
export async function openCraftText(text: string): Promise<Opened> {
  const read = readCraftFile(text);
  if (!read.ok) return read;
  const known = await bench.knownFirmware();
  const why = notOfFirmware(read.craft, known);
  if (why) return { ok: false, why };
  await desk.add(read.craft);
  return { ok: true, name: read.craft.name };
}

/** Walks with the demo: its craft has honest mistakes. Opened where it is kept, else taken anew. */
export async function walkDemo(): Promise<void> {
  if (await desk.open('demo')) return;
  const demo = readCraftFile(asFound);
  if (!demo.ok) throw new Error(demo.why);
  await desk.add(demo.craft, { demo: true });
}

/** What a craft of one's own begins with. */
export interface Beginning {
  readonly airframe: Airframe;
  /** Make of the board; one that is plugged in later takes its place. */
  readonly target: string;
  /** Site that it is for; undefined for none yet. */
  readonly site: string | undefined;
}

/**
 * Begins a craft beside those that are kept: wired in the usual way on the bench, its board as it comes, the settings
 * that follow from its dimensions waiting as edits.
 */
export async function beginCraft({ airframe, target, site }: Beginning): Promise<void> {
  const model = boardOf(target);
  if (!model) throw new Error(`Nothing is known of a board ${target}.`);
  const known = await bench.knownFirmware();
  const { home, year } = await goToSiteOf(site, store.getState().rehearsal.scenario.home);
  const there = store.getState().site.current;
  const defaults = Object.fromEntries(known.entries.map((e) => [e.key, e.default]));
  const wanted = preparedSettings(
    airframe,
    describeBoard(model),
    there ?? bareSite(home, year),
    site !== undefined,
  );
  const edits = Object.fromEntries(
    Object.entries(wanted).filter(([k, v]) => k in defaults && !sameValue(defaults[k], v)),
  );
  await desk.add({
    format: CRAFT_FORMAT,
    version: CRAFT_VERSION,
    name: airframe.name,
    board: refTo(model, 'Pfad', known.version),
    airframe,
    settings: {},
    edits,
    proofs: [],
    notes: '',
    setup: '',
    ...(site === undefined ? {} : { site }),
    bench: truthFromSettings(airframe, { ...defaults, ...wanted }),
  });
}
