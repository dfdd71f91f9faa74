import { demoThreads, encodeShelf } from '@mile-thread/core';
import { encodeThread } from '@mile-thread/core/model';
import { expect, it } from 'vitest';
import { fewSentences, fileName, readThreadFile } from './files.ts';

const file = (text: string, name = 'x.json') => new File([text], name);

it('gives back what was written, of one thread and of a whole shelf', async () => {
  const docs = demoThreads().map((d) => JSON.parse(JSON.stringify(d)) as typeof d);
  expect(await readThreadFile(file(encodeThread(docs[0]!)))).toEqual({ threads: [docs[0]], refused: [] });
  expect(await readThreadFile(file(encodeShelf(docs)))).toEqual({ threads: docs, refused: [] });
});

it('many faults are told as five and a count; a huge file is not even read', async () => {
  const doc = demoThreads()[0]!;
  for (const s of doc.stages) Object.assign(s, { maxInput: -1, name: '', outputVolts: 'x' });
  const [broken] = (await readThreadFile(file(encodeThread(doc)))).refused;
  const told = fewSentences(broken!.issues);
  expect(told).toHaveLength(6);
  expect(told[5]).toBe('And 4 more.');
  const huge = await readThreadFile({ name: 'huge.json', size: 3e7 } as File);
  expect(huge.refused).toMatchObject([{ name: 'huge.json', issues: [{ given: '30 MB' }] }]);
});

it('file names are plain', () => {
  expect(fileName('Tide-pool microscope')).toBe('tide-pool-microscope.thread.json');
  expect(fileName('Ångström / №5')).toBe('angstrom-no5.thread.json');
  expect(fileName('☂')).toBe('thread.thread.json');
});
