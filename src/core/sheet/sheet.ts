import { type ActuatorId, actuatorNames, kindNames } from '../airframe/actuators.ts';
import { type Airframe, isRotorcraft, widthOf } from '../airframe/airframe.ts';
import { performanceOf } from '../airframe/performance.ts';
import { type BoardRef, boardTitle } from '../board/boardRef.ts';
import { portUses } from '../board/portUses.ts';
import { placeNames, type WalkLine, walkPlaces } from '../field/walk.ts';
import type { Finding } from '../findings/rule.ts';
import { escapeXml } from '../formats/gpx.ts';
import { modeNames, switchedModes } from '../modes/modes.ts';
import { overlayConfigOf } from '../overlay/config.ts';
import { picturedInText } from '../overlay/draw.ts';
import { itemIds, layoutIds } from '../overlay/items.ts';
import { sampleView } from '../overlay/sample.ts';
import { type Catalogue, sameValue, type Values } from '../settings/catalogue.ts';
import type { StartingValue } from '../settings/startingValues.ts';
import { valueText } from '../settings/valueText.ts';
import { formatQuantity, type UnitId, type UnitSystem } from '../units/units.ts';

/** Everything of a set-up on one sheet. Pure data; equal input gives the same sheet. */
export interface SheetInput {
  readonly name: string;
  readonly airframe: Airframe;
  readonly board: BoardRef;
  readonly values: Values;
  readonly catalogue: Catalogue;
  /** What was worked out for this craft, with its reasons. */
  readonly starting: readonly StartingValue[];
  /** Lines of the walk to the strip: what is proven, stale and to do. */
  readonly lines: readonly WalkLine[];
  readonly findings: readonly Finding[];
  readonly site: string;
  readonly setup: string;
  readonly notes: string;
  readonly units: UnitSystem;
  readonly now: Date;
}

const e = (text: string | number) => escapeXml(String(text));
const cells = (row: readonly (string | number)[], tag = 'td') =>
  `<tr>${row.map((c) => `<${tag}>${e(c)}</${tag}>`).join('')}</tr>`;
const table = (head: readonly string[], rows: readonly (readonly (string | number)[])[]) =>
  rows.length === 0
    ? ''
    : `<table><thead>${cells(head, 'th')}</thead><tbody>${rows.map((r) => cells(r)).join('')}</tbody></table>`;
const section = (title: string, inner: string) =>
  inner === '' ? '' : `<section><h2>${e(title)}</h2>${inner}</section>`;

/** Settings that stand on the sheet in another way than as rows of a list. */
const ELSEWHERE =
  /^(out\.\d+\.(drives|reversed|low|centre|high)|port\.|overlay\.[abc]\.|(arm|mode\.[a-z-]+)\.(channel|from|to)$)/;

const stateWords: Readonly<Record<WalkLine['state'], string>> = {
  proven: 'proven',
  stale: 'changed since',
  open: 'to do',
  blocked: 'in the way',
};

function craftPart({ airframe: a, units }: SheetInput): string {
  const q = (value: number, unit: UnitId, digits?: number) => formatQuantity(value, unit, units, digits);
  const rotors = isRotorcraft(a);
  const flight = rotors ? null : performanceOf(a);
  const m = a.motors[0];
  const rows: (readonly [string, string])[] = [
    ['is a', kindNames[a.kind]],
    [rotors ? 'across' : 'span', q(widthOf(a), 'm')],
    ['mass', q(a.massKg, 'kg')],
    ['balance, behind the nose', q(1000 * a.cgAftM, 'mm', 0)],
    ['battery', `${a.battery.cells} cells ${a.battery.chemistry}, ${q(a.battery.capacityMah, 'mah', 0)}`],
    ...(m
      ? [
          [
            'motors',
            `${a.motors.length}, ${m.kvRpmPerV} rpm/V, propeller ${q(1000 * m.propDiameterM, 'mm', 0)} by ${q(1000 * m.propPitchM, 'mm', 0)}`,
          ] as const,
        ]
      : []),
    ...(flight
      ? ([
          ['stalls at', q(flight.stallMps, 'm/s', 1)],
          ['glides best at', `${q(flight.bestGlideMps, 'm/s', 1)}, ${flight.bestGlideRatio.toFixed(1)} to 1`],
          ['static margin', `${(100 * flight.staticMargin).toFixed(0)} % of the mean chord`],
        ] as const)
      : []),
    ...a.surfaces.map((s) => [`${actuatorNames[s.id]} throw`, `${s.throwDeg}° each way`] as const),
  ];
  return table(['', ''], rows);
}

