import { isRecord } from '../record.ts';
import type { Operation } from '../edit/operation.ts';
import { FORMAT } from './schema.ts';

/** Older formats: each entry turns a document of that format into one of the next. */
type Document = Record<string, unknown>;

const migrations: Readonly<Record<string, (document: Document) => Document>> = {
  'zany-thread/1': bracesMean,
  'zany-thread/2': sectionsTurn,
};

/** The document in the format of today; null where its format is not known. The one given is left as it was. */
export function migrated(document: Document): Document | null {
  let current = document;
  while (current['format'] !== FORMAT) {
    const step = Object.hasOwn(migrations, String(current['format'])) ? migrations[String(current['format'])] : undefined;
    if (!step) return null;
    current = step(current);
  }
  return current;
}

/** Whether edits kept in a format can be made today: as they are, or by `migratedEdit`. */
export const takesEditsOf = (format: string): boolean => format === FORMAT || format === 'zany-thread/2';

/** `"zany-thread/1" and "zany-thread/2"`, for errors. */
export const formatWords = (): string => [...Object.keys(migrations), FORMAT].map((format) => `"${format}"`).join(' and ');

/** From format 2 on, `{…}` in a text is an expression, and there are variables. Braces that were only braces are kept as such. */
function bracesMean(document: Document): Document {
  const layers = isRecord(document['layers']) ? mapped(document['layers'], plainBraces) : document['layers'];
  return { ...document, format: 'zany-thread/2', layers, variables: document['variables'] ?? {} };
}

/**
 * In format 3 the keys of a track are by id, no longer a list. All else only adds: the step that turns to the next section, shares of
 * lines and letters, turning along, rounds.
 */
function sectionsTurn(document: Document): Document {
  const scenes = isRecord(document['scenes']) ? mapped(document['scenes'], keyedTimeline) : document['scenes'];
  return { ...document, format: 'zany-thread/3', scenes };
}

/** An edit of format 2 as it is written today. */
export function migratedEdit(operation: Operation): Operation {
  if (operation.table !== 'scenes' || operation.op === 'remove') return operation;
  if (operation.op === 'put') return { ...operation, value: keyedTimeline(operation.value) as typeof operation.value };
  const { path } = operation;
  if (path[0] !== 'timeline' || operation.value === undefined) return operation;
  const value = path.slice(1).reduceRight<unknown>((inner, step) => ({ [step]: inner }), operation.value);
  const changed = keyedTimeline({ timeline: value }) as Document;
  return { ...operation, value: path.reduce<unknown>((at, step) => (at as Document)[step], changed) };
}

const within = (key: string, change: (value: unknown) => unknown) => (of: unknown) =>
  isRecord(of) && of[key] !== undefined ? { ...of, [key]: change(of[key]) } : of;

/** A track whose keys may still be a list. */
export const keyedTrack = within('keys', (keys) =>
  Array.isArray(keys) ? Object.fromEntries(keys.map((key: unknown, i) => [keyName(key, i), key])) : keys
);

const keyedTimeline = within(
  'timeline',
  within('tracks', (tracks) => (isRecord(tracks) ? mapped(tracks, keyedTrack) : tracks))
);

/** Called after its time, as keys of a list were told apart. */
const keyName = (key: unknown, i: number) => (isRecord(key) && Number.isInteger(key['time']) ? `k${String(key['time'])}` : `n${i}`);

function plainBraces(layer: unknown): unknown {
  if (!isRecord(layer)) return layer;
  const looks = isRecord(layer['looks']) ? { looks: mapped(layer['looks'], escapedText) } : {};
  return { ...(escapedText(layer) as Document), ...looks };
}

const escapedText = (value: unknown): unknown =>
  isRecord(value) && typeof value['text'] === 'string' ? { ...value, text: value['text'].replace(/[\\{]/g, '\\$&') } : value;

const mapped = (record: Document, change: (value: unknown) => unknown): Document =>
  Object.fromEntries(Object.entries(record).map(([key, value]) => [key, change(value)]));
