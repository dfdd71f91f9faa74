import { Select } from 'antd';
import css from './values.module.css';

interface SelectProps<T extends string> {
  /** for screen readers: “Lamp rail, kind” */
  label: string;
  value: T;
  options: readonly { value: T; label: string }[];
  onChange(value: T): void;
}

/** A choice in the inspector: reads like a value until it is opened. */
export function QuietSelect<T extends string>({ label, value, options, onChange }: SelectProps<T>) {
  return (
    <Select<T>
      size="small"
      variant="borderless"
      className={css.rowSelect}
      popupMatchSelectWidth={false}
      value={value}
      options={[...options]}
      aria-label={label}
      onChange={onChange}
    />
  );
}

/** The same with its name on the left. */
export function SelectRow<T extends string>({ name, ...select }: SelectProps<T> & { name: string }) {
  return (
    <div className={css.row}>
      <span>{name}</span>
      <QuietSelect {...select} />
    </div>
  );
}
