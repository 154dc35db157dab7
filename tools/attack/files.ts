import { readFileSync } from 'node:fs';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import { unfitness } from '#core/airframe/fitness.ts';
import { flock } from '#core/airframe/library.ts';
import { rearView, topView } from '#core/airframe/outline.ts';
import { hoverOf, performanceOf } from '#core/airframe/performance.ts';
import { weightsOf } from '#core/airframe/weights.ts';
import { wishesSchema } from '#core/board/wishes.ts';
import { checkAll } from '#core/findings/findings.ts';
import { flownFile } from '#core/flown/flownFiles.ts';
import { openFlown } from '#core/flown/openFlown.ts';
import { figuresOf } from '#core/flown/summary.ts';
import { readTrack } from '#core/flown/trackIn.ts';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import { CRAFT_FORMAT, CRAFT_VERSION, readCraftFile } from '#core/formats/craftFile.ts';
import { inspectImage, writeImage } from '#core/formats/firmwareImage.ts';
import { readHistory, snapshotSchema } from '#core/formats/history.ts';
import { releaseCatalogueSchema } from '#core/formats/releases.ts';
import { parseScenario } from '#core/formats/scenario.ts';
import type { Random } from '#core/math/random.ts';
import { parsed } from '#core/parsed.ts';
import { settingsFromToml, settingsToToml } from '#core/settings/text.ts';
import { parseAsciiGrid } from '#core/site/asciiGrid.ts';
import { bareSite } from '#core/site/site.ts';
import { readSiteFile } from '#core/site/siteFile.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { longLog } from '../../src/testing/longLog.ts';
import { type Attack, answers, hostileValues, mutated, type Outcome, oneOf, whole } from './attack.ts';

const LONGEST_MS = 4000;
const opened = openFlown(longLog(5), 'a log', { lat: 61.9, lon: -12.43 });
if (!opened.ok) throw new Error(opened.why);
const shortFlight = opened.flown;
const demo = (file: string) => readFileSync(new URL(`../../demo/${file}`, import.meta.url), 'utf8');

/** A file of some kind, bent as text or in its parts; what reads it answers with a sentence or with something sound. */
function fileAttack(name: string, texts: readonly string[], read: (text: string) => Outcome): Attack {
  const wholes = texts.map((text) => {
    try {
      return JSON.parse(text) as unknown;
    } catch {
      return null;
    }
  });
  const made = (random: Random): string => {
    const k = whole(random, texts.length);
    const how = whole(random, 10);
    const text = texts[k]!;
    if (how === 0) return text.slice(0, whole(random, text.length));
    if (how === 1) {
      const at = whole(random, text.length);
      return text.slice(0, at) + String.fromCharCode(whole(random, 0x3000)) + text.slice(at + 1);
    }
    if (how === 2)
      return oneOf(random, ['', 'null', '[]', '{}', '[[[[', '"x"', '7', `${'['.repeat(5000)}`, '\u0000']);
    if (wholes[k] === null) {
      const lines = text.split('\n');
      lines.splice(
        whole(random, lines.length),
        1,
        oneOf(random, [lines[whole(random, lines.length)]!, '', 'x = 1']),
      );
      return lines.join('\n');
    }
    let value = mutated(random, wholes[k]);
    if (random.uniform() < 0.3) value = mutated(random, value);
    return JSON.stringify(value, (_, v: unknown) => (typeof v === 'bigint' ? Number(v) : v)) ?? '';
  };
  return {
    name,
    cases: 3000,
    begin: () => (random) => {
      const text = made(random);
      const begun = performance.now();
      const came = answers(() => read(text));
      const ms = performance.now() - begun;
      return came ?? (ms > LONGEST_MS ? `it took ${ms.toFixed(0)} ms for ${text.length} characters` : null);
    },
  };
}

const sentence = (why: string): Outcome =>
  why.length > 8 && /[.:]$|\.$/.test(why.trim()) ? null : `no sentence: "${why}"`;

const crafts = [
  ...['turnstone', 'avocet', 'dunlin', 'knot', 'ruff', 'sandpiper'].map((n) => demo(`${n}.wanderweg.json`)),
  ...flock.map((airframe) =>
    JSON.stringify({
      format: CRAFT_FORMAT,
      version: CRAFT_VERSION,
      name: airframe.name,
      board: { target: 'fell-f7' },
      airframe,
      settings: {},
    }),
  ),
];

/** Whatever is let in is drawn, weighed, checked and flown without a fault. */
const craftFiles = fileAttack('craft files', crafts, (text) => {
  const read = readCraftFile(text);
  if (!read.ok) return sentence(read.why);
  const { airframe } = read.craft;
  topView(airframe);
  rearView(airframe);
  unfitness(airframe);
  weightsOf(airframe);
  if (isRotorcraft(airframe)) hoverOf(airframe);
  else performanceOf(airframe);
  const values = { ...pfadCatalogue.defaults() };
  truthFromSettings(airframe, values);
  checkAll({ airframe, values, catalogue: pfadCatalogue, units: 'metric' });
  return null;
});

