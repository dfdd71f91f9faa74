import { readdirSync, readFileSync } from 'node:fs';
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

it('no view wears a class that another view styles', () => {
  const read = (f: string) => readFileSync(root + f, 'utf8');
  const view = (f: string) => /^views\/(\w+)\//.exec(f)?.[1];
  const worn = (f: string) =>
    [...read(f).matchAll(/className=(?:"([^"]*)"|\{`([^`]*)`)/g)].flatMap(([, a, b]) =>
      (a ?? b)!.replace(/\$\{[^}]*\}/g, ' ').split(/\s+/),
    );
  const shared = new Set(sources.filter((f) => f.endsWith('.tsx') && !view(f)).flatMap(worn));
  const styled = new Map<string, string>();
  for (const file of sources.filter((f) => f.endsWith('.css') && view(f))) {
    for (const [, name] of read(file).matchAll(/^\.([\w-]+)/gm)) {
      if (!shared.has(name!)) styled.set(name!, view(file)!);
    }
  }
  for (const file of sources.filter((f) => f.endsWith('.tsx') && view(f))) {
    for (const name of worn(file)) {
      expect(styled.get(name) ?? view(file), `${file}: ${name}`).toBe(view(file));
    }
  }
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
