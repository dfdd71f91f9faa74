import {
  retold,
  sourceKind,
  sourceKinds,
  Wall,
  type Edit,
  type ThreadDocument,
} from '@mile-thread/core/model';
import type { Commit } from '../../document/session.ts';
import { EditableText } from '../../kit/EditableText.tsx';
import { FieldRows } from '../../kit/FieldRows.tsx';
import { SelectRow } from '../../kit/SelectRow.tsx';
import { List, Optional } from './Rows.tsx';
import valuesCss from '../../kit/values.module.css';

interface PartProps {
  doc: ThreadDocument;
  commit: Commit;
}

/** Every figure of the source. */
export function SourceFigures({ doc, commit }: PartProps) {
  const { source } = doc.charging!;
  const { model, lists = [] } = sourceKind(source);
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
        options={sourceKinds().map(({ kind, label }) => ({ value: kind, label }))}
        onChange={(kind) =>
          commit('Describe the source otherwise', [{ op: 'replace', path, value: retold(source, kind) }])
        }
      />
      <FieldRows
        model={model}
        value={source}
        path={path}
        owner="Source"
        skip={['kind', 'name']}
        commit={commit}
      />
      {lists.map(({ name, field, fresh, ...list }) => (
        <List
          key={field}
          name={name}
          entries={(source as unknown as Record<string, object[]>)[field]!}
          path={[...path, field]}
          {...list}
          fresh={fresh(source)}
          commit={commit}
        />
      ))}
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
