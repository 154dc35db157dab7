import { useState } from 'react';
import { type MenuKey, menuLines, menuSeen, menuStep } from '#core/byHand/menu.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { useSampled } from '../../../live/hooks.ts';
import { live } from '../../../live/telemetry.ts';
import { TextButton } from '../../../ui/TextButton.tsx';

const keys: Readonly<Record<string, MenuKey>> = {
  ArrowUp: 'up',
  ArrowDown: 'down',
  ArrowLeft: 'left',
  ArrowRight: 'right',
};

const LOOK_MS = 100;
/** As letters stand over a picture, whatever the application looks like. */
const overPicture = {
  className: 'rounded-[4px] px-3.5 py-3',
  style: { background: '#10140f', color: '#ffffff' },
} as const;
const letters = 'code text-[14px] text-inherit leading-[19px]';

/** The menu as it stands over the picture: the board's own while it is open there, else one to be learnt by heart, of which nothing is staged or written. */
export function MenuTrial({ values }: { readonly values: Values }) {
  const [at, setAt] = useState(0);
  const [tried, setTried] = useState<Values>({});
  const [left, setLeft] = useState(false);
  const onBoard = useSampled(() => {
    const overlay = live('overlay');
    return overlay && menuSeen(overlay.cells, overlay.columns);
  }, LOOK_MS);
  const now = { ...values, ...tried };
  const push = (key: MenuKey) => {
    const step = menuStep(now, at, key);
    setAt(step.at);
    setTried({ ...tried, ...step.edits });
    if (step.leave) setLeft(true);
  };
  const begin = () => {
    setAt(0);
    setTried({});
    setLeft(false);
  };
  return (
    <div className="flex flex-wrap items-start gap-5">
      {onBoard ? (
        <section
          aria-label="The board’s menu now"
          className={overPicture.className}
          style={overPicture.style}
        >
          <pre className={letters}>{onBoard.join('\n')}</pre>
        </section>
      ) : (
        <div
          role="application"
          tabIndex={0}
          aria-label="Menu over the picture, a trial: arrows are the right stick"
          className={overPicture.className}
          style={overPicture.style}
          onKeyDown={(e) => {
            const key = keys[e.key];
            if (!key || left) return;
            e.preventDefault();
            push(key);
          }}
        >
          <pre className={letters} role="status">
            {left ? 'The menu is gone: the picture is there again.' : menuLines(now, at).join('\n')}
          </pre>
        </div>
      )}
      <div className="max-w-[300px] text-[13px] text-soft">
        <p>
          In the menu the right stick goes along with up and down, and changes with left and right; each push
          is one step, and is kept on the board at once.
        </p>
        {onBoard ? (
          <p className="mt-1 text-ink">This is the board’s own, open now: what the stick changes is kept.</p>
        ) : (
          <>
            <p className="mt-1">Here the arrow keys are that stick, and nothing is written.</p>
            <p className="mt-1">
              <TextButton onClick={begin}>Begin anew</TextButton>
            </p>
          </>
        )}
      </div>
    </div>
  );
}
