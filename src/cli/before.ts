import { launchOf } from '#core/airframe/launch.ts';
import { knownDescription } from '#core/board/boardRef.ts';
import { placeNames, type WalkLine, walkLines, walkPlaces, wanting } from '#core/field/walk.ts';
import type { Finding } from '#core/findings/rule.ts';
import type { CraftFile } from '#core/formats/craftFile.ts';
import { usualScenario } from '#core/formats/scenario.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { Site } from '#core/site/site.ts';
import { say } from './output.ts';

/** Everything before, in and after a flight of a craft as its file holds it. */
export function walkOf(
  { airframe, board, bench, plan, proofs, edits }: CraftFile,
  values: Values,
  site: Site,
  findings: readonly Finding[],
  now: Date,
): readonly WalkLine[] {
  return walkLines({
    world: {
      ...{ values, airframe, board, site, plan },
      description: knownDescription(board),
      built: bench,
      scenario: usualScenario(site.home),
    },
    ...{ proofs, units: 'metric', now },
    blocking: findings.filter((f) => f.severity === 'blocks').map((f) => `${f.title}.`),
    launchMps: launchOf(airframe)?.speedMps,
    waiting: board.serial ? Object.keys(edits).length : null,
  });
}

/** What is proven, stale and to do before a flight; exit code 1 while anything is. */
export function showBefore(
  craft: CraftFile,
  values: Values,
  site: Site,
  findings: readonly Finding[],
  json: boolean,
): number {
  const lines = walkOf(craft, values, site, findings, new Date());
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
