import { demoThreads } from '@mile-thread/core';
import { encodeThread } from '@mile-thread/core/model';
import { expect, it } from 'vitest';
import { encodeShelf, fileName, readThreadFile } from './files.ts';

const file = (text: string, name = 'x.json') => new File([text], name);

it('reads one thread or a whole shelf, and gives back what was written', async () => {
  const docs = demoThreads().map((d) => JSON.parse(JSON.stringify(d)) as typeof d);
  expect(await readThreadFile(file(encodeThread(docs[0]!)))).toEqual({
    name: 'x.json',
    ok: true,
    threads: [docs[0]],
  });
  expect(await readThreadFile(file(encodeShelf(docs)))).toEqual({ name: 'x.json', ok: true, threads: docs });
});

it('a shelf with one bad thread is refused whole, and the message says which', async () => {
  const [good, bad] = demoThreads();
  bad!.pack.series = -1;
  const read = await readThreadFile(file(encodeShelf([good!, bad!])));
  expect(read.ok).toBe(false);
  if (!read.ok) expect(read.sentences[0]).toContain('threads[1].pack.series: given -1');
});

it('many faults are told as five and a count; a huge file is not even read', async () => {
  const doc = demoThreads()[0]!;
  for (const s of doc.stages) Object.assign(s, { maxInput: -1, name: '', outputVolts: 'x' });
  const read = await readThreadFile(file(encodeThread(doc)));
  if (read.ok) throw new Error('must not be read');
  expect(read.sentences).toHaveLength(6);
  expect(read.sentences[5]).toBe('And 4 more.');
  const huge = { name: 'huge.json', size: 3e7 } as File;
  expect(await readThreadFile(huge)).toMatchObject({
    ok: false,
    sentences: [expect.stringContaining('30 MB')],
  });
});

it('file names are plain', () => {
  expect(fileName('Tide-pool microscope')).toBe('tide-pool-microscope.thread.json');
  expect(fileName('Ångström / №5')).toBe('angstrom-no5.thread.json');
  expect(fileName('☂')).toBe('thread.thread.json');
});
