import {
  Connectors,
  Disconnect,
  Drain,
  Fuse,
  Lead,
  Protection,
  type Edit,
  type ThreadDocument,
} from '@mile-thread/core/model';
import { Button } from 'antd';
import { EditableText } from '../../kit/EditableText.tsx';
import { FieldRows } from '../../kit/FieldRows.tsx';
import type { Commit } from '../../document/session.ts';
import { RemoveLink } from './RemoveLink.tsx';
import valuesCss from '../../kit/values.module.css';

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

export function Between({ doc, commit }: { doc: ThreadDocument; commit: Commit }) {
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
