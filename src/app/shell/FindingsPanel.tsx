import { useNavigate } from 'react-router';
import { GROUND_UNKNOWN } from '#core/site/site.ts';
import { findingsOf, legs, pathOf } from '../legs/legs.ts';
import { selectChecked } from '../store/selectors.ts';
import { staged } from '../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { uiChanged } from '../store/uiSlice.ts';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Told } from '../ui/Told.tsx';

/** Findings of a leg, or all: what, why, where, and a fix that goes to the tray. */
export default function FindingsPanel() {
  const open = useApp((s) => s.ui.findingsOpen);
  const { found: findings, lacking } = useApp(selectChecked);
  const known = useApp((s) => s.site.current?.terrain.known ?? true);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const close = () => dispatch(uiChanged({ findingsOpen: null }));
  const shown = open === null ? [] : findingsOf(findings, open);
  const leg = legs.find((l) => l.id === open);
  return (
    <Panel
      open={open !== null}
      onClose={close}
      side="right"
      title={leg ? `Findings of ${leg.name}` : 'All findings'}
      lead="Checked all the time over the craft and the edits that wait."
    >
      {shown.length === 0 && <p className="text-forest">Nothing is found here.</p>}
      {!known && <p className="mb-3 text-amber">{GROUND_UNKNOWN}</p>}
      {lacking.length > 0 && (
        <p className="mb-3 text-soft">
          Not everything could be looked at: the board has no setting{' '}
          <span className="code text-[13px]">{lacking.join(', ')}</span>.
        </p>
      )}
      <ul className="space-y-3">
        {shown.map((f) => (
          <li
            key={f.id}
            className={`border-l-4 pl-3 ${f.severity === 'blocks' ? 'border-red' : 'border-amber'}`}
          >
            <p className="font-label text-[12px] text-soft">
              {f.severity === 'blocks' ? 'blocks flight' : 'caution'}
            </p>
            <p className="font-semibold">
              <Told>{f.title}</Told>
            </p>
            <p className="text-soft">
              <Told>{f.why}</Told>
            </p>
            <p className="mt-1.5 flex flex-wrap gap-2">
              {f.fix && (
                <Button onClick={() => f.fix && dispatch(staged(f.fix.edits))}>
                  <Told>{f.fix.label}</Told>
                </Button>
              )}
              <Button
                kind="flat"
                onClick={() => {
                  close();
                  navigate(pathOf(f.station));
                }}
              >
                Go there
              </Button>
            </p>
          </li>
        ))}
      </ul>
    </Panel>
  );
}
