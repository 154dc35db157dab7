import { useState } from 'react';
import type { OverlayProblem } from '#core/overlay/check.ts';
import type { Edits } from '#core/settings/draft.ts';
import { TextButton } from '../../../ui/TextButton.tsx';

interface Props {
  readonly problems: readonly OverlayProblem[];
  /** Edits that put right all that has a mend. */
  readonly mended: () => Edits;
  readonly onPut: (edits: Edits) => void;
}

/** What is wrong with a layout: the worst of it in full, the rest when it is asked for. */
export function ProblemList({ problems, mended, onPut }: Props) {
  const [open, setOpen] = useState(false);
  const [first, ...rest] = problems;
  if (!first) return null;
  const grave = problems.filter((p) => p.kind !== 'symbol');
  return (
    <div
      className={`mt-3 border-l-2 pl-3 ${grave.length > 0 ? 'border-red' : 'border-contour'}`}
      role="status"
    >
      <Problem problem={first} onPut={onPut} />
      {rest.length > 0 && (
        <p className="mt-0.5 flex gap-4 text-[13px]">
          <TextButton tone="soft" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? 'fewer' : `${rest.length} more`}
          </TextButton>
          {grave.filter((p) => p.mend).length > 1 && (
            <TextButton tone="forest" onClick={() => onPut(mended())}>
              Put all of it right
            </TextButton>
          )}
        </p>
      )}
      {open && (
        <ul className="text-[13px]">
          {rest.map((p) => (
            <li key={p.says} className="mt-0.5">
              <Problem problem={p} onPut={onPut} />
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

function Problem({
  problem,
  onPut,
}: {
  readonly problem: OverlayProblem;
  readonly onPut: (edits: Edits) => void;
}) {
  const { says, mend } = problem;
  return (
    <p>
      {says}{' '}
      {mend && (
        <TextButton tone="forest" onClick={() => onPut(mend.edits)}>
          {mend.label}
        </TextButton>
      )}
    </p>
  );
}
