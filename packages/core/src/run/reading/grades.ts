import { worse, type Grade } from '../../model/grade.ts';
import { isConverter, type Stage } from '../../model/kinds/registry.ts';
import type { ThreadDocument } from '../../model/thread.ts';
import { usesParts } from '../../stages/switching.ts';
import type { RunAnswers } from '../account/result.ts';

/** Of a stage, its parts counted where they are used. */
export function stageGrade(s: Stage): Grade {
  return isConverter(s) && usesParts(s) ? worse(s.grade, s.parts!.grade) : s.grade;
}

/** The grade of a run is that of its worst input. @param extended stages that were asked beyond their readings */
export function grades(
  doc: ThreadDocument,
  extended: ReadonlySet<string>,
): Pick<RunAnswers, 'grade' | 'gradeFrom'> {
  const from: { element: string; grade: Grade }[] = [{ element: 'cells', grade: doc.pack.cell.grade }];
  if (doc.pack.protection) from.push({ element: 'protection', grade: doc.pack.protection.grade });
  for (const s of doc.stages) {
    // Beyond its readings a table is a guess, whatever its readings were.
    const own = stageGrade(s);
    from.push({ element: s.id, grade: extended.has(s.id) ? worse(own, 'typical') : own });
  }
  for (const l of doc.loads) from.push({ element: l.id, grade: l.grade });
  const grade = from.reduce<Grade>((g, f) => worse(g, f.grade), 'measured');
  from.sort((a, b) => (a.grade === b.grade ? 0 : worse(a.grade, b.grade) === a.grade ? -1 : 1));
  return { grade, gradeFrom: from };
}
