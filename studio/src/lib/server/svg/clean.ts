import sharp from 'sharp';
import { fail, ok, type Result } from '@zany/core';
import { cleanDeclarations, cleanSheet, referencesOfValue, type StyledBy } from './css';
import { readSvg, writeSvg, type SvgElement } from './tree';
import { weigh, type Own, type Reference } from './weight';

export interface CleanSvg {
  readonly text: string;
  /** CSS pixels. */
  readonly width: number;
  readonly height: number;
}

/** What is drawn, every reference counted with all it refers to. */
const MOST_DRAWN = 50_000;
const MOST_REFERENCES_DEEP = 150;
/** Pixels that are worked out on the way by filters, masks and blends, and of pictures inside: some tenths of a second in a browser. */
const MOST_WORKED = 300_000_000;
const MOST_PICTURES = 60_000_000;
const MOST_SIDE = 16_000;

/** Elements that draw, or that others draw with. All else is left out; links keep what is in them. */
const KEPT = new Set(
  (
    'svg g defs symbol use switch title desc style path rect circle ellipse line polyline polygon text tspan textPath image marker mask pattern ' +
    'clipPath filter linearGradient radialGradient stop view feBlend feColorMatrix feComponentTransfer feComposite feConvolveMatrix feDiffuseLighting ' +
    'feDisplacementMap feDistantLight feDropShadow feFlood feFuncA feFuncB feFuncG feFuncR feGaussianBlur feImage feMerge feMergeNode feMorphology ' +
    'feOffset fePointLight feSpecularLighting feSpotLight feTile feTurbulence'
  ).split(' ')
);

const TEXT = new Set(['text', 'tspan', 'textPath']);

/**
 * Reads an SVG, keeps what draws, and writes it anew: no scripts, no links, nothing that is fetched. Refuses in a sentence what
 * no browser could draw in good time. A clean one stays as it is.
 */
export async function cleanSvg(source: string): Promise<Result<CleanSvg, string>> {
  const read = readSvg(source);
  if (!read.ok) return read;
  const size = sizeOf(read.value);
  if (!size) return fail('says neither its size nor its view box, so nobody can tell how large it is.');
  if (size.width > MOST_SIDE || size.height > MOST_SIDE)
    return fail(`is ${size.width} × ${size.height} large; at most ${MOST_SIDE} to a side can be taken in.`);
  const cleaner = new Cleaner();
  const root = await cleaner.clean(read.value);
  if (cleaner.problem) return fail(cleaner.problem);
  const { elements, layers, depth } = weigh(root, cleaner.own, cleaner.styled);
  if (elements > MOST_DRAWN || depth > MOST_REFERENCES_DEEP) return fail('refers to itself so often that no program could draw it.');
  if (layers * size.width * size.height > MOST_WORKED)
    return fail('has so many filters and masks for its size that browsers take seconds to draw it. Export it as PNG instead.');
  // Always in the same place, so that what is clean stays as it is.
  for (const name of ['xmlns', 'width', 'height']) root.attributes.delete(name);
  root.attributes.set('xmlns', 'http://www.w3.org/2000/svg');
  root.attributes.set('width', String(size.width));
  root.attributes.set('height', String(size.height));
  return ok({ text: writeSvg(root), ...size });
}

class Cleaner {
  readonly own = new Map<SvgElement, Own>();
  readonly styled: StyledBy[] = [];
  problem: string | null = null;
  private pixels = 0;

  async clean(source: SvgElement): Promise<SvgElement> {
    const root = await this.copy(source);
    const open: [SvgElement, SvgElement][] = [[source, root]];
    while (open.length && !this.problem) {
      const [from, to] = open.pop()!;
      for (const child of from.children) {
        if (typeof child === 'string') {
          if (to.name === 'style') continue;
          to.children.push(child);
        } else if (child.name === 'a' || KEPT.has(child.name)) {
          const copy = await this.copy(child, TEXT.has(to.name) ? 'tspan' : 'g');
          to.children.push(copy);
          open.push([child, copy]);
        }
      }
      if (to.name === 'style') this.sheet(from, to);
    }
    return root;
  }

  private sheet(from: SvgElement, to: SvgElement): void {
    const cleaned = cleanSheet(from.children.filter((child) => typeof child === 'string').join(''));
    if (!cleaned) this.problem = 'has a style sheet that cannot be read. Export it with plain attributes, or as PNG.';
    else {
      to.children.splice(0, to.children.length, ...(cleaned.text ? [cleaned.text] : []));
      this.styled.push(...cleaned.styled);
    }
  }

