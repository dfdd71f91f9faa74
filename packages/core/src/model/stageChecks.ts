import { issue, type Issue } from './issue.ts';
import { isConverter, isRegulated, type Stage } from './kinds/registry.ts';
import type { Inductor } from './parts.ts';

/** What the values of one stage owe each other. @param path of the stage, for the messages */
export function relationIssues(stage: Stage, path: string): Issue[] {
  const found: Issue[] = [];
  if (isRegulated(stage) && stage.minInput >= stage.maxInput) {
    const allowed = `less than maxInput (${stage.maxInput})`;
    found.push(issue('range', `${path}.minInput`, stage.minInput, allowed));
  }
  if (!isConverter(stage)) return found;
  const { divider } = stage.parts ?? {};
  if (divider && divider.reference >= stage.outputVolts) {
    const allowed = `less than the output (${stage.outputVolts} V)`;
    found.push(issue('range', `${path}.parts.divider.reference`, divider.reference, allowed));
  }
  for (const name of ['inductor', 'secondInductor'] as const) {
    const part = (stage.parts as Partial<Record<typeof name, Inductor>> | undefined)?.[name];
    if (!part?.coreLoss) continue;
    for (const field of ['coreRipple', 'coreFrequency'] as const) {
      if (part[field] !== undefined) continue;
      const allowed = 'a value, since a core loss is stated: at which ripple and frequency?';
      found.push(issue('missing', `${path}.parts.${name}.${field}`, undefined, allowed));
    }
  }
  if (stage.loss.basis !== 'points') return found;
  stage.loss.points.forEach((p, n) => {
    const at = `${path}.loss.points[${n}]`;
    if ((p.efficiency === undefined) === (p.inputAmps === undefined)) {
      found.push(issue('missing', at, p, 'exactly one of efficiency and inputAmps'));
    } else if (p.inputAmps !== undefined && p.inputAmps * p.inputVolts < p.outputAmps * stage.outputVolts) {
      const least = ((p.outputAmps * stage.outputVolts) / p.inputVolts).toPrecision(4);
      found.push(issue('range', `${at}.inputAmps`, p.inputAmps, `at least ${least} A: no more out than in`));
    }
  });
  return found;
}
