/**
 * Cells of a table that start like a formula, or like a quote that defuses one, get a quote before them: a spreadsheet
 * shows them as text and does not run them.
 */
export function defused(text: string): string {
  return /^[=+\-@\t\r']/.test(text) ? `'${text}` : text;
}

/** What `defused` was given. */
export function unquoted(cell: string): string {
  return /^'[=+\-@\t\r']/.test(cell) ? cell.slice(1) : cell;
}
