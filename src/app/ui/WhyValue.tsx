import { Popover } from 'radix-ui';
import { sameValue } from '#core/settings/catalogue.ts';
import { valueText } from '#core/settings/valueText.ts';
import { useStartingValues } from '../startingValues.ts';
import { selectCatalogue, selectValues } from '../store/selectors.ts';
import { staged } from '../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { Button } from './Button.tsx';
import { textLook } from './TextButton.tsx';
import { Told } from './Told.tsx';

/** Beside a setting that has a starting value: what that is, and why. Nothing beside others. */
export function WhyValue({ name }: { readonly name: string }) {
  const starting = useStartingValues()?.find((s) => s.key === name);
  const entry = useApp(selectCatalogue).entry(name);
  const value = useApp((s) => selectValues(s)[name]);
  const units = useApp((s) => s.ui.units);
  const dispatch = useAppDispatch();
  if (!starting || !entry) return null;
  const same = sameValue(value, starting.value);
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`Why this value: ${entry.label}`}
        className={`px-1 text-[12px] ${textLook(same ? 'faint' : 'amber')} hover:text-ink`}
      >
        why
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          collisionPadding={12}
          className="z-50 w-[280px] rounded-[4px] border border-line bg-sheet p-3 text-[13px] text-ink shadow-xl"
        >
          <p>
            For this craft <b className="num font-medium">{valueText(entry, starting.value, units)}</b>
            {same ? ', as it is.' : `; now ${valueText(entry, value, units)}.`}
          </p>
          <p className="mt-1 text-soft">
            <Told>{starting.why}</Told>
          </p>
          {!same && (
            <Button className="mt-2 py-0!" onClick={() => dispatch(staged({ [name]: starting.value }))}>
              Take it
            </Button>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
