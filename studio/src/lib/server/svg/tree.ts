import { SaxesParser } from 'saxes';
import { fail, ok, type Result } from '@zany/core';

/** An element of an SVG while it is looked through. */
export interface SvgElement {
  readonly name: string;
  readonly attributes: Map<string, string>;
  readonly children: (SvgElement | string)[];
}

export const MOST_ELEMENTS = 20_000;
export const MOST_DEPTH = 100;
const MOST_ATTRIBUTES = 200;

class Refused extends Error {}

/**
 * Reads an SVG as XML into a tree, and stops as soon as it is too large or too deep. Prefixes of the SVG namespace are taken
 * off, elements of other namespaces left out with all that is in them. Time and memory grow with the length of the text.
 */
export function readSvg(source: string): Result<SvgElement, string> {
  if (/<!ENTITY/i.test(source)) return fail('declares entities, which are not taken in. Save it as plain SVG.');
  const parser = new SaxesParser({ xmlns: false, position: true });
  let root: SvgElement | null = null;
  const open: SvgElement[] = [];
  let left = 0;
  let elements = 0;
  const refuse = (why: string): never => {
    throw new Refused(why);
  };
  parser.on('error', (error) => refuse(`is no SVG, or a broken one: ${error.message.replace(/^\d+:\d+: /, '')} (line ${parser.line}).`));
  parser.on('opentag', (tag) => {
    const name = plainName(tag.name);
    if (open.length + left >= MOST_DEPTH) refuse('is nested too deeply. Export it as PNG instead.');
    if (++elements > MOST_ELEMENTS) refuse(`has more than ${MOST_ELEMENTS} elements. Export it as PNG instead.`);
    if (left > 0 || name === null) return void left++;
    const attributes = Object.entries(tag.attributes) as [string, string][];
    if (attributes.length > MOST_ATTRIBUTES) refuse('has an element with hundreds of attributes. Export it as PNG instead.');
    const element: SvgElement = { name, attributes: new Map(attributes), children: [] };
    if (open.length) open.at(-1)!.children.push(element);
    else root ??= element;
    open.push(element);
  });
  parser.on('closetag', () => void (left > 0 ? left-- : open.pop()));
  const text = (words: string) => {
    if (left === 0 && open.length) open.at(-1)!.children.push(words);
  };
  parser.on('text', text);
  parser.on('cdata', text);
  try {
    parser.write(source.replace(/^\ufeff|^\s+(?=<\?xml)/, '')).close();
  } catch (error) {
    if (error instanceof Refused) return fail(error.message);
    throw error;
  }
  return root !== null && (root as SvgElement).name === 'svg' ? ok(root) : fail('is no SVG, or a broken one.');
}

/** The name without the prefix of SVG; null for an element of another namespace. */
function plainName(name: string): string | null {
  const [prefix, local] = name.includes(':') ? (name.split(':', 2) as [string, string]) : ['', name];
  return prefix === '' || prefix === 'svg' ? local : null;
}

/** Writes a tree as XML. */
export function writeSvg(root: SvgElement): string {
  const parts: string[] = [];
  const stack: (SvgElement | string)[] = [root];
  while (stack.length) {
    const next = stack.pop()!;
    if (typeof next === 'string') {
      parts.push(next);
      continue;
    }
    parts.push(`<${next.name}`);
    for (const [name, value] of next.attributes) parts.push(` ${name}="${escaped(value).replace(/"/g, '&quot;')}"`);
    if (next.children.length === 0) {
      parts.push('/>');
      continue;
    }
    parts.push('>');
    stack.push(`</${next.name}>`);
    for (const child of [...next.children].reverse()) stack.push(typeof child === 'string' ? escaped(child) : child);
  }
  return parts.join('');
}

// XML has no way to write the other control characters.
// eslint-disable-next-line no-control-regex
const NOT_XML = /[\0-\x08\x0b\x0c\x0e-\x1f\ufffe\uffff]/g;

const escaped = (text: string) =>
  text
    .replace(NOT_XML, '')
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/[\n\r\t]/g, (sign) => (sign === '\n' ? sign : `&#${sign.charCodeAt(0)};`));
