import { useNavigate } from 'react-router';
import { valueText } from '#core/settings/valueText.ts';
import { madeAt, pathOf } from '../legs/legs.ts';
import { selectCatalogue } from '../store/selectors.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { uiChanged } from '../store/uiSlice.ts';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';
import { AnySettingField } from '../ui/SettingField.tsx';

/** One setting, found by name, with its meaning. */
export default function SettingEditor() {
  const key = useApp((s) => s.ui.editing);
  const entry = useApp(selectCatalogue).entry(key ?? '');
  const units = useApp((s) => s.ui.units);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const close = () => dispatch(uiChanged({ editing: null }));
  const station = entry ? madeAt(entry.key) : null;
  return (
    <Panel open={key !== null} onClose={close} title={entry?.label ?? 'Setting'}>
      {entry && (
        <>
          <p>{entry.meaning}</p>
          <p className="my-4">
            <AnySettingField name={entry.key} size="large" />
          </p>
          <p className="text-soft">
            As delivered {valueText(entry, entry.default, units)}. Takes effect{' '}
            {entry.effect === 'now' ? 'at once' : 'after a restart'}.{' '}
            <span className="num text-[13px]">{entry.key}</span>
          </p>
          {station && (
            <p className="mt-4">
              <Button
                kind="flat"
                onClick={() => {
                  close();
                  navigate(pathOf(station.id));
                }}
              >
                Go to {station.name}
              </Button>
            </p>
          )}
        </>
      )}
    </Panel>
  );
}
