import { familyNamed } from '../../../piece/faces.ts';
import { pair } from '../../../motion/color.ts';
import type { Letters, Style } from '../../../piece/schema.ts';
import { union, type Rect } from '../../../program/geometry.ts';
import { fail, fault, ok, type Result } from '../../../result.ts';
import type { Direction } from '../../../vocabulary/directions.ts';
import type { Transition } from '../../../vocabulary/transitions/all.ts';
import { unescaped } from '../../../vocabulary/address.ts';
import { at, attribute, everyOf, numberIn, textIn, within, type Xml } from '../xml.ts';
import { resolved, type Archive } from '../archive.ts';
import { listed, MOST, type Deck, type DeckLead, type DeckShape, type Ground, type Slide } from './deck.ts';
import { eventsOf, lengthIn, mastersIn, OdfStyles, said, shareIn } from './odf-styles.ts';
import { fitted, OUTLINES } from './outlines.ts';

/** Presentations in OpenDocument (ISO/IEC 26300). */

const NAMESPACE = 'urn:oasis:names:tc:opendocument:xmlns:';
export const ODF_PREFIXES = {
  [`${NAMESPACE}office:1.0`]: 'office',
  [`${NAMESPACE}style:1.0`]: 'style',
  [`${NAMESPACE}text:1.0`]: 'text',
  [`${NAMESPACE}table:1.0`]: 'table',
  [`${NAMESPACE}drawing:1.0`]: 'draw',
  [`${NAMESPACE}xsl-fo-compatible:1.0`]: 'fo',
  [`${NAMESPACE}svg-compatible:1.0`]: 'svg',
  [`${NAMESPACE}presentation:1.0`]: 'presentation',
  [`${NAMESPACE}smil-compatible:1.0`]: 'smil',
  [`${NAMESPACE}script:1.0`]: 'script',
  'http://www.w3.org/1999/xlink': 'xlink',
} as const;

export function readOdp(archive: Archive): Result<Deck> {
  const content = archive.xml('content.xml');
  const presentation = at(content ?? undefined, 'office:body', 'office:presentation');
  if (!content || !presentation) return fail(fault('no-deck', ['content.xml'], 'This holds no slides that can be read.'));
  return ok(new Odp(archive.xml('styles.xml'), content, presentation).read());
}

const GRAPHIC = 'style:graphic-properties';
const TEXT = 'style:text-properties';
const PARAGRAPH = 'style:paragraph-properties';
const PAGE = 'style:drawing-page-properties';

class Odp {
  private readonly left: string[] = [];
  private readonly styles: OdfStyles;
  /** What a master shows may be styled by names that slides use for something else. */
  private readonly masterStyles: OdfStyles;
  private readonly masters: ReadonlyMap<string, Xml>;
  private readonly grounds = new Map<string, Ground>();
  private readonly missing = new Set<string>();
  private size = { width: 1058, height: 794 };

  constructor(
    private readonly stylesXml: Xml | null,
    content: Xml,
    private readonly presentation: Xml
  ) {
    this.styles = new OdfStyles([...(stylesXml ? [stylesXml] : []), content]);
    this.masterStyles = new OdfStyles(stylesXml ? [stylesXml] : []);
    this.masters = mastersIn(stylesXml);
  }

  read(): Deck {
    const pages = within(this.presentation, 'draw:page');
    if (pages.length > MOST.slides) this.left.push(`${pages.length - MOST.slides} of ${pages.length} slides`);
    this.size = this.sizeOf(this.masters.get(attribute(pages[0], 'draw:master-page-name') ?? ''));
    const slides = pages.slice(0, MOST.slides).map((page, i) => this.slide(page, i));
    if (this.missing.size) this.left.push(`typefaces that are not here, so the usual one stands in: ${[...this.missing].sort().join(', ')}`);
    return { ...this.size, slides, grounds: this.grounds, left: this.left };
  }

  private sizeOf(master: Xml | undefined): { width: number; height: number } {
    const name = attribute(master, 'style:page-layout-name');
    const layout = within(at(this.stylesXml ?? undefined, 'office:automatic-styles'), 'style:page-layout').find(
      (one) => attribute(one, 'style:name') === name
    );
    const properties = at(layout, 'style:page-layout-properties');
    const side = (which: string, usual: number) => lengthIn(attribute(properties, which)) ?? usual;
    return { width: side('fo:page-width', this.size.width), height: side('fo:page-height', this.size.height) };
  }

