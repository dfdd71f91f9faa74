import { LIMIT, LIMITS } from '../../charging/limits.ts';
import { isConverter } from '../../model/kinds/registry.ts';
import { worse, type Grade } from '../../model/grade.ts';
import type { Plant } from '../../plant/compile.ts';
import { SECONDS_PER_HOUR } from '../../units/constants.ts';
import type {
  Balanced,
  ChargeEnd,
  ChargePhase,
  ChargeResult,
  GroupsCharged,
  Keeps,
} from '../account/chargeResult.ts';
import { grades, stageGrade } from './grades.ts';
import type { RunAnswers } from '../account/result.ts';
import { CHARGE } from '../account/account.ts';
import type { Series } from '../account/series.ts';
import { Reading } from './reading.ts';

/** All of a charge but its rows. */
export interface Filled {
  why: ChargeEnd;
  phases: ChargePhase[];
  answers: RunAnswers;
  /** of groups that differ */
  balanced?: Balanced;
}

/** What came of a charge, from its run and its rows. */
export function chargeAnswers(
  plant: Plant,
  { why, phases, answers, balanced }: Filled,
  series: Series,
): ChargeResult {
  const rows = new Reading(series);
  const last = rows.count - 1;
  const { time } = answers.deadEnd;
  const to80 = rows.timeOf(0.8);
  const to99 = rows.timeOf(0.99);
  const keeps = keepsOf(plant, why, rows);
  const fastest = rows.best((r) => -rows.at(r, 'cellAmps'));
  const amps = Math.max(0, -rows.at(fastest, 'cellAmps'));
  const gentleUntil = phases.find((p) => p.limit !== 'precharge')?.from ?? Infinity;
  const heatIn = (r: number) => rows.of(r, 'heat');
  const hot = rows.best(heatIn);
  const gentle = rows.best((r) => (rows.at(r, 'time') < gentleUntil ? heatIn(r) : 0));
  const works = (r: number) => rows.of(r, 'outAmps') > 0;
  const low = rows.best((r) => (works(r) ? -rows.of(r, 'inVolts') : -Infinity));
  const most = rows.best((r) => rows.of(r, 'sourceAmps'));
  const celsius = junctionAt(plant, heatIn(hot));
  return {
    end: {
      time,
      reason: why,
      soc: rows.at(last, 'soc'),
      cellVolts: rows.at(last, 'cellVolts'),
      restVolts: rows.at(last, 'restVolts'),
      amps: rows.of(last, 'outAmps'),
      ...(keeps ? { keeps } : {}),
    },
    ...(to80 === undefined ? {} : { to80 }),
    ...(to99 === undefined ? {} : { to99 }),
    phases,
    ledger: answers.ledgerAtDead,
    fastest: { amps, rate: amps / (plant.pack.rated / SECONDS_PER_HOUR), time: rows.at(fastest, 'time') },
    hottest: {
      watts: heatIn(hot),
      time: rows.at(hot, 'time'),
      ...(celsius === undefined ? {} : { celsius }),
    },
    prechargeHeat: gentleUntil > 0 && phases[0]?.limit === 'precharge' ? heatIn(gentle) : 0,
    mostSource: rows.of(most, 'sourceAmps'),
    lowestInput: works(low) ? rows.of(low, 'inVolts') : 0,
    ...(answers.groups && balanced ? { groups: groupsOf(answers.groups, balanced) } : {}),
    ...(answers.warmth ? { warmth: answers.warmth } : {}),
    ...chargeGrades(plant, answers.extended),
    counts: answers.counts,
    series,
  };
}

/** How groups that differ came out of it. */
function groupsOf({ soc, volts }: NonNullable<RunAnswers['groups']>, balanced: Balanced): GroupsCharged {
  return { soc, volts, fullest: volts.indexOf(Math.max(...volts)), ...balanced };
}

/** [°C] of the charger's junction at a heat [W]; undefined where nothing is said of it. */
function junctionAt({ charger, conditions }: Plant, watts: number): number | undefined {
  const { stage } = charger!.charging;
  const parts = isConverter(stage) && stage.parts?.used ? stage.parts : undefined;
  const perWatt = (parts ?? ('thermalResistance' in stage ? stage : undefined))?.thermalResistance;
  return perWatt ? conditions.air + perWatt * watts : undefined;
}

/** What keeps a charge from ending, by how it stands at its end. */
function keepsOf({ charger }: Plant, why: ChargeEnd, rows: Reading): Keeps | undefined {
  if (why !== 'never' && why !== 'timer') return undefined;
  const { control } = charger!.charging;
  const last = rows.count - 1;
  const limit = LIMITS[rows.of(last, 'limit')]!;
  if (control?.terminate === undefined) return 'noEnd';
  if (limit === 'volts' || limit === 'full') return 'load';
  if (limit === 'headroom' || limit === 'heat' || limit === 'letsGo' || limit === 'lockOut') return limit;
  if (rows.of(last, 'limit') === LIMIT.source || limit === 'ownInput' || limit === 'inputVolts')
    return 'source';
  return 'slow';
}

/** The grade of a charge is that of its worst input. */
function chargeGrades(plant: Plant, extended: readonly string[]): Pick<ChargeResult, 'grade' | 'gradeFrom'> {
  const { source, stage } = plant.charger!.charging;
  const { gradeFrom } = grades(plant.doc, new Set(extended));
  const own: { element: string; grade: Grade }[] = [
    { element: CHARGE.source, grade: source.grade },
    { element: CHARGE.charger, grade: stageGrade(stage) },
  ];
  const all = [...own, ...gradeFrom.filter((g) => plant.doc.stages.length > 0 || g.element === 'cells')];
  all.sort((a, b) => (a.grade === b.grade ? 0 : worse(a.grade, b.grade) === a.grade ? -1 : 1));
  return { grade: all[0]!.grade, gradeFrom: all };
}
