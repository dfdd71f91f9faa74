import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateNested,
  IsObject,
} from 'class-validator';

/**
 * Field decorators of the model. Each sets the class-validator rules and notes the same facts (unit,
 * range, meaning) in one table, from which forms, messages and the JSON Schema are made: a limit is
 * written once.
 */

type Class = new () => object;

/** One of several classes told apart by the value of `property`. */
export interface Variants {
  property: string;
  classes: Record<string, Class>;
}

export interface FieldMeta {
  type: 'quantity' | 'whole' | 'text' | 'choice' | 'flag' | 'numbers' | 'part' | 'parts';
  /** What the field means, one line; the first words serve as its label in forms. */
  about: string;
  label: string;
  optional: boolean;
  unit?: string;
  min?: number;
  max?: number;
  /** Least and most entries of a list. */
  count?: readonly [number, number];
  options?: readonly string[];
  pattern?: string;
  of?: () => Class;
  /** Whether it is a long list of plain rows of numbers. */
  rows?: boolean;
  variants?: () => Variants;
}

const table = new Map<object, Map<string, FieldMeta>>();

const known = new WeakMap<Class, ReadonlyMap<string, FieldMeta>>();

/** The fields of a model class, its ancestors' first. */
export function fieldsOf(model: Class): ReadonlyMap<string, FieldMeta> {
  const fields = known.get(model) ?? gather(model);
  known.set(model, fields);
  return fields;
}

function gather(model: Class): ReadonlyMap<string, FieldMeta> {
  const all = new Map<string, FieldMeta>();
  const chain: object[] = [];
  for (let p: object | null = model.prototype; p && p !== Object.prototype; p = Object.getPrototypeOf(p)) {
    chain.unshift(p);
  }
  for (const p of chain) for (const [name, meta] of table.get(p) ?? []) all.set(name, meta);
  return all;
}

interface Extra {
  optional?: boolean;
  label?: string;
}

function note(
  meta: Omit<FieldMeta, 'optional' | 'label'>,
  extra: Extra | undefined,
  rules: PropertyDecorator[],
) {
  return (target: object, name: string | symbol) => {
    const fields = table.get(target) ?? new Map<string, FieldMeta>();
    table.set(target, fields);
    const label = extra?.label ?? sentence(String(name));
    fields.set(String(name), { ...meta, label, optional: extra?.optional ?? false });
    if (extra?.optional) IsOptional()(target, name);
    for (const rule of rules) rule(target, name);
  };
}

function sentence(name: string): string {
  const words = name.replace(/([A-Z])/g, (c) => ` ${c.toLowerCase()}`);
  return words[0]!.toUpperCase() + words.slice(1);
}

const FINITE = { allowNaN: false, allowInfinity: false };

/** A number with a unit, min ≤ value ≤ max. */
export function Quantity(unit: string, min: number, max: number, about: string, extra?: Extra) {
  return note({ type: 'quantity', unit, min, max, about }, extra, [IsNumber(FINITE), Min(min), Max(max)]);
}

/** A whole number, min ≤ value ≤ max. */
export function Whole(min: number, max: number, about: string, extra?: Extra) {
  return note({ type: 'whole', unit: '', min, max, about }, extra, [IsInt(), Min(min), Max(max)]);
}

/** A text of at most `most` characters; never empty unless optional. */
export function Text(most: number, about: string, extra?: Extra & { pattern?: RegExp }) {
  const rules = [IsString(), MinLength(extra?.optional ? 0 : 1), MaxLength(most)];
  if (extra?.pattern) rules.push(Matches(extra.pattern));
  const count = [extra?.optional ? 0 : 1, most] as const;
  return note({ type: 'text', count, about, pattern: extra?.pattern?.source }, extra, rules);
}

/** One of the words listed. */
export function Choice(options: readonly string[], about: string, extra?: Extra) {
  return note({ type: 'choice', options, about }, extra, [IsIn(options as string[])]);
}

/** True or false. */
export function Flag(about: string, extra?: Extra) {
  return note({ type: 'flag', about }, extra, [IsBoolean()]);
}

/** A list of numbers with a unit. */
export function Numbers(
  unit: string,
  min: number,
  max: number,
  count: readonly [number, number],
  about: string,
  extra?: Extra,
) {
  return note({ type: 'numbers', unit, min, max, count, about }, extra, [
    IsArray(),
    ArrayMinSize(count[0]),
    ArrayMaxSize(count[1]),
    IsNumber(FINITE, { each: true }),
    Min(min, { each: true }),
    Max(max, { each: true }),
  ]);
}

/** A nested object of one class. */
export function Part(of: () => Class, about: string, extra?: Extra) {
  return note({ type: 'part', of, about }, extra, [IsObject(), ValidateNested()]);
}

/** A nested object that is one of several classes. */
export function PartOf(base: () => Class, variants: Variants, about: string, extra?: Extra) {
  const rules = [IsObject(), ValidateNested()];
  return note({ type: 'part', of: base, variants: () => variants, about }, extra, rules);
}

/** A list of nested objects of one class. */
export function Parts(of: () => Class, count: readonly [number, number], about: string, extra?: Extra) {
  return note({ type: 'parts', of, count, about }, extra, listRules(count));
}

/** A list of nested objects, each one of several classes. */
export function PartsOf(
  base: () => Class,
  variants: Variants,
  count: readonly [number, number],
  about: string,
  extra?: Extra,
) {
  const meta = { type: 'parts', of: base, variants: () => variants, count, about } as const;
  return note(meta, extra, listRules(count));
}

function listRules(count: readonly [number, number]): PropertyDecorator[] {
  return [IsArray(), ArrayMinSize(count[0]), ArrayMaxSize(count[1]), ValidateNested({ each: true })];
}

/** A long list of objects of one class that holds nothing but numbers: a table. Checked by `shape.ts`. */
export function Rows(of: () => Class, count: readonly [number, number], about: string, extra?: Extra) {
  const rules = [IsArray(), ArrayMinSize(count[0]), ArrayMaxSize(count[1])];
  return note({ type: 'parts', of, rows: true, count, about }, extra, rules);
}
