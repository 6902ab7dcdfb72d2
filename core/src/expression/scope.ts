import { onceFor } from '../once.ts';
import { byOrder, layerIdsOf, scenesOf, statesOf, variablesOf, type Layer, type Piece } from '../piece/piece.ts';
import type { Property, ValueType } from './ast.ts';
import type { TypeEnvironment } from './check.ts';
import type { ExpressionScope, NamedThing } from './names.ts';

const scopesIn = onceFor((_: Piece) => new Map<string | null, ExpressionScope>());

/** What an expression of a scene can name; null is the whole piece. The scene's own come first, so they win. */
export function expressionScope(piece: Piece, scene: string | null): ExpressionScope {
  const scopes = scopesIn(piece);
  let scope = scopes.get(scene);
  if (!scope) scopes.set(scene, (scope = make(piece, scene)));
  return scope;
}

const make = (piece: Piece, scene: string | null): ExpressionScope => ({
  things: thingsIn(piece, scene),
  nameOf: (id) => valueName(piece, id),
  valuesOf: (id, property) => valuesOf(piece, id, property),
});

function thingsIn(piece: Piece, scene: string | null): NamedThing[] {
  const own = scene === null ? undefined : piece.scenes.get(scene);
  const variables = [...(own ? variablesOf(piece, own.id) : []), ...variablesOf(piece, null)];
  const around = own ? [own.id, ...(own.carries ?? []).map((one) => one.sheet)] : [];
  const layers = around.flatMap((id) =>
    [...layerIdsOf(piece, id)]
      .flatMap((layer) => piece.layers.get(layer) ?? [])
      .filter((layer) => layer.locked !== true || layer.type !== 'picture')
      .sort(byOrder)
  );
  const scenes = [...scenesOf(piece, 'frame'), ...scenesOf(piece, 'sheet'), ...scenesOf(piece, 'part')];
  return [
    ...variables.map(({ id, name }) => ({ id, name, kind: 'variable' as const })),
    ...layers.map(({ id, name }) => ({ id, name, kind: 'layer' as const })),
    ...scenes.map(({ id, name }) => ({ id, name, kind: 'scene' as const })),
  ];
}

/** The name behind `‹=…›`: a frame's, or `scene/x` for a state or label of it. */
export function valueName(piece: Piece, id: string): string | null {
  const [scene, inner] = id.split('/') as [string, string | undefined];
  const found = piece.scenes.get(scene);
  if (!found || inner === undefined) return found?.name ?? null;
  return found.states?.[inner]?.name ?? found.timeline?.labels?.[inner]?.name ?? null;
}

/** The states, or the labels, of a scene or of the part that a placement shows. */
function valuesOf(piece: Piece, id: string, property: 'state' | 'section'): { reference: string; name: string }[] {
  const scene = piece.scenes.get(piece.layers.get(id)?.part ?? id);
  if (!scene) return [];
  const named =
    property === 'state' ? statesOf(scene) : Object.entries(scene.timeline?.labels ?? {}).map(([label, { name }]) => ({ id: label, name }));
  return named.map((one) => ({ reference: `${scene.id}/${one.id}`, name: one.name }));
}

const propertyTypes: Record<Property, ValueType | null> = {
  selected: 'yes/no',
  enabled: 'yes/no',
  shown: 'yes/no',
  value: null,
  x: 'number',
  y: 'number',
  state: 'text',
  section: 'text',
};

/** The types of what expressions name in a piece. */
export const typesIn = (piece: Piece): TypeEnvironment => ({
  typeOf: (id, property) => {
    if (property === null) return variableType(piece, id);
    if (property === 'state' || property === 'section') return piece.scenes.has(piece.layers.get(id)?.part ?? id) ? 'text' : null;
    const layer = piece.layers.get(id);
    if (!layer) return null;
    if (property !== 'value') return propertyTypes[property];
    return layer.field ? typeOfField(layer.field) : null;
  },
  isName: (id) => valueName(piece, id) !== null,
});

/** The type of what a field holds. */
export const typeOfField = ({ kind }: NonNullable<Layer['field']>): ValueType => fieldTypes[kind];

const fieldTypes = { text: 'text', number: 'number', checkbox: 'yes/no', switch: 'yes/no', choice: 'text', slider: 'number' } as const;

export function variableType(piece: Piece, id: string): ValueType | null {
  const type = piece.variables.get(id)?.type;
  return type === undefined ? null : type === 'choice' ? 'text' : type;
}
