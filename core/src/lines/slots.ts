import { displayExpression, writeThing } from '../expression/names.ts';
import { functions } from '../expression/functions.ts';
import { storeExpression, propertyWords } from '../expression/store.ts';
import { SPECIALS } from '../expression/ast.ts';
import { PLACES } from '../vocabulary/places.ts';
import type { Target } from '../vocabulary/target.ts';
import type { Timing } from '../fields/step-fields.ts';
import type { Transition } from '../vocabulary/transitions/all.ts';
import { printTiming, printTransition, readTiming, readTransition } from './transition.ts';
import { durationWords } from '../words.ts';
import { KEY_NAMES } from '../vocabulary/keys.ts';
import { quoteText, STOPS, unescapeText, writeRaw } from './raw.ts';
import { LineError, type LineReader } from './reader.ts';
import { fieldAt, type Slot, type SlotKind } from '../fields/forms.ts';
import { findNamed, NAME_STOPS, writeNamed, writtenNames, type LineScope, type Named } from './scope.ts';

/** Places for values in forms, by kind: how each is printed and read. */

export interface SlotContext {
  readonly scope: LineScope;
  readonly slot: Slot;
  /** What has been read so far, or is printed. */
  readonly whole: unknown;
}

interface SlotType<T> {
  readonly print: (value: T, context: SlotContext) => string;
  readonly read: (reader: LineReader, context: SlotContext) => T | undefined;
}

const named = (things: (context: SlotContext) => readonly Named[], what: string): SlotType<string | null> => ({
  print: (id, context) => writeNamed(things(context), id, context.slot.before),
  read: (reader, context) => readNamed(reader, things(context), what, context.slot.before),
});

/** Layers may be called “this” where the thread belongs to one of them, unless one bears that name. */
const namedOrThis = (things: (scope: LineScope) => readonly Named[], what: string): SlotType<string | null> => ({
  ...named(({ scope }) => things(scope), what),
  read: (reader, { scope, slot }) => {
    const all = things(scope);
    const owner = all.find(({ id }) => id === scope.owner);
    const isTaken = all.some(({ name }) => name.toLowerCase() === 'this');
    if (!owner || isTaken) return readNamed(reader, all, what, slot.before);
    reader.offer(['this']);
    return readNamed(reader, [...all, { id: owner.id, name: 'this' }], what, slot.before);
  },
});

/** What has states, by name; the scene itself, which is left out in what is kept, may be named as well. */
const stateful: SlotType<string | null> = {
  print: (id, { scope, slot }) => writeNamed(scope.stateful, id, slot.before),
  read: (reader, { scope, slot }) => {
    const what = 'the name of a placement, frame or sheet that has states';
    const id = readNamed(reader, [...scope.stateful, ...scope.itself], what, slot.before);
    return id !== null && id === scope.scene ? undefined : id;
  },
};

/** What a state or label is of: in a step what it names, else the scene it stands in; in a cue what it belongs to. */
const ofField = ({ slot, whole, scope }: SlotContext): string | undefined =>
  slot.of === undefined ? undefined : ((fieldAt(whole, slot.of) as string | undefined) ?? scope.scene ?? undefined);

const labelSlot = named((context) => context.scope.labelsOf(ofField(context)), 'the name of a label on its timeline');

/** A label that is not there is named, so that it can be made. */
const label: SlotType<string | null> = {
  ...labelSlot,
  read: (reader, context) => {
    const [, name = ''] = /^\s*"?([^;·"→]+)/.exec(reader.rest) ?? [];
    try {
      return labelSlot.read(reader, context);
    } catch (error) {
      if (!(error instanceof LineError) || name.trim() === '') throw error;
      throw new LineError(error.column, error.expected, error.found, null, { of: ofField(context) ?? null, name: name.trim() });
    }
  },
};

const target: SlotType<Target> = {
  print: (value, { scope }) => (value.to === 'frame' ? writeNamed(scope.frames, value.frame, PLACES) : value.to),
  read: (reader, { scope, slot }) => {
    const begin = reader.at;
    const place = reader.word(PLACES);
    if (place && (reader.done || /^[·;,]/.test(reader.rest) || slot.before?.some((word) => reader.rest.startsWith(word)))) return { to: place };
    reader.at = begin;
    return { to: 'frame', frame: readFrame(reader, scope, slot.before) };
  },
};

const words: SlotType<unknown> = {
  print: (value, { slot }) => Object.entries(slot.words!).find(([, meant]) => meant === value)?.[0] ?? '',
  read: (reader, { slot }) => {
    const word = reader.word(Object.keys(slot.words!));
    return word === null ? reader.fail(Object.keys(slot.words!).join(', ')) : slot.words![word];
  },
};

