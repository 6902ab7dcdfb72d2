import {
  DEFAULT_INK,
  faceOf,
  isOutlined,
  layerKind,
  placeOfLetters,
  properties,
  strokeLength,
  USUAL_LETTERS,
  type Letters,
  type Shown,
  type Values,
} from '@zany/core/engine';

/** A family as a style names it: a bundled face with what stands in for it, or a kind of face. */
function familyWords(family: string): string {
  const face = faceOf(family);
  return face ? `"${family}", ${face.like}` : family;
}

/** Remembers what was written to an element's style, so that nothing is written twice. */
export class Styles {
  private readonly written = new Map<string, string>();

  constructor(private readonly style: CSSStyleDeclaration) {}

  /** Sets a property through the CSS object model, so that no policy has to allow inline styles. */
  set(name: string, value: string): void {
    if (this.written.get(name) === value) return;
    this.written.set(name, value);
    this.style.setProperty(name, value);
  }
}

/** Properties that are style declarations by themselves. */
const declared = properties.filter(({ css }) => css);

const px = (n: number): string => `${Math.round(n * 1000) / 1000}px`;

/**
 * Writes where a layer is and how large. In a piece that moves its place is a transform, so that nothing has to be laid out anew and
 * parts of pixels are seen; in a still one it is not, since each transform costs every later frame, and hundreds of pages may be on show.
 */
export function placeElement(styles: Styles, shown: Shown, values: Values, moves: boolean): void {
  const { anchor } = shown;
  const turn = values.rotation === 0 ? '' : ` rotate(${values.rotation}deg)`;
  const scale = values.scale === 1 ? '' : ` scale(${values.scale})`;
  const move = moves ? `translate(${px(values.x)}, ${px(values.y)})` : '';
  styles.set('left', moves ? '' : px(values.x));
  styles.set('top', moves ? '' : px(values.y));
  styles.set('transform', `${move}${turn}${scale}`.trimStart());
  styles.set('transform-origin', turn || scale ? `${anchor.x * 100}% ${anchor.y * 100}%` : '');
  styles.set('width', px(values.width));
  styles.set('height', px(values.height));
  for (const { name, css } of declared) styles.set(css!.name, css!.text(values[name] as never));
}

/** The dash and the gap of a line that is drawn in part: as much as is drawn, then nothing for longer than it is; null for a whole one. */
export function dashOf({ drawn: share, width, height }: Values, outline: string): [number, number] | null {
  if (share >= 1) return null;
  const whole = strokeLength(outline, width / 100, height / 100);
  return [whole * share, whole + 1000];
}

/** Writes what a layer is painted with. */
export function dress(styles: Styles, shown: Shown, values: Values): void {
  const { layer } = shown.node;
  const kind = layerKind(layer);
  const isDrawn = isOutlined(layer);
  styles.set('background-color', kind.draws === 'nothing' || isDrawn ? '' : (values.fill ?? ''));
  styles.set('border', !isDrawn && values.lineColor && values.lineWidth > 0 ? `${px(values.lineWidth)} solid ${values.lineColor}` : '');
  styles.set('border-radius', kind.isRound ? '50%' : values.corner ? px(values.corner) : '');
  const shadow = values.shadowColor ? `${px(values.shadowX)} ${px(values.shadowY)} ${px(values.shadowBlur)} ${values.shadowColor}` : '';
  styles.set(isDrawn ? 'filter' : 'box-shadow', shadow && isDrawn ? `drop-shadow(${shadow})` : shadow);
  if (shown.text === undefined && layer.type !== 'field') return;
  styles.set('color', values.ink ?? DEFAULT_INK);
  dressLetters(styles, shown.letters, values.size, !kind.isProse);
}

/** A font as styles and canvases name it. */
export const fontOf = ({ family = USUAL_LETTERS.family, weight = USUAL_LETTERS.weight }: Letters, size: number, leading?: number): string =>
  `${weight} ${px(size)}${leading === undefined ? '' : `/${leading}`} ${familyWords(family)}`;

/** What a field that is not live shows. */
export const fieldWords = ({ node, selected }: Shown): string => {
  const { field } = node.layer;
  if (field?.kind === 'checkbox' || field?.kind === 'switch') return selected ? '✓' : '';
  return String(field?.value ?? field?.placeholder ?? '');
};

function dressLetters(styles: Styles, letters: Letters, size: number, inShape: boolean): void {
  const { align, place, leading } = placeOfLetters(letters, inShape);
  styles.set('font', fontOf(letters, size, leading));
  styles.set('text-align', align);
  styles.set('justify-content', { top: 'flex-start', middle: 'center', bottom: 'flex-end' }[place]);
}
