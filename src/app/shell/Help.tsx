import type { Need, Station } from '../legs/station.ts';
import { selectCatalogue } from '../store/selectors.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { uiChanged } from '../store/uiSlice.ts';
import { Panel } from '../ui/Panel.tsx';
import { TextButton } from '../ui/TextButton.tsx';

const keys: readonly (readonly [string, string])[] = [
  ['1 … 7', 'go to a leg'],
  ['J, K', 'next and previous station'],
  ['Ctrl K', 'find anything'],
  ['Ctrl Z, Ctrl Shift Z', 'undo and redo an edit'],
  ['Ctrl S', 'write to the board'],
  ['B', 'open and close the bench drawer'],
  ['F', 'all findings'],
  ['Space', 'hold, where something asks to be held'],
  ['↑ ↓, with Shift', 'step a number, by ten'],
  ['W A S D, arrows', 'the sticks, once the transmitter has the focus'],
  ['?', 'what is done here, and this list'],
];

const needWords: Readonly<Record<Need, string>> = {
  board: 'a board on the cable',
  battery: 'the battery, with the propellers off',
};

/** What is done at the station where one stands, and the list of keys. */
export default function Help({ station }: { readonly station: Station | null }) {
  const open = useApp((s) => s.ui.helpOpen);
  const dispatch = useAppDispatch();
  return (
    <Panel
      open={open}
      onClose={() => dispatch(uiChanged({ helpOpen: false }))}
      title={station?.name ?? 'Keys'}
      lead={station?.about}
    >
      {station && <Here station={station} />}
      <h3 className="label mt-5 mb-2">Keys</h3>
      <dl className="grid grid-cols-[auto_1fr] gap-x-6 gap-y-1.5">
        {keys.map(([k, what]) => (
          <div key={k} className="contents">
            <dt className="num">{k}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Panel>
  );
}

/** What has to be at hand, and which settings are made here. */
function Here({ station }: { readonly station: Station }) {
  const catalogue = useApp(selectCatalogue);
  const dispatch = useAppDispatch();
  const needs = station.needs?.map((n) => needWords[n]).join(' and ') ?? 'nothing but the craft';
  const made = catalogue.entries.filter((e) => station.settings?.test(e.key));
  return (
    <>
      <h3 className="label mb-1">At hand</h3>
      <p>It begins with {needs}.</p>
      {made.length > 0 && (
        <details className="mt-3">
          <summary className="label cursor-pointer">{made.length} settings are made here</summary>
          <ul className="mt-1.5 max-h-[200px] columns-2 gap-x-6 overflow-y-auto">
            {made.map((e) => (
              <li key={e.key}>
                <TextButton
                  tone="lake"
                  className="text-left"
                  onClick={() => dispatch(uiChanged({ helpOpen: false, editing: e.key }))}
                >
                  {e.label}
                </TextButton>
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}
