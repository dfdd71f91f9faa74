import { ask } from '../jobs/client.ts';
import type { TableLimits } from '../jobs/questions/tables.ts';

/** Bytes of a table a person may drop; logs have a limit of their own. */
const LARGEST = 20_000_000;
/** Read a table in the worker. @throws Error in words that say what to do */
export async function tableFrom(file: File, limits: TableLimits): Promise<string[][]> {
  return ask('table', [await textFrom(file), limits]);
}

/** The text of a file. @throws Error in words where it is larger than is read */
export async function textFrom(file: File, most = LARGEST): Promise<string> {
  if (file.size > most) {
    throw new Error(
      `${file.name} has ${Math.round(file.size / 1e6)} MB; ${most / 1e6} MB at most are read. Nothing was taken: cut it into parts, or keep fewer lines.`,
    );
  }
  return file.text();
}
