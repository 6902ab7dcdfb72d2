import { corner } from './corner.ts';
import { counted } from './counted.ts';
import type { PropertyKind } from './define.ts';
import { drawn } from './drawn.ts';
import { fill } from './fill.ts';
import { height } from './height.ts';
import { ink } from './ink.ts';
import { lineColor } from './line-color.ts';
import { lineWidth } from './line-width.ts';
import { opacity } from './opacity.ts';
import { path } from './path.ts';
import { rotation } from './rotation.ts';
import { scale } from './scale.ts';
import { size } from './size.ts';
import { typed } from './typed.ts';
import { volume } from './volume.ts';
import { width } from './width.ts';
import { x } from './x.ts';
import { y } from './y.ts';

/** All that can have keys, in the order of menus. To add one: its file, and its line here. */
const all = [
  x,
  y,
  width,
  height,
  rotation,
  scale,
  opacity,
  fill,
  lineColor,
  lineWidth,
  path,
  drawn,
  corner,
  volume,
  ink,
  size,
  typed,
  counted,
] as const;

type Any = (typeof all)[number];

export type Tracked = Any['name'];

/** A kind as it is seen by those who do not know which it is. */
export type AnyPropertyKind = PropertyKind<Tracked>;

export const properties: readonly AnyPropertyKind[] = all as never;

export const propertyKinds = Object.fromEntries(properties.map((kind) => [kind.name, kind])) as { readonly [T in Tracked]: AnyPropertyKind };

/** Where a layer keeps a property, as a path in it. */
export const placeOfProperty = ({ name, group, of }: AnyPropertyKind): readonly string[] =>
  of ? [group, of.field, of.inner] : group === 'layer' ? [name] : [group, name];

type SchemaOf<K extends Any> = Exclude<K['schema'], undefined>;

/** The fields of style or letters that are properties by themselves. */
export type FieldsOf<G extends 'style' | 'letters'> = {
  [K in Extract<Any, { readonly group: G }> as [SchemaOf<K>] extends [never] ? never : K['name']]: SchemaOf<K>;
};