const scenarioTexts = ['calm', 'storm', 'link-comes-back'].map((n) => demo(`scenarios/${n}.json`));
const nowhere = bareSite({ lat: 0, lon: 0, heightM: 0 }, 2026);

const toml = settingsToToml(pfadCatalogue, pfadCatalogue.defaults(), 'x');
const manyUnknown = Array.from({ length: 20_000 }, (_, i) => `no.such${i} = 1`).join('\n');
const deep = `${Array.from({ length: 50_000 }, () => 'a').join('.')} = 1`;
const tables = '[[return]]\nheight = 1\n[[return]]\nheight = { a = [{ b = 1 }] }';

const hexImage = writeImage(new Uint8Array(3000).fill(7), {
  product: 'Pfad',
  target: 'fell-f7',
  version: '3.1',
});
const grid = 'ncols 3\nnrows 2\nxllcorner 0\nyllcorner 0\ncellsize 30\nNODATA_value -9999\n1 2 3\n4 5 6\n';

/** Four whole sentences of a receiver that goes north. */
const nmeaTrack = [0, 1, 2, 3]
  .map((k) => `GNRMC,10000${k}.00,A,6154.1${k}000,N,01225.80000,W,20.0,10.0,010626,,,A`)
  .map((said) => {
    const sum = [...said].reduce((s, c) => s ^ c.charCodeAt(0), 0);
    return `$${said}*${sum.toString(16).toUpperCase().padStart(2, '0')}\r\n`;
  })
  .join('');

export const fileAttacks: readonly Attack[] = [
  craftFiles,
  fileAttack(
    'site files',
    [demo('sites/torvholm.wanderweg-site.json')].map((t) => shortened(t)),
    (text) => {
      const read = readSiteFile(text);
      return read.ok ? null : sentence(read.why);
    },
  ),
  fileAttack('scenarios', scenarioTexts, (text) => {
    let raw: unknown;
    try {
      raw = JSON.parse(text);
    } catch {
      return null;
    }
    const read = parseScenario(raw, nowhere);
    return read.ok ? null : sentence(read.why);
  }),
  fileAttack('histories', [demo('turnstone-2.8.wanderweg-history.json')], (text) => {
    const read = readHistory(text);
    return read.ok ? null : sentence(read.why);
  }),
  fileAttack('settings as TOML', [toml, manyUnknown, deep, tables], (text) => {
    const read = settingsFromToml(pfadCatalogue, text);
    if (!read.ok) return read.faults.length > 101 ? 'more faults than anybody reads' : null;
    return pfadCatalogue.check(read.values).every((r) => r.code === 'rule')
      ? null
      : 'a value out of bounds was taken';
  }),
  fileAttack('firmware images', [hexImage], (text) => {
    const read = inspectImage(new TextEncoder().encode(text), 'fell-f7');
    return read.ok ? null : sentence(read.why);
  }),
  fileAttack('ground', [grid, grid.replace('4 5 6', '4 1e308 6')], (text) => {
    try {
      const { heights } = parseAsciiGrid(text, { lat: 0, lon: 0 });
      return heights.every((h) => Math.abs(h) < 20_000) ? null : 'ground beyond the sky was taken';
    } catch (error) {
      return (error as Error).message.length > 8 ? null : 'no words';
    }
  }),
  fileAttack(
    'tracks',
    [flownFile(shortFlight, 'a track', 'gpx', 0), flownFile(shortFlight, 'a track', 'geojson', 0), nmeaTrack],
    (text) => {
      const read = readTrack(text, 'a track');
      if (!read.ok) return sentence(read.why);
      figuresOf(read.flown);
      return null;
    },
  ),
  fileAttack('flight logs', [Buffer.from(longLog(5)).toString('latin1')], (text) => {
    const read = openFlown(Buffer.from(text, 'latin1'), 'A log', { lat: 61.9, lon: -12.43 });
    if (!read.ok) return sentence(read.why);
    figuresOf(read.flown);
    flownFile(read.flown, 'a log', 'gpx', 0);
    return null;
  }),
];

/** The ground of a site is a long text; a short one is bent as well and sooner. */
function shortened(text: string): string {
  const site = JSON.parse(text) as { ground: { columns: number; rows: number; heights: string } };
  const heights = Buffer.alloc(2 * 4 * 4).toString('base64');
  return JSON.stringify({ ...site, ground: { ...site.ground, columns: 4, rows: 4, heights } });
}

/** The value that once threw at nearly every boundary, at all of them. */
export const boundaryAttack: Attack = {
  name: 'one hostile value at every schema',
  cases: 2000,
  begin: () => {
    const schemas = [wishesSchema, snapshotSchema, releaseCatalogueSchema];
    return (random) =>
      answers(() => {
        const value = oneOf(random, hostileValues)();
        const nested = oneOf(random, [
          value,
          [value],
          { name: value, outputs: value, releases: value, id: value },
        ]);
        for (const schema of schemas) {
          const result = parsed(schema, nested);
          if (!result.success && result.error.issues.length === 0) return 'refused without a word';
        }
        return null;
      });
  },
};
