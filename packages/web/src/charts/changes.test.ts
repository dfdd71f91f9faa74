import { expect, it } from 'vitest';
import { changesOf } from './changes.ts';

const chart = (y: number[], range: number[], colour = 'red') => ({
  data: [
    { type: 'scatter', x: [1, 2], y, line: { color: colour, width: 1 } },
    { type: 'scatter', x: [1, 2], y: [5, 6], line: { color: 'blue', width: 1 } },
  ],
  layout: { xaxis: { range, ticks: '' }, margin: { l: 1 } },
});

it('tells what an update needs: one value a trace for what changed, nothing else', () => {
  expect(changesOf(chart([1, 2], [0, 9]), chart([1, 2], [0, 9]))).toEqual({});
  expect(changesOf(chart([1, 2], [0, 9]), chart([3, 4], [0, 8]))).toEqual({
    data: {
      y: [
        [3, 4],
        [5, 6],
      ],
    },
    layout: { 'xaxis.range': [0, 8] },
  });
  expect(changesOf(chart([1, 2], [0, 9]), chart([1, 2], [0, 9], 'green'))).toEqual({
    data: { 'line.color': ['green', 'blue'] },
  });
  const one = chart([1, 2], [0, 9]);
  expect(changesOf(one, { ...one, data: one.data.slice(1) })).toBeUndefined();
  expect(changesOf(one, { ...one, layout: { ...one.layout, title: 'new' } })).toBeUndefined();
});
