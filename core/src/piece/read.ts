import { isRecord } from '../record.ts';
import { strFromU8 } from 'fflate';
import type { TSchema } from '@sinclair/typebox';
import { Value, type ValueError } from '@sinclair/typebox/value';
import { fail, fault, ok, type Fault, type Result } from '../result.ts';
import type { Table } from '../table.ts';
import { TABLES, type Entity, type Piece, type TableName } from './piece.ts';
import { formatWords, migrated } from './migrate.ts';
import { mended } from '../text.ts';
import { ID_PATTERN, PATH_PATTERN } from '../fields/scalars.ts';
import { DOCUMENT_LIMITS, jsonTextFault, shapeFault } from './shape.ts';
import { deepestFault, placingFault } from './nesting.ts';
import { partCycle, referenceFault } from './references.ts';
import { pieceFromTrusted } from './trusted.ts';
import { FORMAT, HeadSchema, LIMITS, tableSchemas, type Head, type PieceJson } from './schema.ts';

/**
 * Reads a piece document. Refuses the first thing that does not hold, with its path: unknown format, wrong types,
 * unknown fields, references to what is not there, too many entities. How large and deep it may be, and whether its texts can
 * be kept, is looked at where it is still text: `readPieceText`.
 */
export function readPiece(json: unknown): Result<Piece> {
  if (!isRecord(json)) return fail(fault('not-a-piece', [], 'A piece is a JSON object; this is not one.'));
  const current = migrated(json);
  if (!current) return fail(fault('unknown-format', ['format'], `The format is ${quote(json['format'])}; ${formatWords()} can be read.`));
  const { format: _format, scenes, layers, threads, variables, assets, ...head } = current;
  const headFault = schemaFault(HeadSchema, head, []);
  if (headFault) return fail(headFault);
  const raw: Record<TableName, unknown> = { scenes, layers, threads, variables, assets };
  for (const table of TABLES) {
    const bad = tableFault(table, raw[table]);
    if (bad) return fail(bad);
  }
  return assemble(head as Head, raw as Record<TableName, Record<string, Entity>>);
}

/** How a text says a sign that cannot be kept: JSON has no other way to write NUL or half of a pair. */
const UNFIT_ESCAPE = /\\u(0000|d[89a-f])/i;

/** Reads a piece from the bytes of a JSON text, within the limits of a document. Signs that no text can keep are mended. */
export function readPieceText(bytes: Uint8Array): Result<Piece> {
  const large = jsonTextFault(bytes, DOCUMENT_LIMITS);
  if (large) return fail(large);
  try {
    const text = strFromU8(bytes);
    const json: unknown = JSON.parse(text);
    return readPiece(UNFIT_ESCAPE.test(text) ? mended(json) : json);
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    return fail(fault('not-json', [], `This is neither a package nor a piece.json: ${error.message}.`));
  }
}

/** The document of a piece, its entities sorted by id so that the same piece gives the same text. */
export function pieceToJson(piece: Piece): PieceJson {
  const plain = <T>(table: Table<T>) => Object.fromEntries([...table.entries()].sort(([a], [b]) => (a < b ? -1 : 1)));
  return {
    format: FORMAT,
    ...piece.head,
    scenes: plain(piece.scenes),
    layers: plain(piece.layers),
    threads: plain(piece.threads) as PieceJson['threads'],
    variables: plain(piece.variables),
    assets: plain(piece.assets),
  };
}

/** What is wrong with a value by its schema, or null. */
export function schemaFault(schema: TSchema, value: unknown, path: readonly (string | number)[]): Fault | null {
  if (Value.Check(schema, value)) return null;
  const first = Value.Errors(schema, value).First();
  if (!first) return fault('wrong-shape', path, 'This does not have the right shape.');
  return describe(deepest(first), path);
}

