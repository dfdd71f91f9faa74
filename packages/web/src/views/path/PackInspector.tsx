import {
  CELL_LIBRARY,
  CellRecord,
  CellTemperature,
  ChargerNote,
  Connectors,
  Disconnect,
  Drain,
  Fuse,
  Lead,
  Pack,
  PackWarmth,
  Protection,
  typicalTemperature,
  typicalWarmth,
  type Edit,
  type ThreadDocument,
} from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { Button } from 'antd';
import { EditableText } from '../../kit/EditableText.tsx';
import { FieldRows } from '../../kit/FieldRows.tsx';
import type { Commit } from '../../document/session.ts';
import { SelectRow } from '../../kit/SelectRow.tsx';
import valuesCss from '../../kit/values.module.css';
import css from './path.module.css';

const PARTS = {
  protection: {
    name: 'Protection',
    model: Protection,
    fresh: { cutoffVolts: 2.6, tripCurrent: 5, resistance: 0.03, quiescentCurrent: 5e-6, grade: 'assumed' },
  },
  fuse: { name: 'Fuse', model: Fuse, fresh: { rating: 5, resistance: 0.015 } },
  connectors: { name: 'Connectors', model: Connectors, fresh: { contacts: 2, contactResistance: 0.003 } },
  disconnect: { name: 'Disconnect', model: Disconnect, fresh: { resistance: 0.008, leakage: 1e-6 } },
} as const;
type PartName = keyof typeof PARTS;

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
  const { cell, charger } = doc.pack;
  const known = Object.entries(CELL_LIBRARY);
  const own = known.find(([, c]) => c.name === cell.name)?.[0];
  return (
    <>
      <SelectRow
        name="Cell"
        label="Pack, cell"
        value={own ?? cell.name}
        options={known.map(([value, c]) => ({ value, label: c.name }))}
        onChange={(key) =>
          commit('Change the cell', [{ op: 'replace', path: ['pack', 'cell'], value: CELL_LIBRARY[key] }])
        }
      />
      <FieldRows model={Pack} value={doc.pack} path={['pack']} owner="Pack" commit={commit} />
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
      <details className={css.record}>
        <summary>The cell&rsquo;s figures, {cell.grade}</summary>
        <FieldRows model={CellRecord} value={cell} path={['pack', 'cell']} owner="Cell" commit={commit} />
      </details>
      {cell.source && <p className={css.source}>{cell.source}</p>}
      <ColdAndWarmth doc={doc} commit={commit} />
      <div className={valuesCss.row}>
        <span>Charger</span>
        {charger ? (
          <span>
            <EditableText
              label="Charger"
              value={charger.name}
              onCommit={(name) =>
                commit('Rename the charger', [
                  { op: 'replace', path: ['pack', 'charger', 'name'], value: name },
                ])
              }
            />{' '}
            <RemoveLink
              label="Remove the charger"
              onClick={() => commit('Remove the charger', [{ op: 'remove', path: ['pack', 'charger'] }])}
            />
          </span>
        ) : (
          <button
            type="button"
            className="link"
            onClick={() => {
              const value: ChargerNote = { name: 'Charger' };
              commit('Add a charger', [{ op: 'add', path: ['pack', 'charger'], value }]);
            }}
          >
            note one
          </button>
        )}
      </div>
      <p className={css.caution}>
        Lithium cells: heed the maker&rsquo;s data sheet, never use damaged cells, charge only with a charger
        made for them.
      </p>
    </>
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
          {title}, {value.grade}
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

function Between({ doc, commit }: { doc: ThreadDocument; commit: Commit }) {
  const { pack } = doc;
  return (
    <>
      {(Object.keys(PARTS) as PartName[]).map((name) => {
        const { name: title, model, fresh } = PARTS[name];
        const value = pack[name];
        const path: Edit['path'] = ['pack', name];
        if (!value) {
          return (
            <div className={valuesCss.row} key={name}>
              <span>{title}</span>
              <button
                type="button"
                className="link"
                onClick={() => commit(`Add ${title.toLowerCase()}`, [{ op: 'add', path, value: fresh }])}
              >
                none, add
              </button>
            </div>
          );
        }
        return (
          <section key={name}>
            <h5>
              {title}{' '}
              <RemoveLink
                label={`Remove ${title.toLowerCase()}`}
                onClick={() => commit(`Remove ${title.toLowerCase()}`, [{ op: 'remove', path }])}
              />
            </h5>
            <FieldRows model={model} value={value} path={path} owner={title} commit={commit} />
          </section>
        );
      })}
      <Drains {...{ doc, commit }} />
      {pack.leads.map((lead, k) => (
        <section key={k}>
          <h5>
            Leads {pack.leads.length > 1 && k + 1}{' '}
            <RemoveLink
              label={`Remove leads ${k + 1}`}
              onClick={() => commit('Remove leads', [{ op: 'remove', path: ['pack', 'leads', k] }])}
            />
          </h5>
          <FieldRows
            model={Lead}
            value={lead}
            path={['pack', 'leads', k]}
            owner={`Leads ${k + 1}`}
            commit={commit}
          />
        </section>
      ))}
      <Button
        size="small"
        onClick={() => {
          const value: Lead = { gaugeSystem: 'AWG', gauge: 20, length: 0.2, parallel: 1, temperature: 25 };
          commit('Add leads', [{ op: 'add', path: ['pack', 'leads', pack.leads.length], value }]);
        }}
      >
        Add leads
      </Button>
    </>
  );
}

/** Small things that always draw: dividers, gauges, indicator lights, leaks. */
function Drains({ doc, commit }: { doc: ThreadDocument; commit: Commit }) {
  const { drains = [] } = doc.pack;
  const path: Edit['path'] = ['pack', 'drains'];
  const fresh = { name: 'Level divider', current: 5e-6 };
  return (
    <>
      {drains.map((drain, k) => (
        <section key={k}>
          <h5>
            <EditableText
              label={`Drain ${k + 1}`}
              value={drain.name}
              onCommit={(name) =>
                commit('Rename a drain', [{ op: 'replace', path: [...path, k, 'name'], value: name }])
              }
            />{' '}
            <RemoveLink
              label={`Remove ${drain.name}`}
              onClick={() => commit(`Remove ${drain.name}`, [{ op: 'remove', path: [...path, k] }])}
            />
          </h5>
          <FieldRows model={Drain} value={drain} path={[...path, k]} owner={drain.name} commit={commit} />
        </section>
      ))}
      <div className={valuesCss.row}>
        <span>Always drawing</span>
        <button
          type="button"
          className="link"
          onClick={() =>
            commit('Add a drain', [
              doc.pack.drains
                ? { op: 'add', path: [...path, drains.length], value: fresh }
                : { op: 'add', path, value: [fresh] },
            ])
          }
        >
          {drains.length === 0 ? 'nothing, add' : 'add another'}
        </button>
      </div>
    </>
  );
}

function RemoveLink({ label, onClick }: { label: string; onClick(): void }) {
  return (
    <button type="button" className="link quiet-link" aria-label={label} onClick={onClick}>
      remove
    </button>
  );
}
