import {
  BELOW,
  DRAWS,
  isConverter,
  Load,
  Restart,
  Shedding,
  STAGE_KINDS,
  usesParts,
  VoltRange,
  type Edit,
  type StageKind,
  type ThreadDocument,
  MODE_TABLE,
  isSizable,
} from '@mile-thread/core/model';
import type { RunResult } from '@mile-thread/core/solve';
import { formatQuantity } from '@mile-thread/core/units';
import { Button } from 'antd';
import { Link } from 'react-router';
import clsx from 'clsx';
import { EditableText } from '../../kit/EditableText.tsx';
import { changeDraw, moveNode, possibleParents, removeNode, swapStage } from '../../document/commands.ts';
import { FieldRows } from '../../kit/FieldRows.tsx';
import { LossRows } from '../../kit/LossRows.tsx';
import type { Commit } from '../../document/session.ts';
import { AtNeedle } from '../../charts/AtNeedle.tsx';
import type { StageInstant } from '../../drawing/sample.ts';
import { SelectRow } from '../../kit/SelectRow.tsx';
import css from './path.module.css';
import valuesCss from '../../kit/values.module.css';

interface Props {
  doc: ThreadDocument;
  id: string;
  run: RunResult;
  commit: Commit;
  onRemoved(): void;
}

const KIND_OPTIONS = Object.entries(STAGE_KINDS).map(([value, { label }]) => ({
  value: value as StageKind,
  label,
}));

/** The selected stage: what it does at the needle, what it is, where it hangs. */
export function StageInspector({ doc, id, run, commit, onRemoved }: Props) {
  const stage = doc.stages.find((s) => s.id === id);
  if (!stage) return null;
  const path: Edit['path'] = ['stages', id];
  return (
    <>
      <AtNeedle doc={doc} run={run}>
        {(instant) => <StageReadings point={instant.stages.get(id)} />}
      </AtNeedle>
      {isSizable(stage) && (
        <p className={css.toStage}>
          <Link to={`../sizing/${id}`}>Size this stage: parts, heat, limits →</Link>
        </p>
      )}
      <SelectRow
        name="Kind"
        label={`${stage.name}, kind`}
        value={stage.kind}
        options={KIND_OPTIONS}
        onChange={(kind) => commit(`Swap ${stage.name}`, swapStage(doc, id, kind))}
      />
      <Placement {...{ doc, id, name: stage.name, from: stage.from, path, commit }} />
      <FieldRows
        model={STAGE_KINDS[stage.kind].model}
        value={stage}
        path={path}
        owner={stage.name}
        skip={['kind']}
        commit={commit}
      />
      {isConverter(stage) && usesParts(stage) && (
        <div className={valuesCss.row}>
          <span>Loss from</span>
          <b>its parts</b>
        </div>
      )}
      {isConverter(stage) && !usesParts(stage) && (
        <LossRows
          loss={stage.loss}
          path={[...path, 'loss']}
          owner={stage.name}
          outputVolts={stage.outputVolts}
          commit={commit}
        />
      )}
      <Remove {...{ doc, id, name: stage.name, commit, onRemoved }} />
    </>
  );
}

const flow = (v: number, a: number) =>
  `${formatQuantity(v, 'V')} · ${formatQuantity(a, 'A')} · ${formatQuantity(v * a, 'W')}`;

/** What the stage does at the needle. */
function StageReadings({ point }: { point: StageInstant | undefined }) {
  if (!point) return null;
  const into = point.inputVolts * point.inputAmps;
  const out = point.outputVolts * point.outputAmps;
  return (
    <>
      <Row name="At the needle">{MODE_TABLE[point.mode].phrase}</Row>
      <Row name="In">{flow(point.inputVolts, point.inputAmps)}</Row>
      <Row name="Out">{flow(point.outputVolts, point.outputAmps)}</Row>
      <Row name="Lost as heat">
        {formatQuantity(into - out, 'W')} {into > 0 && `(${((100 * out) / into).toFixed(1)} % through)`}
      </Row>
    </>
  );
}

