import { CopyOutlined } from '@ant-design/icons';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatDuration, formatQuantity, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { useState } from 'react';
import { changeDraw, DRAW_UNIT } from '../../document/commands.ts';
import {
  addSegment,
  copyMode,
  MODE_UNIT,
  moveSegment,
  removeSegment,
  renameMode,
  setDraw,
  setSeconds,
} from '../../document/programme.ts';
import type { Commit } from '../../document/session.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { EditableText } from '../../kit/EditableText.tsx';
import { Handle } from './Handle.tsx';
import type { Column, Lane, Score } from './model.ts';
import { Blocks, Sum } from './Blocks.tsx';
import { AddPeak, PeakWords } from './Peaks.tsx';
import { DECADE, HEAD, HOLDS_WORDS, LANE, NAMES, SUM, tall, type Shown } from './scoreShape.ts';
import css from './needs.module.css';

/** What a draw may keep constant by the unit it is typed in. */
const KINDS = ['power', 'current', 'resistance'] as const;

interface Props {
  doc: ThreadDocument;
  score: Score;
  width: number;
  commit: Commit;
}

/** `300 ms`, `25.0 s`, `34 min`: as long as it is short in seconds, then in words. */
export function time(seconds: number): string {
  return seconds < 120 ? formatQuantity(seconds, 's', 3) : formatDuration(seconds / SECONDS_PER_HOUR);
}

/** What the loads do over one cycle: a lane each, a block for each stretch, and all of them together below. */
export function ScorePanel({ doc, score, width, commit }: Props) {
  const [preview, setPreview] = useState<{ what: string; value: number } | undefined>();
  const height = HEAD + score.lanes.length * LANE + SUM;
  const shown = (what: string, value: number) => (preview?.what === what ? preview.value : value);
  return (
    <div className={css.score} style={{ height, width: NAMES + width }}>
      <svg width={NAMES + width} height={height} aria-hidden="true">
        <g transform={`translate(${NAMES} 0)`}>
          {score.lanes.map((lane, n) => (
            <Blocks key={lane.load.id} {...{ lane, score, shown }} y={HEAD + (n + 1) * LANE - 8} />
          ))}
          <Sum score={score} y={height - 14} width={width} />
        </g>
      </svg>
      {score.columns.map((c, k) => (
        <Head key={k} {...{ doc, commit, shown }} column={c} segment={k} onPreview={setPreview} />
      ))}
      {score.lanes.map((lane, n) => (
        <LaneWords
          key={lane.load.id}
          {...{ doc, lane, score, commit, shown }}
          top={HEAD + n * LANE}
          onPreview={setPreview}
        />
      ))}
      <div className={css.laneName} style={{ top: height - SUM + 6 }}>
        <b>All loads</b>
        <span className={css.mean}>mean {formatQuantity(score.mean, 'W', 3)}</span>
        <span>worst {formatQuantity(score.worst.watts, 'W', 3)}</span>
      </div>
    </div>
  );
}

type OnPreview = (preview: { what: string; value: number } | undefined) => void;

interface HeadProps {
  doc: ThreadDocument;
  column: Column;
  segment: number;
  commit: Commit;
  shown: Shown;
  onPreview: OnPreview;
}

/** A stretch: its mode and how long it lasts. */
function Head({ doc, column, segment, commit, shown, onPreview }: HeadProps) {
  const { mode, name, seconds, x, width } = column;
  if (!doc.programme) {
    return (
      <div className={css.stretch} style={{ left: NAMES + x, width }}>
        <span>{name}</span>
      </div>
    );
  }
  const what = `t${segment}`;
  const lasts = shown(what, seconds);
  return (
    <div className={css.stretch} style={{ left: NAMES + x, width }}>
      <span className={css.stretchWords}>
        <EditableText
          label="Name of the mode"
          value={name}
          onCommit={(v) => commit('Rename the mode', renameMode(mode, v))}
        />{' '}
        <EditableQuantity
          label={`${name}, lasts`}
          value={seconds}
          unit="s"
          shown={time(lasts)}
          onCommit={(v) => commit(`Change how long ${name} lasts`, setSeconds(segment, v!))}
        />
      </span>
      <span className={css.stretchButtons}>
        {([-1, 1] as const).map((by) => {
          const edits = moveSegment(doc, segment, by);
          const where = by < 0 ? 'earlier' : 'later';
          return (
            edits.length > 0 && (
              <button
                key={by}
                type="button"
                aria-label={`Move this stretch of ${name} ${where}`}
                title={`Move it ${where}`}
                onClick={() => commit('Move a stretch', edits)}
              >
                {by < 0 ? '‹' : '›'}
              </button>
            )
          );
        })}
        <button
          type="button"
          aria-label={`Another stretch behind ${name}`}
          title="Another stretch behind it"
          onClick={() => commit('Add a stretch', addSegment(doc, segment))}
        >
          +
        </button>
        <button
          type="button"
          aria-label={`A copy of the mode ${name} behind it`}
          title="A copy of the mode behind it"
          onClick={() => commit(`Copy ${name}`, copyMode(doc, segment))}
        >
          <CopyOutlined />
        </button>
        {doc.programme.segments.length > 1 && (
          <button
            type="button"
            aria-label={`Remove this stretch of ${name}`}
            title="Remove this stretch"
            onClick={() => commit('Remove a stretch', removeSegment(doc, segment))}
          >
            −
          </button>
        )}
      </span>
      <Handle
        axis="x"
        label={`${name}, how long`}
        value={seconds}
        text={time(seconds)}
        style={{ right: -4, top: 0, height: '100%' }}
        moved={(px) => seconds * 10 ** (px / DECADE)}
        onPreview={(value) => onPreview(value === undefined ? undefined : { what, value })}
        onCommit={(v) => commit(`Change how long ${name} lasts`, setSeconds(segment, v))}
      />
    </div>
  );
}

