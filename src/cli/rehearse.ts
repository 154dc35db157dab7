import { rehearse } from '#bench/rehearsal.ts';
import { REHEARSAL_START_MS, trackToGpx } from '#core/formats/gpx.ts';
import { luckOf, verdictWords } from '#core/formats/rehearsalResult.ts';
import { formatClock } from '#core/units/units.ts';
import { FlightLog } from '#firmware/flightLog.ts';
import { groundNotes, readRehearsal, type Where } from './craftInput.ts';
import { BadInput, write } from './input.ts';
import { complain, say } from './output.ts';

/** The batch in words: one line a strength, how many of each direction come home. */
export async function flyBatch(
  craftFile: string,
  scenarioFile: string,
  json: boolean,
  where: Where,
): Promise<number> {
  const { input } = readRehearsal(craftFile, scenarioFile, where);
  const { rehearseBatch } = await import('./batch.ts');
  const tell = process.stderr.isTTY;
  const flights = await rehearseBatch(input, undefined, (done, total) => {
    if (tell) process.stderr.write(`\r${done} of ${total} flown`);
  });
  if (tell) complain('\n');
  const home = flights.filter((f) => f.verdict === 'home').length;
  if (json) say(`${JSON.stringify({ flights, home, total: flights.length })}\n`);
  else {
    const speeds = [...new Set(flights.map((f) => f.speedMps))];
    const directions = [...new Set(flights.map((f) => f.fromDeg))];
    say(`wind from  ${directions.map((d) => String(Math.round(d)).padStart(4)).join('')}\n`);
    for (const speed of speeds) {
      const cells = directions.map((d) => {
        const here = flights.filter((f) => f.speedMps === speed && f.fromDeg === d);
        return ` ${here.filter((f) => f.verdict === 'home').length}/${here.length}`;
      });
      say(`${String(speed).padStart(4)} m/s   ${cells.join('')}\n`);
    }
    say(`${home} of ${flights.length} come home.\n`);
  }
  return home === flights.length ? 0 : 1;
}

export async function fly(
  craftFile: string,
  scenarioFile: string,
  json: boolean,
  out: { readonly gpx: string | undefined; readonly log: string | undefined; readonly once: boolean },
  where: Where,
): Promise<number> {
  const { craft, input } = readRehearsal(craftFile, scenarioFile, where);
  const log = out.log === undefined ? null : new FlightLog();
  // The other seeds fly on threads of their own while this one flies here.
  const beside = out.once ? null : import('./batch.ts').then((m) => m.otherSeeds(input));
  const flown = rehearse(log ? { ...input, log } : input);
  const result = beside && flown.seconds > 0 ? { ...flown, others: await beside } : flown;
  const luck = luckOf(result);
  const read = [craftFile, scenarioFile, where.site, where.terrain];
  if (out.gpx !== undefined)
    write('track', out.gpx, trackToGpx(`${craft.name}, rehearsed`, result.track, REHEARSAL_START_MS), read);
  if (log && out.log !== undefined) {
    const last = log.list().at(-1);
    if (!last) throw new BadInput('The board logged nothing: its log rate is off, or it was never armed.');
    write('flight log', out.log, log.read(last.flight, 0, last.bytes)!, read);
  }
  if (json) say(`${JSON.stringify({ ...result, luck })}\n`);
  else {
    say(`${verdictWords[result.verdict]}. ${result.reason}\n`);
    if (luck) say(`${luck}\n`);
    for (const text of groundNotes(craft, input.site)) say(`  ${text}\n`);
    for (const edge of result.verdict === 'home' ? result.near : []) say(`  near an edge: ${edge}\n`);
    if (result.settings.length > 0) say(`  settings to look at: ${result.settings.join(', ')}\n`);
    for (const d of result.decisions) say(`  ${formatClock(Math.max(0, d.atS))}  ${d.text}\n`);
    for (const s of result.lostLink) say(`  ${formatClock(s.atS)}  link ${s.state}\n`);
    say(`  nearest ${result.closestM.toFixed(0)} m from home, ${result.usedWh.toFixed(1)} Wh used\n`);
    if (!craft.bench)
      say(
        '  The file does not say how the craft is built, so every output was taken to move as its settings say.\n',
      );
  }
  return result.verdict === 'home' ? 0 : 1;
}
