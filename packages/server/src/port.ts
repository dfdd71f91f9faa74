export const LAST_PORT = 65535;
const USUAL = 4173;

/** The port asked for; the usual one where none is named, undefined for what is no port. */
export function portOf(asked: string | undefined): number | undefined {
  if (asked === undefined || asked.trim() === '') return USUAL;
  const port = /^\d{1,5}$/.test(asked.trim()) ? Number(asked) : NaN;
  return port >= 1 && port <= LAST_PORT ? port : undefined;
}
