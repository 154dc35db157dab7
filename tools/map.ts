/** `npm run map`: draws docs/architecture.svg, the layers with their sizes and who imports whom, from the sources. */
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const OUT = 'docs/architecture.svg';
/** Where each layer stands: column and row, upper ones import lower ones. */
const places: Readonly<Record<string, readonly [number, number]>> = {
  app: [0, 0],
  cli: [1, 0],
  server: [2, 0],
  link: [0, 1],
  bench: [1, 1],
  firmware: [2, 1],
  core: [1, 2],
};
const [WIDE, HIGH, GAP_X, GAP_Y, EDGE] = [190, 74, 60, 96, 24];

interface Layer {
  files: number;
  lines: number;
  testLines: number;
  readonly imports: Map<string, number>;
}

function sources(dir: string): string[] {
  return readdirSync(dir, { withFileTypes: true }).flatMap((e) => {
    const path = join(dir, e.name);
    return e.isDirectory() ? sources(path) : /\.tsx?$/.test(e.name) ? [path] : [];
  });
}

function measure(name: string): Layer {
  const layer: Layer = { files: 0, lines: 0, testLines: 0, imports: new Map() };
  for (const file of sources(join('src', name))) {
    const text = readFileSync(file, 'utf8');
    const lines = text.split('\n').length - 1;
    if (file.endsWith('.test.ts')) {
      layer.testLines += lines;
      continue;
    }
    layer.files++;
    layer.lines += lines;
    for (const m of text.matchAll(/(?:from|import\() ?'#(\w+)\//g)) {
      const to = m[1]!;
      if (to !== name && to in places) layer.imports.set(to, (layer.imports.get(to) ?? 0) + 1);
    }
  }
  return layer;
}

const corner = (name: string) => {
  const [column, row] = places[name]!;
  return [EDGE + column * (WIDE + GAP_X), EDGE + row * (HIGH + GAP_Y)] as const;
};

function arrow(from: string, to: string, count: number): string {
  const [ax, ay] = corner(from);
  const [bx, by] = corner(to);
  const level = ay === by;
  const [x1, y1] = level ? [ax + WIDE, ay + HIGH / 2] : [ax + WIDE / 2 + (bx - ax) * 0.12, ay + HIGH];
  const [x2, y2] = level ? [bx, by + HIGH / 2] : [bx + WIDE / 2 + (ax - bx) * 0.2, by - 4];
  const [tx, ty] = [x1 + 0.36 * (x2 - x1), y1 + 0.36 * (y2 - y1)];
  return `<path d="M${x1} ${y1} L${x2.toFixed(1)} ${y2}" marker-end="url(#tip)"/><text x="${tx.toFixed(1)}" y="${(ty - 3).toFixed(1)}" class="count">${count}</text>`;
}

const names = Object.keys(places);
const layers = new Map(names.map((n) => [n, measure(n)]));
const arrows = names.flatMap((from) =>
  [...layers.get(from)!.imports].sort(([a], [b]) => (a < b ? -1 : 1)).map(([to, n]) => arrow(from, to, n)),
);
const boxes = names.map((name) => {
  const [x, y] = corner(name);
  const { files, lines, testLines } = layers.get(name)!;
  return `<rect x="${x}" y="${y}" width="${WIDE}" height="${HIGH}" rx="4"/>
<text x="${x + 12}" y="${y + 26}" class="name">${name}</text>
<text x="${x + 12}" y="${y + 45}">${files} files, ${lines} lines</text>
<text x="${x + 12}" y="${y + 62}">${testLines} lines of tests</text>`;
});
const width = 2 * EDGE + 3 * WIDE + 2 * GAP_X;
const height = 2 * EDGE + 3 * HIGH + 2 * GAP_Y;
writeFileSync(
  OUT,
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" font-family="sans-serif" font-size="12" fill="#26332d">
<style>rect{fill:#fcfbf6;stroke:#8a7a58}path{stroke:#2e5d4f;fill:none}.name{font-size:16px;font-weight:600}.count{fill:#2e5d4f;font-size:11px;paint-order:stroke;stroke:#f7f4ea;stroke-width:4px}</style>
<defs><marker id="tip" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="7" markerHeight="7" orient="auto"><path d="M0 0 L8 4 L0 8"/></marker></defs>
<rect width="100%" height="100%" style="fill:#f7f4ea;stroke:none"/>
${arrows.join('\n')}
${boxes.join('\n')}
</svg>
`,
);
process.stderr.write(`${OUT} drawn.\n`);
