import { properties, type FieldsOf } from './all.ts';

/** The fields of style or letters that are properties by themselves. */
export const fieldsOf = <G extends 'style' | 'letters'>(group: G): FieldsOf<G> =>
  Object.fromEntries(properties.flatMap(({ name, group: own, schema }) => (own === group && schema ? [[name, schema]] : []))) as FieldsOf<G>;
