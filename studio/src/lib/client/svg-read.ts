import type { Written } from './svg-motion';

/** SVG drawings of others, read without being shown or run: parsed apart, taken clean, and laid out by the browser where nobody sees it. */

/** So many copies of what a drawing uses again are made at most, and so deep in each other. */
const COPIES = { most: 2000, deep: 10 } as const;

/** What a file may lead to, load or run has no place in what is only measured. */
const NEVER = 'script, foreignObject, animateMotion, iframe, video, audio';

/** What moves a shape: read, and taken out before it moves anything. */
const MOVING = 'animate, animateTransform, set';
const MOVED_BY = 'data-moved-by';

const LINKED = 'http://www.w3.org/1999/xlink';

/** The address that an element refers to; '' where it refers to none. */
export const hrefOf = (node: Element): string => (node.getAttribute('href') ?? node.getAttributeNS(LINKED, 'href') ?? '').trim();

/** What is asked of a drawing while the browser has laid it out; null where the text is no SVG. */
export function withDrawing<T>(svg: string, ask: (drawing: SVGSVGElement) => T): T | null {
  const parsed = new DOMParser().parseFromString(svg, 'image/svg+xml');
  const root = parsed.documentElement;
  if (root.nodeName !== 'svg') return null;
  for (const bad of root.querySelectorAll(NEVER)) bad.remove();
  for (const moving of root.querySelectorAll(MOVING)) keepMotion(moving);
  for (const style of root.querySelectorAll('style')) style.textContent = plainCss(style.textContent ?? '');
  for (const node of [root, ...root.querySelectorAll('*')])
    for (const { name, value } of [...node.attributes]) if (/^on/i.test(name) || /url\(\s*['"]?(?!#)/i.test(value)) node.removeAttribute(name);
  for (const image of root.querySelectorAll('image')) if (!/^data:image\/(png|jpeg|webp);base64,/i.test(hrefOf(image))) image.remove();
  copyUsed(root);
  const holder = document.createElement('div');
  holder.style.cssText = 'position:fixed;left:-20000px;top:0;visibility:hidden';
  const drawing = document.importNode(root, true) as unknown as SVGSVGElement;
  // Its rules hold in it alone.
  holder.attachShadow({ mode: 'open' }).append(drawing);
  document.body.append(holder);
  try {
    return ask(drawing);
  } finally {
    holder.remove();
  }
}

function keepMotion(moving: Element): void {
  const { parentElement: shape } = moving;
  const written = Object.fromEntries([...moving.attributes].map(({ name, value }) => [name, value] as const));
  if (shape) shape.setAttribute(MOVED_BY, JSON.stringify([...movingOf(shape), { ...written, element: moving.nodeName }]));
  moving.remove();
}

/** What moves a shape, as it was written. */
export const movingOf = (shape: Element): readonly Written[] => JSON.parse(shape.getAttribute(MOVED_BY) ?? '[]') as Written[];

/** Rules that fetch nothing. */
const plainCss = (css: string): string => css.replace(/@import[^;]*;?/gi, '').replace(/url\(\s*['"]?(?!#)[^)]*\)/gi, 'none');

/** Puts in the place of each `use` what it uses. */
function copyUsed(root: Element): void {
  let copies = 0;
  for (let deep = 0; deep < COPIES.deep; deep++) {
    const uses = [...root.querySelectorAll('use')];
    if (uses.length === 0) return;
    for (const use of uses) {
      const used = hrefOf(use).startsWith('#') ? root.querySelector(`#${CSS.escape(hrefOf(use).slice(1))}`) : null;
      if (!used || used.contains(use) || ++copies > COPIES.most) use.remove();
      else use.replaceWith(copyOf(use, used));
    }
  }
  for (const use of root.querySelectorAll('use')) use.remove();
}

function copyOf(use: Element, used: Element): Element {
  const group = use.ownerDocument.createElementNS('http://www.w3.org/2000/svg', 'g');
  for (const { name, value } of use.attributes) if (!/^(xlink:)?href$|^(x|y|width|height)$/.test(name)) group.setAttribute(name, value);
  const [x, y] = ['x', 'y'].map((side) => parseFloat(use.getAttribute(side) ?? '0') || 0);
  const own = use.getAttribute('transform') ?? '';
  if (x || y) group.setAttribute('transform', `${own} translate(${x} ${y})`.trim());
  group.append(...(used.nodeName === 'symbol' ? symbolIn(used, use) : [used.cloneNode(true)]));
  return group;
}

/** What a symbol holds, in the size that it is used at. */
function symbolIn(symbol: Element, use: Element): Node[] {
  const [left = 0, top = 0, width = 0, height = 0] = (symbol.getAttribute('viewBox') ?? '').split(/[\s,]+/).map(Number);
  const wanted = ['width', 'height'].map((side) => parseFloat(use.getAttribute(side) ?? ''));
  const children = [...symbol.childNodes].map((child) => child.cloneNode(true));
  if (!width || !height || !wanted.every((side) => side > 0)) return children;
  const scale = Math.min(wanted[0]! / width, wanted[1]! / height);
  const inner = symbol.ownerDocument.createElementNS('http://www.w3.org/2000/svg', 'g');
  const [byX, byY] = [(wanted[0]! - width * scale) / 2, (wanted[1]! - height * scale) / 2];
  inner.setAttribute('transform', `translate(${byX} ${byY}) scale(${scale}) translate(${-left} ${-top})`);
  inner.append(...children);
  return [inner];
}
