import type { Node, PlanStep } from '@mile-thread/core/bench';
import type { ThreadDocument } from '@mile-thread/core/model';
import css from './bench.module.css';

const WIDTH = 128;
const HEIGHT = 50;
const LINE = 18;
const FIRST = 34;
const LAST = 112;

const PLACES: Readonly<Record<Exclude<Node['at'], 'stage'>, [x: number, y: number]>> = {
  minus: [13, HEIGHT - 6],
  cell: [8, 17],
  source: [FIRST + 2, HEIGHT - 8],
  charger: [FIRST + 22, HEIGHT - 8],
  pack: [FIRST + 6, LINE],
};

/** Where the probes of a step go: cells at the left, stages along the way, loads at the right. Decoration: the words say it too. */
export function Probes({ doc, step }: { doc: ThreadDocument; step: PlanStep }) {
  const { stages } = doc;
  const x = (k: number) => FIRST + 14 + ((k + 1) * (LAST - FIRST - 20)) / (stages.length + 1);
  const round = Math.max(2.4, Math.min(7, 0.43 * (x(1) - x(0))));
  const place = (node: Node): [x: number, y: number] => {
    if (node.at === 'stage') {
      const k = stages.findIndex((s) => s.id === node.id);
      return [Math.min(LAST, x(k) + 12), LINE];
    }
    return PLACES[node.at];
  };
  const [red, black] = step.probes;
  const charging = step.part === 'charging';
  // Nothing is connected yet.
  const apart = step.part === 'cells' || step.part === 'look';
  return (
    <svg
      width={WIDTH}
      height={HEIGHT}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className={css.probes}
      aria-hidden="true"
    >
      <rect x={3} y={9} width={9} height={27} rx={2} />
      <rect x={14} y={9} width={9} height={27} rx={2} />
      <path d={`M23,${LINE}H${apart ? FIRST : LAST}`} />
      {apart && <path d={`M${FIRST + 8},${LINE}H${LAST}`} strokeDasharray="2 3" />}
      {charging && <path d={`M18,36V${HEIGHT - 8}H${FIRST + 30}`} className={css.fed} />}
      {stages.map((s, k) => (
        <g key={s.id}>
          <circle cx={x(k)} cy={LINE} r={round} />
          {round > 4.5 && (
            <text x={x(k)} y={LINE + 3.5} textAnchor="middle">
              {String.fromCharCode(65 + k)}
            </text>
          )}
        </g>
      ))}
      {step.instrument === 'amps' && red ? (
        <Meter at={place(red)} />
      ) : (
        <>
          {red && <Probe at={place(red)} kind="red" />}
          {black && <Probe at={place(black)} kind="black" />}
        </>
      )}
      {step.instrument === 'eyes' && <path d="M44,36q11,-10 22,0q-11,10 -22,0M55,33a3,3 0 1 0 .1,0" />}
    </svg>
  );
}

function Probe({ at: [x, y], kind }: { at: [number, number]; kind: 'red' | 'black' }) {
  return <path d={`M${x},${y}l-4,-9a4.6,4.6 0 1 1 8,0Z`} data-probe={kind} />;
}

function Meter({ at: [x, y] }: { at: [number, number] }) {
  return (
    <g data-probe="meter">
      <rect x={x - 9} y={y - 8} width={18} height={16} rx={2} />
      <path d={`M${x - 5},${y + 3}a6,6 0 0 1 10,0M${x},${y + 3}l3,-5`} />
    </g>
  );
}
