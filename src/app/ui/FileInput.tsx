import type { ReactNode, Ref } from 'react';
import { textLook } from './TextButton.tsx';

interface Props {
  readonly label: string;
  readonly accept: string;
  readonly disabled?: boolean;
  readonly onFile: (file: File) => void;
  /** For a button elsewhere that opens it. */
  readonly ref?: Ref<HTMLInputElement>;
}

/** Asks for a file; the same one may be chosen twice in a row. */
export function FileInput({ label, accept, disabled, onFile, ref }: Props) {
  return (
    <input
      ref={ref}
      type="file"
      accept={accept}
      disabled={disabled}
      aria-label={label}
      className={ref ? 'hidden' : 'sr-only'}
      onChange={(e) => {
        const file = e.target.files?.[0];
        e.target.value = '';
        if (file) onFile(file);
      }}
    />
  );
}

/** Words that ask for a file when they are pressed. */
export function FileWords({ children, ...rest }: Omit<Props, 'ref'> & { readonly children: ReactNode }) {
  return (
    <label
      className={`${textLook()} focus-within:outline-2 ${rest.disabled ? 'opacity-45' : 'cursor-pointer'}`}
    >
      {children}
      <FileInput {...rest} />
    </label>
  );
}

export const JSON_FILES = '.json,application/json';