  private slide(page: Xml, i: number): Slide {
    const what = `slide ${i + 1}`;
    const master = this.masters.get(attribute(page, 'draw:master-page-name') ?? '');
    const chain = this.styles.chain('drawing-page', attribute(page, 'draw:style-name'));
    const name = attribute(page, 'draw:name') ?? '';
    const shapes = this.shapesIn(page, this.styles, what);
    const background = this.background(chain, master, what);
    if (background.picture) shapes.unshift(background.picture);
    if ([...everyOf(page, 'anim:seq')].some((sequence) => within(sequence).length > 0)) this.left.push(`${what}: its animations`);
    const showsMaster = said(chain, PAGE, 'presentation:background-objects-visible') !== 'false';
    const isNumbered = /^page\d+$/.test(name);
    return {
      key: name,
      name: (isNumbered && this.titleOf(page)) || name || `Slide ${i + 1}`,
      background: background.color,
      grounds: showsMaster && master ? this.groundsOf(master, what) : [],
      shapes,
      note: this.noteOf(page),
      ...this.change(chain, what),
    };
  }

  private titleOf(page: Xml): string {
    const title = within(page, 'draw:frame').find((frame) => attribute(frame, 'presentation:class') === 'title');
    return textIn(at(title, 'draw:text-box')).replace(/\s+/g, ' ').trim().slice(0, 100);
  }

  /** What the speaker reads; the slide itself and numbers of pages stand there too. */
  private noteOf(page: Xml): string {
    const frames = within(at(page, 'presentation:notes'), 'draw:frame').filter((frame) => attribute(frame, 'presentation:class') === 'notes');
    const paragraphs = frames.flatMap((frame) => within(frame, 'draw:text-box').flatMap((box) => this.paragraphs(box)));
    return paragraphs.map(paragraphText).join('\n');
  }

  private groundsOf(master: Xml, what: string): string[] {
    const name = attribute(master, 'style:name') ?? '';
    if (!this.grounds.has(name)) {
      const shown = within(master).filter((node) => attribute(node, 'presentation:class') === undefined && node.name !== 'presentation:notes');
      const shapes = this.shapesIn({ ...master, children: shown }, this.masterStyles, `what ${what} stands on`);
      this.grounds.set(name, { name: attribute(master, 'style:display-name') ?? name, shapes });
    }
    return this.grounds.get(name)!.shapes.length ? [name] : [];
  }

  private background(chain: readonly Xml[], master: Xml | undefined, what: string): { color: string; picture: DeckShape | null } {
    const masters = this.masterStyles.chain('drawing-page', attribute(master, 'draw:style-name'));
    for (const [from, styles] of [
      [chain, this.styles],
      [masters, this.masterStyles],
    ] as const) {
      const kind = said(from, PAGE, 'draw:fill');
      if (kind === undefined) continue;
      if (kind === 'none') break;
      const filled = this.fillOf(from, PAGE, styles, `${what}, its background`);
      const box = { x: 0, y: 0, ...this.size };
      if (filled.picture)
        return { color: '#ffffff', picture: { name: 'Background', type: 'picture', box, rotation: 0, style: {}, picture: filled.picture } };
      return { color: filled.fill ?? '#ffffff', picture: null };
    }
    return { color: '#ffffff', picture: null };
  }

  private fillOf(chain: readonly Xml[], group: string, styles: OdfStyles, what: string): { fill: string | null; picture?: string } {
    const color = said(chain, group, 'draw:fill-color');
    const share = shareIn(said(chain, group, 'draw:opacity')) ?? 1;
    const solid = (value: string | undefined) =>
      value && /^#[0-9a-f]{6}$/i.test(value) ? `${value.toLowerCase()}${share < 1 ? pair(share) : ''}` : null;
    switch (said(chain, group, 'draw:fill')) {
      case undefined:
      case 'none':
        return { fill: null };
      case 'gradient': {
        this.left.push(`${what}: its shades; it has one colour`);
        const gradient = styles.one('draw:gradient', said(chain, group, 'draw:fill-gradient-name'));
        return { fill: solid(attribute(gradient, 'draw:start-color')) ?? solid(color) };
      }
      case 'bitmap': {
        const picture = attribute(styles.one('draw:fill-image', said(chain, group, 'draw:fill-image-name')), 'xlink:href');
        return picture ? { fill: null, picture: resolved('', picture) } : { fill: solid(color) };
      }
      case 'hatch':
        this.left.push(`${what}: its hatching; it has one colour`);
        return { fill: solid(color) };
      default:
        return { fill: solid(color) };
    }
  }

