import type { Lane, Score } from './model.ts';
import { LANE, SPIKE, SUM, tall, type Shown } from './scoreShape.ts';
import css from './needs.module.css';

/** What a load takes, a block for each stretch, and its peaks. */
export function Blocks({ lane, score, shown, y }: { lane: Lane; score: Score; shown: Shown; y: number }) {
  return (
    <>
      <line
        className={css.laneFloor}
        x1={0}
        x2={score.columns.at(-1)!.x + score.columns.at(-1)!.width}
        y1={y}
        y2={y}
      />
      {score.columns.map((c, k) => {
        const { watts, value, draw } = lane.blocks[k]!;
        const now = shown(`${lane.load.id} ${c.mode}`, value);
        const scale = value > 0 ? (draw === 'resistance' ? value / now : now / value) : 1;
        const h = Math.min(LANE - 10, tall(lane, watts) * scale);
        return (
          h > 0 && (
            <rect key={k} className={css.block} x={c.x + 0.5} width={c.width - 1} y={y - h} height={h} />
          )
        );
      })}
      {lane.peaks.map(({ peak, column, watts }) => {
        const h = tall(lane, watts);
        const x = score.columns[column]!.x + 0.5;
        return <rect key={peak} className={css.spike} x={x} width={SPIKE} y={y - h} height={h} />;
      })}
    </>
  );
}

/** All loads, on a logarithmic scale: milliwatts and tens of watts are seen together. */
export function Sum({ score, y, width }: { score: Score; y: number; width: number }) {
  const most = Math.max(...score.most, 1e-6);
  const least = Math.min(...score.sum.filter((w) => w > 0), score.mean || most, most) / 3;
  const h = (watts: number) =>
    watts > 0 ? ((SUM - 26) * Math.log(watts / least)) / Math.log(most / least) : 0;
  return (
    <>
      {score.columns.map((c, k) => (
        <rect
          key={k}
          className={css.sum}
          x={c.x}
          width={c.width}
          y={y - h(score.sum[k]!)}
          height={h(score.sum[k]!)}
        />
      ))}
      {score.columns.map((c, k) =>
        score.most[k]! > score.sum[k]! ? (
          <rect
            key={`peak ${k}`}
            className={css.spike}
            x={c.x}
            width={SPIKE}
            y={y - h(score.most[k]!)}
            height={h(score.most[k]!)}
          />
        ) : null,
      )}
      <line className={css.laneFloor} x1={0} x2={width} y1={y} y2={y} />
      {score.mean > 0 && (
        <line className={css.sumMean} x1={0} x2={width} y1={y - h(score.mean)} y2={y - h(score.mean)} />
      )}
    </>
  );
}
