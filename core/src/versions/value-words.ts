import { displayExpression } from '../expression/names.ts';
import { expressionScope } from '../expression/scope.ts';
import { swatchIn } from '../piece/paint.ts';
import type { Head, Piece } from '../piece/piece.ts';

/** Of a text as it is quoted. */
const MOST_SIGNS = 60;

/** How a field of a layer, and its value, are written where two states or two versions are compared. */

const fields: Record<string, string> = {
  'pose.x': 'x',
  'pose.y': 'y',
  'pose.width': 'width',
  'pose.height': 'height',
  'pose.rotation': 'turned by',
  'pose.scale': 'scale',
  'pose.anchor': 'anchor',
  'style.line': 'line',
  'style.ink': 'colour of the text',
  'letters.style': 'type style',
  hidden: 'hidden',
  asset: 'picture',
  path: 'shape',
};

export const fieldWords = (field: string): string => fields[field] ?? field.replace(/^(style|letters|pose)\./, '');

export function plainValueWords(head: Head, value: unknown): string {
  if (value === undefined || value === null) return 'none';
  if (value === '') return 'empty';
  if (typeof value === 'string') return textWords(head, value);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'number') return String(Math.round(value * 100) / 100);
  const line = value as { color?: string; width?: number; x?: number; y?: number; blur?: number };
  if (line.width !== undefined) return `${line.width} px ${textWords(head, line.color ?? '')}`.trim();
  return Object.values(line)
    .map((part) => (typeof part === 'string' ? textWords(head, part) : typeof part === 'object' ? plainValueWords(head, part) : String(part)))
    .join(' ');
}

function textWords(head: Head, value: string): string {
  const swatch = swatchIn(value);
  if (swatch !== null) return head.swatches?.[swatch]?.name ?? 'a missing swatch';
  return /^[0-9a-f]{64}$/.test(value)
    ? 'another file'
    : (head.typeStyles?.[value]?.name ?? (value.length > MOST_SIGNS ? `${value.slice(0, MOST_SIGNS)}…` : value));
}

/** A value in a version of a piece, with names for what it names. */
export function valueIn(piece: Piece, scene: string | null, value: unknown): string {
  if (typeof value !== 'string')
    return Array.isArray(value) ? value.map((one) => valueIn(piece, scene, one)).join(', ') || 'none' : plainValueWords(piece.head, value);
  if (value.includes('‹')) return displayExpression(value, expressionScope(piece, scene)).text;
  return namedIn(piece, value) ?? plainValueWords(piece.head, value);
}

/** The name of a thing by its id; null where the text is none. */
function namedIn({ scenes, layers, variables, assets, head }: Piece, id: string): string | null {
  const entity = scenes.get(id) ?? layers.get(id) ?? variables.get(id) ?? assets.get(id);
  return (entity ?? head.bundles?.[id] ?? head.kinds?.[id] ?? head.typeStyles?.[id])?.name ?? null;
}