/** The selected load. */
export function LoadInspector({ doc, id, run, commit, onRemoved }: Props) {
  const load = doc.loads.find((l) => l.id === id);
  if (!load) return null;
  const path: Edit['path'] = ['loads', id];
  const others = DRAWS.filter((d) => d !== load.draw);
  return (
    <>
      <AtNeedle doc={doc} run={run}>
        {(instant) => {
          const point = instant.loads.get(id);
          return point && <Row name="At the needle">{flow(point.volts, point.amps)}</Row>;
        }}
      </AtNeedle>
      <SelectRow
        name="Keeps constant"
        label={`${load.name}, keeps constant`}
        value={load.draw}
        options={DRAWS.map((d) => ({ value: d, label: d }))}
        onChange={(draw) => commit(`Change ${load.name}`, changeDraw(load, draw))}
      />
      <Placement {...{ doc, id, name: load.name, from: load.from, path, commit }} />
      <FieldRows
        model={Load}
        value={load}
        path={path}
        owner={load.name}
        skip={['draw', 'below', ...others, ...(load.draw === 'string' ? [] : ['slope'])]}
        commit={commit}
      />
      <FieldRows
        model={VoltRange}
        value={load.range}
        path={[...path, 'range']}
        owner={load.name}
        commit={commit}
      />
      <Behaviour {...{ load, commit }} />
      <Remove {...{ doc, id, name: load.name, commit, onRemoved }} />
    </>
  );
}

const BELOW_WORDS = {
  works: 'works on',
  stops: 'stops until switched on',
  resets: 'starts anew',
  dims: 'merely dims',
} as const;

/** What a load does below its range, and when it is shed for the others. */
function Behaviour({ load, commit }: { load: Load; commit: Commit }) {
  const path = ['loads', load.id];
  const { restart, shed } = load;
  const below = (value: keyof typeof BELOW_WORDS) =>
    commit(`Change ${load.name}`, [
      { op: load.below === undefined ? 'add' : 'replace', path: [...path, 'below'], value },
      ...(value === 'resets' && !restart
        ? [{ op: 'add' as const, path: [...path, 'restart'], value: { seconds: 2, value: load[load.draw]! } }]
        : []),
    ]);
  return (
    <>
      <SelectRow
        name="Below its range"
        label={`${load.name}, below its range`}
        value={load.below ?? 'works'}
        options={BELOW.map((value) => ({ value, label: BELOW_WORDS[value] }))}
        onChange={below}
      />
      {load.below === 'resets' && restart && (
        <FieldRows
          model={Restart}
          value={restart}
          path={[...path, 'restart']}
          owner={`${load.name}, start`}
          commit={commit}
        />
      )}
      {!load.essential &&
        (shed ? (
          <>
            <h5>
              Switched off for the others, below{' '}
              <button
                type="button"
                className="link quiet-link"
                onClick={() => commit(`Never shed ${load.name}`, [{ op: 'remove', path: [...path, 'shed'] }])}
              >
                never
              </button>
            </h5>
            <FieldRows
              model={Shedding}
              value={shed}
              path={[...path, 'shed']}
              owner={`${load.name}, shed`}
              commit={commit}
            />
          </>
        ) : (
          <div className={valuesCss.row}>
            <span>Shed for the others</span>
            <button
              type="button"
              className="link"
              onClick={() =>
                commit(`Shed ${load.name}`, [{ op: 'add', path: [...path, 'shed'], value: { soc: 0.3 } }])
              }
            >
              never
            </button>
          </div>
        ))}
    </>
  );
}

function Row({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div className={clsx(valuesCss.row, valuesCss.reading)}>
      <span>{name}</span>
      <b>{children}</b>
    </div>
  );
}

interface PlacementProps {
  doc: ThreadDocument;
  id: string;
  name: string;
  from: string;
  path: Edit['path'];
  commit: Commit;
}

function Placement({ doc, id, name, from, path, commit }: PlacementProps) {
  return (
    <>
      <div className={valuesCss.row}>
        <span>Name</span>
        <EditableText
          label={`Name of ${name}`}
          value={name}
          onCommit={(value) => commit(`Rename ${name}`, [{ op: 'replace', path: [...path, 'name'], value }])}
        />
      </div>
      <SelectRow
        name="Fed from"
        label={`${name}, fed from`}
        value={from}
        options={possibleParents(doc, id).map((p) => ({ value: p.id, label: p.name }))}
        onChange={(to) => commit(`Move ${name}`, moveNode(doc, id, to))}
      />
    </>
  );
}

interface RemoveProps {
  doc: ThreadDocument;
  id: string;
  name: string;
  commit: Commit;
  onRemoved(): void;
}

function Remove({ doc, id, name, commit, onRemoved }: RemoveProps) {
  const remove = () => {
    if (commit(`Remove ${name}`, removeNode(doc, id)).length === 0) onRemoved();
  };
  return (
    <div className={css.inspectorActions}>
      <Button size="small" danger onClick={remove}>
        Remove
      </Button>
    </div>
  );
}
