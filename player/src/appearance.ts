import type { Layer, Letters, Style } from '@zany/core/engine';

/** What a layer looks like just now: at rest, with its hover and then its press look on top. */
export interface Appearance {
  readonly style: Style;
  readonly letters: Letters;
  readonly text: string | undefined;
}

export interface Pointing {
  readonly hover: boolean;
  readonly press: boolean;
}

export function appearanceOf(layer: Layer, { hover, press }: Pointing): Appearance {
  const looks = [hover ? layer.looks?.hover : undefined, press ? layer.looks?.press : undefined];
  let { style, letters = {}, text } = layer;
  for (const look of looks) {
    if (!look) continue;
    style = { ...style, ...look.style };
    letters = { ...letters, ...look.letters };
    text = look.text ?? text;
  }
  return { style, letters, text };
}

export const DEFAULT_FAMILY = 'Atkinson Hyperlegible Next';

const fallbacks: Record<string, string> = { serif: 'serif', monospace: 'monospace', 'sans-serif': 'sans-serif' };

/** Writes an appearance onto an element. Styles go through the CSS object model, so no policy has to allow inline ones. */
export function dress(element: HTMLElement, layer: Layer, { style, letters }: Appearance): void {
  const css = element.style;
  const isHit = layer.type === 'hit';
  css.background = isHit ? '' : (style.fill ?? '');
  css.border = style.line && style.line.width > 0 ? `${style.line.width}px solid ${style.line.color}` : '';
  css.borderRadius = layer.type === 'oval' ? '50%' : style.corner ? `${style.corner}px` : '';
  css.boxShadow = style.shadow ? `${style.shadow.x}px ${style.shadow.y}px ${style.shadow.blur}px ${style.shadow.color}` : '';
  css.opacity = style.opacity === undefined || style.opacity === 1 ? '' : String(style.opacity);
  if (layer.text === undefined) return;
  const inShape = layer.type !== 'text';
  const {
    family = DEFAULT_FAMILY,
    size = 16,
    weight = 400,
    align = inShape ? 'center' : 'left',
    place = inShape ? 'middle' : 'top',
    leading = 1.3,
  } = letters;
  css.color = style.ink ?? '#26232c';
  css.font = `${weight} ${size}px/${leading} ${fallbacks[family] ?? `"${family}", sans-serif`}`;
  css.textAlign = align;
  css.justifyContent = { top: 'flex-start', middle: 'center', bottom: 'flex-end' }[place];
}
