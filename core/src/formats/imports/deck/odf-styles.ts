import { at, attribute, everyOf, within, type Xml } from '../xml.ts';

/** Styles of OpenDocument (ISO/IEC 26300, 16): each names the one that it takes from what it does not say itself. */
export class OdfStyles {
  private readonly styles = new Map<string, Xml>();
  private readonly usual = new Map<string, Xml>();
  private readonly named = new Map<string, Xml>();
  private readonly lists = new Map<string, Xml>();

  /** Later documents hide what earlier ones call the same. */
  constructor(documents: readonly Xml[]) {
    for (const document of documents)
      for (const holder of ['office:styles', 'office:automatic-styles'])
        for (const style of within(at(document, holder))) {
          const [name, family] = [attribute(style, 'style:name') ?? attribute(style, 'draw:name') ?? '', attribute(style, 'style:family') ?? ''];
          if (style.name === 'style:style') this.styles.set(`${family} ${name}`, style);
          else if (style.name === 'style:default-style') this.usual.set(family, style);
          else if (style.name === 'text:list-style') this.lists.set(name, style);
          else this.named.set(`${style.name} ${name}`, style);
        }
  }

  /** A style and those it takes from, the nearest first. */
  chain(family: string, name: string | undefined): Xml[] {
    const found: Xml[] = [];
    let next = name;
    while (next !== undefined && found.length < 50) {
      const style = this.styles.get(`${family} ${next}`);
      if (!style) break;
      found.push(style);
      next = attribute(style, 'style:parent-style-name');
    }
    const usual = this.usual.get(family === 'presentation' ? 'graphic' : family);
    return usual ? [...found, usual] : found;
  }

  /** What is kept by kind and name: gradients, pictures to fill with. */
  one = (kind: string, name: string | undefined): Xml | undefined => this.named.get(`${kind} ${name ?? ''}`);

  list = (name: string | undefined): Xml | undefined => this.lists.get(name ?? '');
}

/** What the nearest of some styles says by a name in one of its groups of properties. */
export function said(styles: readonly Xml[], group: string, name: string): string | undefined {
  for (const style of styles) {
    const value = attribute(at(style, group), name);
    if (value !== undefined) return value;
  }
  return undefined;
}

/** A length as CSS px; null for what is none. */
export function lengthIn(text: string | undefined): number | null {
  const [, number, unit] = /^(-?[\d.]+(?:e-?\d+)?)(cm|mm|in|pt|pc|px)$/i.exec(text?.trim() ?? '') ?? [];
  const inches = { cm: 1 / 2.54, mm: 1 / 25.4, in: 1, pt: 1 / 72, pc: 1 / 6, px: 1 / 96 }[unit?.toLowerCase() ?? ''];
  const value = Number(number) * 96 * (inches ?? NaN);
  return Number.isFinite(value) ? value : null;
}

/** A share of one, written in percent; null for what is none. */
export function shareIn(text: string | undefined): number | null {
  const value = /^(-?[\d.]+)%$/.exec(text?.trim() ?? '')?.[1];
  return value === undefined ? null : Number(value) / 100;
}

/** Events of a shape, by what begins them. */
export const eventsOf = (shape: Xml): readonly Xml[] => within(at(shape, 'office:event-listeners'), 'presentation:event-listener');

/** All pages that show the same: masters by name. */
export const mastersIn = (styles: Xml | null): ReadonlyMap<string, Xml> =>
  new Map([...(styles ? everyOf(styles, 'style:master-page') : [])].map((master) => [attribute(master, 'style:name') ?? '', master] as const));
