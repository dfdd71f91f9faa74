import clsx from 'clsx';
import barCss from '../kit/bar.module.css';
import css from './frame.module.css';
/** The frame before there is anything to put in it: the same bars in the same places. */
export function Skeleton() {
  return (
    <div className={clsx(barCss.frame, css.skeleton)} aria-busy="true">
      <header className={barCss.top}>
        <span className={barCss.brand}>Mile Thread</span>
      </header>
      <div className={css.bar} />
      <div className={css.strip} />
    </div>
  );
}
