import { Command } from 'cmdk';
import { useNavigate } from 'react-router';
import { legs, pathOf, stationLeg } from '../legs/legs.ts';
import { rehearse, writeToBoard } from '../session.ts';
import { selectCatalogue, selectFindings, selectValues } from '../store/selectors.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { redone, undone } from '../store/timeline.ts';
import { uiChanged } from '../store/uiSlice.ts';
import { valueText } from '../ui/valueText.ts';
import { copySettings, saveCraft } from './CraftMenu.tsx';

/** Every word searched for has to be there; a name that begins with it comes first. */
function matches(value: string, search: string): number {
  const text = value.toLowerCase();
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  if (!words.every((w) => text.includes(w))) return 0;
  return text.startsWith(words[0] ?? '') ? 1 : 0.5;
}

/** Settings, stations, findings and actions, by word. */
export default function Palette() {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const catalogue = useApp(selectCatalogue);
  const values = useApp(selectValues);
  const findings = useApp(selectFindings);
  const { units, theme, benchOpen } = useApp((s) => s.ui);
  const close = () => dispatch(uiChanged({ paletteOpen: false }));
  const go = (action: () => void) => () => {
    close();
    action();
  };
  const row =
    'flex cursor-pointer items-baseline gap-3 rounded-[3px] px-3 py-1.5 data-[selected=true]:bg-lake-wash';
  const heading =
    '[&_[cmdk-group-heading]]:label [&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2';
  return (
    <Command.Dialog
      open
      onOpenChange={(o) => !o && close()}
      label="Find anything"
      filter={matches}
      overlayClassName="fixed inset-0 z-40 bg-sunk opacity-60"
      contentClassName="fixed left-1/2 top-[12%] z-50 w-[600px] max-w-[92vw] -translate-x-1/2 rounded-[4px] border border-line bg-sheet text-ink shadow-xl"
    >
      <Command.Input
        autoFocus
        placeholder="A setting, a station, a finding, something to do"
        className="w-full border-line border-b bg-transparent px-3.5 py-3 text-[16px] outline-none"
      />
      <Command.List className="max-h-[52vh] overflow-y-auto p-1">
        <Command.Empty className="px-3 py-4 text-soft">Nothing has this word.</Command.Empty>
        <Command.Group heading="To do" className={heading}>
          {(
            [
              ['Write to board', () => void writeToBoard()],
              ['Undo', () => dispatch(undone())],
              ['Redo', () => dispatch(redone())],
              [
                benchOpen ? 'Close the bench drawer' : 'Open the bench drawer',
                () => dispatch(uiChanged({ benchOpen: !benchOpen })),
              ],
              [
                'Fly a rehearsal',
                () => {
                  navigate('/rehearse/one-flight');
                  void rehearse();
                },
              ],
              ['Show all findings', () => dispatch(uiChanged({ findingsOpen: 'all' }))],
              ['Save craft to a file', saveCraft],
              ['Copy settings as TOML', () => void copySettings()],
              [
                theme === 'day' ? 'Dusk' : 'Day',
                () => dispatch(uiChanged({ theme: theme === 'day' ? 'dusk' : 'day' })),
              ],
              ['Help here, and the keys', () => dispatch(uiChanged({ helpOpen: true }))],
            ] as const
          ).map(([name, action]) => (
            <Command.Item key={name} className={row} value={name} onSelect={go(action)}>
              {name}
            </Command.Item>
          ))}
        </Command.Group>
        <Command.Group heading="Stations" className={heading}>
          {legs.flatMap((l) =>
            l.stations.map((s) => (
              <Command.Item
                key={s.id}
                className={row}
                value={`${s.name} ${l.name} ${s.about}`}
                onSelect={go(() => navigate(pathOf(s.id)))}
              >
                {s.name} <span className="ml-auto text-soft">{l.name}</span>
              </Command.Item>
            )),
          )}
        </Command.Group>
        <Command.Group heading="Settings" className={heading}>
          {catalogue.entries.map((e) => (
            <Command.Item
              key={e.key}
              className={row}
              value={`${e.label} ${e.key} ${e.meaning}`}
              onSelect={go(() => dispatch(uiChanged({ editing: e.key })))}
            >
              {e.label} <span className="num text-[12px] text-faint">{e.key}</span>
              <span className="num ml-auto text-soft">{valueText(e, values[e.key], units)}</span>
            </Command.Item>
          ))}
        </Command.Group>
        {findings.length > 0 && (
          <Command.Group heading="Findings" className={heading}>
            {findings.map((f) => (
              <Command.Item
                key={f.id}
                className={row}
                value={`${f.title} ${f.id}`}
                onSelect={go(() => dispatch(uiChanged({ findingsOpen: stationLeg(f.station) })))}
              >
                {f.title}
              </Command.Item>
            ))}
          </Command.Group>
        )}
      </Command.List>
    </Command.Dialog>
  );
}
