import { readingsFrom, type PlanStep } from '@mile-thread/core/bench';
import { issueSentence, MOST_READINGS, type ThreadDocument } from '@mile-thread/core/model';
import { App } from 'antd';
import type { Commit } from '../../document/session.ts';
import { tableFrom } from '../../kit/tables.ts';
import { FileButton } from '../../kit/FileButton.tsx';

interface Props {
  doc: ThreadDocument;
  plan: readonly PlanStep[];
  commit: Commit;
}

/** Lines of a filled-in plan at most: some dozens are usual. */
const MOST_LINES = 5000;

/** The plan's CSV with its column `read` filled in: every reading comes in as one change, lines that cannot be read are told. */
export function FilledIn({ doc, plan, commit }: Props) {
  const { message } = App.useApp();
  const { readings: had = [] } = doc;
  const take = async (files: File[]) => {
    for (const file of files) {
      let data: string[][];
      try {
        data = await tableFrom(file, { of: 'lines of a plan', lines: MOST_LINES });
      } catch (error) {
        void message.error(`${file.name}: ${(error as Error).message}`, 8);
        continue;
      }
      const { readings, issues } = readingsFrom(data, plan);
      const fits = readings.slice(0, MOST_READINGS - had.length);
      const at = new Date().toISOString();
      if (fits.length > 0) {
        const value = [...had, ...fits.map((r) => ({ ...r, at }))];
        commit(`Take ${fits.length} readings from ${file.name}`, [
          { op: doc.readings ? 'replace' : 'add', path: ['readings'], value },
        ]);
      }
      if (issues.length > 0)
        void message.warning(`${file.name}: ${issues.slice(0, 3).map(issueSentence).join(' ')}`);
      else if (fits.length === 0) void message.warning(`${file.name} holds no readings.`);
    }
  };
  return (
    <FileButton size="small" accept=".csv,text/csv" onFiles={(files) => void take(files)}>
      Filled in, from CSV
    </FileButton>
  );
}
