import type { ReactNode } from 'react';

/** A station's title and what to do here. */
export function Lead({ title, children }: { readonly title: string; readonly children: ReactNode }) {
  return (
    <header>
      <h1>{title}</h1>
      <p className="mt-0.5 max-w-[660px] text-soft">{children}</p>
    </header>
  );
}
