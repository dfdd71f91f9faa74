import { lazy, Suspense } from 'react';
import type { AddProps } from './AddMenu.tsx';

/** When the page has nothing else to do. */
const idle = new Promise<unknown>((done) => {
  if (typeof requestIdleCallback === 'function') requestIdleCallback(done, { timeout: 1500 });
  else setTimeout(done, 300);
});

const AddMenu = lazy(() => idle.then(() => import('./AddMenu.tsx')).then((m) => ({ default: m.AddMenu })));

/** A small plus on a rail: hangs a load or a stage on it. Its menu comes after the picture. */
export function AddButton(props: AddProps) {
  const { x, y, label } = props;
  const waiting = (
    <button type="button" className="add" style={{ left: x - 9, top: y - 9 }} aria-label={label} disabled>
      +
    </button>
  );
  return (
    <Suspense fallback={waiting}>
      <AddMenu {...props} />
    </Suspense>
  );
}
