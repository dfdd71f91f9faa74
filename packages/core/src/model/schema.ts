import { fieldsOf, type FieldMeta } from './fields.ts';
import { ThreadDocument } from './thread.ts';

type Json = { [key: string]: unknown };
type Class = new () => object;

/** The JSON Schema (draft 2020-12) of a thread file, made from the model classes. */
export function threadSchema(): Json {
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'Mile Thread, a thread file, version 4',
    description:
      'SI units; energy and charge fields carry their unit in the name. Besides this schema: ids are unique, `from` names `pack` or a stage, tables over state of charge rise from 0 to 1.',
    ...objectSchema(ThreadDocument),
  };
}

function objectSchema(model: Class, fixed: Json = {}): Json {
  const properties: Json = {};
  const required: string[] = [];
  for (const [name, meta] of fieldsOf(model)) {
    properties[name] = name in fixed ? { const: fixed[name] } : fieldSchema(meta);
    if (!meta.optional) required.push(name);
  }
  return { type: 'object', properties, required, additionalProperties: false };
}

function fieldSchema(meta: FieldMeta): Json {
  const unit = meta.unit ? `[${meta.unit}] ` : '';
  const description = unit + meta.about;
  const [least, most] = meta.count ?? [0, 0];
  switch (meta.type) {
    case 'quantity':
      return { description, type: 'number', minimum: meta.min, maximum: meta.max };
    case 'whole':
      return { description, type: 'integer', minimum: meta.min, maximum: meta.max };
    case 'text':
      return {
        description,
        type: 'string',
        minLength: least,
        maxLength: most,
        ...(meta.pattern ? { pattern: meta.pattern } : {}),
      };
    case 'choice':
      return { description, enum: meta.options };
    case 'flag':
      return { description, type: 'boolean' };
    case 'numbers': {
      const items = { type: 'number', minimum: meta.min, maximum: meta.max };
      return { description, type: 'array', minItems: least, maxItems: most, items };
    }
    case 'part':
      return { description, ...oneOf(meta) };
    case 'parts':
      return { description, type: 'array', minItems: least, maxItems: most, items: oneOf(meta) };
  }
}

function oneOf(meta: FieldMeta): Json {
  const variants = meta.variants?.();
  if (!variants) return objectSchema(meta.of!());
  const { property, classes } = variants;
  return { oneOf: Object.entries(classes).map(([word, model]) => objectSchema(model, { [property]: word })) };
}
