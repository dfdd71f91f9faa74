import { NavLink } from 'react-router';
import { OUTSIDE } from './outside.ts';
import css from './bar.module.css';

/** The places outside a thread, in the top bar of each. */
export function OutsidePlaces() {
  return (
    <nav className={css.outside} aria-label="Places">
      {Object.values(OUTSIDE).map(({ name, to }) => (
        <NavLink key={to} to={to} end>
          {name}
        </NavLink>
      ))}
    </nav>
  );
}
