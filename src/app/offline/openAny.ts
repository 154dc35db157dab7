import { CRAFT_FORMAT } from '#core/formats/craftFile.ts';

/** Files that come from outside: dropped anywhere on the page, or opened from the desktop where the application is installed. */

const MOST_BYTES = 60_000_000;

/**
 * Opens a file by what it says of itself. Nothing is changed where it is none that is known.
 * @returns what became of it, for a person
 */
export async function openAny(file: File): Promise<{ readonly ok: boolean; readonly says: string }> {
  if (file.size > MOST_BYTES)
    return {
      ok: false,
      says: `${file.name} has ${(file.size / 1e6).toFixed(0)} MB, more than anything that is opened like this.`,
    };
  const text = await file.text();
  let format: unknown;
  try {
    format = (JSON.parse(text.replace(/^\uFEFF/, '')) as { format?: unknown } | null)?.format;
  } catch {
    return { ok: false, says: notKnown(file.name) };
  }
  try {
    switch (format) {
      case CRAFT_FORMAT: {
        const { openCraftFile } = await import('../beginning/OpenFile.tsx');
        return {
          ok: true,
          says: `${await openCraftFile(file)} is open. What was open before is kept, at All craft.`,
        };
      }
      case 'wanderweg-site': {
        const { openSiteText } = await import('../sites.ts');
        const kept = await openSiteText(text);
        return kept.ok
          ? { ok: true, says: `The site of ${file.name} is kept and chosen.` }
          : { ok: false, says: `${file.name}: ${kept.why}` };
      }
      case 'wanderweg-history': {
        const { history } = await import('../history/index.ts');
        const why = await history.importText(text);
        return why === null
          ? { ok: true, says: `${file.name} was brought in.` }
          : { ok: false, says: `${file.name}: ${why}` };
      }
      default:
        return { ok: false, says: notKnown(file.name) };
    }
  } catch (error) {
    return { ok: false, says: error instanceof Error ? error.message : String(error) };
  }
}

const notKnown = (name: string) =>
  `${name} is no craft, site or history of ours. Nothing was changed. Logs, routes and layouts are opened at their stations.`;
