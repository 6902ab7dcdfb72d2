import createDOMPurify from 'dompurify';
import { JSDOM } from 'jsdom';
import { fail, ok, type Result } from '@zany/core';

export interface CleanSvg {
  readonly text: string;
  readonly width: number;
  readonly height: number;
}

const MOST_NODES = 20_000;
const MOST_DEPTH = 100;
const MOST_EXPANDED = 50_000;

/** Sanitises an SVG and refuses what would hang whoever draws it: too many nodes, too deep, references that multiply. */
export function cleanSvg(source: string): Result<CleanSvg, string> {
  if (/<!ENTITY/i.test(source)) return fail('declares entities, which are not taken in. Save it as plain SVG.');
  if ((source.match(/</g) ?? []).length > MOST_NODES * 2.5) return fail(`has more than ${MOST_NODES} elements. Export it as PNG instead.`);
  if (nesting(source) > MOST_DEPTH) return fail('is nested too deeply. Export it as PNG instead.');
  const { window } = new JSDOM('');
  try {
    const purify = createDOMPurify(window as never);
    purify.addHook('afterSanitizeAttributes', keepInside);
    const clean = purify.sanitize(source, {
      USE_PROFILES: { svg: true, svgFilters: true },
      ADD_TAGS: ['use', 'style'],
      ADD_ATTR: ['href', 'xlink:href'],
      FORBID_TAGS: ['a', 'foreignObject', 'script', 'animate', 'set'],
    });
    return finish(window as never, clean);
  } finally {
    window.close();
  }
}

/** Rules that would fetch something from elsewhere. */
const fetches = (css: string) => /@import|url\s*\(\s*["']?(?!#|["']?#)/i.test(css);

function finish(window: { DOMParser: typeof DOMParser; XMLSerializer: typeof XMLSerializer }, clean: string): Result<CleanSvg, string> {
  const holder = new window.DOMParser().parseFromString(`<body>${clean}</body>`, 'text/html');
  const svg = holder.querySelector('svg');
  if (!svg) return fail('is no SVG, or a broken one.');
  if ([...svg.querySelectorAll('style')].some((sheet) => fetches(sheet.textContent ?? '')))
    return fail('has a style sheet that fetches something from elsewhere. Export it with plain attributes, or as PNG.');
  if (holder.querySelectorAll('*').length > MOST_NODES) return fail(`has more than ${MOST_NODES} elements. Export it as PNG instead.`);
  const size = sizeOf(svg);
  if (!size) return fail('says neither its size nor its view box, so nobody can tell how large it is.');
  if (expansion(svg) > MOST_EXPANDED) return fail('refers to itself so often that no program could draw it.');
  svg.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  svg.setAttribute('width', String(size.width));
  svg.setAttribute('height', String(size.height));
  return ok({ text: new window.XMLSerializer().serializeToString(svg), ...size });
}

/** Addresses may only point inside the file, or hold a picture themselves. */
function keepInside(node: Element): void {
  for (const attribute of [...node.attributes]) {
    const { name, value } = attribute;
    if (/href$/i.test(name) && !/^#|^data:image\/(png|jpeg|webp);base64,/i.test(value.trim())) node.removeAttribute(name);
    else if (/url\s*\(/i.test(value) && !/url\s*\(\s*["']?#/i.test(value)) node.removeAttribute(name);
  }
}

function sizeOf(svg: Element): { width: number; height: number } | null {
  const view = (svg.getAttribute('viewBox') ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const length = (name: string) => /^\s*(\d+(\.\d+)?)\s*(px)?\s*$/i.exec(svg.getAttribute(name) ?? '')?.[1];
  const width = Number(length('width') ?? view[2]);
  const height = Number(length('height') ?? view[3]);
  return width >= 1 && height >= 1 && width <= 20_000 && height <= 20_000 ? { width: Math.round(width), height: Math.round(height) } : null;
}

/** The deepest nesting of elements, judged on the text before anything builds a tree of it. */
function nesting(source: string): number {
  let depth = 0;
  let deepest = 0;
  for (const [tag] of source.matchAll(/<\/?[a-zA-Z][^<>]*>/g)) {
    if (tag.startsWith('</')) depth--;
    else if (!tag.endsWith('/>')) deepest = Math.max(deepest, ++depth);
  }
  return deepest;
}

/** How many elements would be drawn, every reference counted with all that it refers to; cycles count as endless. */
function expansion(svg: Element): number {
  const byId = new Map([...svg.querySelectorAll('[id]')].map((element) => [element.id, element]));
  const known = new Map<Element, number>();
  const open = new Set<Element>();
  const weigh = (element: Element): number => {
    const old = known.get(element);
    if (old !== undefined) return old;
    if (open.has(element)) return Infinity;
    open.add(element);
    let sum = 1;
    for (const child of element.children) sum += weigh(child);
    for (const target of referencesOf(element)) {
      const referred = byId.get(target);
      if (referred) sum += weigh(referred);
    }
    open.delete(element);
    known.set(element, sum);
    return sum;
  };
  return weigh(svg);
}

const referencesOf = (element: Element): string[] =>
  [...element.attributes].flatMap(({ name, value }) => {
    if (/href$/i.test(name) && value.startsWith('#')) return [value.slice(1)];
    return [...value.matchAll(/url\s*\(\s*["']?#([^"')\s]+)/gi)].map((found) => found[1]!);
  });
