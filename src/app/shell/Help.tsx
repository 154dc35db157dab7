import { useApp, useAppDispatch } from '../store/store.ts';
import { uiChanged } from '../store/uiSlice.ts';
import { Panel } from '../ui/Panel.tsx';

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
  ['?', 'this list'],
];

/** The list of keys. */
export default function Help() {
  const open = useApp((s) => s.ui.helpOpen);
  const dispatch = useAppDispatch();
  return (
    <Panel open={open} onClose={() => dispatch(uiChanged({ helpOpen: false }))} title="Keys">
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
