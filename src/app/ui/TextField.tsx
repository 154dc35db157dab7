import { useState } from 'react';

interface Props {
  readonly label: string;
  readonly value: string;
  readonly most: number;
  /** What it may consist of; what does not fit is said and not taken. */
  readonly fits: (text: string) => boolean;
  readonly otherwise: string;
  readonly onChange: (text: string) => void;
}

/** Words that are edited where they stand; taken with Enter or when it is left, given up with Escape. */
export function TextField({ label, value, most, fits, otherwise, onChange }: Props) {
  const [text, setText] = useState<string | null>(null);
  const bad = text !== null && !fits(text);
  return (
    <span className="relative inline-flex">
      <input
        aria-label={label}
        aria-invalid={bad}
        maxLength={most}
        value={text ?? value}
        size={Math.max(8, Math.min(most, (text ?? value).length + 1))}
        className={`rounded-[3px] border-b border-dotted bg-transparent px-0.5 hover:bg-lake-wash focus:bg-lake-wash ${bad ? 'border-red text-red' : 'border-contour text-ink'}`}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur();
          else if (e.key === 'Escape') setText(null);
        }}
        onBlur={() => {
          if (text !== null && !bad && text !== value) onChange(text);
          setText(null);
        }}
      />
      {bad && (
        <span
          role="alert"
          className="absolute top-full left-0 z-20 mt-0.5 w-max max-w-60 rounded-[3px] bg-red-wash px-1.5 py-0.5 text-[12px] text-red leading-4"
        >
          {otherwise}
        </span>
      )}
    </span>
  );
}