const number: SlotType<number> = {
  print: (value) => String(value),
  read: (reader) => {
    reader.offer([]);
    const found = /^-?(\d+(?:\.\d+)?|\.\d+)(e[+-]?\d+)?(?![\p{L}\p{N}])/iu.exec(reader.rest);
    if (!found) return reader.fail('a number');
    reader.at += found[0].length;
    return Number(found[0]);
  },
};

const percent: SlotType<number> = {
  print: (value) => `${+(value * 100).toPrecision(12)} %`,
  read: (reader, context) => {
    const value = number.read(reader, context)!;
    if (!reader.sign(['%'])) reader.fail('%');
    return value / 100;
  },
};

const expression: SlotType<string> = {
  print: (stored, { scope }) => displayExpression(stored, scope.expression).text,
  read: (reader, { scope, slot }) => readExpression(reader, scope, slot.before ?? []),
};

export const slots = {
  target,
  frame: {
    print: (id: string | null, context: SlotContext) => writeNamed(context.scope.frames, id, context.slot.before),
    read: (reader: LineReader, context: SlotContext) => readFrame(reader, context.scope, context.slot.before),
  },
  layer: namedOrThis(({ layers }) => layers, 'the name of a layer here'),
  stateful: stateful as SlotType<string>,
  playable: namedOrThis(({ playable }) => playable, 'the name of a placement, group, video or sound') as SlotType<string>,
  variable: named(({ scope }) => scope.variables, 'the name of a variable'),
  state: named((context) => context.scope.statesOf(ofField(context)), 'the name of a state of it'),
  label,
  words,
  number,
  percent,
  duration: { print: durationWords, read: (reader: LineReader) => reader.duration() } as SlotType<number>,
  text: {
    print: (text: string, { slot }: SlotContext) => writeRaw(text, slot.before ?? []),
    read: (reader: LineReader) => reader.raw('a text'),
  } as SlotType<string>,
  quoted: {
    print: (text: string) => JSON.stringify(text),
    read: (reader: LineReader) => {
      const found = /^\s*(?:"((?:[^"\\]|\\.)*)"|([\p{L}\p{N}._-]+))/u.exec(reader.rest);
      if (!found) return reader.fail('a word, or a text in quotes');
      reader.at += found[0].length;
      return found[2] ?? unescapeText(found[1]!);
    },
  } as SlotType<string>,
  key: { print: (key: string) => writeRaw(key), read: (reader: LineReader) => reader.raw('a key', KEY_NAMES) } as SlotType<string>,
  address: {
    print: (address: string) =>
      /(^| )(as|in new tab)( as)?( [\p{L}\p{N}._-]+)?$/iu.test(address) ? quoteText(address) : writeRaw(address, [], [...STOPS]),
    read: readAddress,
  } as SlotType<string>,
  expression,
  transition: {
    print: (value: Transition) => printTransition(value),
    read: (reader: LineReader) => readTransition(reader),
  } as SlotType<Transition>,
  timing: {
    print: (value: Timing | undefined) => (value ? `· ${printTiming(value)}` : ''),
    read: (reader: LineReader) => (reader.sign(['·', ',']) ? readTiming(reader) : undefined),
  } as SlotType<Timing>,
} satisfies Readonly<Record<SlotKind, unknown>>;

/** A bare address ends before words that may follow it; the raw text takes them along, so they are given back. */
function readAddress(reader: LineReader): string {
  const isQuoted = /^\s*"/.test(reader.rest);
  const begin = reader.at;
  const text = reader.raw('an address', ['https://', 'mailto:', 'tel:']);
  if (isQuoted) return text;
  const tail = / (in new tab( as( [\p{L}\p{N}._-]+)?)?|as( [\p{L}\p{N}._-]+)?)$/iu.exec(text);
  if (!tail) return text;
  const start = reader.text.indexOf(text, begin);
  reader.at = start + text.length - tail[0].length;
  return text.slice(0, -tail[0].length).trimEnd();
}

/** A frame by name: what stands up to the next sign if that is one, else the longest name that fits. */
function readFrame(reader: LineReader, scope: LineScope, before: readonly string[] = []): string | null {
  const missing = readMissing(reader);
  if (missing !== undefined) return missing;
  const start = reader.at;
  reader.offer(writtenNames(scope.frames, PLACES));
  const whole = /^\s*"/.test(reader.rest) ? null : textUpTo(reader);
  if (whole !== null && whole !== '') {
    const ordinal = / #(\d{1,6})$/.exec(whole);
    const frame = findNamed(scope.frames, ordinal ? whole.slice(0, -ordinal[0].length) : whole, ordinal ? Number(ordinal[1]) : 1);
    if (frame !== null) {
      reader.at += reader.rest.indexOf(whole) + whole.length;
      return frame;
    }
  }
  try {
    const id = readNamed(reader, scope.frames, 'the name of a frame', before);
    if (reader.done || /^[·;,→]/.test(reader.rest) || before.some((word) => reader.rest.startsWith(word))) return id;
  } catch (error) {
    if (!(error instanceof LineError)) throw error;
  }
  reader.at = start;
  return reader.fail('the name of a frame in this piece, or next, previous, first, last, back, start', whole);
}

