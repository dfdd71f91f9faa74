import { fieldsOf, GRADES, type Edit, type FieldMeta } from '@mile-thread/core/model';
import { Switch } from 'antd';
import { EditableQuantity } from './EditableQuantity.tsx';
import type { Commit } from '../document/session.ts';
import { QuietSelect } from './SelectRow.tsx';
import css from './values.module.css';

interface Props {
  /** model class the fields and their limits come from */
  model: new () => object;
  value: object;
  /** where the object stands in the document */
  path: Edit['path'];
  /** for the undo list and screen readers: “Lamp rail” */
  owner: string;
  /** fields shown elsewhere */
  skip?: readonly string[];
  commit: Commit;
}

const GRADE_WORDS: Record<string, string> = {
  measured: 'measured',
  published: 'published',
  typical: 'typical',
  claimed: 'claimed',
  assumed: 'assumed',
};

/** A row for every plain field of a model class, editable in place, with the units and limits of the model. */
export function FieldRows({ model, value, path, owner, skip = [], commit }: Props) {
  const values = value as Record<string, unknown>;
  const change = (name: string, next: unknown) =>
    commit(`Change ${owner}`, [
      next === undefined
        ? { op: 'remove', path: [...path, name] }
        : { op: name in values ? 'replace' : 'add', path: [...path, name], value: next },
    ]);
  const rows = [...fieldsOf(model)]
    .filter(([name, meta]) => !skip.includes(name) && EDITABLE.has(meta.type))
    .sort(([a], [b]) => (LATER[a] ?? 0) - (LATER[b] ?? 0));
  return (
    <>
      {rows.map(([name, meta]) => (
        <div className={css.row} key={name} title={meta.about}>
          <span>{name === 'grade' ? 'Figures are' : meta.label}</span>
          <FieldValue
            meta={meta}
            name={name}
            label={`${owner}, ${meta.label}`}
            value={values[name]}
            onChange={(v) => change(name, v)}
          />
        </div>
      ))}
    </>
  );
}

/** Fields that a base class declares first but a reader wants last. */
const LATER: Record<string, number> = {
  minInput: 1,
  hysteresis: 2,
  maxInput: 3,
  shutdownCurrent: 4,
  grade: 9,
};

const EDITABLE = new Set<FieldMeta['type']>(['quantity', 'whole', 'choice', 'flag']);

interface ValueProps {
  meta: FieldMeta;
  name: string;
  label: string;
  value: unknown;
  onChange(value: unknown): ReturnType<Commit>;
}

function FieldValue({ meta, name, label, value, onChange }: ValueProps) {
  if (meta.type === 'flag') {
    return <Switch size="small" checked={value === true} aria-label={label} onChange={(v) => onChange(v)} />;
  }
  if (meta.type === 'choice') {
    const options = (name === 'grade' ? [...GRADES] : meta.options!).map((o) => ({
      value: o,
      label: GRADE_WORDS[o] ?? o,
    }));
    return (
      <span data-grade={name === 'grade' ? value : undefined}>
        <QuietSelect label={label} value={value as string} options={options} onChange={(v) => onChange(v)} />
      </span>
    );
  }
  return (
    <EditableQuantity
      label={label}
      value={value as number | undefined}
      unit={meta.unit ?? ''}
      optional={meta.optional}
      onCommit={(v) => onChange(v)}
    />
  );
}
