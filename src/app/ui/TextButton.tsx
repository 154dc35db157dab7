import type { ButtonHTMLAttributes } from 'react';

type Tone = 'ink' | 'soft' | 'faint' | 'lake' | 'forest' | 'amber' | 'red';

const toneText: Readonly<Record<Tone, string>> = {
  ink: 'text-inherit',
  soft: 'text-soft',
  faint: 'text-faint',
  lake: 'text-lake',
  forest: 'text-forest',
  amber: 'text-amber',
  red: 'text-red',
};

/** How words look that lead somewhere or do something. */
export const textLook = (tone: Tone = 'ink') =>
  `rounded-[3px] underline decoration-dotted underline-offset-2 ${toneText[tone]}`;

/** Something to be done that is said in a line of text. `className` places it; how it looks is its tone. */
export function TextButton({
  tone = 'ink',
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { readonly tone?: Tone }) {
  return (
    <button
      type="button"
      className={`${textLook(tone)} enabled:hover:decoration-solid disabled:no-underline disabled:opacity-55 ${className}`}
      {...rest}
    />
  );
}
