import { compared } from '#core/flown/compare.ts';
import { type Flown, groundUnder, lastsS, MOST_FLOWN_BYTES } from '#core/flown/flown.ts';
import { flownFile } from '#core/flown/flownFiles.ts';
import { type FlownFormat, flownFormats } from '#core/flown/flownFormats.ts';
import { openFlown } from '#core/flown/openFlown.ts';
import { figuresOf } from '#core/flown/summary.ts';
import { surprisesOf } from '#core/flown/surprises.ts';
import { REHEARSAL_START_MS } from '#core/formats/gpx.ts';
import type { Place } from '#core/navigation/earth.ts';
import { formatClock, formatQuantity } from '#core/units/units.ts';
import { NOWHERE, readCraft, siteFor, type Where } from './craftInput.ts';
import { BadInput, readBytes, write } from './input.ts';
import { say } from './output.ts';

/** Opens a flight log of a board, or a track. @throws BadInput with a sentence */
export function flownIn(file: string, about: Place) {
  const opened = openFlown(readBytes(file, MOST_FLOWN_BYTES), file, about);
  if (!opened.ok) throw new BadInput(opened.why);
  return opened;
}

export interface LogOptions {
  /** Its craft tells stall, battery and fences, so that what surprised is found. */
  readonly craft: string | undefined;
  /** Another flight to lay beside it. */
  readonly with: string | undefined;
  /** Where it is written to, by the name's end as GPX, KML, GeoJSON or CSV. */
  readonly out: string | undefined;
  readonly where: Where;
}

/** A flight in words, or as JSON; beside another where one is named. Exit code 1 where something surprised. */
export function showLog(file: string, options: LogOptions, json: boolean): number {
  const craft = options.craft === undefined ? null : readCraft(options.craft).craft;
  const site = craft ? siteFor(options.craft!, craft, options.where) : null;
  const about = site?.home ?? NOWHERE;
  const opened = flownIn(file, about);
  const { flown, flight } = opened;
  const figures = figuresOf(flown);
  const surprises =
    craft && site
      ? surprisesOf(flown, {
          airframe: craft.airframe,
          plan: craft.plan,
          groundM: groundUnder(flown, site),
          units: 'metric',
        })
      : null;
  const beside =
    options.with === undefined ? null : compared(flown, flownIn(options.with, about).flown, 'metric');
  if (options.out !== undefined) {
    const text = flownFile(flown, file, formatOf(options.out), opened.startMs ?? REHEARSAL_START_MS);
    write('flight', options.out, text, [file, options.craft, options.with]);
  }
  if (json) say(`${JSON.stringify({ ...plain(flown), flight, figures, surprises, beside })}\n`);
  else {
    tell(flown, flight);
    if (surprises) tellSurprises(surprises);
    if (beside) tellBeside(beside);
  }
  return surprises && surprises.length > 0 ? 1 : 0;
}

function formatOf(file: string): FlownFormat {
  const end = file.toLowerCase().split('.').at(-1);
  const format = flownFormats.find((f) => f === end);
  if (!format) throw new BadInput(`${file} ends in none of ${flownFormats.join(', ')}. Nothing was written.`);
  return format;
}

/** Columns as plain lists. */
const plain = ({ seconds, told, mode, ...rest }: Flown) => ({
  ...rest,
  seconds: Array.from(seconds),
  mode: Array.from(mode),
  told: Object.fromEntries(Object.entries(told).map(([name, column]) => [name, Array.from(column)])),
});

function tell(flown: Flown, flight: number | null): void {
  const f = figuresOf(flown);
  const names = Object.keys(flown.told).length;
  say(
    `${flight === null ? 'Track' : `Flight ${flight} on ${flown.firmware}`}: ${formatClock(lastsS(flown))}, ${flown.seconds.length} samples of ${names} numbers.\n`,
  );
  const of = (value: number | undefined, unit: string, words: string, digits = 0) =>
    value === undefined ? [] : [`${formatQuantity(value, unit, 'metric', digits)} ${words}`];
  say(
    `  In the air ${formatClock(f.seconds)}, ${[
      ...of(f.wayM / 1000, 'none', 'km flown', 1),
      ...of(f.farthestM, 'm', 'from home at most'),
      ...of(f.highestM, 'm', 'over it'),
      ...of(f.drawnMah, 'mah', 'drawn'),
      ...of(f.leastV, 'v', 'at least', 2),
      ...of(f.ohm === undefined ? undefined : 1000 * f.ohm, 'none', 'mΩ of battery and lead'),
    ].join(', ')}.\n`,
  );
  if (flown.dropped > 0) say(`  ${flown.dropped} samples were left out: their time ran backwards.\n`);
  if (flown.gaps > 0)
    say(`  Samples are missing at ${flown.gaps} ${flown.gaps === 1 ? 'place' : 'places'}.\n`);
  for (const d of flown.decisions) say(`  ${formatClock(d.atS)}  ${d.text}\n`);
}

function tellSurprises(surprises: ReturnType<typeof surprisesOf>): void {
  if (surprises.length === 0) say('Nothing surprised.\n');
  for (const s of surprises)
    say(
      `surprise  ${formatClock(s.fromS)}  ${s.title} for ${Math.max(1, Math.round(s.toS - s.fromS))} s: ${s.words}${s.again.length > 0 ? `; ${s.again.length} times more` : ''}. ${s.advice}\n`,
    );
}

function tellBeside({ by, offsetS, apartM, facts }: ReturnType<typeof compared>): void {
  say(
    `Beside the other, by ${by}, ${Math.abs(offsetS).toFixed(1)} s ${offsetS < 0 ? 'earlier' : 'later'} there:\n`,
  );
  if (apartM)
    say(
      `  apart by ${apartM.mean.toFixed(0)} m in the mean, ${apartM.most.toFixed(0)} m at most, at ${formatClock(apartM.atS)}\n`,
    );
  for (const { name, first, second, share } of facts)
    say(
      `  ${name}: ${first}, there ${second}${share === null ? '' : ` (${share < 0 ? '' : '+'}${(100 * share).toFixed(0)} %)`}\n`,
    );
}
