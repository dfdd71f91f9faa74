/** Quantities as typed and shown. */
export { HOURS_PER_MONTH, SECONDS_PER_HOUR } from './units/constants.ts';
export {
  editableQuantity,
  formatApart,
  formatDuration,
  formatQuantity,
  formatShelf,
} from './units/formatQuantity.ts';
export { parseQuantity } from './units/parseQuantity.ts';
