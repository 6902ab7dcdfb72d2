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

/** Whether edits kept in a format can be made today as they are: since format 2 things were only added. */
export const takesEditsOf = (format: string): boolean => format === FORMAT || format === 'zany-thread/2';

/** `"zany-thread/1" and "zany-thread/2"`, for errors. */
export const formatWords = (): string => [...Object.keys(migrations), FORMAT].map((format) => `"${format}"`).join(' and ');

/** From format 2 on, `{…}` in a text is an expression, and there are variables. Braces that were only braces are kept as such. */
function bracesMean(document: Document): Document {
  const layers = isRecord(document['layers']) ? mapped(document['layers'], plainBraces) : document['layers'];
  return { ...document, format: 'zany-thread/2', layers, variables: document['variables'] ?? {} };
}

/** Format 3 only adds: the step that turns to the next section, shares of lines and letters, turning along, rounds. What was written before it means what it meant. */
function sectionsTurn(document: Document): Document {
  return { ...document, format: 'zany-thread/3' };
}

function plainBraces(layer: unknown): unknown {
  if (!isRecord(layer)) return layer;
  const looks = isRecord(layer['looks']) ? { looks: mapped(layer['looks'], escapedText) } : {};
  return { ...(escapedText(layer) as Document), ...looks };
}

const escapedText = (value: unknown): unknown =>
  isRecord(value) && typeof value['text'] === 'string' ? { ...value, text: value['text'].replace(/[\\{]/g, '\\$&') } : value;

const mapped = (record: Document, change: (value: unknown) => unknown): Document =>
  Object.fromEntries(Object.entries(record).map(([key, value]) => [key, change(value)]));

const isRecord = (value: unknown): value is Document => typeof value === 'object' && value !== null && !Array.isArray(value);