function textUpTo(reader: LineReader): string {
  const ends = NAME_STOPS.map((sign) => reader.rest.indexOf(sign)).filter((at) => at >= 0);
  return reader.rest.slice(0, Math.min(reader.rest.length, ...ends)).trim();
}

/** `?` for what is not chosen yet, `?id` for what is gone. */
function readMissing(reader: LineReader): string | null | undefined {
  if (!reader.sign(['?'])) return undefined;
  const id = /^[0-9A-Za-z][0-9A-Za-z_/-]*/.exec(reader.rest)?.[0] ?? '';
  reader.at += id.length;
  return id === '' ? null : id;
}

/** A thing by its name, the longest that fits; in quotes, the one that is named so. */
function readNamed(reader: LineReader, things: readonly Named[], what: string, before: readonly string[] = []): string | null {
  const missing = readMissing(reader);
  if (missing !== undefined) return missing;
  reader.offer(writtenNames(things, before));
  const quoted = /^"((?:[^"\\]|\\.)*)"/.exec(reader.rest);
  const name = quoted ? unescapeText(quoted[1]!) : longest(reader.rest, things);
  if (name === null) return reader.fail(what);
  const begin = reader.at;
  reader.at += quoted ? quoted[0].length : name.length;
  const ordinal = /^\s*#(\d{1,6})/.exec(reader.rest);
  if (ordinal) reader.at += ordinal[0].length;
  const id = findNamed(things, name, ordinal ? Number(ordinal[1]) : 1);
  if (id !== null) return id;
  reader.at = begin;
  return reader.fail(what);
}

function longest(rest: string, things: readonly Named[]): string | null {
  const ends = (length: number) => !/[\p{L}\p{N}_]/u.test(rest.charAt(length)) || !/[\p{L}\p{N}_]/u.test(rest.charAt(length - 1));
  const fits = (same: (a: string, b: string) => boolean) =>
    things.filter(({ name }) => same(rest.slice(0, name.length), name) && ends(name.length)).sort((a, b) => b.name.length - a.name.length)[0];
  const found = fits((a, b) => a === b) ?? fits((a, b) => a.toLowerCase() === b.toLowerCase());
  return found ? rest.slice(0, found.name.length) : null;
}

/** An expression up to a sign that ends it, outside of texts, quoted names and brackets. */
function readExpression(reader: LineReader, scope: LineScope, before: readonly string[]): string {
  void reader.done;
  const { at: begin, text } = reader;
  const end = endOfExpression(text, begin, before);
  const written = text.slice(begin, end);
  offerNames(reader, scope, begin, end);
  const stored = storeExpression(written.trimEnd(), scope.expression);
  reader.at = end;
  if (stored.ok) return stored.value;
  const at = begin + stored.error.from;
  throw new LineError(at + 1, `an expression (${lowerFirst(stored.error.sentence.replace(/\.$/, ''))})`, text.slice(at, at + 20));
}

const lowerFirst = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

export function endOfExpression(text: string, begin: number, before: readonly string[]): number {
  let depth = 0;
  for (let i = begin; i < text.length; i++) {
    const rest = text.slice(i);
    const passed = /^"(?:[^"\\]|\\.)*"?/.exec(rest)?.[0] ?? /^`(?:[^`]|``)*`?/.exec(rest)?.[0];
    if (passed) {
      i += passed.length - 1;
      continue;
    }
    if ('([{'.includes(text[i]!)) depth++;
    else if (')]}'.includes(text[i]!)) depth--;
    else if (depth <= 0 && (/^(;|·|→|->)/.test(rest) || before.some((stop) => rest.startsWith(stop)))) return i;
  }
  return text.length;
}

/** Names and functions at the last word that is being written. */
function offerNames(reader: LineReader, scope: LineScope, begin: number, end: number): void {
  if (end < reader.text.length) return;
  const written = reader.text.slice(begin, end);
  const property = /\.(\p{L}*)$/u.exec(written);
  if (property) return void reader.offers.push({ at: end - property[0].length, words: propertyWords });
  const names = [...scope.expression.things.map((thing) => writeThing(thing.name)), ...Object.keys(functions).map((name) => `${name}(`), ...SPECIALS];
  const starts = [...written.matchAll(/(^|[^\p{L}\p{N}_])(?=[\p{L}`])/gu)].map((match) => begin + match.index + match[0].length).slice(-4);
  for (const at of starts.length ? starts : [end]) reader.offers.push({ at, words: names });
}
