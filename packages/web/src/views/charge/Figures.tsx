import {
  ChargeControl,
  Connectors,
  isConverter,
  isRegulated,
  Lead,
  Precharge,
  SeriesDiode,
  STAGE_KINDS,
  swapKind,
  type Edit,
  type StageKind,
  type ThreadDocument,
} from '@mile-thread/core/model';
import type { ReactNode } from 'react';
import type { Commit } from '../../document/session.ts';
import { FieldRows } from '../../kit/FieldRows.tsx';
import { LossRows } from '../../kit/LossRows.tsx';
import { SelectRow } from '../../kit/SelectRow.tsx';
import { BoardNames, type FigurePart } from './parts.ts';
import { Optional } from './Rows.tsx';
import { SourceFigures } from './SourceFigures.tsx';
import css from './figures.module.css';

interface Props {
  doc: ThreadDocument;
  commit: Commit;
  /** which part was asked for last */
  open: FigurePart | undefined;
}

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
        name="Diode before it"
        value={charging!.inputDiode}
        path={['charging', 'inputDiode']}
        model={SeriesDiode}
        fresh={{ volts: 0.35, resistance: 0.05 }}
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
