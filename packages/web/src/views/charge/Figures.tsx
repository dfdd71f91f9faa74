import type { ReactNode } from 'react';
import {
  ChargeControl,
  Connectors,
  ContractSource,
  isConverter,
  isRegulated,
  Lead,
  Offer,
  Precharge,
  ReadSource,
  SeriesDiode,
  SourceReading,
  STAGE_KINDS,
  SupplySource,
  swapKind,
  Wall,
  type Edit,
  type Source,
  type StageKind,
  type ThreadDocument,
} from '@mile-thread/core/model';
import type { Commit } from '../../document/session.ts';
import { EditableText } from '../../kit/EditableText.tsx';
import { FieldRows } from '../../kit/FieldRows.tsx';
import { LossRows } from '../../kit/LossRows.tsx';
import { SelectRow } from '../../kit/SelectRow.tsx';
import valuesCss from '../../kit/values.module.css';
import { BoardNames, type FigurePart } from './parts.ts';
import css from './charge.module.css';

interface Props {
  doc: ThreadDocument;
  commit: Commit;
  /** which part was asked for last */
  open: FigurePart | undefined;
}

const KINDS = { supply: SupplySource, contracts: ContractSource, readings: ReadSource };
const KIND_WORDS = [
  { value: 'supply', label: 'one voltage' },
  { value: 'contracts', label: 'contracts' },
  { value: 'readings', label: 'readings' },
] as const;

/** Every figure of source, cable, charger and what it looks at, typed over. */
export function Figures({ doc, commit, open }: Props) {
  return (
    <section className={css.figures} aria-label="Figures of the charge" id="charge-figures">
      <Column name={BoardNames.source} here={open === 'source'}>
        <SourceFigures {...{ doc, commit }} />
      </Column>
      <Column name={BoardNames.cable} here={open === 'cable'}>
        <CableFigures {...{ doc, commit }} />
      </Column>
      <Column name={BoardNames.charger} here={open === 'charger'}>
        <ChargerFigures {...{ doc, commit }} />
      </Column>
      <Column name="What it looks at" here={open === 'charger'}>
        <ControlFigures {...{ doc, commit }} />
      </Column>
    </section>
  );
}

function Column({ name, here, children }: { name: string; here: boolean; children: ReactNode }) {
  return (
    <div data-here={here || undefined}>
      <h5>{name}</h5>
      {children}
    </div>
  );
}

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