  /** What stands for a link in its place: nothing is linked, but what is in it stays. */
  private async copy({ name, attributes }: SvgElement, forLink = 'g'): Promise<SvgElement> {
    const kept = new Map<string, string>();
    const references: Reference[] = [];
    let filters = 0;
    for (const [key, value] of attributes) {
      if (key === 'style') {
        const cleaned = cleanDeclarations(value);
        if (cleaned.text) kept.set(key, cleaned.text);
        references.push(...cleaned.references);
        filters += cleaned.filters;
      } else if (/^(xlink:)?href$/.test(key)) {
        const address = await this.address(name, value.trim());
        // The newer way to write it wins, in whichever order they stand.
        if (address !== null && (key === 'href' || !kept.has('href'))) kept.set('href', address);
      } else if (isPlain(key)) {
        const found = referencesOfValue(value);
        if (!found) continue;
        kept.set(key, value);
        references.push(...found.map((id) => ({ property: key, id })));
        if (key === 'filter' && found.length === 0 && value.includes('(')) filters++;
      }
    }
    const address = kept.get('href');
    if (address?.startsWith('#')) references.push({ property: 'href', id: address.slice(1) });
    const made: SvgElement = { name: name === 'a' ? forLink : name, attributes: kept, children: [] };
    this.own.set(made, { references, filters });
    return made;
  }

  /** An address inside the file, or a picture that stands in the address itself; null for all others. */
  private async address(name: string, value: string): Promise<string | null> {
    if (/^#[^\s"'<>]+$/.test(value)) return name === 'a' ? null : value;
    const data = /^data:([^,]*),/i.exec(value);
    if (!data || (name !== 'image' && name !== 'feImage')) return null;
    const body = value.slice(data[0].length);
    const bytes = /;base64$/i.test(data[1]!) ? Buffer.from(body.replace(/\s/g, ''), 'base64') : Buffer.from(unescape(body), 'latin1');
    const meta = await sharp(bytes, { limitInputPixels: false })
      .metadata()
      .catch(() => null);
    if (!meta || !['png', 'jpeg', 'webp', 'gif'].includes(meta.format)) return null;
    this.pixels += meta.width * meta.height;
    if (this.pixels > MOST_PICTURES) this.problem = `holds pictures of more than ${MOST_PICTURES / 1e6} million pixels.`;
    return `data:image/${meta.format};base64,${bytes.toString('base64')}`;
  }
}

/** Names of attributes that only say how something looks. What elements mean by them is left to the elements: they are all ones that draw. */
const isPlain = (key: string): boolean => /^(xml:(space|lang)|[a-z][a-zA-Z0-9-]*)$/.test(key) && !/^(on|xmlns)/i.test(key) && !/^data-/.test(key);

/** How many CSS pixels a length unit has (CSS Values 4, 6.2); shares and font sizes as browsers begin. */
const UNITS: Readonly<Record<string, number>> = {
  '': 1,
  px: 1,
  pt: 4 / 3,
  pc: 16,
  in: 96,
  cm: 96 / 2.54,
  mm: 9.6 / 2.54,
  q: 2.4 / 2.54,
  em: 16,
  rem: 16,
  ex: 8,
};

function sizeOf({ attributes }: SvgElement): { width: number; height: number } | null {
  const view = (attributes.get('viewBox') ?? '')
    .slice(0, 200)
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const [viewWidth, viewHeight] =
    view.length === 4 && view.every(Number.isFinite) && view[2]! > 0 && view[3]! > 0 ? [view[2]!, view[3]!] : [null, null];
  const width = lengthOf(attributes.get('width'));
  const height = lengthOf(attributes.get('height'));
  const ratio = viewWidth && viewHeight ? viewWidth / viewHeight : null;
  const whole = { width: width ?? (height && ratio ? height * ratio : viewWidth), height: height ?? (width && ratio ? width / ratio : viewHeight) };
  if (!whole.width || !whole.height) return null;
  return { width: Math.max(1, Math.round(whole.width)), height: Math.max(1, Math.round(whole.height)) };
}

function lengthOf(text: string | undefined): number | null {
  const found = /^([+]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d{1,2})?)([a-z]{0,3})$/i.exec((text ?? '').slice(0, 100).trim());
  const unit = found ? UNITS[found[2]!.toLowerCase()] : undefined;
  return found && unit !== undefined && Number(found[1]) > 0 ? Number(found[1]) * unit : null;
}