function assemble(head: Head, raw: Record<TableName, Record<string, Entity>>): Result<Piece> {
  const piece = pieceFromTrusted({ format: FORMAT, ...head, ...raw } as unknown as PieceJson);
  const cycle = partCycle(piece);
  if (cycle) return fail(cycle);
  const crowded = placingFault(piece) ?? deepestFault(piece);
  if (crowded) return fail(crowded);
  for (const table of ['scenes', 'layers', 'threads', 'variables'] as const)
    for (const entity of piece[table].values()) {
      const bad = referenceFault(piece, table, entity);
      if (bad) return fail(bad);
    }
  const lost = head.start.findIndex((id) => !piece.scenes.has(id));
  if (lost >= 0) return fail(fault('missing-reference', ['start', lost], `The start frame ${quote(head.start[lost])} is not in the piece.`));
  return ok(piece);
}

function tableFault(table: TableName, value: unknown): Fault | null {
  if (!isRecord(value)) return fault('wrong-shape', [table], `“${table}” must be an object of entities by id.`);
  const entries = Object.entries(value);
  if (entries.length > LIMITS[table])
    return fault('too-large', [table], `There are ${entries.length} ${table}; at most ${LIMITS[table]} can be read.`);
  for (const [id, entity] of entries) {
    const bad = keyFault(table, id) ?? schemaFault(tableSchemas[table], entity, [table, id]);
    if (bad) return bad;
    const own = (entity as { id: string }).id;
    if (own !== id) return fault('wrong-id', [table, id, 'id'], `The id is ${quote(own)}, but it stands under ${quote(id)}.`);
  }
  return null;
}

const [ID, DIGEST] = [new RegExp(ID_PATTERN), /^[0-9a-f]{64}$/];

const keyFault = (table: TableName, key: string): Fault | null =>
  (table === 'assets' ? DIGEST : ID).test(key) ? null : fault('wrong-id', [table, key], `${quote(key)} is no id.`);

/** In a choice of shapes the useful error is the one inside the shape whose tag matches. */
function deepest(error: ValueError): ValueError {
  const tagged = error.errors
    .map((iterator) => [...iterator])
    .filter((errors) => errors.length > 0 && !errors.some((inner) => inner.schema['const'] !== undefined))
    .sort((a, b) => a.length - b.length)[0]?.[0];
  return tagged ? deepest(tagged) : error;
}

function describe(error: ValueError, path: readonly (string | number)[]): Fault {
  const inner = error.path.split('/').slice(1).map(unescapePointer);
  const where = [...path, ...inner];
  const what = inner.at(-1) ?? 'this';
  const { schema, value } = error;
  if (value === undefined) return fault('missing', where, `“${what}” is missing.`);
  if (schema['pattern'] === ID_PATTERN || schema['pattern'] === PATH_PATTERN)
    return fault('wrong-id', where, `“${what}” is ${quote(value)}, which is no id.`);
  if (schema['pattern']) return fault('wrong-text', where, `“${what}” is ${quote(value)}, which does not fit ${String(schema['pattern'])}.`);
  if (schema['anyOf']) return fault('wrong-choice', where, `“${what}” is ${quote(value)}, which is none of ${choices(schema)}.`);
  return fault('wrong-value', where, `“${what}” is ${quote(value)}: ${lowerFirst(error.message)}.`);
}

const choices = (schema: TSchema): string => {
  const words = (schema['anyOf'] as TSchema[]).map((member) => {
    const tag = (member['properties'] ? Object.values(member['properties'] as Record<string, TSchema>) : [member]).find(
      (property) => property['const'] !== undefined
    );
    return tag ? String(tag['const']) : String(member['type']);
  });
  return [...new Set(words)].join(', ');
};

const unescapePointer = (part: string) => part.replaceAll('~1', '/').replaceAll('~0', '~');

const lowerFirst = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

/** What is worth quoting; beyond that it would be costly, or too deep to be written at all. */
const QUOTED = { depth: 20, values: 200 };

const quote = (value: unknown): string => {
  const text = shapeFault(value, QUOTED, [], 'pass') ? '…' : (JSON.stringify(value) ?? String(value));
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
};
