import { strFromU8 } from 'fflate';
import { SaxesParser } from 'saxes';
import { fail, fault, ok, type Result } from '../../result.ts';

/** XML (W3C, 1.0) as a tree. What a document type declares is not taken in, so nothing in it can grow. */

export interface Xml {
  /** With the prefix that its namespace usually has, whatever it has here: `a:off`. */
  readonly name: string;
  readonly attributes: ReadonlyMap<string, string>;
  readonly children: readonly (Xml | string)[];
}

const LIMITS = { bytes: 60_000_000, depth: 200, nodes: 1_000_000 } as const;

/** Usual prefixes by namespaces, where files write others. */
export type Prefixes = Readonly<Record<string, string>>;

/** Reads a document in UTF-8 or UTF-16. */
export function readXml(bytes: Uint8Array, prefixes: Prefixes = {}): Result<Xml> {
  if (bytes.length > LIMITS.bytes) return fail(fault('too-large', [], `Its XML has more than ${LIMITS.bytes / 1e6} MB.`));
  const parser = new SaxesParser({ xmlns: true });
  const top: (Xml | string)[] = [];
  const open: { name: string; attributes: Map<string, string>; children: (Xml | string)[] }[] = [];
  let nodes = 0;
  const nameOf = (uri: string, prefix: string, local: string) => {
    const usual = prefixes[uri] ?? prefix;
    return usual ? `${usual}:${local}` : local;
  };
  const stop = (why: string): never => {
    throw new Error(why);
  };
  parser.on('error', (error) => stop(error.message.replace(/^\d+:\d+: /, '')));
  parser.on('opentag', ({ uri, prefix, local, attributes }) => {
    if (++nodes > LIMITS.nodes) stop('it has too many elements');
    if (open.length >= LIMITS.depth) stop(`it is nested more than ${LIMITS.depth} deep`);
    const own = new Map(Object.values(attributes).map((one) => [nameOf(one.uri, one.prefix, one.local), one.value]));
    open.push({ name: nameOf(uri, prefix, local), attributes: own, children: [] });
  });
  parser.on('closetag', () => {
    const node = open.pop()!;
    (open.at(-1)?.children ?? top).push(node);
  });
  const take = (text: string) => open.at(-1)?.children.push(text);
  parser.on('text', take);
  parser.on('cdata', take);
  try {
    parser.write(textOf(bytes)).close();
  } catch (error) {
    return fail(fault('no-xml', [], `Its XML cannot be read: ${(error as Error).message}.`));
  }
  const root = top.find((node) => typeof node !== 'string');
  return root ? ok(root) : fail(fault('no-xml', [], 'It holds no XML.'));
}

function textOf(bytes: Uint8Array): string {
  const isLittle = bytes[0] === 0xff && bytes[1] === 0xfe;
  if (!isLittle && !(bytes[0] === 0xfe && bytes[1] === 0xff)) return strFromU8(bytes);
  const parts: string[] = [];
  for (let i = 2; i + 1 < bytes.length; i += 2) {
    const [first, second] = [bytes[i]!, bytes[i + 1]!];
    parts.push(String.fromCharCode(isLittle ? first + second * 256 : first * 256 + second));
  }
  return parts.join('');
}

/** The elements in an element, in order; all, or those of a name. */
export const within = (node: Xml | undefined, name?: string): readonly Xml[] =>
  (node?.children ?? []).filter((child): child is Xml => typeof child !== 'string' && (name === undefined || child.name === name));

/** The first element on a way down by names; undefined where there is none. */
export function at(node: Xml | undefined, ...names: readonly string[]): Xml | undefined {
  let found = node;
  for (const name of names) found = found?.children.find((child): child is Xml => typeof child !== 'string' && child.name === name);
  return found;
}

/** All elements of a name, however deep. */
export function* everyOf(node: Xml, name: string): Generator<Xml> {
  for (const child of within(node)) {
    if (child.name === name) yield child;
    yield* everyOf(child, name);
  }
}

export const attribute = (node: Xml | undefined, name: string): string | undefined => node?.attributes.get(name);

/** An attribute as a number; undefined where it is none. */
export function numberIn(node: Xml | undefined, name: string): number | undefined {
  const value = node?.attributes.get(name);
  const number = value === undefined || value.trim() === '' ? NaN : Number(value);
  return Number.isFinite(number) ? number : undefined;
}

/** All text in an element. */
export const textIn = (node: Xml | undefined): string =>
  (node?.children ?? []).map((child) => (typeof child === 'string' ? child : textIn(child))).join('');
