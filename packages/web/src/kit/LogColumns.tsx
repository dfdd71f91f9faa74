import { AMP_UNITS, TIME_FORMS, VOLT_UNITS, type LogColumns as Columns } from '@mile-thread/core/logs';
import { QuietSelect } from './SelectRow.tsx';

interface Props {
  /** of the file, for who cannot see which */
  name: string;
  heads: readonly string[];
  columns: Columns;
  /** whether the current may be left out */
  bare?: boolean;
  onChange(columns: Columns): void;
}

const units = <U extends string>(list: readonly U[]) =>
  list.map((value) => ({ value, label: value as string }));
/** No column of the current. */
const NONE = 'none';

/** What each column of a log is taken for, and in which unit: as guessed, to be set right by hand. */
export function LogColumns({ name, heads, columns: now, bare = false, onChange }: Props) {
  const heading = heads.map((h, k) => ({ value: String(k), label: h || `column ${k + 1}` }));
  const { amps } = now;
  const without = () => {
    const { amps: gone, ...rest } = now;
    void gone;
    return rest;
  };
  return (
    <>
      <label>
        time
        <QuietSelect
          label={`${name}, column of time`}
          value={String(now.time.column)}
          options={heading}
          onChange={(v) => onChange({ ...now, time: { ...now.time, column: Number(v) } })}
        />
        <QuietSelect
          label={`${name}, time in`}
          value={now.time.form}
          options={units(TIME_FORMS)}
          onChange={(form) => onChange({ ...now, time: { ...now.time, form } })}
        />
      </label>
      <label>
        volts
        <QuietSelect
          label={`${name}, column of volts`}
          value={String(now.volts.column)}
          options={heading}
          onChange={(v) => onChange({ ...now, volts: { ...now.volts, column: Number(v) } })}
        />
        <QuietSelect
          label={`${name}, volts in`}
          value={now.volts.unit}
          options={units(VOLT_UNITS)}
          onChange={(unit) => onChange({ ...now, volts: { ...now.volts, unit } })}
        />
      </label>
      <label>
        current
        <QuietSelect
          label={`${name}, column of current`}
          value={amps ? String(amps.column) : NONE}
          options={bare ? [...heading, { value: NONE, label: 'none' }] : heading}
          onChange={(v) =>
            onChange(
              v === NONE ? without() : { ...now, amps: { unit: amps?.unit ?? 'A', column: Number(v) } },
            )
          }
        />
        {amps && (
          <QuietSelect
            label={`${name}, current in`}
            value={amps.unit}
            options={units(AMP_UNITS)}
            onChange={(unit) => onChange({ ...now, amps: { ...amps, unit } })}
          />
        )}
      </label>
    </>
  );
}
