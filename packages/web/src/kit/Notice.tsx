import type { ReactNode } from 'react';

interface Props {
  title: string;
  /** what it means and what to do */
  text?: ReactNode;
  /** the ways on */
  actions?: ReactNode;
  children?: ReactNode;
}

/** A page in the place of what cannot be shown: says so, and leads on. */
export function Notice({ title, text, actions, children }: Props) {
  return (
    <section className="notice" role="status">
      <h1>{title}</h1>
      {text !== undefined && <p>{text}</p>}
      {children}
      {actions !== undefined && <div className="notice-actions">{actions}</div>}
    </section>
  );
}
