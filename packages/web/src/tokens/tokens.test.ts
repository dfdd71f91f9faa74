import { readdirSync, readFileSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { expect, it } from 'vitest';
import { COLOURS, customProperties } from './tokens.ts';

const root = new URL('..', import.meta.url).pathname;
const sources = readdirSync(root, { recursive: true, encoding: 'utf8' }).filter((f) =>
  /\.(css|tsx?)$/.test(f),
);

it('no colour and no size of type is spelt anywhere else', () => {
  for (const file of sources.filter((f) => !f.startsWith('tokens/'))) {
    const text = readFileSync(root + file, 'utf8');
    expect(text, file).not.toMatch(/#[0-9a-f]{6}\b|#[0-9a-f]{3}['; ]/i);
    if (file.endsWith('.css')) expect(text, file).not.toMatch(/font-size: \d|rgb\(/);
  }
});

it('every custom property that a style asks for is there', () => {
  const given = customProperties();
  for (const file of sources.filter((f) => f.endsWith('.css'))) {
    for (const [, name] of readFileSync(root + file, 'utf8').matchAll(/var\((--[\w-]+)\)/g)) {
      expect(given, `${file}: ${name}`).toContain(`${name}:`);
    }
  }
});

/** Classes of a sheet as the build names them for the script. */
function classesOf(sheet: string): Set<string> {
  const own = sheet.replace(/\/\*[^]*?\*\/|:global\([^)]*\)/g, '');
  const selectors = [...own.matchAll(/([^{}]+)\{/g)].map(([, selector]) => selector!.trim());
  const names = selectors
    .filter((s) => !s.startsWith('@'))
    .flatMap((s) => [...s.matchAll(/\.([a-z][\w-]*)/gi)]);
  return new Set(names.map(([, name]) => name!.replace(/-(\w)/g, (_, c: string) => c.toUpperCase())));
}

it('every class a part asks of its sheet is there, and every class of a sheet is asked for', () => {
  const sheets = new Map(
    sources
      .filter((f) => f.endsWith('.module.css'))
      .map((f) => [
        f,
        { given: classesOf(readFileSync(root + f, 'utf8')), asked: new Set<string>(), any: false },
      ]),
  );
  for (const file of sources.filter((f) => f.endsWith('.tsx'))) {
    const text = readFileSync(root + file, 'utf8');
    for (const [, name, path] of text.matchAll(/import (\w+) from '([^']*\.module\.css)'/g)) {
      const sheet = sheets.get(join(dirname(file), path!))!;
      for (const [, asked] of text.matchAll(new RegExp(`\\b${name}\\.(\\w+)`, 'g'))) {
        expect(sheet.given, `${file}: ${asked}`).toContain(asked);
        sheet.asked.add(asked!);
      }
      // Asked for by a value, such as a severity.
      sheet.any ||= text.includes(`${name}[`);
    }
  }
  for (const [file, { given, asked, any }] of sheets) {
    if (!any)
      expect(
        [...given].filter((c) => !asked.has(c)),
        file,
      ).toEqual([]);
  }
});

it('no two sheets have one name: their classes are named after them', () => {
  const names = sources.filter((f) => f.endsWith('.module.css')).map((f) => basename(f));
  expect(new Set(names).size).toBe(names.length);
});

it('words are told from what is behind them: 4.5 to 1, as WCAG 2.2 asks (1.4.3, from memory)', () => {
  const light = (hex: string) => {
    const [r, g, b] = [1, 3, 5].map((k) => {
      const v = Number.parseInt(hex.slice(k, k + 2), 16) / 255;
      return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
    });
    return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
  };
  const contrast = (a: string, b: string) => {
    const [x, y] = [light(a), light(b)].sort((p, q) => q - p);
    return (x! + 0.05) / (y! + 0.05);
  };
  const { ink, inkSoft, inkFaint, pine, emberInk, saffronInk, madderInk, slateInk } = COLOURS;
  for (const word of [ink, inkSoft, inkFaint, pine, emberInk, saffronInk, madderInk, slateInk]) {
    for (const behind of [COLOURS.paper, COLOURS.sheet, COLOURS.white]) {
      expect(contrast(word, behind), `${word} on ${behind}`).toBeGreaterThan(4.5);
    }
  }
});
