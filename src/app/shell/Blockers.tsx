import { Popover } from 'radix-ui';
import type { Status } from '#core/wire/telemetry.ts';
import { textLook } from '../ui/TextButton.tsx';
import { Told } from '../ui/Told.tsx';

/** Why the craft does not arm, each blocker explained. */
export default function Blockers({ blockers }: { readonly blockers: Status['blockers'] }) {
  if (blockers.length === 0) return <span>no, ready</span>;
  return (
    <Popover.Root>
      <Popover.Trigger className={textLook()}>
        no, {blockers.length} {blockers.length === 1 ? 'blocker' : 'blockers'}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="left"
          sideOffset={8}
          className="z-50 w-80 rounded-[4px] border border-line bg-sheet p-3 text-ink shadow-xl"
        >
          <h3 className="label">What stands in the way of arming</h3>
          <ul className="mt-1.5 space-y-1">
            {blockers.map((b) => (
              <li key={b.id}>
                <Told>{b.why}</Told>
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
