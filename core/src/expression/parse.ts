import { parser } from 'lezer-feel';
import { fail, ok, type Result } from '../result.ts';
import { PROPERTIES, REFERENCE, type Ast, type BinaryOperator, type ExpressionFault, type Property, type Test } from './ast.ts';
import { functions } from './functions.ts';

interface SyntaxNode {
  readonly name: string;
  readonly from: number;
  readonly to: number;
  readonly firstChild: SyntaxNode | null;
  readonly nextSibling: SyntaxNode | null;
}

const expressions = parser.configure({ top: 'Expression' });

const known = new Map<string, Result<Ast, ExpressionFault>>();
const MOST_KNOWN = 20_000;

/** Reads a stored expression. The same text gives the same object. */
export function parseExpression(stored: string): Result<Ast, ExpressionFault> {
  const old = known.get(stored);
  if (old) return old;
  const result = read(stored);
  if (known.size >= MOST_KNOWN) known.clear();
  known.set(stored, result);
  return result;
}

class Unreadable extends Error {
  constructor(readonly fault: ExpressionFault) {
    super(fault.sentence);
  }
}

const refuse = (code: ExpressionFault['code'], sentence: string, at: { from: number; to: number }): never => {
  throw new Unreadable({ code, sentence, from: at.from, to: Math.max(at.to, at.from) });
};

function read(stored: string): Result<Ast, ExpressionFault> {
  const { text, references } = withIdentifiers(stored);
  if (text.trim() === '') return fail({ code: 'syntax', sentence: 'There is nothing here yet.', from: 0, to: 0 });
  const tree = expressions.parse(text).topNode as unknown as SyntaxNode;
  try {
    checkErrors(tree, text);
    return ok(new Reader(text, references).read(childrenOf(tree)[0] ?? tree));
  } catch (error) {
    if (error instanceof Unreadable) return fail(error.fault);
    throw error;
  }
}

interface Reference {
  readonly id: string;
  readonly isName: boolean;
}

/** Puts an identifier of the same length in place of every reference outside of text literals, so that positions stay. */
function withIdentifiers(stored: string): { text: string; references: Map<string, Reference> } {
  const references = new Map<string, Reference>();
  const text = stored
    .split(/("(?:[^"\\]|\\.)*"?)/)
    .map((part, i) =>
      i % 2 === 1
        ? part
        : part.replace(REFERENCE, (whole, equals: string, id: string) => {
            const name = `_${references.size.toString(36).padStart(whole.length - 1, '0')}`;
            references.set(name, { id, isName: equals === '=' });
            return name;
          })
    )
    .join('');
  return { text, references };
}

function childrenOf(node: SyntaxNode): SyntaxNode[] {
  const found: SyntaxNode[] = [];
  for (let child = node.firstChild; child; child = child.nextSibling) found.push(child);
  return found;
}

function checkErrors(node: SyntaxNode, text: string): void {
  if (node.name === '⚠') {
    const what = text.slice(node.from, node.to).trim();
    refuse('syntax', what ? `“${what.slice(0, 20)}” does not fit here.` : 'Something is missing here.', node);
  }
  for (const child of childrenOf(node)) checkErrors(child, text);
}

const comparisons = new Set(['=', '!=', '<', '<=', '>', '>=']);
const arithmetic = new Set(['+', '-', '*', '/', '**']);

/** Operations inside each other: whatever goes through an expression goes into them one by one. */
const MOST_DEEP = 250;

class Reader {
  constructor(
    private readonly text: string,
    private readonly references: ReadonlyMap<string, Reference>
  ) {}

  private depth = 0;

  read(node: SyntaxNode): Ast {
    if (this.depth >= MOST_DEEP) return refuse('not-supported', `This is nested more than ${MOST_DEEP} deep. Use a variable for a part of it.`, node);
    this.depth++;
    const ast = this.readNode(node);
    this.depth--;
    return ast;
  }

  private readNode(node: SyntaxNode): Ast {
    const at = { from: node.from, to: node.to };
    const parts = childrenOf(node);
    switch (node.name) {
      case 'NumericLiteral':
        return { k: 'value', value: Number(this.textOf(node).replace(/\s/g, '')), ...at };
      case 'StringLiteral':
        return { k: 'value', value: this.literal(node), ...at };
      case 'BooleanLiteral':
        return { k: 'value', value: this.textOf(node) === 'true', ...at };
      case 'ParenthesizedExpression':
        return this.read(parts[1]!);
      case 'VariableName':
        return this.variable(node);
      case 'PathExpression':
        return this.path(node, parts);
      case 'ArithmeticExpression':
        return parts.length === 2 ? { k: 'minus', a: this.read(parts[1]!), ...at } : this.binary(node, parts, arithmetic);
      case 'Conjunction':
      case 'Disjunction':
        return { k: 'op', op: node.name === 'Conjunction' ? 'and' : 'or', a: this.read(parts[0]!), b: this.read(parts[2]!), ...at };
      case 'Comparison':
        return this.comparison(node, parts);
      case 'IfExpression':
        return { k: 'if', test: this.read(parts[1]!), yes: this.read(parts[3]!), no: this.read(parts[5]!), ...at };
      case 'FunctionInvocation':
        return this.call(node, parts);
      default:
        return refuse('not-supported', `“${this.textOf(node).slice(0, 30)}” is FEEL that cannot be used here.`, node);
    }
  }

