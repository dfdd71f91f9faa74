/** [mm] of a label, and how many stand side by side. */
const LABEL = { width: 48, height: 17, across: 4 };

/** Labels of cells on one sheet, as a picture to print: a cell's number large, what it holds beneath. */
export function labelSheet(labels: readonly (readonly string[])[]): string {
  const { width, height, across } = LABEL;
  const rows = Math.ceil(labels.length / across);
  const text = (words: string) => words.replace(/[&<>]/g, (c) => `&#${c.charCodeAt(0)};`);
  const one = (lines: readonly string[], k: number) => {
    const [x, y] = [(k % across) * width, Math.floor(k / across) * height];
    const [first = '', second = '', third = ''] = lines.map(text);
    return `<g transform="translate(${x} ${y})"><rect x=".5" y=".5" width="${width - 1}" height="${height - 1}" fill="none" stroke="#999" stroke-width=".2" stroke-dasharray="1 1"/><text x="2" y="6" font-size="5" font-weight="700">${first}</text><text x="2" y="10.6" font-size="3.4">${second}</text><text x="2" y="14.8" font-size="3.4">${third}</text></g>`;
  };
  const [w, h] = [across * width, rows * height];
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="0 0 ${w} ${h}" font-family="sans-serif">${labels.map(one).join('')}</svg>`;
}