  private shapesIn(holder: Xml, styles: OdfStyles, what: string): DeckShape[] {
    return within(holder).flatMap((node): DeckShape[] => {
      if (attribute(node, 'presentation:placeholder') === 'true') return [];
      switch (node.name) {
        case 'draw:a':
          return this.linked(this.shapesIn(node, styles, what), leadTo(attribute(node, 'xlink:href') ?? ''));
        case 'draw:g': {
          const shapes = this.shapesIn(node, styles, what);
          const lead = this.leadOf(node, what);
          return lead ? [...shapes, { ...plain('Link', around(shapes)), type: 'hit', lead }] : shapes;
        }
        case 'draw:frame':
          return this.frame(node, styles, what);
        default:
          return SHAPES.has(node.name) ? listed(this.shape(node, styles, what)) : [];
      }
    });
  }

  private linked(shapes: readonly DeckShape[], lead: DeckLead): DeckShape[] {
    return shapes.map((shape) => (shape.lead ? shape : { ...shape, lead }));
  }

  private chainOf(node: Xml, styles: OdfStyles): Xml[] {
    const own = attribute(node, 'presentation:style-name');
    return own === undefined ? styles.chain('graphic', attribute(node, 'draw:style-name')) : styles.chain('presentation', own);
  }

  /** A frame holds one thing, in forms of which any will do. */
  private frame(node: Xml, styles: OdfStyles, what: string): DeckShape[] {
    const place = placeOf(node);
    const name = nameIn(node);
    if (!place) return [];
    const lead = this.leadOf(node, what);
    const label = textIn(at(node, 'svg:desc')).trim() || textIn(at(node, 'svg:title')).trim();
    const common = { name, ...place, style: {}, ...(label && { label }), ...(lead && { lead }) };
    const text = at(node, 'draw:text-box');
    const table = at(node, 'table:table');
    if (text) return listed(this.shape(node, styles, what, text));
    if (table) return this.table(table, place.box, name, styles);
    const images = within(node, 'draw:image').map((image) => resolved('', attribute(image, 'xlink:href') ?? ''));
    const picture = images.find((file) => /\.(png|jpe?g|webp|svg)$/i.test(file)) ?? images[0];
    if (picture !== undefined) return [{ ...common, type: 'picture', picture }];
    this.left.push(`${what}, ${name}: it is drawn by another program`);
    return [];
  }

  private table(table: Xml, box: Rect, name: string, styles: OdfStyles): DeckShape[] {
    const widths = within(table, 'table:table-column').flatMap((column) => {
      const width = lengthIn(
        said(styles.chain('table-column', attribute(column, 'table:style-name')), 'style:table-column-properties', 'style:column-width')
      );
      return Array.from({ length: Math.min(200, numberIn(column, 'table:number-columns-repeated') ?? 1) }, () => width ?? 0);
    });
    const rows = within(table, 'table:table-row');
    const heights = rows.map(
      (row) =>
        lengthIn(said(styles.chain('table-row', attribute(row, 'table:style-name')), 'style:table-row-properties', 'style:row-height')) ??
        box.height / rows.length
    );
    let y = box.y;
    return rows.flatMap((row, i) => {
      let x = box.x;
      const cells = within(row, 'table:table-cell').map((cell, j): DeckShape => {
        const width = widths[j] || box.width / Math.max(1, widths.length);
        const chain = styles.chain('table-cell', attribute(cell, 'table:style-name'));
        const { fill } = this.fillOf(chain, GRAPHIC, styles, name);
        const shape: DeckShape = {
          ...plain(`${name} ${i + 1}.${j + 1}`, { x, y, width, height: heights[i]! }),
          ...this.textOf(cell, chain, styles),
          style: { ...(fill && { fill }), line: { color: '#00000033', width: 1 }, ...this.inkOf(cell, chain, styles) },
        };
        x += width;
        return shape;
      });
      y += heights[i]!;
      return cells;
    });
  }