interface LaneProps {
  doc: ThreadDocument;
  lane: Lane;
  score: Score;
  top: number;
  commit: Commit;
  shown: Shown;
  onPreview: OnPreview;
}

/** The words of a lane: whose it is, and what it draws in each stretch, typed over where it stands. */
function LaneWords({ doc, lane, score, top, commit, shown, onPreview }: LaneProps) {
  const { load } = lane;
  const floor = top + LANE - 8;
  return (
    <>
      <div className={css.laneName} style={{ top: top + 8 }}>
        <b title={load.name}>{load.name}</b>
        <span>
          {Number(load.range.min.toPrecision(3))}–{Number(load.range.max.toPrecision(3))} V
        </span>
        <i className={css[load.grade]} data-grade={load.grade}>
          {load.grade}
        </i>
        <AddPeak {...{ doc, load, score, commit }} />
      </div>
      {lane.peaks.map((spike) => (
        <PeakWords key={spike.peak} {...{ doc, lane, spike, score, top, commit }} />
      ))}
      {score.columns.map((c, k) => {
        const { value, watts, draw } = lane.blocks[k]!;
        const unit = (doc.programme ? MODE_UNIT : DRAW_UNIT)[draw];
        const what = `${load.id} ${c.mode}`;
        const now = shown(what, value);
        const h = tall(lane, watts);
        const label = `${load.name} in ${c.name}`;
        const set = (v: number) =>
          doc.programme
            ? commit(`Change ${load.name} in ${c.name}`, setDraw(load, c.mode, v))
            : commit(`Change ${load.name}`, [
                { op: 'replace', path: ['loads', load.id, load.draw], value: v },
              ]);
        const keep = (v: number, typed: string) => {
          const kind = KINDS.find((d) => MODE_UNIT[d] === typed)!;
          return doc.programme
            ? commit(`Change ${load.name} in ${c.name}`, setDraw(load, c.mode, v, kind))
            : commit(`Change ${load.name}`, [
                ...changeDraw(load, kind),
                { op: 'replace', path: ['loads', load.id, kind], value: v },
              ]);
        };
        return (
          <div key={k}>
            <div
              className={css.draw}
              style={{
                left: NAMES + c.x + 6,
                width: c.width - 12,
                top: floor - (h >= HOLDS_WORDS ? h / 2 + 7 : h + 22),
              }}
            >
              <EditableQuantity
                label={label}
                value={value}
                unit={unit}
                {...(now === 0 ? { shown: 'off' } : { shown: formatQuantity(now, unit, 3) })}
                onCommit={(v) => set(v!)}
                other={{
                  units: KINDS.map((d) => MODE_UNIT[d]).filter((u) => u !== unit),
                  hint: 'with W, A or Ω it says what is kept constant',
                  onCommit: keep,
                }}
              />
            </div>
            {value > 0 && (
              <Handle
                axis="y"
                label={`${label}, height`}
                value={value}
                text={formatQuantity(value, unit, 3)}
                style={{ left: NAMES + c.x + c.width / 2 - 12, top: floor - h - 4, width: 24 }}
                moved={(px) =>
                  Math.max(0, value * (1 + (draw === 'resistance' ? -px : px) / Math.max(12, h)))
                }
                onPreview={(v) => onPreview(v === undefined ? undefined : { what, value: v })}
                onCommit={set}
              />
            )}
          </div>
        );
      })}
    </>
  );
}