function wiringPart({ values, catalogue }: SheetInput): string {
  const outputs = catalogue.entries.flatMap(({ key }) => {
    const n = /^out\.(\d+)\.drives$/.exec(key)?.[1];
    const drives = values[key];
    if (!n || drives === 'nothing' || drives === undefined) return [];
    const v = (part: string) => String(values[`out.${n}.${part}`] ?? '');
    return [
      [
        n,
        actuatorNames[drives as ActuatorId] ?? String(drives),
        v('low'),
        v('centre'),
        v('high'),
        values[`out.${n}.reversed`] === true ? 'yes' : '',
      ],
    ];
  });
  const ports = catalogue.entries.flatMap(({ key }) => {
    const n = /^port\.(\d+)\.use$/.exec(key)?.[1];
    const use = values[key];
    if (!n || use === 'free' || use === undefined) return [];
    return [[n, portUses[use as keyof typeof portUses] ?? String(use)]];
  });
  return (
    table(['output', 'drives', 'low, µs', 'centre', 'high', 'reversed'], outputs) +
    table(['port', 'carries'], ports)
  );
}

function switchPart({ values }: SheetInput): string {
  const band = (key: string, name: string) => {
    const channel = values[`${key}.channel`];
    return typeof channel === 'number' && channel > 0
      ? [[name, channel, `${values[`${key}.from`]} to ${values[`${key}.to`]} µs`]]
      : [];
  };
  return table(
    ['', 'channel', 'from and to'],
    [...band('arm', 'armed'), ...switchedModes.flatMap((m) => band(`mode.${m}`, modeNames[m]))],
  );
}

function settingsPart({ values, catalogue, starting, units }: SheetInput): string {
  const why = new Map(starting.map((s) => [s.key, s]));
  let group = '';
  const rows = catalogue.entries.flatMap((entry) => {
    const value = values[entry.key];
    if (value === undefined || sameValue(value, entry.default) || ELSEWHERE.test(entry.key)) return [];
    const computed = why.get(entry.key);
    const reason = !computed
      ? ''
      : sameValue(value, computed.value)
        ? computed.why
        : `Worked out for it: ${valueText(entry, computed.value, units)}.`;
    const row = [
      entry.label || entry.key,
      valueText(entry, value, units),
      valueText(entry, entry.default, units),
      reason,
    ];
    if (entry.group === group) return [cells(row)];
    group = entry.group;
    return [`<tr><th colspan="4" class="group">${e(group)}</th></tr>`, cells(row)];
  });
  return rows.length === 0
    ? '<p>All settings are as delivered.</p>'
    : `<table><thead>${cells(['setting', 'is', 'as delivered', 'why'], 'th')}</thead><tbody>${rows.join('')}</tbody></table>`;
}

function picturePart({ values }: SheetInput): string {
  if (values['overlay.system'] === undefined) return '';
  const c = overlayConfigOf(values);
  const { system } = c;
  if (!system) return '';
  return layoutIds
    .filter((id) => itemIds.some((i) => c.layouts[id][i] >= 0))
    .map((id) => {
      const rows = picturedInText(id, sampleView(c), c, system);
      return `<h3>Layout ${id.toUpperCase()}, ${e(system.name)}</h3><p class="soft">Its figures are of a moment that never was.</p><pre>${e(rows.join('\n'))}</pre>`;
    })
    .join('');
}