  private shape(node: Xml, styles: OdfStyles, what: string, body: Xml = node): DeckShape | null {
    const place = node.name === 'draw:line' || node.name === 'draw:connector' ? lineBox(node) : placeOf(node);
    if (!place) return null;
    const name = nameIn(node);
    const chain = this.chainOf(node, styles);
    const filled = OPEN.has(node.name) ? { fill: null } : this.fillOf(chain, GRAPHIC, styles, `${what}, ${name}`);
    const line = lineOf(chain);
    const lead = this.leadOf(node, what) ?? this.leadInText(body, what);
    const label = textIn(at(node, 'svg:desc')).trim();
    const common = { name, ...place, ...(label && { label }), ...(lead && { lead }) };
    if (filled.picture) return { ...common, type: 'picture', style: {}, picture: filled.picture };
    const text = this.textOf(body, chain, styles);
    const isBare = !filled.fill && !line;
    const style: Style = {
      ...(filled.fill && { fill: filled.fill }),
      ...(line && { line }),
      ...(text.text !== undefined && this.inkOf(body, chain, styles)),
    };
    if (isBare && text.text === undefined) return lead ? { ...common, type: 'hit', style: {} } : null;
    if (isBare) return { ...common, type: 'text', style, ...text };
    const outlined = this.outlineOf(node, place.box, what, name);
    return { ...common, ...outlined, style: { ...style, ...outlined.style }, ...text };
  }

  private outlineOf(node: Xml, { width, height }: Rect, what: string, name: string): { type: 'box' | 'oval' | 'path'; path?: string; style: Style } {
    const asPath = (path: string | null) => (path === null ? null : { type: 'path' as const, path, style: {} });
    const box = { type: 'box' as const, style: {} };
    switch (node.name) {
      case 'draw:circle':
      case 'draw:ellipse':
        return { type: 'oval', style: {} };
      case 'draw:rect': {
        const corner = lengthIn(attribute(node, 'draw:corner-radius'));
        return { type: 'box', style: corner ? { corner: Math.round(corner) } : {} };
      }
      case 'draw:path':
        return asPath(fitted(attribute(node, 'svg:d') ?? '', viewOf(node))) ?? box;
      case 'draw:polygon':
      case 'draw:polyline': {
        const points = (attribute(node, 'draw:points') ?? '').trim().replace(/\s+/g, 'L');
        return asPath(fitted(`M${points}${node.name === 'draw:polygon' ? 'Z' : ''}`, viewOf(node))) ?? box;
      }
      case 'draw:line':
      case 'draw:connector':
        return { type: 'path', path: lineIn(node), style: {} };
      case 'draw:custom-shape': {
        const kind = (attribute(at(node, 'draw:enhanced-geometry'), 'draw:type') ?? 'rectangle').replace(/^(ooxml|mso-spt\d*)-/, '');
        if (kind === 'rectangle' || kind === 'rect') return box;
        if (kind === 'ellipse') return { type: 'oval', style: {} };
        if (/^round(-rectangle|Rect)$/.test(kind)) {
          const given = parseFloat(attribute(at(node, 'draw:enhanced-geometry'), 'draw:modifiers') ?? '3600');
          // Of 21600 in a shape of its own, of 100,000 in one that came from the other format.
          const share = kind === 'roundRect' ? given / 100_000 : given / 21_600;
          return { type: 'box', style: { corner: Math.round(Math.min(width, height) * Math.min(0.5, share)) } };
        }
        const path = OUTLINES[kind] ?? OUTLINES[LIKE[kind] ?? ''];
        if (path) return { type: 'path', path, style: {} };
        this.left.push(`${what}, ${name}: its outline (${kind}); it is a box`);
        return box;
      }
      default:
        return box;
    }
  }

  private paragraphs(body: Xml): Xml[] {
    return [...everyParagraph(body)].map(({ node }) => node);
  }

