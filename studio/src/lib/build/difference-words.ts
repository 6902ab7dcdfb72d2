import { swatchIn, type Head } from '@zany/core';

/** How a field of a layer, and its value, are written where two states are compared. */

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

export function valueWords(head: Head, value: unknown): string {
  if (value === undefined) return 'none';
  if (value === '') return 'empty';
  if (typeof value === 'string') return textWords(head, value);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'number') return String(Math.round(value * 100) / 100);
  const line = value as { color?: string; width?: number; x?: number; y?: number; blur?: number };
  if (line.width !== undefined) return `${line.width} px ${textWords(head, line.color ?? '')}`.trim();
  return Object.values(line)
    .map((part) => (typeof part === 'string' ? textWords(head, part) : String(part)))
    .join(' ');
}

function textWords(head: Head, value: string): string {
  const swatch = swatchIn(value);
  if (swatch !== null) return head.swatches?.[swatch]?.name ?? 'a missing swatch';
  return /^[0-9a-f]{64}$/.test(value) ? 'another file' : (head.typeStyles?.[value]?.name ?? value.slice(0, 40));
}
