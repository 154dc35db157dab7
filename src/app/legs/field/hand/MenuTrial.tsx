import { useState } from 'react';
import { type MenuKey, menuLines, menuStep } from '#core/byHand/menu.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { TextButton } from '../../../ui/TextButton.tsx';

const keys: Readonly<Record<string, MenuKey>> = {
  ArrowUp: 'up',
  ArrowDown: 'down',
  ArrowLeft: 'left',
  ArrowRight: 'right',
};

/** The menu as it stands over the picture, to be learnt by heart at the desk: nothing of it is staged or written. */
export function MenuTrial({ values }: { readonly values: Values }) {
  const [at, setAt] = useState(0);
  const [tried, setTried] = useState<Values>({});
  const [left, setLeft] = useState(false);
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
      <div
        role="application"
        tabIndex={0}
        aria-label="Menu over the picture, a trial: arrows are the right stick"
        className="rounded-[4px] px-3.5 py-3"
        // As letters stand over a picture, whatever the application looks like.
        style={{ background: '#10140f', color: '#ffffff' }}
        onKeyDown={(e) => {
          const key = keys[e.key];
          if (!key || left) return;
          e.preventDefault();
          push(key);
        }}
      >
        <pre className="num text-[14px] text-inherit leading-[19px]" role="status">
          {left ? 'The menu is gone: the picture is there again.' : menuLines(now, at).join('\n')}
        </pre>
      </div>
      <div className="max-w-[300px] text-[13px] text-soft">
        <p>
          In the menu the right stick goes along with up and down, and changes with left and right; each push
          is one step, and is kept on the board at once. Here the arrow keys are that stick, and nothing is
          written.
        </p>
        <p className="mt-1">
          <TextButton onClick={begin}>Begin anew</TextButton>
        </p>
      </div>
    </div>
  );
}
