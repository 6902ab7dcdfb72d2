import { fail, ok, type Result } from '../result.ts';
import { partsOf, PROPERTIES, type Ast, type ExpressionFault } from './ast.ts';
import { functions } from './functions.ts';
import { displayExpression, KEYWORDS, type ExpressionScope, type NamedThing } from './names.ts';
import { parseExpression } from './parse.ts';

/** What people write, in its stored form: every name in it becomes a reference. */
export function storeExpression(written: string, scope: ExpressionScope): Result<string, ExpressionFault> {
  const stored = withReferences(written, scope);
  if (!stored.ok) return stored;
  const parsed = parseExpression(stored.value);
  if (!parsed.ok) return fail(onWritten(parsed.error, stored.value, written, scope));
  return ok(withValueNames(stored.value, parsed.value, scope));
}

/** The fault as it stands in what was written; a name that is not known is quoted from there. */
const onWritten = (fault: ExpressionFault, stored: string, written: string, scope: ExpressionScope): ExpressionFault => {
  const { at } = displayExpression(stored, scope);
  const [from, to] = [at(fault.from), at(fault.to)];
  const sentence = fault.code === 'unknown-name' ? `Nothing is called “${written.slice(from, to).trim()}” here.` : fault.sentence;
  return { ...fault, from, to, sentence };
};

const isWordSign = (sign: string | undefined) => sign !== undefined && /[\p{L}\p{N}_]/u.test(sign);

function withReferences(written: string, scope: ExpressionScope): Result<string, ExpressionFault> {
  const byLength = [...scope.things].sort((a, b) => b.name.length - a.name.length);
  let stored = '';
  for (let i = 0; i < written.length;) {
    const rest = written.slice(i);
    const passed = /^"(?:[^"\\]|\\.)*"?/.exec(rest)?.[0] ?? /^\.\s*[\p{L}_]+/u.exec(rest)?.[0] ?? /^‹=?[0-9A-Za-z_/-]+›/.exec(rest)?.[0];
    if (passed !== undefined && (passed[0] !== '.' || i > 0)) {
      stored += passed;
      i += passed.length;
      continue;
    }
    const quoted = /^`((?:[^`]|``)*)`/.exec(rest);
    if (quoted) {
      const name = quoted[1]!.replaceAll('``', '`');
      const id = name.startsWith('?') ? name.slice(1) : (idOfName(name, scope) ?? null);
      if (id === null || !/^[0-9A-Za-z][0-9A-Za-z_/-]*$/.test(id))
        return fail({ code: 'unknown-name', sentence: `Nothing is called “${name}” here.`, from: i, to: i + quoted[0].length });
      stored += `‹${id}›`;
      i += quoted[0].length;
      continue;
    }
    const word = isWordSign(written[i - 1]) ? undefined : wordAt(rest, byLength);
    if (word) {
      stored += word.stored;
      i += word.length;
    } else {
      stored += written[i]!;
      i++;
    }
  }
  return ok(stored);
}

/** A name at the beginning of a text, the longest that fits; FEEL's own words and functions stay what they are. */
function wordAt(rest: string, byLength: readonly NamedThing[]): { stored: string; length: number } | undefined {
  const call = /^([\p{L}]+(?: [\p{L}]+)*)\s*\(/u.exec(rest);
  if (call && Object.hasOwn(functions, call[1]!)) return { stored: call[1]!, length: call[1]!.length };
  const special = /^(frame\.name|pad\.button)(?![\p{L}\p{N}_])/u.exec(rest);
  if (special) return { stored: special[0], length: special[0].length };
  const fits = (name: string) => rest.startsWith(name) && !isWordSign(rest[name.length]);
  const thing =
    byLength.find(({ name }) => fits(name)) ??
    byLength.find(({ name }) => rest.toLowerCase().startsWith(name.toLowerCase()) && !isWordSign(rest[name.length]));
  const keyword = /^[\p{L}]+/u.exec(rest)?.[0];
  if (keyword && KEYWORDS.has(keyword) && (!thing || thing.name.length <= keyword.length)) return { stored: keyword, length: keyword.length };
  if (!thing) return undefined;
  const ordinal = /^#(\d{1,4})/.exec(rest.slice(thing.name.length));
  const alike = byLength.filter((candidate) => candidate.name === thing.name);
  const chosen = ordinal ? alike[Number(ordinal[1]) - 1] : alike[0];
  return chosen ? { stored: `‹${chosen.id}›`, length: thing.name.length + (ordinal?.[0].length ?? 0) } : undefined;
}

function idOfName(written: string, scope: ExpressionScope): string | undefined {
  const exact = scope.things.find((thing) => thing.name === written);
  if (exact) return exact.id;
  const ordinal = /^(.*)#(\d{1,4})$/.exec(written);
  return ordinal ? scope.things.filter((thing) => thing.name === ordinal[1])[Number(ordinal[2]) - 1]?.id : undefined;
}

/** Texts compared with a state or a section become references too, so that renaming either breaks nothing. */
function withValueNames(stored: string, ast: Ast, scope: ExpressionScope): string {
  const changes: { from: number; to: number; reference: string }[] = [];
  const visit = (node: Ast): void => {
    const sides = node.k === 'op' && (node.op === '=' || node.op === '!=') ? [node.a, node.b] : node.k === 'in' ? partsOf(node) : [];
    const subject = sides.find((side) => side.k === 'ref' && (side.property === 'state' || side.property === 'section'));
    if (subject?.k === 'ref')
      for (const side of sides) {
        if (side.k !== 'value' || typeof side.value !== 'string') continue;
        const named = scope.valuesOf(subject.id, subject.property as 'state').find(({ name }) => name === side.value);
        if (named) changes.push({ from: side.from!, to: side.to!, reference: `‹=${named.reference}›` });
      }
    partsOf(node).forEach(visit);
  };
  visit(ast);
  let result = stored;
  for (const { from, to, reference } of changes.sort((a, b) => b.from - a.from)) result = result.slice(0, from) + reference + result.slice(to);
  return result;
}

/** Words that can be written after a dot, for completion. */
export const propertyWords: readonly string[] = PROPERTIES.map((property) => `.${property}`);
