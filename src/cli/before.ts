import { launchOf } from '#core/airframe/launch.ts';
import { knownDescription } from '#core/board/boardRef.ts';
import { placeNames, type WalkLine, walkLines, walkPlaces, wanting } from '#core/field/walk.ts';
import type { CraftFile } from '#core/formats/craftFile.ts';
import { usualScenario } from '#core/formats/scenario.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { Site } from '#core/site/site.ts';
import { say } from './output.ts';

/** What is proven, stale and to do before a flight; exit code 1 while anything is. @param blocking titles of findings that block flight */
export function showBefore(
  craft: CraftFile,
  values: Values,
  site: Site,
  blocking: readonly string[],
  json: boolean,
): number {
  const { airframe, board, bench, plan, proofs, edits } = craft;
  const lines = walkLines({
    world: {
      ...{ values, airframe, board, site, plan },
      description: knownDescription(board),
      built: bench,
      scenario: usualScenario(site.home),
    },
    ...{ proofs, blocking, units: 'metric', now: new Date() },
    launchMps: launchOf(airframe)?.speedMps,
    waiting: board.serial ? Object.keys(edits).length : null,
  });
  const left = wanting(lines);
  if (json) say(`${JSON.stringify({ craft: craft.name, left: left.length, lines }, null, 2)}\n`);
  else {
    for (const place of walkPlaces) {
      say(`${placeNames[place]}\n`);
      for (const line of lines.filter((l) => l.place === place)) say(`  ${inWords(line)}\n`);
    }
    say(
      `${craft.name}: ${left.length === 0 ? 'all of it is proven' : `${left.length} to do, next: ${left[0]!.title}`}.\n`,
    );
  }
  return left.length === 0 ? 0 : 1;
}

const marks: Readonly<Record<WalkLine['state'], string>> = {
  proven: 'proven',
  stale: 'stale',
  open: 'to do',
  blocked: 'BLOCKED',
};

function inWords({ state, title, look, seen, at, why }: WalkLine): string {
  const figure = seen ? `${seen}${at ? `, ${at.slice(0, 10)}` : ''}` : '';
  const rest =
    state === 'proven' ? figure : [why, figure && `was: ${figure}`].filter(Boolean).join('; ') || look;
  return `${marks[state].padEnd(8)} ${title}${rest ? `: ${rest}` : ''}`;
}
