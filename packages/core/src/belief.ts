/** What to believe: cases side by side, how long it lasts as a range, what to measure. */
export {
  caseConditions,
  caseRuns,
  casesOf,
  fadeOf,
  usageOf,
  type CaseName,
  type CaseRun,
} from './belief/cases.ts';
export { fadeAfter, ROUGHNESS, type Faded, type FadeRange } from './belief/fade.ts';
export { figuresOf, type Figure, type FigureKind } from './belief/figures.ts';
export { drawHours, rangeOf, USUAL_DRAWS, type Carrier, type Drawn, type LifeRange } from './belief/range.ts';
