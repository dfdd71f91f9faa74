import './frame.css';

/** The frame before there is anything to put in it: the same bars in the same places. */
export function Skeleton() {
  return (
    <div className="frame skeleton" aria-busy="true">
      <header className="top">
        <span className="brand">Mile Thread</span>
      </header>
      <div className="bar" />
      <div className="strip" />
    </div>
  );
}
