import { familyNamed } from '../../../piece/faces.ts';
import type { Letters, Style } from '../../../piece/schema.ts';
import type { Rect } from '../../../program/geometry.ts';
import { fail, fault, ok, type Result } from '../../../result.ts';
import type { Direction } from '../../../vocabulary/directions.ts';
import type { Transition } from '../../../vocabulary/transitions/all.ts';
import { at, attribute, everyOf, numberIn, textIn, within, type Xml } from '../xml.ts';
import { resolved, type Archive } from '../archive.ts';
import { listed, MOST, type Deck, type DeckLead, type DeckShape, type Ground, type Slide } from './deck.ts';
import { flipped, OUTLINES } from './outlines.ts';
import { colorIn, themeOf, type Palette } from './ooxml-colors.ts';

/** Presentations in Office Open XML (ISO/IEC 29500). */

export const OOXML_PREFIXES = {
  'http://schemas.openxmlformats.org/drawingml/2006/main': 'a',
  'http://purl.oclc.org/ooxml/drawingml/main': 'a',
  'http://schemas.openxmlformats.org/presentationml/2006/main': 'p',
  'http://purl.oclc.org/ooxml/presentationml/main': 'p',
  'http://schemas.openxmlformats.org/officeDocument/2006/relationships': 'r',
  'http://purl.oclc.org/ooxml/officeDocument/relationships': 'r',
  'http://schemas.openxmlformats.org/markup-compatibility/2006': 'mc',
} as const;

/** Lengths in a file are English Metric Units: 914,400 are an inch. */
const px = (emu: number): number => (emu / 914_400) * 96;

/** Points are CSS px by this. */
const POINT = 96 / 72;

export function readOoxml(archive: Archive): Result<Deck> {
  const presentation = archive.xml('ppt/presentation.xml');
  if (!presentation) return fail(fault('no-deck', ['ppt/presentation.xml'], 'This holds no slides that can be read.'));
  return ok(new Ooxml(archive, presentation).read());
}

/** A file of the document with what it refers to. */
interface Sheet {
  readonly path: string;
  readonly root: Xml;
  readonly links: ReadonlyMap<string, Link>;
}

interface Link {
  readonly kind: string;
  /** A file of the document, or an address where `isOutside`. */
  readonly to: string;
  readonly isOutside: boolean;
}

/** A slide's file, and those that it takes its places and letters from: its layout, and the master of that. */
interface Lineage {
  readonly own: Sheet;
  readonly around: readonly Sheet[];
  readonly palette: Palette;
}

/** Moves what stands in a group to where it stands on the slide. */
interface Space {
  readonly place: (box: Rect) => Rect;
  readonly rotation: number;
}

const ON_SLIDE: Space = { place: (box) => box, rotation: 0 };

class Ooxml {
  private readonly left: string[] = [];
  private readonly sheets = new Map<string, Sheet | null>();
  private readonly grounds = new Map<string, Ground>();
  private readonly missing = new Set<string>();
  private readonly size: { readonly width: number; readonly height: number };

  constructor(
    private readonly archive: Archive,
    private readonly presentation: Xml
  ) {
    const size = at(presentation, 'p:sldSz');
    this.size = { width: px(numberIn(size, 'cx') ?? 9_144_000), height: px(numberIn(size, 'cy') ?? 6_858_000) };
  }

  read(): Deck {
    const links = this.linksOf('ppt/presentation.xml');
    const listed = within(at(this.presentation, 'p:sldIdLst'), 'p:sldId').flatMap((node) => links.get(attribute(node, 'r:id') ?? '')?.to ?? []);
    if (listed.length > MOST.slides) this.left.push(`${listed.length - MOST.slides} of ${listed.length} slides`);
    const slides = listed.slice(0, MOST.slides).flatMap((path, i) => this.slide(path, i) ?? []);
    if (this.missing.size) this.left.push(`typefaces that are not here, so the usual one stands in: ${[...this.missing].sort().join(', ')}`);
    return { ...this.size, slides, grounds: this.grounds, left: this.left };
  }

