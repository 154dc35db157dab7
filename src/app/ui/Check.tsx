import type { InputHTMLAttributes, ReactNode } from 'react';

type Props = Omit<InputHTMLAttributes<HTMLInputElement>, 'type'> & {
  /** `radio`: one of several of the same `name`. */
  readonly kind?: 'checkbox' | 'radio';
  readonly children: ReactNode;
  readonly gap?: 'usual' | 'wide';
};

/** Something that is so or not, or one of a few that stand beside each other. */
export function Check({ kind = 'checkbox', children, className = '', ...rest }: Props) {
  return (
    <label className={`inline-flex items-center gap-1.5 has-disabled:opacity-50 ${className}`}>
      <input type={kind} className="accent-forest" {...rest} />
      <span>{children}</span>
    </label>
  );
}
