import { packBody, type PackBody } from '@mile-thread/core/body';
import { USUAL_PACKING, type Edit, type Goals, type ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity } from '@mile-thread/core/units';
import { Switch } from 'antd';
import { useMemo } from 'react';
import type { Commit } from '../../document/session.ts';
import { useAnswer, useFindings } from '../../jobs/client.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { EditableText } from '../../kit/EditableText.tsx';
import { RoomDrawing } from '../../kit/RoomDrawing.tsx';
import { QuietSelect } from '../../kit/SelectRow.tsx';
import { millimetres } from '../../kit/words.ts';
import { met, Want, type Verdict } from './Want.tsx';

interface Props {
  doc: ThreadDocument;
  commit: Commit;
}

/** Set a goal, or take it out. */
function goalEdit({ goals }: ThreadDocument, field: keyof Goals, value: unknown): Edit {
  const path = ['goals', field];
  if (value === undefined) return { op: 'remove', path };
  return { op: goals[field] === undefined ? 'add' : 'replace', path, value };
}

/** [h] of a new wish to wait: a month. */
const A_MONTH = 730;

/** How long it must wait in a mode before it is used. */
export function Waits({ doc, commit }: Props) {
  const { goals, programme, modes = [] } = doc;
  const { wait } = goals;
  const { data } = useAnswer('budget', [doc]);
  const mends = useFindings(doc)?.find((f) => f.id === 'waits:cells')?.action;
  if (!programme) return null;
  const change = (value: Goals['wait']) => commit('Change the wait', [goalEdit(doc, 'wait', value)]);
  if (!wait) {
    const mode = programme.segments.at(-1)!.mode;
    return (
      <Want name="Waits before its work" verdict={undefined}>
        <button
          type="button"
          className="link"
          aria-label="Wish for the wait"
          onClick={() => change({ mode, hours: A_MONTH })}
        >
          no wish
        </button>
      </Want>
    );
  }
  const idle = data?.modes.find((m) => m.mode === wait.mode)?.idle;
  return (
    <Want
      name="Waits"
      verdict={
        idle && met(idle.hoursToEnd >= wait.hours, formatDuration(Math.abs(idle.hoursToEnd - wait.hours)))
      }
      action={mends && { label: mends.label, apply: () => commit(mends.label, mends.edits) }}
    >
      <EditableQuantity
        label="Waits before its work"
        value={wait.hours}
        unit="h"
        optional
        shown={formatDuration(wait.hours)}
        onCommit={(hours) => change(hours === undefined ? undefined : { ...wait, hours })}
      />{' '}
      in{' '}
      <QuietSelect
        label="Mode it waits in"
        value={wait.mode}
        options={modes.map((m) => ({ value: m.id, label: m.name }))}
        onChange={(mode) => change({ ...wait, mode })}
      />
    </Want>
  );
}

/** [m] of a room that is stated for the first time. */
const A_ROOM = { length: 0.175, width: 0.09, height: 0.05 };

/** Whether it fits, and by how much on the side that decides. */
function roomVerdict({ fits, by, side }: NonNullable<PackBody['fit']>): Verdict {
  if (!Number.isFinite(by)) return { ok: false, words: '✕ too small for one of them' };
  const words = `${millimetres(by)} in its ${['length', 'width', 'height'][side]}`;
  return { ok: fits, words: fits ? `✓ fits, ${words} to spare` : `✕ short by ${words}` };
}

const AIR_WORDS = { free: '✓', ask: '! ask the airline:', refused: '✕ not with a passenger:' } as const;

/** Whether it may travel. */
function airVerdict({ air, wh }: PackBody): Verdict {
  return { ok: air === 'free', words: `${AIR_WORDS[air]} ${formatQuantity(wh, 'Wh', 3)}` };
}

/** Room, mass, carriage, noise, what charges it: judged once something computes it, said until then. */
export function Body({ doc, commit }: Props) {
  const { goals, pack } = doc;
  const { cell, series, parallel } = pack;
  const body = useMemo(() => packBody(pack, goals.room), [pack, goals.room]);
  const { fit, mass } = body;
  const grams = mass && mass.cells + mass.boards;
  const set = (field: keyof Goals, label: string) => (value: unknown) =>
    commit(label, [goalEdit(doc, field, value)]);
  return (
    <>
      <h4>Around it</h4>
      <Want name="Room" verdict={fit && roomVerdict(fit)}>
        {goals.room ? (
          <>
            {(['length', 'width', 'height'] as const).map((side, k) => (
              <span key={side}>
                {k > 0 && ' × '}
                <EditableQuantity
                  label={`Room, ${side}`}
                  value={1000 * goals.room![side]}
                  unit="mm"
                  shown={millimetres(goals.room![side])}
                  onCommit={(v) => set('room', 'Change the room')({ ...goals.room!, [side]: v! / 1000 })}
                />
              </span>
            ))}{' '}
            <button
              type="button"
              className="link quiet-link"
              onClick={() => set('room', 'No wish for the room')(undefined)}
            >
              any
            </button>
          </>
        ) : (
          <button type="button" className="link" onClick={() => set('room', 'Set the room')(A_ROOM)}>
            any
          </button>
        )}
      </Want>
      {fit && (
        <RoomDrawing
          {...{ fit, cell }}
          count={series * parallel}
          gap={(pack.packing ?? USUAL_PACKING).gap}
          boards={pack.packing?.boards?.map((b) => b.name) ?? []}
        />
      )}
      <Want
        name="Cells weigh at most"
        verdict={
          goals.mass === undefined || grams === undefined
            ? undefined
            : met(grams <= goals.mass, formatQuantity(Math.abs(goals.mass - grams), 'kg', 3))
        }
      >
        <EditableQuantity
          label="Cells weigh at most"
          value={goals.mass}
          unit="kg"
          optional
          {...(goals.mass === undefined ? { shown: 'any mass' } : {})}
          onCommit={set('mass', 'Change the mass')}
        />
      </Want>
      <Want name="Carried by air" verdict={goals.byAir ? airVerdict(body) : undefined}>
        <Switch
          size="small"
          aria-label="Carried by air"
          checked={goals.byAir === true}
          onChange={(on) => set('byAir', 'Change the carriage')(on ? true : undefined)}
        />
      </Want>
      <Want name="Ripple tolerated" verdict={undefined}>
        <EditableQuantity
          label="Ripple tolerated"
          value={goals.ripple}
          unit="V"
          optional
          {...(goals.ripple === undefined ? { shown: 'no wish' } : {})}
          onCommit={set('ripple', 'Change the ripple')}
        />
      </Want>
      <Want name="Charged from" verdict={undefined}>
        <EditableText
          label="Charged from"
          value={goals.chargedFrom ?? 'not said'}
          onCommit={set('chargedFrom', 'Change what charges it')}
        />{' '}
        within{' '}
        <EditableQuantity
          label="Charged within"
          value={goals.chargeHours}
          unit="h"
          optional
          shown={goals.chargeHours === undefined ? 'any time' : formatDuration(goals.chargeHours)}
          onCommit={set('chargeHours', 'Change the time to charge')}
        />
      </Want>
    </>
  );
}