  private slide(path: string, i: number): Slide | null {
    const own = this.sheet(path);
    if (!own) {
      this.left.push(`slide ${i + 1}: it cannot be read`);
      return null;
    }
    const lineage = this.lineage(own);
    const title = this.titleOf(own);
    const name = title || `Slide ${i + 1}`;
    const what = `slide ${i + 1}`;
    const shapes = this.shapesIn(at(own.root, 'p:cSld', 'p:spTree'), lineage, own, ON_SLIDE, what, false);
    const background = this.background(lineage, what);
    if (background.picture) shapes.unshift(background.picture);
    const timing = at(own.root, 'p:timing');
    if (timing && ['p:anim', 'p:animEffect', 'p:animMotion'].some((kind) => !everyOf(timing, kind).next().done))
      this.left.push(`${what}: its animations`);
    const { transition, after } = this.change(own, what);
    const note = this.noteOf(own);
    return { key: path, name, background: background.color, grounds: this.groundsOf(lineage, what), shapes, note, transition, after };
  }

  private titleOf({ root }: Sheet): string {
    for (const shape of everyOf(root, 'p:sp')) {
      const type = placeOf(shape);
      if (type === 'title' || type === 'ctrTitle') return this.plainText(at(shape, 'p:txBody')).replace(/\s+/g, ' ').trim();
    }
    return attribute(at(root, 'p:cSld'), 'name') ?? '';
  }

  /** What the speaker reads; the slide itself and numbers of pages stand there too. */
  private noteOf({ links }: Sheet): string {
    const notes = [...links.values()].filter(({ kind }) => kind === 'notesSlide').map(({ to }) => this.sheet(to));
    const bodies = notes.flatMap((sheet) => (sheet ? [...everyOf(sheet.root, 'p:sp')] : [])).filter((shape) => placeOf(shape) === 'body');
    return bodies.map((shape) => this.plainText(at(shape, 'p:txBody'))).join('\n');
  }

  /** What master and layout show on every slide, from back to front. */
  private groundsOf({ own, around, palette }: Lineage, what: string): string[] {
    const [layout, master] = around;
    if (!layout || attribute(own.root, 'showMasterSp') === '0') return [];
    const shown = master && attribute(layout.root, 'showMasterSp') !== '0' ? [master, layout] : [layout];
    return shown.flatMap((sheet) => {
      const { path, root } = sheet;
      if (!this.grounds.has(path)) {
        const tree = at(root, 'p:cSld', 'p:spTree');
        const shapes = this.shapesIn(tree, { own: sheet, around: [], palette }, sheet, ON_SLIDE, `what ${what} stands on`, true);
        const usual = sheet === master ? (attribute(this.related(master, 'theme')?.root, 'name') ?? 'Ground') : 'Ground';
        this.grounds.set(path, { name: attribute(at(root, 'p:cSld'), 'name') || usual, shapes });
      }
      return this.grounds.get(path)!.shapes.length ? [path] : [];
    });
  }

  private lineage(own: Sheet): Lineage {
    const layout = this.related(own, 'slideLayout');
    const master = layout && this.related(layout, 'slideMaster');
    const theme = master && this.related(master, 'theme');
    const map = new Map([...(at(master?.root, 'p:clrMap')?.attributes ?? [])]);
    return { own, around: [layout, master].filter((one) => one !== null), palette: { theme: themeOf(theme?.root ?? null), map } };
  }

  private related(sheet: Sheet, kind: string): Sheet | null {
    const link = [...sheet.links.values()].find((one) => one.kind === kind && !one.isOutside);
    return link ? this.sheet(link.to) : null;
  }

  private sheet(path: string): Sheet | null {
    const known = this.sheets.get(path);
    if (known !== undefined) return known;
    const root = this.archive.xml(path);
    const sheet = root && { path, root, links: this.linksOf(path) };
    this.sheets.set(path, sheet);
    return sheet;
  }

