import { Command } from 'cmdk';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import type { StationId } from '#core/findings/rule.ts';
import { valueText } from '#core/settings/valueText.ts';
import { unitSystems } from '#core/units/units.ts';
import { type LegId, legs, pathOf, pathOfLeg, stationLeg } from '../legs/legs.ts';
import { rehearse, writeToBoard } from '../session.ts';
import { selectCatalogue, selectFindings, selectValues } from '../store/selectors.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { redone, undone } from '../store/timeline.ts';
import { type Theme, themeNames, themes, uiChanged } from '../store/uiSlice.ts';
import { useTold } from '../ui/Told.tsx';
import { copySettings, saveCraft } from './CraftMenu.tsx';
import { type Findable, type Kind, legItems, ranked, settingItems, stationItems } from './findable.ts';

const themeWords: Readonly<Record<Theme, string>> = {
  day: 'light mode theme colours',
  dusk: 'dark mode theme night colours',
  sun: 'high contrast sunlight bright outdoors theme colours',
};

/** Settings, stations, findings and actions, by word. */
export default function Palette() {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const catalogue = useApp(selectCatalogue);
  const values = useApp(selectValues);
  const findings = useApp(selectFindings);
  const { units, theme, benchOpen } = useApp((s) => s.ui);
  const told = useTold();
  const close = () => dispatch(uiChanged({ paletteOpen: false }));
  const row =
    'flex cursor-pointer items-baseline gap-3 rounded-[3px] px-3 py-1.5 data-[selected=true]:bg-lake-wash';
  const groupLook =
    '[&_[cmdk-group-heading]]:label [&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2';
  const [query, setQuery] = useState('');
  const actions: Readonly<Record<string, readonly [name: string, words: string, run: () => void]>> = {
    write: ['Write to board', 'save store apply upload send flash settings', () => void writeToBoard()],
    undo: ['Undo', 'take back revert', () => dispatch(undone())],
    redo: ['Redo', 'again', () => dispatch(redone())],
    bench: [
      benchOpen ? 'Close the bench drawer' : 'Open the bench drawer',
      'simulated bench transmitter battery usb cable hands',
      () => dispatch(uiChanged({ benchOpen: !benchOpen })),
    ],
    fly: [
      'Fly a rehearsal',
      'simulate simulation run start flight',
      () => {
        navigate(pathOf('one-flight'));
        void rehearse();
      },
    ],
    findings: [
      'Show all findings',
      'warnings errors problems issues checks validation',
      () => dispatch(uiChanged({ findingsOpen: 'all' })),
    ],
    save: ['Save craft to a file', 'export download backup share', saveCraft],
    crafts: [
      'All craft, and how to begin one',
      'open import load file new craft model switch profile demo begin let go delete recently replaced',
      () => navigate('/craft'),
    ],
    toml: ['Copy settings as TOML', 'export cli dump text clipboard diff', () => void copySettings()],
    ...Object.fromEntries(
      themes
        .filter((t) => t !== theme)
        .map((t) => [`theme-${t}`, [themeNames[t], themeWords[t], () => dispatch(uiChanged({ theme: t }))]]),
    ),
    ...Object.fromEntries(
      unitSystems.map((u) => [
        `units-${u}`,
        [
          `Units: ${u}`,
          'feet knots mph metric imperial aviation measure',
          () => dispatch(uiChanged({ units: u })),
        ],
      ]),
    ),
    help: [
      'Help here, and the keys',
      'shortcuts keyboard manual documentation',
      () => dispatch(uiChanged({ helpOpen: true })),
    ],
  };
  const items: readonly Findable[] = useMemo(
    () => [
      ...Object.entries(actions).map(([id, [name, words]]) => ({
        kind: 'do' as const,
        id,
        name,
        words,
        about: '',
      })),
      ...stationItems,
      ...legItems,
      ...settingItems(catalogue.entries),
      ...findings.map((f) => ({
        kind: 'finding' as const,
        id: f.id,
        name: told(f.title),
        words: f.id,
        about: '',
      })),
    ],
    [catalogue, findings, theme, benchOpen, units],
  );
  const found = ranked(items, query);
  const shown = query.trim() === '' ? found : found.slice(0, MOST_SHOWN);
  const open = (item: Findable) => {
    close();
    if (item.kind === 'do') actions[item.id]![2]();
    else if (item.kind === 'station') navigate(pathOf(item.id as StationId));
    else if (item.kind === 'leg') navigate(pathOfLeg(item.id as LegId, {}));
    else if (item.kind === 'setting') dispatch(uiChanged({ editing: item.id }));
    else {
      const f = findings.find((x) => x.id === item.id);
      if (f) dispatch(uiChanged({ findingsOpen: stationLeg(f.station) }));
    }
  };
  const legOf = (id: string) => legs.find((l) => l.stations.some((s) => s.id === id))!.name;
  const kinds: readonly Kind[] = ['do', 'station', 'leg', 'setting', 'finding'];
  const groups =
    query.trim() === ''
      ? kinds.map((kind) => [kindNames[kind], shown.filter((i) => i.kind === kind)] as const)
      : [['', shown] as const];
  return (
    <Command.Dialog
      open
      onOpenChange={(o) => !o && close()}
      label="Find anything"
      shouldFilter={false}
      overlayClassName="fixed inset-0 z-40 bg-sunk opacity-60"
      contentClassName="fixed left-1/2 top-[12%] z-50 w-[600px] max-w-[92vw] -translate-x-1/2 rounded-[4px] border border-line bg-sheet text-ink shadow-xl"
    >
      <Command.Input
        autoFocus
        value={query}
        onValueChange={setQuery}
        placeholder="A setting, a station, a finding, something to do"
        className="w-full border-line border-b bg-transparent px-3.5 py-3 text-[16px] outline-none"
      />
      <Command.List className="max-h-[52vh] overflow-y-auto p-1">
        {shown.length === 0 && <p className="px-3 py-4 text-soft">Nothing has this word.</p>}
        {groups.map(([heading, list]) => {
          if (list.length === 0) return null;
          const rows = list.map((item) => (
            <Command.Item
              key={`${item.kind} ${item.id}`}
              value={`${item.kind} ${item.id}`}
              className={row}
              onSelect={() => open(item)}
            >
              {item.name}
              {item.kind === 'setting' ? (
                <>
                  {' '}
                  <span className="code text-[12px] text-faint">{item.id}</span>
                  <span className="num ml-auto text-soft">
                    {valueText(catalogue.entry(item.id), values[item.id], units)}
                  </span>
                </>
              ) : (
                <span className="ml-auto text-soft">
                  {item.kind === 'station' ? legOf(item.id) : heading === '' ? kindNames[item.kind] : ''}
                </span>
              )}
            </Command.Item>
          ));
          return heading === '' ? (
            rows
          ) : (
            <Command.Group key={heading} heading={heading} className={groupLook}>
              {rows}
            </Command.Group>
          );
        })}
      </Command.List>
    </Command.Dialog>
  );
}

const MOST_SHOWN = 60;
const kindNames: Readonly<Record<Kind, string>> = {
  do: 'To do',
  station: 'Stations',
  leg: 'Legs',
  setting: 'Settings',
  finding: 'Findings',
};
