import type { FieldMeta } from './fields.ts';

/** What a field may hold, in words. */
export function allowedBy(meta: FieldMeta): string {
  const unit = meta.unit ? ` ${meta.unit}` : '';
  const [least, most] = meta.count ?? [0, 0];
  switch (meta.type) {
    case 'quantity':
      return `a number from ${meta.min}${unit} to ${meta.max}${unit}`;
    case 'whole':
      return meta.min === meta.max ? `${meta.min}` : `a whole number from ${meta.min} to ${meta.max}`;
    case 'text':
      return meta.pattern
        ? `letters, digits, - and _, at most ${most} characters`
        : `text of ${least} to ${most} characters`;
    case 'choice':
      return `one of ${meta.options!.join(', ')}`;
    case 'flag':
      return 'true or false';
    case 'numbers':
      return `${least} to ${most} numbers from ${meta.min}${unit} to ${meta.max}${unit}`;
    case 'part':
      return `an object: ${meta.about.toLowerCase()}`;
    case 'parts':
      return `a list of ${least} to ${most}: ${meta.about.toLowerCase()}`;
  }
}
