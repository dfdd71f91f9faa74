import { labelOf, packBody, usualRoom } from '@mile-thread/core/body';
import type { ThreadDocument } from '@mile-thread/core/model';
import type { RunResult } from '@mile-thread/core/solve';
import { formatQuantity } from '@mile-thread/core/units';
import { useMemo } from 'react';
import { RoomDrawing } from '../../../kit/RoomDrawing.tsx';
import { millimetres } from '../../../kit/words.ts';
import { USUAL_PACKING } from '@mile-thread/core/model';
import type { Commit } from '../../../document/session.ts';
import { Boards } from './Boards.tsx';
import css from './pack.module.css';
import valuesCss from '../../../kit/values.module.css';

/** How its cells stand, what they take up and weigh, and what may honestly be printed on it. */
export function Shape({
  doc,
  run,
  commit,
}: {
  doc: ThreadDocument;
  run: RunResult | undefined;
  commit: Commit;
}) {
  const { pack, goals } = doc;
  const room = goals.room ?? usualRoom(pack);
  const body = useMemo(() => packBody(pack, room), [pack, room?.length, room?.width, room?.height]); // oxlint-disable-line react/exhaustive-deps
  const { fit, mass } = body;
  return (
    <section className={css.shape} aria-label="Its shape">
      {fit && (
        <RoomDrawing
          fit={fit}
          cell={pack.cell}
          count={pack.series * pack.parallel}
          gap={(pack.packing ?? USUAL_PACKING).gap}
          boards={pack.packing?.boards?.map((b) => b.name) ?? []}
        />
      )}
      {room && (
        <div className={valuesCss.row}>
          <span>{goals.room ? 'Room' : 'Takes, in one layer'}</span>
          <b>
            {millimetres(room.length)} × {millimetres(room.width)} × {millimetres(room.height)}
          </b>
        </div>
      )}
      {mass && (
        <div className={valuesCss.row}>
          <span>Weighs, wiring{mass.boards > 0 && ' and boards'} included</span>
          <b>{formatQuantity((mass.cells + mass.wiring + mass.boards) * 1000, 'g', 3)}</b>
        </div>
      )}
      <Boards {...{ doc, commit }} />
      {run && run.deadEnd.time > 0 && <Label doc={doc} run={run} wh={body.wh} />}
    </section>
  );
}

/** What a label may say, beside what an advertisement would. */
function Label({ doc, run, wh }: { doc: ThreadDocument; run: RunResult; wh: number }) {
  const { cell, series, parallel } = doc.pack;
  const { capacityAh } = cell;
  // At the rail that carries most.
  const into = (id: string) => run.ledger.intake[id] ?? 0;
  const rail = doc.stages
    .flatMap((stage) => ('outputVolts' in stage ? [{ id: stage.id, volts: stage.outputVolts }] : []))
    .sort((x, y) => into(y.id) - into(x.id))[0];
  const nominal = wh / (series * parallel * capacityAh);
  const output = rail?.volts ?? series * nominal;
  const efficiency = run.ledger.stored > 0 ? run.ledger.usable / run.ledger.stored : 0;
  const label = labelOf(series, parallel, capacityAh, nominal, efficiency, output);
  const V = formatQuantity(output, 'V', 3);
  return (
    <>
      <div className={valuesCss.row} title="Rated capacity at the mean volts at rest">
        <span>Honest label</span>
        <b>
          {formatQuantity(label.wh, 'Wh', 3)}, {formatQuantity(label.ah, 'Ah', 3)}
        </b>
      </div>
      <div className={valuesCss.row} title="What reaches the loads, as a charge at these volts">
        <span>Comes out at {V}</span>
        <b>{formatQuantity(label.outputAh, 'Ah', 3)}</b>
      </div>
      <div
        className={valuesCss.row}
        title="The charge of all cells added up, whatever their volts: no charge comes out so"
      >
        <span>An advertisement</span>
        <s>{Math.round(1000 * label.cellsAh).toLocaleString('en')} mAh</s>
      </div>
    </>
  );
}