function SourceFigures({ doc, commit }: PartProps) {
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

interface ListProps {
  name: string;
  entries: readonly object[];
  path: Edit['path'];
  model: new () => object;
  fresh: object;
  least?: number;
  commit: Commit;
}

function List({ name, entries, path, model, fresh, least = 1, commit }: ListProps) {
  return (
    <>
      {entries.map((entry, k) => (
        <details key={k} className={css.entry}>
          <summary>
            {name} {k + 1}: {summaryOf(entry)}
          </summary>
          <FieldRows
            model={model}
            value={entry}
            path={[...path, k]}
            owner={`${name} ${k + 1}`}
            commit={commit}
          />
          {entries.length > least && (
            <button
              type="button"
              className="link"
              onClick={() =>
                commit(`Remove ${name.toLowerCase()} ${k + 1}`, [{ op: 'remove', path: [...path, k] }])
              }
            >
              Remove {name.toLowerCase()} {k + 1}
            </button>
          )}
        </details>
      ))}
      <button
        type="button"
        className="link"
        onClick={() =>
          commit(`Add ${name.toLowerCase()}`, [{ op: 'add', path: [...path, entries.length], value: fresh }])
        }
      >
        + {name.toLowerCase()}
      </button>
    </>
  );
}

function summaryOf(entry: object): string {
  const { volts, amps } = entry as { volts: number; amps: number };
  return `${volts} V, ${amps} A`;
}

interface OptionalProps {
  name: string;
  value: object | undefined;
  path: Edit['path'];
  model: new () => object;
  fresh: object;
  commit: Commit;
}

/** A part that may be left out. */
function Optional({ name, value, path, model, fresh, commit }: OptionalProps) {
  if (!value) {
    return (
      <div className={valuesCss.row}>
        <span>{name}</span>
        <button
          type="button"
          className="link"
          onClick={() => commit(`Add ${name.toLowerCase()}`, [{ op: 'add', path, value: fresh }])}
        >
          none, add
        </button>
      </div>
    );
  }
  return (
    <>
      <h6>
        {name}{' '}
        <button
          type="button"
          className="link"
          aria-label={`Remove ${name.toLowerCase()}`}
          onClick={() => commit(`Remove ${name.toLowerCase()}`, [{ op: 'remove', path }])}
        >
          remove
        </button>
      </h6>
      <FieldRows model={model} value={value} path={path} owner={name} commit={commit} />
    </>
  );
}

function CableFigures({ doc, commit }: PartProps) {
  const { charging } = doc;
  return (
    <>
      <Optional
        name="Cable"
        value={charging!.cable}
        path={['charging', 'cable']}
        model={Lead}
        fresh={{ gaugeSystem: 'AWG', gauge: 24, length: 1, parallel: 1, temperature: 25 }}
        commit={commit}
      />
      <Optional
        name="Contacts"
        value={charging!.contacts}
        path={['charging', 'contacts']}
        model={Connectors}
        fresh={{ contacts: 4, contactResistance: 0.01 }}
        commit={commit}
      />
      <Optional
        name="Diode behind it"
        value={charging!.diode}
        path={['charging', 'diode']}
        model={SeriesDiode}
        fresh={{ volts: 0.35, resistance: 0.05 }}
        commit={commit}
      />
      {charging!.meanwhile !== 'off' && (doc.modes?.length ?? 0) > 0 && (
        <SelectRow
          name="Loads are in"
          label="Mode of the loads meanwhile"
          value={charging!.mode ?? ''}
          options={[
            { value: '', label: 'their programme' },
            ...doc.modes!.map((m) => ({ value: m.id, label: m.name })),
          ]}
          onChange={(mode) =>
            commit('Change what the loads do meanwhile', [
              mode === ''
                ? { op: 'remove', path: ['charging', 'mode'] }
                : {
                    op: charging!.mode === undefined ? 'add' : 'replace',
                    path: ['charging', 'mode'],
                    value: mode,
                  },
            ])
          }
        />
      )}
    </>
  );
}

function ChargerFigures({ doc, commit }: PartProps) {
  const { stage } = doc.charging!;
  const path: Edit['path'] = ['charging', 'stage'];
  const full = doc.pack.series * doc.pack.cell.fullVolts;
  return (
    <>
      <SelectRow
        name="Kind"
        label="Charger, kind"
        value={stage.kind}
        options={Object.values(STAGE_KINDS).map((k) => ({ value: k.kind as StageKind, label: k.label }))}
        onChange={(kind) =>
          commit('Change the kind of charger', [{ op: 'replace', path, value: swapKind(stage, kind, full) }])
        }
      />
      <FieldRows
        model={STAGE_KINDS[stage.kind].model}
        value={stage}
        path={path}
        owner="Charger"
        skip={['id', 'name', 'kind', 'from', 'hysteresis', 'shutdownCurrent']}
        commit={commit}
      />
      {isConverter(stage) && (
        <LossRows
          loss={stage.loss}
          path={[...path, 'loss']}
          owner="Charger"
          outputVolts={isRegulated(stage) ? stage.outputVolts : full}
          commit={commit}
        />
      )}
    </>
  );
}

function ControlFigures({ doc, commit }: PartProps) {
  const { control } = doc.charging!;
  const path: Edit['path'] = ['charging', 'control'];
  const { cell, parallel } = doc.pack;
  const current = Number((0.5 * cell.capacityAh * parallel).toPrecision(2));
  return (
    <>
      <Optional
        name="Control"
        value={control}
        path={path}
        model={ChargeControl}
        fresh={{ current, sense: 'output', terminate: current / 10, timer: 8 }}
        commit={commit}
      />
      {control && (
        <Optional
          name="Precharge"
          value={control.precharge}
          path={[...path, 'precharge']}
          model={Precharge}
          fresh={{ below: 3, current: control.current / 10, timer: 1 }}
          commit={commit}
        />
      )}
    </>
  );
}
