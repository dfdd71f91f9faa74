/** Where a figure comes from, best first. A result carries the worst grade among its inputs. */
export const GRADES = ['measured', 'published', 'typical', 'claimed', 'assumed'] as const;
export type Grade = (typeof GRADES)[number];

/** The worse of two grades. */
export function worse(a: Grade, b: Grade): Grade {
  return GRADES.indexOf(a) >= GRADES.indexOf(b) ? a : b;
}
