import { cableOhms, CHARGE_LIMITS, Reading, type ChargeResult } from '@mile-thread/core/charging';
import {
  isConverter,
  MEANWHILE,
  sourceKind,
  STAGE_KINDS,
  type ThreadDocument,
} from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import clsx from 'clsx';
import { useMemo } from 'react';
import type { Commit } from '../../document/session.ts';
import { useChargeNeedle } from '../../document/view.ts';
import { placeCells } from '../../drawing/cells.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { useWidth } from '../../kit/useWidth.ts';
import { HEIGHT, KNOT, places, Y } from './boardPlaces.ts';
import { instantAt } from './model.ts';
import { Ribbon } from './Ribbon.tsx';
import css from './board.module.css';

interface Props {
  doc: ThreadDocument;
  charge: ChargeResult;
  commit: Commit;
  onOpen(part: string): void;
}

const V = (v: number) => formatQuantity(v, 'V', 3);
const A = (a: number) => formatQuantity(a, 'A', 3);
const W = (w: number) => formatQuantity(w, 'W', 3);

/** The ribbon the other way: source at the right, pack at the left, its width the power, what is lost fraying off. */
export function Board({ doc, charge, commit, onOpen }: Props) {
  const [holder, measured] = useWidth<HTMLDivElement>(860);
  const width = Math.max(800, measured);
  const rows = useMemo(() => new Reading(charge.series), [charge]);
  const time = useChargeNeedle((s) => Math.min(s.time, s.end));
  const now = useMemo(() => instantAt(doc, rows, time), [doc, rows, time]);
  const most = useMemo(
    () =>
      Math.max(
        1e-6,
        ...Array.from({ length: rows.count }, (_, r) => rows.of(r, 'sourceVolts') * rows.of(r, 'sourceAmps')),
      ),
    [rows],
  );
  const at = places(width);
  const { charging, pack } = doc;
  const { source, stage, control } = charging!;
  const trouble = ['headroom', 'letsGo', 'through', 'lockOut', 'heat'].includes(now.limit);
  const cells = placeCells(pack.series, pack.parallel, 26, Y);
  const efficiency = now.watts.input > 0 ? now.watts.output / now.watts.input : 0;
  const junction = junctionOf(doc, now.heat);
  return (
    <section className={css.board} aria-label="The way from the source to the pack" ref={holder}>
      <div className={css.boardInner} style={{ width, height: HEIGHT }}>
        <Ribbon {...{ now, most, at, cells }} loadAt={charging!.meanwhile} />
        <div className={css.label} style={{ left: 18, top: 10 }}>
          <b>
            {pack.series}S{pack.parallel}P · {formatQuantity(pack.cell.capacityAh * pack.parallel, 'Ah', 3)}
          </b>
          <span>
            cells at {V(now.cellVolts)} · {Math.round(100 * now.soc)} %
          </span>
        </div>
        <div className={css.label} style={{ left: 18, top: Y + 48 }}>
          <b className={css.saffron}>{W(Math.max(0, now.watts.kept))} stored</b>
          <span>
            {A(Math.max(0, now.cellAmps))} a cell,{' '}
            {(Math.max(0, now.cellAmps) / pack.cell.capacityAh).toFixed(2)} C
          </span>
          <span className={css.heat}>{W(Math.max(0, now.watts.cells - now.watts.kept))} heat in cells</span>
        </div>
        <button
          type="button"
          className={css.part}
          style={{ left: at.cut - 62, top: 10, width: 124 }}
          onClick={() => onOpen('pack')}
        >
          {pack.protection ? 'protection + leads' : 'leads, no protection'}
          {charging!.diode && ' + diode'}
        </button>
        <span className={clsx(css.figure, css.end)} style={{ left: at.cut - 84, top: Y - 62 }}>
          {V(now.cellVolts * pack.series)}
        </span>
        <span className={css.figure} style={{ left: at.cut + 8, top: Y - 62 }}>
          {V(now.outVolts)}
        </span>
        <span className={css.amps} style={{ left: at.cut + 8, top: Y + 36 }}>
          {A(now.outAmps)}
        </span>
        <span className={css.lost} style={{ left: at.cut - 60, top: Y + 50 }}>
          {W(
            Math.max(
              0,
              now.watts.output - now.watts.cells - (charging!.meanwhile === 'battery' ? now.load : 0),
            ),
          )}
        </span>
        <button
          type="button"
          className={clsx(css.knot, trouble && css.knotTrouble)}
          style={{ left: at.knot - KNOT, top: Y - KNOT, width: 2 * KNOT, height: 2 * KNOT }}
          aria-label={`Charger, ${STAGE_KINDS[stage.kind].label}: ${CHARGE_LIMITS[now.limit].word}`}
          onClick={() => onOpen('charger')}
        >
          <b>{STAGE_KINDS[stage.kind].label}</b>
          <span>{CHARGE_LIMITS[now.limit].word}</span>
        </button>
        <div className={clsx(css.label, css.middle)} style={{ left: at.knot - 70, top: 10, width: 140 }}>
          <b>{stage.name}</b>
          <span>
            {control ? (
              <>
                asked{' '}
                <EditableQuantity
                  label="Charge current"
                  value={control.current}
                  unit="A"
                  onCommit={(v) =>
                    commit('Change the charge current', [
                      { op: 'replace', path: ['charging', 'control', 'current'], value: v },
                    ])
                  }
                />
                {control.sense === 'input' && ' at its input'}
              </>
            ) : (
              'nothing holds it'
            )}
          </span>
        </div>
        <div className={clsx(css.label, css.middle)} style={{ left: at.knot - 80, top: Y + 60, width: 160 }}>
          <span className={css.heat}>{W(Math.max(0, now.watts.input - now.watts.output))}</span>
          <span>
            {now.watts.output > 0 ? `${(100 * efficiency).toFixed(1)} %` : 'gives nothing'}
            {junction !== undefined && `, ${formatQuantity(junction, '°C', 3)}`}
          </span>
        </div>
        <div className={clsx(css.label, css.middle)} style={{ left: at.cable - 80, top: 10, width: 160 }}>
          <button type="button" className={css.inline} onClick={() => onOpen('cable')}>
            cable
          </button>
          <span>
            {charging!.cable && (
              <>
                <EditableQuantity
                  label="Cable length"
                  value={charging!.cable.length}
                  unit="m"
                  onCommit={(v) =>
                    commit('Change the cable', [
                      { op: 'replace', path: ['charging', 'cable', 'length'], value: v },
                    ])
                  }
                />
                {' · '}
              </>
            )}
            {formatQuantity(cableOhms(charging!), 'Ω', 3)}
          </span>
        </div>
        <span className={clsx(css.figure, css.end)} style={{ left: at.cable - 84, top: Y - 62 }}>
          {V(now.nodeVolts)}
        </span>
        <span className={css.figure} style={{ left: at.cable + 8, top: Y - 62 }}>
          {V(now.sourceVolts)}
        </span>
        <span className={css.amps} style={{ left: at.cable + 8, top: Y + 36 }}>
          {A(now.sourceAmps)}
        </span>
        <span className={css.lost} style={{ left: at.cable - 60, top: Y + 58 }}>
          {W(Math.max(0, now.watts.source - now.nodeVolts * now.sourceAmps))}
        </span>
        <button
          type="button"
          className={css.source}
          style={{ left: at.source, top: Y - 34, width: at.plate }}
          onClick={() => onOpen('source')}
        >
          <b>{source.name}</b>
          <span>{sourceKind(source).words(source)}</span>
          <span>gives {W(now.watts.source)}</span>
        </button>
        {charging!.meanwhile !== 'off' && (
          <span className={css.loads} style={{ left: at.tap[charging!.meanwhile] - 168, top: HEIGHT - 36 }}>
            <b>{loadsWord(doc)}</b> {W(now.load)}
          </span>
        )}
        <Meanwhile {...{ doc, commit }} />
      </div>
    </section>
  );
}

