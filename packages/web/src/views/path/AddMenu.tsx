import { STAGE_KINDS } from '@mile-thread/core/model';
import { Dropdown } from 'antd';
import css from './drawing.module.css';

export interface AddProps {
  x: number;
  y: number;
  label: string;
  /** a stage kind, or `load` */
  onAdd(what: string): void;
}

const ITEMS = [
  { key: 'load', label: 'Load' },
  { type: 'divider' as const },
  ...Object.entries(STAGE_KINDS).map(([key, { label }]) => ({ key, label: `${label} stage` })),
];

/** A small plus on a rail: hangs a load or a stage on it. */
export function AddMenu({ x, y, label, onAdd }: AddProps) {
  return (
    <Dropdown trigger={['click']} menu={{ items: ITEMS, onClick: ({ key }) => onAdd(key) }}>
      <button
        type="button"
        className={css.add}
        style={{ left: x - 9, top: y - 9 }}
        aria-label={label}
        title={label}
      >
        +
      </button>
    </Dropdown>
  );
}
