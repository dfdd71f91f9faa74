import {
  CELL_LIBRARY,
  CellRecord,
  CellTemperature,
  Pack,
  PackWarmth,
  typicalTemperature,
  typicalWarmth,
  type ThreadDocument,
} from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { restSoc } from '@mile-thread/core';
import { Link } from 'react-router';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { inPercent } from '../../kit/words.ts';
import { FieldRows } from '../../kit/FieldRows.tsx';
import type { Commit } from '../../document/session.ts';
import { SelectRow } from '../../kit/SelectRow.tsx';
import { useOwnCells } from '../../kit/useOwnCells.ts';
import { useComputed } from '../../jobs/client.ts';
import { Between } from './PackBetween.tsx';
import { GaugePanel } from './pack/GaugePanel.tsx';
import { Groups } from './pack/Groups.tsx';
import { Health } from './pack/Health.tsx';
import { Shape } from './pack/Shape.tsx';
import { RemoveLink } from './RemoveLink.tsx';
import valuesCss from '../../kit/values.module.css';
import css from './path.module.css';

interface Props {
  doc: ThreadDocument;
  /** `pack` for cells and charge, `protection` for what lies between cells and path */
  part: 'pack' | 'protection';
  commit: Commit;
}

/** Cells, or everything between the cells and the path. */
export function PackInspector({ doc, part, commit }: Props) {
  return part === 'pack' ? <Cells doc={doc} commit={commit} /> : <Between doc={doc} commit={commit} />;
}

function Cells({ doc, commit }: { doc: ThreadDocument; commit: Commit }) {
  const { cell } = doc.pack;
  const run = useComputed(doc).data?.run;
  const mine = useOwnCells().map((row) => [`own:${row.id}`, row.record] as const);
  const known = [...mine, ...Object.entries(CELL_LIBRARY)];
  const here = known.find(([, c]) => c.name === cell.name)?.[0];
  return (
    <>
      <SelectRow
        name="Cell"
        label="Pack, cell"
        value={here ?? cell.name}
        options={known.map(([value, c]) => ({ value, label: c.name }))}
        onChange={(key) =>
          commit('Change the cell', [
            { op: 'replace', path: ['pack', 'cell'], value: known.find(([k]) => k === key)![1] },
          ])
        }
      />
      <FieldRows
        model={Pack}
        value={doc.pack}
        path={['pack']}
        owner="Pack"
        skip={['startSoc']}
        commit={commit}
      />
      <StartCharge {...{ doc, commit }} />
      <div className={valuesCss.row}>
        <span>Volts, full to end</span>
        <b>
          {formatQuantity(cell.fullVolts * doc.pack.series, 'V')} to{' '}
          {formatQuantity(cell.endVolts * doc.pack.series, 'V')}
        </b>
      </div>
      <div className={valuesCss.row}>
        <span>Rated discharge</span>
        <b>{formatQuantity(cell.dischargeRate * cell.capacityAh * doc.pack.parallel, 'A')}</b>
      </div>
      <Shape {...{ doc, run, commit }} />
      <Groups {...{ doc, run, commit }} />
      <Health {...{ doc, commit }} />
      <GaugePanel {...{ doc, commit }} />
      <details className={css.record}>
        <summary>
          The cell&rsquo;s figures, <span data-grade={cell.grade}>{cell.grade}</span>
        </summary>
        <FieldRows model={CellRecord} value={cell} path={['pack', 'cell']} owner="Cell" commit={commit} />
      </details>
      {cell.source && <p className={css.source}>{cell.source}</p>}
      <ColdAndWarmth doc={doc} commit={commit} />
      <div className={valuesCss.row}>
        <span>Charger</span>
        <Link to="../charge">{doc.charging ? doc.charging.source.name : 'plan one'}</Link>
      </div>
      <p className={css.caution}>
        Lithium cells: heed the maker&rsquo;s data sheet, never use damaged cells, charge only with a charger
        made for them.
      </p>
    </>
  );
}

/** How full it is when the run starts: in per cent, or typed as the volts of a cell that has rested. */
function StartCharge({ doc, commit }: { doc: ThreadDocument; commit: Commit }) {
  const { startSoc, cell } = doc.pack;
  const put = (soc: number) =>
    inPercent(
      commit('Change the charge at the start', [{ op: 'replace', path: ['pack', 'startSoc'], value: soc }]),
      Pack,
      'startSoc',
    );
  return (
    <div
      className={valuesCss.row}
      title="State of charge when the run starts; volts of a rested cell are read as a charge"
    >
      <span>Charge at the start</span>
      <EditableQuantity
        label="Pack, Charge at the start"
        value={100 * startSoc}
        unit="%"
        onCommit={(v) => put(v! / 100)}
        other={{
          units: ['V'],
          hint: 'or volts of a cell at rest, such as 3.7 V',
          onCommit: (volts) => put(Number(restSoc(cell, volts).toFixed(4))),
        }}
      />
    </div>
  );
}

/** What temperature does to the cells, and how they warm themselves. */
function ColdAndWarmth({ doc, commit }: { doc: ThreadDocument; commit: Commit }) {
  const { pack } = doc;
  const { temperature } = pack.cell;
  const parts = [
    {
      title: 'Cold and warmth',
      none: 'no effect, add what is typical',
      value: temperature,
      model: CellTemperature,
      path: ['pack', 'cell', 'temperature'],
      fresh: () => typicalTemperature(pack.cell.chemistry),
    },
    {
      title: 'Warms itself',
      none: 'as the air, add',
      value: pack.warmth,
      model: PackWarmth,
      path: ['pack', 'warmth'],
      fresh: () => typicalWarmth(pack),
    },
  ];
  return parts.map(({ title, none, value, model, path, fresh }) =>
    value ? (
      <details className={css.record} key={title} open={path.length === 2}>
        <summary>
          {title}, <span data-grade={value.grade}>{value.grade}</span>
        </summary>
        <FieldRows {...{ model, value, path, commit }} owner={title} />
        {'capacity' in value && value.capacity && (
          <div className={valuesCss.row}>
            <span>Charge it can give</span>
            <span>
              {value.capacity.celsius
                .map((t, k) => `${t} °C ${Math.round(100 * value.capacity!.factors[k]!)} %`)
                .join(', ')}
            </span>
          </div>
        )}
        <RemoveLink
          label={`Remove ${title.toLowerCase()}`}
          onClick={() => commit(`Remove ${title.toLowerCase()}`, [{ op: 'remove', path }])}
        />
      </details>
    ) : (
      <div className={valuesCss.row} key={title}>
        <span>{title}</span>
        <button
          type="button"
          className="link"
          onClick={() => commit(`Add ${title.toLowerCase()}`, [{ op: 'add', path, value: fresh() }])}
        >
          {none}
        </button>
      </div>
    ),
  );
}
