/** What a pack takes up and weighs, and how it may travel. */
export { AIR_ASK, AIR_FREE, airClass, labelOf, type AirClass, type Label } from './body/carriage.ts';
export { bestArrangement, fitOf, type Arrangement, type Cut, type Fit, type Sides } from './body/fit.ts';
export { cellWattHours, packBody, usualRoom, type PackBody } from './body/pack.ts';