/** The one load there is by its name, several as such. */
function loadsWord({ loads }: ThreadDocument): string {
  return loads.length === 1 ? loads[0]!.name : `${loads.length} loads`;
}

/** [°C] of the charger's junction, where anything is said of it. */
function junctionOf({ charging, conditions }: ThreadDocument, watts: number): number | undefined {
  const { stage } = charging!;
  const parts = isConverter(stage) && stage.parts?.used ? stage.parts : undefined;
  const perWatt = (parts ?? ('thermalResistance' in stage ? stage : undefined))?.thermalResistance;
  return perWatt ? (conditions?.air ?? 25) + perWatt * watts : undefined;
}

const WORDS = {
  battery: 'on battery',
  path: 'power path',
  off: 'off',
} as const;

/** What the loads do meanwhile, and what they take. */
function Meanwhile({ doc, commit }: { doc: ThreadDocument; commit: Commit }) {
  const { charging } = doc;
  const { meanwhile, mode } = charging!;
  const named = doc.modes?.find((m) => m.id === mode);
  return (
    <div className={css.meanwhile} role="radiogroup" aria-label="Loads meanwhile">
      <small>Loads meanwhile{meanwhile !== 'off' && named && `, in ${named.name}`}</small>
      <div>
        {MEANWHILE.map((m) => (
          <button
            key={m}
            type="button"
            role="radio"
            aria-checked={meanwhile === m}
            disabled={doc.loads.length === 0 && m !== 'off'}
            onClick={() =>
              m !== meanwhile &&
              commit(`Loads ${WORDS[m]} while charging`, [
                { op: 'replace', path: ['charging', 'meanwhile'], value: m },
              ])
            }
          >
            <svg width="62" height="26" viewBox="0 0 62 26" aria-hidden="true" className={css.sketch}>
              <rect x="3" y="7" width="8" height="13" rx="2" />
              <path d="M11,13H52" className={css.sketchWay} />
              <circle cx="55" cy="13" r="4" />
              {m !== 'off' && <path d={m === 'battery' ? 'M22,13V20H30' : 'M42,13V20H36'} />}
              <rect
                x={m === 'battery' ? 30 : m === 'path' ? 28 : 27}
                y="17"
                width="8"
                height="6"
                className={m === 'off' ? css.sketchOff : css.sketchLoad}
              />
            </svg>
            {WORDS[m]}
          </button>
        ))}
      </div>
    </div>
  );
}
