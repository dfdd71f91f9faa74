import {
  ContractSource,
  Offer,
  ReadSource,
  SourceReading,
  SupplySource,
  Wall,
  type Edit,
  type Source,
  type ThreadDocument,
} from '@mile-thread/core/model';
import type { Commit } from '../../document/session.ts';
import { EditableText } from '../../kit/EditableText.tsx';
import { FieldRows } from '../../kit/FieldRows.tsx';
import { SelectRow } from '../../kit/SelectRow.tsx';
import { List, Optional } from './Rows.tsx';
import valuesCss from '../../kit/values.module.css';

const KINDS = { supply: SupplySource, contracts: ContractSource, readings: ReadSource };
const KIND_WORDS = [
  { value: 'supply', label: 'one voltage' },
  { value: 'contracts', label: 'contracts' },
  { value: 'readings', label: 'readings' },
] as const;

interface PartProps {
  doc: ThreadDocument;
  commit: Commit;
}

/** The same source told in another way. */
function retold(source: Source, kind: Source['kind']): Source {
  const { name, beyond, wall, grade } = source;
  const rest = { name, beyond, grade, ...(wall ? { wall } : {}) };
  const volts =
    source.kind === 'contracts'
      ? source.asks
      : source.kind === 'supply'
        ? source.volts
        : source.readings[0]!.volts;
  const limit = source.kind === 'contracts' ? source.offers[0]!.amps : source.limit;
  if (kind === 'supply') return { ...rest, kind, volts, droop: 0.1, limit };
  if (kind === 'contracts')
    return { ...rest, kind, asks: volts, droop: 0.1, offers: [{ volts, amps: limit }] };
  return {
    ...rest,
    kind,
    limit,
    readings: [
      { amps: Number((limit / 4).toPrecision(2)), volts },
      { amps: limit, volts: Number((0.98 * volts).toPrecision(3)) },
    ],
  };
}

/** Every figure of the source. */
export function SourceFigures({ doc, commit }: PartProps) {
  const { source } = doc.charging!;
  const path: Edit['path'] = ['charging', 'source'];
  return (
    <>
      <div className={valuesCss.row}>
        <span>Name</span>
        <EditableText
          label="Name of the source"
          value={source.name}
          onCommit={(name) =>
            commit('Rename the source', [{ op: 'replace', path: [...path, 'name'], value: name }])
          }
        />
      </div>
      <SelectRow
        name="Described by"
        label="Source, described by"
        value={source.kind}
        options={[...KIND_WORDS]}
        onChange={(kind) =>
          commit('Describe the source otherwise', [{ op: 'replace', path, value: retold(source, kind) }])
        }
      />
      <FieldRows
        model={KINDS[source.kind]}
        value={source}
        path={path}
        owner="Source"
        skip={['kind', 'name']}
        commit={commit}
      />
      {source.kind === 'contracts' && (
        <List
          name="Offer"
          entries={source.offers}
          path={[...path, 'offers']}
          model={Offer}
          fresh={{ volts: 12, amps: 3 }}
          commit={commit}
        />
      )}
      {source.kind === 'readings' && (
        <List
          name="Reading"
          entries={source.readings}
          path={[...path, 'readings']}
          model={SourceReading}
          fresh={{ amps: 1, volts: source.readings[0]!.volts }}
          least={2}
          commit={commit}
        />
      )}
      <Optional
        name="Wall"
        value={source.wall}
        path={[...path, 'wall']}
        model={Wall}
        fresh={{ standby: 0.1, perWatt: 0.12, perSquareWatt: 0.001 }}
        commit={commit}
      />
    </>
  );
}