function proofPart({ lines }: SheetInput): string {
  return walkPlaces
    .map((place) => {
      const rows = lines
        .filter((l) => l.place === place)
        .map((l) => [
          l.title,
          stateWords[l.state],
          [l.seen, l.at?.slice(0, 10), l.state === 'proven' ? null : l.why].filter(Boolean).join('; ') ||
            l.look,
        ]);
      return rows.length === 0 ? '' : `<h3>${e(placeNames[place])}</h3>${table(['', '', ''], rows)}`;
    })
    .join('');
}

function findingsPart({ findings }: SheetInput): string {
  return table(
    ['', '', ''],
    findings.map((f) => [f.severity === 'blocks' ? 'blocks flight' : 'caution', f.title, f.why]),
  );
}

/** How the sheet looks, on a screen and on paper. */
export const SHEET_STYLE = `
:host, html { color: #22302b; background: #fff; font: 13px/18px "Barlow", system-ui, sans-serif; }
article { max-width: 190mm; margin: 0 auto; padding: 6mm; }
.title { font-size: 24px; line-height: 30px; margin: 0 0 2px; }
h2:not(.title) { font-size: 16px; margin: 18px 0 4px; border-top: 1px solid #d8d1be; padding-top: 10px; }
h3 { font-size: 13px; margin: 10px 0 2px; }
p { margin: 2px 0; }
.soft { color: #5b6660; }
table { border-collapse: collapse; width: 100%; margin: 4px 0 8px; }
td, th { text-align: left; vertical-align: top; padding: 2px 10px 2px 0; border-bottom: 1px solid #ece7d8; }
th { font-weight: 600; color: #5b6660; }
th.group { color: #22302b; padding-top: 8px; }
thead tr:not(:has(th:not(:empty))) { display: none; }
pre { font: 11px/14px "IBM Plex Mono", ui-monospace, monospace; border: 1px solid #d8d1be; padding: 4px 6px; display: inline-block; margin: 2px 0; }
tr, pre, h2, h3 { break-inside: avoid; }
h2, h3 { break-after: avoid; }
@media print { article { padding: 0; } body { margin: 12mm; } }
`;

/** The sheet as what stands in a page. @param title its heading: a page of its own begins with the first */
export function sheetBody(input: SheetInput, title: 'h1' | 'h2' = 'h2'): string {
  const { name, board, site, setup, notes, now } = input;
  const about = [
    boardTitle(board),
    board.firmware && `${board.firmware} ${board.version}`,
    board.serial && `serial ${board.serial}`,
    site && `set up for ${site}`,
    setup && `set-up ${setup}`,
  ].filter(Boolean);
  return [
    `<article><${title} class="title">${e(name)}</${title}>`,
    `<p class="soft">${e(about.join(', '))}. As of ${e(now.toISOString().slice(0, 16).replace('T', ' '))} UTC.</p>`,
    section('The craft', craftPart(input)),
    section('Outputs and ports', wiringPart(input)),
    section('Switches', switchPart(input)),
    section('Settings unlike those delivered', settingsPart(input)),
    section('Over the picture', picturePart(input)),
    section('What is proven', proofPart(input)),
    section('What is found', findingsPart(input) || '<p>Nothing.</p>'),
    section(
      'Notes',
      notes === ''
        ? ''
        : notes
            .split('\n')
            .map((l) => `<p>${e(l)}</p>`)
            .join(''),
    ),
    '</article>',
  ].join('\n');
}

/** The sheet as a file of its own, which needs nothing else to be looked at. */
export const sheetHtml = (input: SheetInput): string =>
  `<!doctype html>\n<html lang="en">\n<head>\n<meta charset="utf-8">\n<meta name="viewport" content="width=device-width, initial-scale=1">\n<title>${e(input.name)}</title>\n<style>${SHEET_STYLE}</style>\n</head>\n<body>\n<main>${sheetBody(input, 'h1')}</main>\n</body>\n</html>\n`;
