import type { ThreadDocument } from '@mile-thread/core/model';
import { useRef, useState, type PointerEvent } from 'react';
import { placesOf, putLeads } from '../../atBench/hands.ts';
import { useReadings, WORD, type Connection } from '../../atBench/connections.ts';
import css from './instruments.module.css';

const WIDTH = 640;
const HEIGHT = 150;
const LINE = 84;
/** Where the minus pole runs back. */
const BACK = LINE + 20;
const FIRST = 128;
/** How near a lead must be let go to touch a place. */
const NEAR = 46;

/** The path with where each lead touches; leads can be dragged to another place. The lists on the cards do the same. */
export function Leads({ doc, connections }: { doc: ThreadDocument; connections: readonly Connection[] }) {
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ role: Connection['role']; x: number; y: number }>();
  const places = placesOf(doc).filter((p) => p.place !== 'cell');
  const x = (k: number) => FIRST + (k * (WIDTH - FIRST - 60)) / Math.max(1, places.length - 1);
  const of = (place: string) => {
    const k = places.findIndex((p) => p.place === place);
    return k < 0 ? 34 : x(k);
  };
  const withLeads = connections.filter((c) => c.role === 'meter' || c.role === 'load');
  const point = (e: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    return {
      x: ((e.clientX - box.left) / box.width) * WIDTH,
      y: ((e.clientY - box.top) / box.height) * HEIGHT,
    };
  };
  const drop = (e: PointerEvent) => {
    if (!drag) return;
    const at = point(e);
    setDrag(undefined);
    const nearest = places
      .map(({ place }, k) => ({ place, off: Math.hypot(x(k) - at.x, LINE - at.y) }))
      .filter(({ place }) => drag.role === 'meter' || place !== 'charger')
      .sort((a, b) => a.off - b.off)[0];
    if (nearest && nearest.off < NEAR) void putLeads(drag.role, nearest.place);
  };
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className={css.leads}
      aria-hidden="true"
      onPointerMove={(e) => drag && setDrag({ ...drag, ...point(e) })}
      onPointerUp={drop}
      onPointerCancel={() => setDrag(undefined)}
    >
      <rect x={14} y={LINE - 26} width={17} height={46} rx={3} className={css.cell} />
      <rect x={36} y={LINE - 26} width={17} height={46} rx={3} className={css.cell} />
      <path d={`M53,${LINE}H${WIDTH - 30}`} className={css.way} />
      <path d={`M44,${LINE + 20}V${BACK + 4}H${WIDTH - 30}`} className={css.back} />
      {places.map(({ place, words }, k) => (
        <g key={place} data-place={place}>
          <circle cx={x(k)} cy={LINE} r={9} />
          <text x={x(k)} y={LINE + 42} textAnchor="middle">
            {words}
          </text>
        </g>
      ))}
      {withLeads.map((c, k) => {
        const free = drag?.role === c.role ? drag : undefined;
        const home = WIDTH / 2 + (k - (withLeads.length - 1) / 2) * 230;
        const side = k === 0 ? -1 : 1;
        const to = free ?? { x: of(c.place) + side * 5, y: LINE - 8 };
        return (
          <g key={c.role} data-lead={c.role}>
            <path d={`M${home - 6},16C${home - 6},50 ${to.x},30 ${to.x},${to.y}`} data-wire="red" />
            <path
              d={`M${home + 8},16C${home + 8},60 ${to.x + side * 26},40 ${to.x + side * 26},${BACK + 4}`}
              data-wire="black"
            />
            <text x={home} y={12} textAnchor="middle">
              {WORD[c.role]}
            </text>
            <circle
              cx={to.x}
              cy={to.y}
              r={7}
              data-tip
              onPointerDown={(e) => {
                (e.target as Element).setPointerCapture(e.pointerId);
                setDrag({ role: c.role, ...point(e) });
              }}
            />
            <Read x={to.x + side * 10} y={to.y - 10} end={side < 0} role={c.role} />
          </g>
        );
      })}
    </svg>
  );
}

/** What the lead reads, beside its tip. */
function Read({ x, y, end, role }: { x: number; y: number; end: boolean; role: Connection['role'] }) {
  const volts = useReadings((s) => s[role]?.volts);
  if (volts === undefined) return null;
  return (
    <text x={x} y={y} textAnchor={end ? 'end' : 'start'} className={css.read}>
      {volts.toFixed(2)} V
    </text>
  );
}
