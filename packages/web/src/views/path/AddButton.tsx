import { lazy, Suspense } from 'react';
import type { AddProps } from './AddMenu.tsx';
import css from './drawing.module.css';

/** [ms] from the first plus on: the picture around it comes first. */
const LATER = 300;

const AddMenu = lazy(async () => {
  await new Promise((done) => setTimeout(done, LATER));
  const { AddMenu: menu } = await import('./AddMenu.tsx');
  return { default: menu };
});

/** A small plus on a rail: hangs a load or a stage on it. Its menu comes after the picture. */
export function AddButton(props: AddProps) {
  const { x, y, label } = props;
  const waiting = (
    <button type="button" className={css.add} style={{ left: x - 9, top: y - 9 }} aria-label={label} disabled>
      +
    </button>
  );
  return (
    <Suspense fallback={waiting}>
      <AddMenu {...props} />
    </Suspense>
  );
}