  private textOf = (node: SyntaxNode): string => this.text.slice(node.from, node.to);

  private literal(node: SyntaxNode): string {
    try {
      return JSON.parse(this.textOf(node).replace(/\n/g, '\\n').replace(/\t/g, '\\t')) as string;
    } catch {
      return refuse('syntax', 'This text has a sign after \\ that means nothing.', node);
    }
  }

  private variable(node: SyntaxNode): Ast {
    const name = this.textOf(node);
    const reference = this.references.get(name);
    if (!reference) return refuse('unknown-name', `Nothing is called “${name}” here.`, node);
    const at = { from: node.from, to: node.to };
    return reference.isName ? { k: 'name', id: reference.id, ...at } : { k: 'ref', id: reference.id, property: null, ...at };
  }

  private path(node: SyntaxNode, parts: readonly SyntaxNode[]): Ast {
    const text = this.textOf(node).replace(/\s/g, '');
    const at = { from: node.from, to: node.to };
    if (text === 'frame.name' || text === 'pad.button') return { k: 'special', what: text, ...at };
    const inner = parts[0]!.name === 'VariableName' ? this.variable(parts[0]!) : refuse('not-supported', 'Only one dot can be used.', node);
    const word = this.textOf(parts.at(-1)!);
    if (inner.k !== 'ref' || !(PROPERTIES as readonly string[]).includes(word))
      return refuse('unknown-name', `“.${word}” is nothing that can be read; .${PROPERTIES.join(', .')} are.`, parts.at(-1)!);
    return { k: 'ref', id: inner.id, property: word as Property, ...at };
  }

  private binary(node: SyntaxNode, parts: readonly SyntaxNode[], allowed: ReadonlySet<string>): Ast {
    const op = this.textOf(parts[1]!);
    if (parts.length !== 3 || !allowed.has(op)) return refuse('not-supported', `“${op}” cannot be used here.`, node);
    return { k: 'op', op: op as BinaryOperator, a: this.read(parts[0]!), b: this.read(parts[2]!), from: node.from, to: node.to };
  }

  private comparison(node: SyntaxNode, parts: readonly SyntaxNode[]): Ast {
    const at = { from: node.from, to: node.to };
    const word = parts[1]?.name;
    if (word === 'between') return { k: 'between', a: this.read(parts[0]!), low: this.read(parts[2]!), high: this.read(parts[4]!), ...at };
    if (word === 'in') {
      const tests = parts
        .slice(2)
        .flatMap((part) => (part.name === 'PositiveUnaryTests' ? childrenOf(part) : part.name === 'PositiveUnaryTest' ? [part] : []));
      return { k: 'in', a: this.read(parts[0]!), tests: tests.flatMap((test) => this.test(childrenOf(test)[0]!)), ...at };
    }
    if (parts[0]?.name === 'Comparison') return refuse('not-supported', 'Comparisons cannot be chained; join two with “and”.', node);
    return this.binary(node, parts, comparisons);
  }

  private test(node: SyntaxNode): Test[] {
    if (node.name === 'List')
      return childrenOf(node)
        .filter((part) => !'[],'.includes(this.textOf(part)))
        .map((part) => ({ k: 'equal', value: this.read(part) }));
    if (node.name !== 'SimplePositiveUnaryTest') return [{ k: 'equal', value: this.read(node) }];
    const parts = childrenOf(node);
    if (parts[0]!.name === 'CompareOp') {
      const op = this.textOf(parts[0]!);
      if (op === '=') return [{ k: 'equal', value: this.read(parts[1]!) }];
      if (op === '!=') return refuse('not-supported', '“!=” cannot be used after “in”.', node);
      return [{ k: 'compare', op: op as '<', value: this.read(parts[1]!) }];
    }
    if (parts[0]!.name !== 'Interval') return refuse('not-supported', 'This cannot be used after “in”.', node);
    const [open, low, , high, close] = childrenOf(parts[0]!);
    return [{ k: 'range', low: this.read(low!), high: this.read(high!), openLow: this.textOf(open!) !== '[', openHigh: this.textOf(close!) !== ']' }];
  }

  private call(node: SyntaxNode, parts: readonly SyntaxNode[]): Ast {
    const name = this.textOf(parts[0]!).replace(/\s+/g, ' ');
    if (!Object.hasOwn(functions, name)) return refuse('unknown-name', `There is no function “${name}”.`, parts[0]!);
    const given = parts.find((part) => part.name === 'PositionalParameters');
    if (!given && parts.some((part) => part.name === 'NamedParameters'))
      return refuse('not-supported', 'Values are given in their order, without names.', node);
    return { k: 'call', fn: name, args: (given ? childrenOf(given) : []).map((part) => this.read(part)), from: node.from, to: node.to };
  }
}
