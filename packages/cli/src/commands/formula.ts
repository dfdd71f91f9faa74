import { FORMULAS, type Formula } from '@mile-thread/core/design';
import { formatQuantity, parseQuantity } from '@mile-thread/core/units';
import { say } from '../say.ts';
import { EXIT, type Command } from './command.ts';
import { fail } from './files.ts';

export const formula: Command = {
  name: 'formula',
  usage: [
    { args: '', says: ['closed forms by themselves: the list of them'] },
    { args: 'NAME KEY=VALUE …', says: ['one of them; without values what it is to be given'] },
  ],
  options: ['json'],
  reads: false,
  words: { least: 0 },
  run(_, [name, ...given], { json }) {
    if (name === undefined) {
      say(FORMULAS.map((f) => `${f.name.padEnd(12)} ${f.about}\n`).join(''));
      return EXIT.met;
    }
    const found = FORMULAS.find((f) => f.name === name);
    if (!found) {
      const known = FORMULAS.map((f) => f.name).join(', ');
      return fail(`mile: no formula ${name}; there are ${known}\n`, EXIT.usage);
    }
    if (given.length === 0) {
      say(help(found));
      return EXIT.met;
    }
    const values = valuesOf(found, given);
    if (typeof values === 'string') return fail(`mile: ${values}\n\n${help(found)}`, EXIT.usage);
    const result = found.of(values);
    say(json ? `${JSON.stringify(result, null, 2)}\n` : text(found, result));
    return EXIT.met;
  },
};

function help({ about, source, inputs }: Formula): string {
  const lines = inputs.map(({ key, unit, about, usual }) => {
    const given = usual === undefined ? '' : `; ${formatQuantity(usual, unit)} where not given`;
    return `  ${key.padEnd(12)} ${about}${unit ? ` [${unit}]` : ''}${given}\n`;
  });
  return `${about}\n${lines.join('')}Source: ${source}\n`;
}

/** Every input by its key, in SI; or what is wrong, in a sentence. */
function valuesOf({ inputs }: Formula, given: readonly string[]): Record<string, number> | string {
  const values: Record<string, number> = {};
  for (const word of given) {
    const at = word.indexOf('=');
    const key = word.slice(0, at);
    const input = inputs.find((i) => i.key === key);
    if (at < 0 || !input) return `${word} is none of ${inputs.map((i) => `${i.key}=…`).join(' ')}`;
    const parsed = parseQuantity(word.slice(at + 1), input.unit);
    if (!parsed.ok) return `${key}: ${parsed.reason}`;
    const { least, most = Infinity } = input;
    const inside = (least === undefined ? parsed.value > 0 : parsed.value >= least) && parsed.value <= most;
    if (!inside) {
      const range = most < Infinity ? ` and at most ${most}` : '';
      return `${key} takes ${least === undefined ? 'more than 0' : `at least ${least}`}${range}`;
    }
    values[key] = parsed.value;
  }
  for (const { key, usual, about } of inputs) {
    if (key in values) continue;
    if (usual === undefined) return `${key} is missing: ${about}`;
    values[key] = usual;
  }
  return values;
}

function text({ outputs, source }: Formula, result: Record<string, number>): string {
  const lines = outputs.map(({ key, unit, about }) => {
    const value = result[key]!;
    return `${(Number.isFinite(value) ? formatQuantity(value, unit, 4) : '–').padStart(12)}  ${about}\n`;
  });
  return `${lines.join('')}Source: ${source}\n`;
}
