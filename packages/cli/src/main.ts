import { parseArgs } from 'node:util';
import type { ThreadDocument } from '@mile-thread/core/model';
import { charge } from './commands/charge.ts';
import { check } from './commands/check.ts';
import { EXIT, OPTIONS, type Command, type Values } from './commands/command.ts';
import { fail, load, same } from './commands/files.ts';
import { fit } from './commands/fit.ts';
import { formula } from './commands/formula.ts';
import { log } from './commands/log.ts';
import { netlist } from './commands/netlist.ts';
import { outage } from './commands/outage.ts';
import { plan } from './commands/plan.ts';
import { quick } from './commands/quick.ts';
import { run } from './commands/run.ts';
import { schema } from './commands/schema.ts';
import { size } from './commands/size.ts';
import { say } from './say.ts';

export { EXIT } from './commands/command.ts';

/** Every command there is: one line. */
const COMMANDS: readonly Command[] = [
  ...[run, quick, charge, outage, plan, fit, log, check, size, netlist, formula, schema],
];

/** Where what a command says of itself begins. */
const INDENT = 39;

/** Run the command line. @returns the exit code */
export async function main(args: string[]): Promise<number> {
  let parsed;
  try {
    const options = { ...OPTIONS, help: { type: 'boolean', short: 'h' } } as const;
    parsed = parseArgs({ args, allowPositionals: true, options });
  } catch (error) {
    return fail(`${(error as Error).message}\n\n${usage()}`, EXIT.usage);
  }
  const { help, ...values } = parsed.values;
  const [name, ...rest] = parsed.positionals;
  if (help || name === 'help') {
    say(usage());
    return EXIT.met;
  }
  const command = COMMANDS.find((c) => c.name === name);
  const file = command?.reads ? rest.shift() : undefined;
  if (!command || (command.reads && file === undefined) || !fits(command, rest.length)) {
    return fail(usage(), EXIT.usage);
  }
  const wrong = strayOption(command, values) ?? command.refuses?.(rest, values);
  if (wrong) return fail(`mile: ${wrong}\n`, EXIT.usage);
  if (file === undefined) return command.run(undefined as never, rest, values);
  if (values.csv !== undefined && same(values.csv, file)) {
    return fail(`mile: --csv ${values.csv} is the thread file itself; name another\n`, EXIT.usage);
  }
  const doc: ThreadDocument | undefined = load(file);
  return doc ? command.run(doc, rest, values) : EXIT.badFile;
}

function fits({ words }: Command, given: number): boolean {
  return typeof words === 'number' ? given === words : given >= words.least;
}

/** An option that goes with others, in a sentence. */
function strayOption(command: Command, values: Values): string | undefined {
  for (const name of Object.keys(values) as (keyof Values)[]) {
    if (command.options.includes(name)) continue;
    const takers = COMMANDS.filter((c) => c.options.includes(name)).map((c) => c.name);
    const last = takers.pop();
    return `--${name} goes with ${takers.length > 0 ? `${takers.join(', ')} and ` : ''}${last}`;
  }
  return undefined;
}

/** What every command is called with, from the commands themselves. */
function usage(): string {
  const lines = COMMANDS.flatMap(({ name, usage }) =>
    usage.flatMap(({ args, says }) => {
      const head = `  mile ${name} ${args}`.trimEnd();
      const rest = says.map((line) => `${' '.repeat(INDENT)}${line}`);
      // Short ones say it on the same line.
      if (head.length + 2 > INDENT) return [head, ...rest];
      return [`${head.padEnd(INDENT)}${says[0]}`, ...rest.slice(1)];
    }),
  );
  return `mile: plan the power path from lithium cell to load

${lines.join('\n')}

STAGE and ID are a stage's id or name. WHEN is hours into the run, or end, the useful end; 0 where not given
for the path, end for a stage.
FILE is NAME.thread.json, or - for standard input. OUT may be - for standard output.
Exit: 0 need met and nothing fails, 1 need not met or something fails, 2 wrong use, 3 file cannot be read.
`;
}
