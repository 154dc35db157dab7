import { lazy, Suspense, useEffect, useState } from 'react';

/** Short notices at the corner. Their library is loaded with the first one. */
const Corner = lazy(() => import('sonner').then((m) => ({ default: m.Toaster })));
let mount: (() => void) | null = null;

export async function notify(
  text: string,
  action?: { readonly label: string; readonly onClick: () => void },
): Promise<void> {
  mount?.();
  const { toast } = await import('sonner');
  toast(text, action ? { action, duration: 8000 } : {});
}

export function Notices() {
  const [wanted, setWanted] = useState(false);
  useEffect(() => {
    mount = () => setWanted(true);
    return () => {
      mount = null;
    };
  }, []);
  if (!wanted) return null;
  const style = {
    background: 'var(--sheet)',
    color: 'var(--ink)',
    border: '1px solid var(--line)',
    borderRadius: 4,
    fontFamily: 'var(--font-sans)',
  };
  const actionButtonStyle = { background: 'var(--forest)', color: 'var(--on-forest)', borderRadius: 4 };
  return (
    <Suspense>
      <Corner position="bottom-right" offset={64} toastOptions={{ style, actionButtonStyle }} />
    </Suspense>
  );
}
