import { pathNetlist, stageEnvelope, stageNetlist } from '@mile-thread/core';
import { backupOf, chargeNetlist, transferNetlist } from '@mile-thread/core/charging';
import { isConverter, type ThreadDocument } from '@mile-thread/core/model';
import { simulate } from '@mile-thread/core/solve';
import { say } from '../say.ts';
import { charged } from './charge.ts';
import { EXIT, type Command } from './command.ts';
import { fail, notATime, stageNamed, timeOf } from './files.ts';
import { ROWS } from './run.ts';

export const netlist: Command = {
  name: 'netlist',
  usage: [
    { args: 'FILE [--at WHEN]', says: ['a SPICE netlist of the path, to check an operating point by'] },
    { args: 'FILE --charge [--at WHEN]', says: ['the same of its charge, WHEN hours into it'] },
    { args: 'FILE --transfer', says: ['the rail on which adapter and battery meet, as mains goes'] },
    { args: 'FILE --stage ID', says: ['a switched netlist of a stage with parts'] },
  ],
  options: ['at', 'charge', 'transfer', 'stage', 'json'],
  reads: true,
  words: 0,
  refuses: (_, { json }) => (json ? 'a netlist is no JSON' : undefined),
  run(doc, _, { transfer, charge, stage, at }) {
    if (transfer) return ofTransfer(doc);
    return charge ? ofCharge(doc, at) : ofPath(doc, stage, at);
  },
};

function ofPath(doc: ThreadDocument, name: string | undefined, when: string | undefined): number {
  const result = simulate(doc, { rows: ROWS });
  const at = when ?? (name === undefined ? '0' : 'end');
  const time = timeOf(at, result.usefulEnd.time * (1 - 1e-9));
  if (time === undefined) return fail(notATime('at', at), EXIT.usage);
  if (name === undefined) {
    say(pathNetlist(doc, result, time));
    return EXIT.met;
  }
  const stage = stageNamed(doc, name);
  if (!stage) return EXIT.usage;
  if (!isConverter(stage) || !stage.parts) {
    return fail(`mile: ${stage.name} has no parts to draw a netlist of\n`, EXIT.usage);
  }
  const switching = stageEnvelope(doc, result, stage.id).snapshots.filter((s) => s.period);
  const point = switching.findLast((s) => s.time <= time) ?? switching[0];
  if (!point) return fail(`mile: ${stage.name} never switches in this run\n`, EXIT.notMet);
  say(stageNetlist(stage, point));
  return EXIT.met;
}

function ofTransfer(doc: ThreadDocument): number {
  const dip = doc.backup && doc.charging ? backupOf(doc).dip : undefined;
  if (!dip) return fail('mile: nothing is handed over in this thread\n', EXIT.usage);
  say(transferNetlist(doc.name, dip.task));
  return EXIT.met;
}

function ofCharge(doc: ThreadDocument, when = '0'): number {
  const result = charged(doc);
  if (!result) return EXIT.usage;
  const time = timeOf(when, result.end.time);
  if (time === undefined) return fail(notATime('at', when), EXIT.usage);
  say(chargeNetlist(doc, result, time));
  return EXIT.met;
}
