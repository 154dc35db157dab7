import { type LessonId, learnFrom, lessons } from '#core/calibration/learn.ts';
import { readSamples } from '#core/formats/samplesTable.ts';
import { magneticField } from '#core/navigation/magneticField.ts';
import { hearBytes } from '#core/sensors/hearBytes.ts';
import { fieldSettings } from '#core/settings/fieldSettings.ts';
import type { Site } from '#core/site/site.ts';
import { BadInput, readBytes, readText } from './input.ts';
import { say } from './output.ts';

const MAX_SAMPLES_BYTES = 100_000_000;
const MAX_HEARD_BYTES = 16_000_000;

const isLesson = (name: string): name is LessonId => (lessons as readonly string[]).includes(name);

/** What recorded samples teach, and the edits that follow; exit code 1 where they are refused. */
export function learnFile(lesson: string, file: string, site: Site | null, json: boolean): number {
  if (!isLesson(lesson))
    throw new BadInput(`There is no lesson ${lesson}; there are ${lessons.join(', ')}. Nothing was done.`);
  const read = readSamples(readText(file, MAX_SAMPLES_BYTES));
  if (!read.ok) throw new BadInput(`${file}: ${read.why}`);
  const place = site && placeOf(site);
  const learnt = learnFrom(lesson, read.table, place);
  if (json) say(`${JSON.stringify({ ...learnt, rows: read.table.rows }, null, 2)}\n`);
  else if (learnt.ok) {
    say(`${learnt.says}\n`);
    for (const [name, value] of Object.entries(learnt.figures))
      if (Number.isFinite(value)) say(`  ${name.padEnd(18)} ${Number(value.toPrecision(4))}\n`);
    say('Edits that follow:\n');
    for (const [key, value] of Object.entries(learnt.edits)) say(`  ${key} = ${value}\n`);
  } else say(`${learnt.refused}\n`);
  return learnt.ok ? 0 : 1;
}

function placeOf(site: Site) {
  const f = magneticField(site.home.lat, site.home.lon, site.home.heightM, site.year);
  return { model: { strength: f.strengthNt / 1000, dip: f.inclination }, settings: fieldSettings(site) };
}

/** What a recorded port carries; exit code 1 where it is no GNSS receiver. */
export function hearFile(file: string, json: boolean): number {
  const heard = hearBytes(readBytes(file, MAX_HEARD_BYTES));
  if (json) say(`${JSON.stringify(heard, null, 2)}\n`);
  else say(`${heard.says}\n`);
  return heard.kind === 'sentences' ? 0 : 1;
}