  /** How the first words are set, from what stands nearest to them outwards. */
  private lettersChain(body: Xml, chain: readonly Xml[], styles: OdfStyles): { runs: readonly Xml[]; paragraphs: readonly Xml[] } {
    const first = this.paragraphs(body).find((paragraph) => textIn(paragraph).trim() !== '');
    const span = first && within(first).find((node) => /^text:(span|a)$/.test(node.name));
    const inner = span?.name === 'text:a' ? at(span, 'text:span') : span;
    const own = (family: string, name: string | undefined) =>
      name === undefined ? [] : styles.chain(family, name).filter((one) => one.name === 'style:style');
    const spans = own('text', attribute(inner, 'text:style-name'));
    const paragraphs = own('paragraph', attribute(first, 'text:style-name'));
    return { runs: [...spans, ...paragraphs, ...chain], paragraphs: [...paragraphs, ...chain] };
  }

  private textOf(body: Xml, chain: readonly Xml[], styles: OdfStyles): { text?: string; letters?: Letters } {
    const text = [...everyParagraph(body)]
      .map(({ node, depth, list }) => {
        const words = paragraphText(node);
        return depth > 0 && words.trim() !== '' && isMarked(styles.list(list), depth) ? `${'  '.repeat(depth - 1)}• ${words}` : words;
      })
      .join('\n')
      .replace(/\s+$/, '');
    if (text.trim() === '') return {};
    const { runs, paragraphs } = this.lettersChain(body, chain, styles);
    const sizes = runs.flatMap((style) => attribute(at(style, TEXT), 'fo:font-size') ?? []);
    let [size, share] = [null as number | null, 1];
    for (const one of sizes) {
      if (size !== null) break;
      size = lengthIn(one);
      share *= size === null ? (shareIn(one) ?? 1) : 1;
    }
    const face = (said(runs, TEXT, 'fo:font-family') ?? said(runs, TEXT, 'style:font-name') ?? '').replace(/^['"]|['"]$/g, '');
    const family = familyNamed(face);
    if (face && !family) this.missing.add(face);
    const weight = said(runs, TEXT, 'fo:font-weight');
    const align = said(paragraphs, PARAGRAPH, 'fo:text-align');
    const place = said(chain, GRAPHIC, 'draw:textarea-vertical-align');
    return {
      text,
      letters: {
        size: Math.min(1000, Math.max(1, Math.round((size ?? 24) * share * 100) / 100)),
        ...(weight !== undefined && (weight === 'bold' || Number(weight) >= 600) && { weight: 700 }),
        ...(family && { family }),
        align: align === 'center' ? 'center' : align === 'end' || align === 'right' ? 'right' : 'left',
        place: place === 'middle' ? 'middle' : place === 'bottom' ? 'bottom' : 'top',
      },
    };
  }

  private inkOf(body: Xml, chain: readonly Xml[], styles: OdfStyles): Style {
    const { runs } = this.lettersChain(body, chain, styles);
    const color = said(runs, TEXT, 'fo:color');
    return { ink: color && /^#[0-9a-f]{6}$/i.test(color) ? color.toLowerCase() : '#000000' };
  }

  private leadOf(node: Xml, what: string): DeckLead | null {
    let found: DeckLead | null = null;
    for (const event of eventsOf(node)) {
      const action = attribute(event, 'presentation:action') ?? 'none';
      const href = attribute(event, 'xlink:href') ?? '';
      const lead = action === 'show' ? leadTo(href) : (TURNS[action] ?? null);
      if (lead && !found && /click$/.test(attribute(event, 'script:event-name') ?? '')) found = lead;
      else if (action !== 'none') this.left.push(`${what}, ${nameIn(node)}: what it does (${action})`);
    }
    return found;
  }

  private leadInText(body: Xml, what: string): DeckLead | null {
    const [first, ...more] = [...everyOf(body, 'text:a')];
    if (more.length) this.left.push(`${what}: ${more.length} more of the links in one text`);
    return first ? leadTo(attribute(first, 'xlink:href') ?? '') : null;
  }

  private change(chain: readonly Xml[], what: string): Pick<Slide, 'transition' | 'after'> {
    const after = said(chain, PAGE, 'presentation:transition-type') === 'automatic' ? durationIn(said(chain, PAGE, 'presentation:duration')) : null;
    const type = said(chain, PAGE, 'smil:type');
    const style = said(chain, PAGE, 'presentation:transition-style');
    if (type === undefined && (style === undefined || style === 'none')) return { transition: null, after };
    const ms = { slow: 1500, medium: 750, fast: 500 }[said(chain, PAGE, 'presentation:transition-speed') ?? 'medium'] ?? 750;
    const timed = { ms, easing: 'ease-in-out' };
    if (type === 'fade' || (type === undefined && style === 'dissolve')) return { transition: { type: 'dissolve', ...timed }, after };
    const moved = type === undefined ? undefined : TYPES[type];
    if (moved) {
      const isTurned = said(chain, PAGE, 'smil:direction') === 'reverse';
      const way = WAYS[said(chain, PAGE, 'smil:subtype') ?? ''] ?? 'right';
      return { transition: { type: moved, direction: isTurned ? OPPOSITE[way] : way, ...timed } as Transition, after };
    }
    this.left.push(`${what}: its transition (${type ?? style}); it dissolves`);
    return { transition: { type: 'dissolve', ...timed }, after };
  }
}

const SHAPES = new Set(
  ['rect', 'circle', 'ellipse', 'custom-shape', 'path', 'polygon', 'polyline', 'line', 'connector'].map((name) => `draw:${name}`)
);

/** What has no inside to fill. */
const OPEN = new Set(['draw:line', 'draw:connector', 'draw:polyline']);

/** What shapes of this format are called in the other. */
const LIKE: Readonly<Record<string, string>> = {
  'isosceles-triangle': 'triangle',
  'right-triangle': 'rtTriangle',
  'right-arrow': 'rightArrow',
  'left-arrow': 'leftArrow',
  'up-arrow': 'upArrow',
  'down-arrow': 'downArrow',
  'left-right-arrow': 'leftRightArrow',
  'pentagon-right': 'homePlate',
  cross: 'plus',
};

const TURNS: Readonly<Record<string, DeckLead>> = {
  'next-page': { turn: 'next' },
  'previous-page': { turn: 'previous' },
  'first-page': { turn: 'first' },
  'last-page': { turn: 'last' },
  'last-visited-page': { turn: 'back' },
};

const TYPES: Readonly<Record<string, 'push' | 'cover' | 'wipe'>> = { pushWipe: 'push', slideWipe: 'cover', barWipe: 'wipe' };

/** Where the new one moves to, by where it comes from. */
const WAYS: Readonly<Record<string, Direction>> = {
  fromLeft: 'right',
  fromRight: 'left',
  fromTop: 'down',
  fromBottom: 'up',
  leftToRight: 'right',
  topToBottom: 'down',
};
const OPPOSITE: Readonly<Record<Direction, Direction>> = { left: 'right', right: 'left', up: 'down', down: 'up' };

/** `#page2` and `#Pay` are slides, all else is an address. */
function leadTo(href: string): DeckLead {
  if (!href.startsWith('#')) return { address: href };
  return { slide: unescaped(href.slice(1)) };
}

const nameIn = (node: Xml): string => attribute(node, 'draw:name') || textIn(at(node, 'svg:title')).trim() || usualName[node.name] || 'Shape';
const usualName: Readonly<Record<string, string>> = {
  'draw:frame': 'Frame',
  'draw:line': 'Line',
  'draw:connector': 'Line',
  'draw:ellipse': 'Oval',
  'draw:circle': 'Oval',
};

const plain = (name: string, box: Rect): DeckShape => ({ name, type: 'box', box, rotation: 0, style: {} });

const around = (shapes: readonly DeckShape[]): Rect => union(shapes.map((shape) => shape.box)) ?? { x: 0, y: 0, width: 1, height: 1 };

interface Place {
  readonly box: Rect;
  readonly rotation: number;
}

/** Where a shape stands: in its own box, or turned about the corner of that and then moved. */
function placeOf(node: Xml): Place | null {
  const [width, height] = [lengthIn(attribute(node, 'svg:width')), lengthIn(attribute(node, 'svg:height'))];
  if (width === null || height === null) return null;
  const [x, y] = [lengthIn(attribute(node, 'svg:x')) ?? 0, lengthIn(attribute(node, 'svg:y')) ?? 0];
  const transform = attribute(node, 'draw:transform');
  if (transform === undefined) return { box: { x, y, width, height }, rotation: 0 };
  const turn = -Number(/rotate\s*\(\s*(-?[\d.e-]+)\s*\)/.exec(transform)?.[1] ?? 0);
  const [, toX, toY] = /translate\s*\(\s*(\S+?)[\s,]+(\S+?)\s*\)/.exec(transform) ?? [];
  const [mx, my] = [x + width / 2, y + height / 2];
  const middle = {
    x: mx * Math.cos(turn) - my * Math.sin(turn) + (lengthIn(toX) ?? 0),
    y: mx * Math.sin(turn) + my * Math.cos(turn) + (lengthIn(toY) ?? 0),
  };
  return { box: { x: middle.x - width / 2, y: middle.y - height / 2, width, height }, rotation: (turn * 180) / Math.PI };
}

function endsOf(node: Xml): readonly [number, number, number, number] | null {
  const ends = ['svg:x1', 'svg:y1', 'svg:x2', 'svg:y2'].map((name) => lengthIn(attribute(node, name)));
  return ends.includes(null) ? null : (ends as [number, number, number, number]);
}

function lineBox(node: Xml): Place | null {
  const ends = endsOf(node);
  if (!ends) return null;
  const [x1, y1, x2, y2] = ends;
  return { box: { x: Math.min(x1, x2), y: Math.min(y1, y2), width: Math.abs(x2 - x1), height: Math.abs(y2 - y1) }, rotation: 0 };
}

function lineIn(node: Xml): string {
  const [x1, y1, x2, y2] = endsOf(node) ?? [0, 0, 1, 1];
  return x2 >= x1 === y2 >= y1 ? 'M0 0L100 100' : 'M0 100L100 0';
}

function viewOf(node: Xml): readonly [number, number, number, number] {
  const [left = 0, top = 0, width = 0, height = 0] = (attribute(node, 'svg:viewBox') ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  return [left, top, width, height];
}

function lineOf(chain: readonly Xml[]): { color: string; width: number } | null {
  if ((said(chain, GRAPHIC, 'draw:stroke') ?? 'none') === 'none') return null;
  const color = said(chain, GRAPHIC, 'svg:stroke-color');
  if (!color || !/^#[0-9a-f]{6}$/i.test(color)) return null;
  const width = lengthIn(said(chain, GRAPHIC, 'svg:stroke-width')) ?? 0;
  return { color: color.toLowerCase(), width: Math.min(200, Math.max(1, Math.round(width * 10) / 10)) };
}

/** Every paragraph in order, with how deep in lists it stands, and the style of the outermost. */
function* everyParagraph(body: Xml, depth = 0, list?: string): Generator<{ node: Xml; depth: number; list: string | undefined }> {
  for (const node of within(body)) {
    if (node.name === 'text:p' || node.name === 'text:h') yield { node, depth, list };
    else if (node.name === 'text:list') yield* everyParagraph(node, depth, list ?? attribute(node, 'text:style-name'));
    else if (node.name === 'text:list-item') yield* everyParagraph(node, depth + 1, list);
    else if (node.name === 'text:list-header') yield* everyParagraph(node, 0, list);
  }
}

/** Whether a list marks its items so deep. */
function isMarked(list: Xml | undefined, depth: number): boolean {
  const level = within(list).find((one) => numberIn(one, 'text:level') === depth);
  if (level?.name === 'text:list-level-style-bullet') return (attribute(level, 'text:bullet-char') ?? '').trim() !== '';
  return level?.name === 'text:list-level-style-number' && (attribute(level, 'style:num-format') ?? '') !== '';
}

function paragraphText(node: Xml): string {
  return node.children
    .map((child): string => {
      if (typeof child === 'string') return child.replace(/\s+/g, ' ');
      if (child.name === 'text:s') return ' '.repeat(Math.min(100, numberIn(child, 'text:c') ?? 1));
      if (child.name === 'text:tab') return '  ';
      if (child.name === 'text:line-break') return '\n';
      return paragraphText(child);
    })
    .join('');
}

/** A duration (XML Schema, `PT00H00M05S`) in ms; null for none. */
function durationIn(text: string | undefined): number | null {
  const [, hours = 0, minutes = 0, seconds = 0] = /^PT(?:([\d.]+)H)?(?:([\d.]+)M)?(?:([\d.]+)S)?$/.exec(text ?? '') ?? [];
  const ms = (Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds)) * 1000;
  return ms > 0 && Number.isFinite(ms) ? ms : null;
}