  private linksOf(path: string): ReadonlyMap<string, Link> {
    const file = path.replace(/([^/]*)$/, '_rels/$1.rels');
    return new Map(
      within(this.archive.xml(file) ?? undefined).map((node) => {
        const isOutside = attribute(node, 'TargetMode') === 'External';
        const target = attribute(node, 'Target') ?? '';
        const kind = (attribute(node, 'Type') ?? '').replace(/^.*\//, '');
        return [attribute(node, 'Id') ?? '', { kind, to: isOutside ? target : resolved(path, target), isOutside }] as const;
      })
    );
  }

  private background({ own, around, palette }: Lineage, what: string): { color: string; picture: DeckShape | null } {
    for (const sheet of [own, ...around]) {
      const holder = at(sheet.root, 'p:cSld', 'p:bg');
      if (!holder) continue;
      const properties = at(holder, 'p:bgPr');
      const color = colorIn(at(properties, 'a:solidFill') ?? at(holder, 'p:bgRef'), palette);
      const blip = attribute(at(properties, 'a:blipFill', 'a:blip'), 'r:embed');
      const file = blip === undefined ? undefined : sheet.links.get(blip)?.to;
      if (file !== undefined) {
        const box = { x: 0, y: 0, ...this.size };
        return { color: color ?? '#ffffff', picture: { name: 'Background', type: 'picture', box, rotation: 0, style: {}, picture: file } };
      }
      const gradient = this.firstStop(at(properties, 'a:gradFill'), palette);
      if (gradient) this.left.push(`${what}: the shades of its background; it has one colour`);
      return { color: color ?? gradient ?? '#ffffff', picture: null };
    }
    return { color: '#ffffff', picture: null };
  }

  private firstStop(gradient: Xml | undefined, palette: Palette): string | null {
    return colorIn(at(gradient, 'a:gsLst', 'a:gs'), palette);
  }

  private shapesIn(tree: Xml | undefined, lineage: Lineage, sheet: Sheet, space: Space, what: string, isGround: boolean): DeckShape[] {
    return within(tree).flatMap((node): DeckShape[] => {
      const shown = node.name === 'mc:AlternateContent' ? (within(at(node, 'mc:Fallback'))[0] ?? within(at(node, 'mc:Choice'))[0]) : node;
      if (!shown || attribute(at(within(shown)[0], 'p:cNvPr'), 'hidden') === '1') return [];
      // Places for text that a slide fills are no part of what all have in common.
      if (isGround && at(within(shown)[0], 'p:nvPr', 'p:ph')) return [];
      switch (shown.name) {
        case 'p:sp':
        case 'p:cxnSp':
        case 'p:pic':
          return listed(this.shape(shown, lineage, sheet, space, what));
        case 'p:grpSp':
          return this.group(shown, lineage, sheet, space, what, isGround);
        case 'p:graphicFrame':
          return this.frame(shown, lineage, space, what);
        default:
          return [];
      }
    });
  }

  private group(node: Xml, lineage: Lineage, sheet: Sheet, space: Space, what: string, isGround: boolean): DeckShape[] {
    const transform = at(node, 'p:grpSpPr', 'a:xfrm');
    const box = boxIn(transform);
    const inner = boxIn(transform, 'a:chOff', 'a:chExt') ?? box;
    if (!box || !inner) return this.shapesIn(node, lineage, sheet, space, what, isGround);
    const [byX, byY] = [inner.width ? box.width / inner.width : 1, inner.height ? box.height / inner.height : 1];
    const turn = (numberIn(transform, 'rot') ?? 0) / 60_000;
    const place = (child: Rect): Rect => {
      const moved = {
        x: box.x + (child.x - inner.x) * byX,
        y: box.y + (child.y - inner.y) * byY,
        width: child.width * byX,
        height: child.height * byY,
      };
      return space.place(turnedAbout(moved, box, turn));
    };
    const shapes = this.shapesIn(node, lineage, sheet, { place, rotation: space.rotation + turn }, what, isGround);
    const lead = this.leadOf(at(node, 'p:nvGrpSpPr', 'p:cNvPr'), sheet, what);
    const name = attribute(at(node, 'p:nvGrpSpPr', 'p:cNvPr'), 'name') ?? 'Group';
    return lead ? [...shapes, { name, type: 'hit', box: space.place(box), rotation: space.rotation + turn, style: {}, lead }] : shapes;
  }

  /** Tables are taken in cell by cell; charts and the like cannot be. */
  private frame(node: Xml, lineage: Lineage, space: Space, what: string): DeckShape[] {
    const box = boxIn(at(node, 'p:xfrm'));
    const table = at(node, 'a:graphic', 'a:graphicData', 'a:tbl');
    const name = attribute(at(node, 'p:nvGraphicFramePr', 'p:cNvPr'), 'name') ?? 'Table';
    if (!table || !box) {
      this.left.push(`${what}, ${name}: it is drawn by another program`);
      return [];
    }
    const columns = within(at(table, 'a:tblGrid'), 'a:gridCol').map((column) => px(numberIn(column, 'w') ?? 0));
    let y = box.y;
    return within(table, 'a:tr').flatMap((row, i) => {
      const height = px(numberIn(row, 'h') ?? 0);
      let x = box.x;
      const cells = within(row, 'a:tc').map((cell, j): DeckShape => {
        const width = columns[j] ?? 0;
        const placed = space.place({ x, y, width, height });
        x += width;
        const fill = colorIn(at(cell, 'a:tcPr', 'a:solidFill'), lineage.palette);
        const text = this.said(at(cell, 'a:txBody'), [], lineage, null, null);
        const style: Style = { ...(fill && { fill }), line: { color: '#00000033', width: 1 }, ...text.style };
        return { ...text, name: `${name} ${i + 1}.${j + 1}`, type: 'box', box: placed, rotation: space.rotation, style };
      });
      y += height;
      return cells;
    });
  }

  private shape(node: Xml, lineage: Lineage, sheet: Sheet, space: Space, what: string): DeckShape | null {
    const about = at(within(node)[0], 'p:cNvPr');
    const place = at(within(node)[0], 'p:nvPr', 'p:ph');
    const models = place ? lineage.around.flatMap((one) => placeholderLike(one, place) ?? []) : [];
    const properties = [node, ...models].map((one) => at(one, 'p:spPr'));
    const transform = properties.map((one) => at(one, 'a:xfrm')).find((one) => one && at(one, 'a:ext'));
    const own = boxIn(transform);
    const name = attribute(about, 'name') ?? 'Shape';
    if (!own) return null;
    const rotation = space.rotation + (numberIn(transform, 'rot') ?? 0) / 60_000;
    const box = space.place(own);
    const lead = this.leadOf(about, sheet, what) ?? this.leadInText(at(node, 'p:txBody'), sheet, what);
    const label = attribute(about, 'descr');
    const common = { name, box, rotation, ...(label && { label }), ...(lead && { lead }) };
    if (node.name === 'p:pic') return { ...common, type: 'picture', style: {}, ...this.pictureOf(at(node, 'p:blipFill'), sheet) };
    const { palette } = lineage;
    const kind = attribute(
      properties.map((one) => at(one, 'a:prstGeom')).find((one) => one !== undefined),
      'prst'
    );
    const isLine = node.name === 'p:cxnSp' || kind === 'line';
    const filled = isLine ? { fill: null } : this.fillOf(properties, node, palette, sheet, what, name);
    if (filled.picture) return { ...common, type: 'picture', style: {}, picture: filled.picture };
    const line = this.lineOf(properties, node, palette);
    const ink = colorIn(at(node, 'p:style', 'a:fontRef'), palette);
    const said = this.said(at(node, 'p:txBody'), models, lineage, attribute(place, 'type') ?? (place ? 'body' : null), ink);
    const style: Style = { ...(filled.fill && { fill: filled.fill }), ...(line && { line }), ...said.style };
    const shaped = this.outlineOf(properties, transform, own, what, name, filled.fill !== null || line !== null);
    const isBare = !filled.fill && !line;
    if (isBare && said.text === undefined) return lead ? { ...common, type: 'hit', style: {} } : null;
    if (isBare && shaped.type !== 'path') return { ...common, type: 'text', style, ...withoutStyle(said) };
    return { ...common, ...shaped, style: { ...style, ...shaped.style }, ...withoutStyle(said) };
  }

  private outlineOf(
    properties: readonly (Xml | undefined)[],
    transform: Xml | undefined,
    { width, height }: Rect,
    what: string,
    name: string,
    isSeen: boolean
  ): { type: 'box' | 'oval' | 'path'; path?: string; style: Style } {
    const [horizontally, vertically] = ['flipH', 'flipV'].map((flip) => attribute(transform, flip) === '1') as [boolean, boolean];
    const custom = properties.map((one) => at(one, 'a:custGeom')).find((one) => one !== undefined);
    if (custom) {
      const path = customOutline(custom);
      if (path) return { type: 'path', path: flipped(path, horizontally, vertically), style: {} };
    }
    const geometry = properties.map((one) => at(one, 'a:prstGeom')).find((one) => one !== undefined);
    const kind = attribute(geometry, 'prst') ?? 'rect';
    if (kind === 'ellipse') return { type: 'oval', style: {} };
    if (/^(round\w*Rect|flowChartAlternateProcess|round)$/i.test(kind)) {
      const share = adjusted(geometry) ?? 16_667;
      return { type: 'box', style: { corner: Math.round((Math.min(width, height) * Math.min(50_000, share)) / 100_000) } };
    }
    const path = OUTLINES[kind] ?? (/Connector\d?$/.test(kind) ? OUTLINES['line'] : undefined);
    if (path) return { type: 'path', path: flipped(path, horizontally, vertically), style: {} };
    if (kind !== 'rect' && kind !== 'flowChartProcess' && isSeen) this.left.push(`${what}, ${name}: its outline (${kind}); it is a box`);
    return { type: 'box', style: {} };
  }

  private fillOf(
    properties: readonly (Xml | undefined)[],
    node: Xml,
    palette: Palette,
    sheet: Sheet,
    what: string,
    name: string
  ): { fill: string | null; picture?: string } {
    for (const one of properties)
      for (const child of within(one))
        switch (child.name) {
          case 'a:noFill':
            return { fill: null };
          case 'a:solidFill':
            return { fill: colorIn(child, palette) };
          case 'a:gradFill':
            this.left.push(`${what}, ${name}: its shades; it has one colour`);
            return { fill: this.firstStop(child, palette) };
          case 'a:pattFill':
            this.left.push(`${what}, ${name}: its pattern; it has one colour`);
            return { fill: colorIn(at(child, 'a:bgClr'), palette) };
          case 'a:blipFill':
            return { fill: null, ...this.pictureOf(child, sheet) };
        }
    const reference = at(node, 'p:style', 'a:fillRef');
    return { fill: reference && numberIn(reference, 'idx') !== 0 ? colorIn(reference, palette) : null };
  }

  private pictureOf(fill: Xml | undefined, sheet: Sheet): { picture: string } {
    const blip = at(fill, 'a:blip');
    return { picture: sheet.links.get(attribute(blip, 'r:embed') ?? '')?.to ?? '' };
  }

  private lineOf(properties: readonly (Xml | undefined)[], node: Xml, palette: Palette): { color: string; width: number } | null {
    const reference = at(node, 'p:style', 'a:lnRef');
    const styled = reference && numberIn(reference, 'idx') !== 0 ? colorIn(reference, palette) : null;
    const line = properties.map((one) => at(one, 'a:ln')).find((one) => one !== undefined);
    if (at(line, 'a:noFill')) return null;
    const color = colorIn(at(line, 'a:solidFill'), palette) ?? (line || reference ? styled : null);
    if (!color) return null;
    return { color, width: Math.min(200, Math.max(0.5, Math.round(px(numberIn(line, 'w') ?? 9525) * 10) / 10)) };
  }

  /** What a shape says, and how it is set: each by the first that says it, from the run outwards to the master. */
  private said(
    body: Xml | undefined,
    models: readonly Xml[],
    lineage: Lineage,
    place: string | null,
    ink: string | null
  ): { text?: string; letters?: Letters; style: Style } {
    const text = this.textOf(body, models, lineage, place);
    if (text.trim() === '') return { style: {} };
    const first = within(body, 'a:p').find((paragraph) => textIn(paragraph).trim() !== '') ?? within(body, 'a:p')[0];
    const run = within(first).find((one) => one.name === 'a:r' || one.name === 'a:fld');
    const level = numberIn(at(first, 'a:pPr'), 'lvl') ?? 0;
    const paragraphs = [at(first, 'a:pPr'), ...this.levels(body, models, lineage, place, level)];
    const runs = [at(run, 'a:rPr'), ...paragraphs.map((one) => at(one, 'a:defRPr'))];
    const say = (name: string, from: readonly (Xml | undefined)[]) => from.map((one) => attribute(one, name)).find((one) => one !== undefined);
    const frames = [body, ...models.map((model) => at(model, 'p:txBody'))].map((one) => at(one, 'a:bodyPr'));
    const shrunk =
      (numberIn(
        frames.map((one) => at(one, 'a:normAutofit')).find((one) => one !== undefined),
        'fontScale'
      ) ?? 100_000) / 100_000;
    const points = Number(say('sz', runs) ?? 1800) / 100;
    const anchor = say('anchor', frames);
    const align = say('algn', paragraphs);
    const face = runs.map((one) => attribute(at(one, 'a:latin'), 'typeface')).find((one) => one !== undefined);
    const family = face === undefined ? undefined : familyNamed(face);
    if (face !== undefined && !family && !face.startsWith('+')) this.missing.add(face);
    const color = runs.map((one) => colorIn(at(one, 'a:solidFill'), lineage.palette)).find((one) => one !== null) ?? ink;
    return {
      text,
      letters: {
        size: Math.min(1000, Math.max(1, Math.round(points * POINT * shrunk * 100) / 100)),
        ...(say('b', runs) === '1' && { weight: 700 }),
        ...(family && { family }),
        align: align === 'ctr' ? 'center' : align === 'r' ? 'right' : 'left',
        place: anchor === 'ctr' ? 'middle' : anchor === 'b' ? 'bottom' : 'top',
      },
      style: { ink: color ?? '#000000' },
    };
  }

  /** Where a level of text says how it is set, from the shape outwards. */
  private levels(body: Xml | undefined, models: readonly Xml[], { around }: Lineage, place: string | null, level: number): (Xml | undefined)[] {
    const name = `a:lvl${level + 1}pPr`;
    const lists = [body, ...models.map((model) => at(model, 'p:txBody'))].map((one) => at(one, 'a:lstStyle', name));
    const master = around.at(-1);
    const usual = place === null ? 'p:otherStyle' : place === 'title' || place === 'ctrTitle' ? 'p:titleStyle' : 'p:bodyStyle';
    return [...lists, at(master?.root, 'p:txStyles', usual, name), at(this.presentation, 'p:defaultTextStyle', name)];
  }

  private textOf(body: Xml | undefined, models: readonly Xml[], lineage: Lineage, place: string | null): string {
    return within(body, 'a:p')
      .map((paragraph) => {
        const text = paragraphText(paragraph);
        if (text.trim() === '') return text;
        const level = numberIn(at(paragraph, 'a:pPr'), 'lvl') ?? 0;
        const from = [at(paragraph, 'a:pPr'), ...this.levels(body, models, lineage, place, level)];
        const bullet = from.flatMap((one) => within(one)).find(({ name }) => name.startsWith('a:bu') && /^a:bu(None|Char|AutoNum)$/.test(name));
        const mark = bullet && bullet.name !== 'a:buNone' ? `${'  '.repeat(level)}• ` : '';
        return mark + text;
      })
      .join('\n')
      .replace(/\s+$/, '');
  }

  private plainText = (body: Xml | undefined): string => within(body, 'a:p').map(paragraphText).join('\n');

  private leadOf(about: Xml | undefined, sheet: Sheet, what: string): DeckLead | null {
    if (at(about, 'a:hlinkHover')) this.left.push(`${what}, ${attribute(about, 'name') ?? 'Shape'}: what it does when it is pointed at`);
    return this.leadIn(at(about, 'a:hlinkClick'), sheet, `${what}, ${attribute(about, 'name') ?? 'Shape'}`);
  }

  /** The first link in a text: it stands for the shape, as parts of a text lead nowhere here. */
  private leadInText(body: Xml | undefined, sheet: Sheet, what: string): DeckLead | null {
    if (!body) return null;
    const [first, ...more] = [...everyOf(body, 'a:hlinkClick')].flatMap((link) => this.leadIn(link, sheet, what) ?? []);
    if (more.length) this.left.push(`${what}: ${more.length} more of the links in one text`);
    return first ?? null;
  }

  private leadIn(link: Xml | undefined, sheet: Sheet, what: string): DeckLead | null {
    if (!link) return null;
    const action = attribute(link, 'action') ?? '';
    const target = sheet.links.get(attribute(link, 'r:id') ?? '');
    const jump = /^ppaction:\/\/hlinkshowjump\?jump=(\w+)/.exec(action)?.[1];
    const turns = { nextslide: 'next', previousslide: 'previous', firstslide: 'first', lastslide: 'last', lastslideviewed: 'back' } as const;
    if (jump !== undefined && jump in turns) return { turn: turns[jump as keyof typeof turns] };
    if (jump !== undefined || (action !== '' && !action.startsWith('ppaction://hlinksldjump'))) {
      if (!action.startsWith('ppaction://noaction')) this.left.push(`${what}: what it does (${jump ?? action.replace(/^ppaction:\/\//, '')})`);
      return null;
    }
    if (target?.isOutside) return { address: target.to };
    return target?.kind === 'slide' ? { slide: target.to } : null;
  }

  private change({ root }: Sheet, what: string): { transition: Transition | null; after: number | null } {
    const node =
      at(root, 'p:transition') ??
      at(root, 'mc:AlternateContent', 'mc:Choice', 'p:transition') ??
      at(root, 'mc:AlternateContent', 'mc:Fallback', 'p:transition');
    if (!node) return { transition: null, after: null };
    const ms = numberIn(node, 'p14:dur') ?? { slow: 1500, med: 750, fast: 500 }[attribute(node, 'spd') ?? 'fast'] ?? 500;
    const after = numberIn(node, 'advTm') ?? null;
    const kind = within(node).find(({ name }) => name !== 'p:sndAc' && name !== 'p:extLst');
    if (!kind) return { transition: null, after };
    const transition = transitionOf(kind, Math.min(10_000, Math.max(1, ms)));
    if (transition.isOther) this.left.push(`${what}: its transition (${kind.name.replace(/^\w+:/, '')}); it dissolves`);
    return { transition: transition.transition, after };
  }
}

const withoutStyle = ({ text, letters }: { text?: string; letters?: Letters }): { text?: string; letters?: Letters } => ({
  ...(text !== undefined && { text }),
  ...(letters && { letters }),
});

/** Where the new one moves to, by the letters that a file writes. */
const WAYS: Readonly<Record<string, Direction>> = { l: 'left', r: 'right', u: 'up', d: 'down' };

function transitionOf(kind: Xml, ms: number): { transition: Transition; isOther: boolean } {
  const direction = WAYS[attribute(kind, 'dir') ?? 'l'];
  const timed = { ms, easing: 'ease-in-out' };
  const name = kind.name.replace(/^\w+:/, '');
  if (name === 'cut') return { transition: { type: 'cut' }, isOther: false };
  if (name === 'fade') return { transition: { type: 'dissolve', ...timed }, isOther: false };
  const types = { push: 'push', wipe: 'wipe', cover: 'cover', pull: 'uncover' } as const;
  if (name in types && direction) return { transition: { type: types[name as keyof typeof types], direction, ...timed }, isOther: false };
  return { transition: { type: 'dissolve', ...timed }, isOther: true };
}

/** The box of a transform, CSS px; null without one. */
function boxIn(transform: Xml | undefined, from = 'a:off', size = 'a:ext'): Rect | null {
  const [off, ext] = [at(transform, from), at(transform, size)];
  const [x, y, width, height] = [numberIn(off, 'x'), numberIn(off, 'y'), numberIn(ext, 'cx'), numberIn(ext, 'cy')];
  if (x === undefined || y === undefined || width === undefined || height === undefined) return null;
  return { x: px(x), y: px(y), width: px(width), height: px(height) };
}

/** A box whose middle was turned about the middle of another one, by degrees. */
function turnedAbout(box: Rect, around: Rect, degrees: number): Rect {
  if (degrees === 0) return box;
  const turn = (degrees * Math.PI) / 180;
  const [mx, my] = [around.x + around.width / 2, around.y + around.height / 2];
  const [dx, dy] = [box.x + box.width / 2 - mx, box.y + box.height / 2 - my];
  const [x, y] = [mx + dx * Math.cos(turn) - dy * Math.sin(turn), my + dx * Math.sin(turn) + dy * Math.cos(turn)];
  return { ...box, x: x - box.width / 2, y: y - box.height / 2 };
}

/** Titles are titles, wherever; all else without a kind is body. */
const kindOf = (place: Xml): string => {
  const type = attribute(place, 'type') ?? 'body';
  return type === 'ctrTitle' ? 'title' : type === 'subTitle' || type === 'obj' ? 'body' : type;
};

/** The shape of a layout or master that a place on a slide takes what it does not say from. */
function placeholderLike({ root }: Sheet, place: Xml): Xml | null {
  const candidates = [...everyOf(root, 'p:sp')].flatMap((shape) => {
    const its = at(shape, 'p:nvSpPr', 'p:nvPr', 'p:ph');
    return its ? [{ shape, its }] : [];
  });
  const index = attribute(place, 'idx');
  const byIndex = index === undefined ? undefined : candidates.find(({ its }) => attribute(its, 'idx') === index);
  return (byIndex ?? candidates.find(({ its }) => kindOf(its) === kindOf(place)))?.shape ?? null;
}

function paragraphText(paragraph: Xml): string {
  return within(paragraph)
    .map((one) => (one.name === 'a:br' ? '\n' : one.name === 'a:r' || one.name === 'a:fld' ? textIn(at(one, 'a:t')) : ''))
    .join('');
}

/** Which place of its layout a shape is in. */
const placeOf = (shape: Xml): string | undefined => attribute(at(shape, 'p:nvSpPr', 'p:nvPr', 'p:ph'), 'type');

/** The first number that a shape's outline is changed by. */
function adjusted(geometry: Xml | undefined): number | null {
  const formula = attribute(at(geometry, 'a:avLst', 'a:gd'), 'fmla');
  const value = /^val (-?\d+)$/.exec(formula ?? '')?.[1];
  return value === undefined ? null : Number(value);
}

/** An outline drawn by hand, in a box of 100 by 100; null where it has arcs or formulas. */
function customOutline(geometry: Xml): string | null {
  const parts = within(at(geometry, 'a:pathLst'), 'a:path').map((path) => {
    const [width, height] = [numberIn(path, 'w') ?? 0, numberIn(path, 'h') ?? 0];
    if (!width || !height) return null;
    const point = (node: Xml): string | null => {
      const [x, y] = [numberIn(node, 'x'), numberIn(node, 'y')];
      if (x === undefined || y === undefined) return null;
      return `${Math.round((x / width) * 10_000) / 100} ${Math.round((y / height) * 10_000) / 100}`;
    };
    const steps = within(path).map((step) => {
      const points = within(step, 'a:pt').map(point);
      if (points.includes(null)) return null;
      const letter = { 'a:moveTo': 'M', 'a:lnTo': 'L', 'a:cubicBezTo': 'C', 'a:quadBezTo': 'Q', 'a:close': 'Z' }[step.name];
      return letter === undefined ? null : `${letter}${points.join(' ')}`;
    });
    return steps.includes(null) ? null : steps.join('');
  });
  const all = parts.includes(null) ? '' : parts.join('');
  return /^M/.test(all) && all.length <= 20_000 ? all : null;
}
