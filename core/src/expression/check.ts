import type { Ast, ExpressionFault, Property, ValueType } from './ast.ts';
import { argumentProblem, functions } from './functions.ts';

/** What is known of names before anything runs; null for what is not there. */
export interface TypeEnvironment {
  readonly typeOf: (id: string, property: Property | null) => ValueType | null;
  readonly isName: (id: string) => boolean;
}

/** Everything that is wrong with the types of an expression, and the type it has if that can be said. */
export function checkTypes(ast: Ast, environment: TypeEnvironment, wanted: ValueType | null = null): ExpressionFault[] {
  const faults: ExpressionFault[] = [];
  const type = new Checker(environment, faults).type(ast);
  if (faults.length === 0 && wanted !== null && type !== null && type !== wanted)
    faults.push({ code: 'wrong-type', sentence: `A ${wanted} is wanted here, and this gives a ${type}.`, from: ast.from ?? 0, to: ast.to ?? 0 });
  return faults;
}

/** The type of an expression; null where it cannot be said. */
export const typeOfExpression = (ast: Ast, environment: TypeEnvironment): ValueType | null => new Checker(environment, []).type(ast);

class Checker {
  constructor(
    private readonly environment: TypeEnvironment,
    private readonly faults: ExpressionFault[]
  ) {}

  type(ast: Ast): ValueType | null {
    switch (ast.k) {
      case 'value':
        return typeof ast.value === 'number' ? 'number' : typeof ast.value === 'string' ? 'text' : 'yes/no';
      case 'ref':
        return this.environment.typeOf(ast.id, ast.property) ?? this.fault('unknown-name', 'This names something that is not there.', ast);
      case 'name':
        return this.environment.isName(ast.id) ? 'text' : this.fault('unknown-name', 'This names something that is not there.', ast);
      case 'special':
        return ast.what === 'frame.name' ? 'text' : 'number';
      case 'minus':
        this.wants(ast.a, 'number');
        return 'number';
      case 'op':
        return this.operator(ast);
      case 'call':
        return this.call(ast);
      case 'if': {
        this.wants(ast.test, 'yes/no');
        const [yes, no] = [this.type(ast.yes), this.type(ast.no)];
        return yes !== null && no !== null && yes !== no ? this.fault('wrong-type', `One way gives a ${yes}, the other a ${no}.`, ast) : (yes ?? no);
      }
      case 'between':
        this.alike([ast.a, ast.low, ast.high], ast);
        return 'yes/no';
      case 'in':
        this.alike([ast.a, ...ast.tests.flatMap((test) => (test.k === 'range' ? [test.low, test.high] : [test.value]))], ast);
        return 'yes/no';
    }
  }

  private operator(ast: Ast & { k: 'op' }): ValueType | null {
    const { op, a, b } = ast;
    if (op === 'and' || op === 'or') {
      this.wants(a, 'yes/no');
      this.wants(b, 'yes/no');
      return 'yes/no';
    }
    if (['=', '!=', '<', '<=', '>', '>='].includes(op)) {
      const type = this.alike([a, b], ast);
      if (type === 'yes/no' && op !== '=' && op !== '!=') this.fault('wrong-type', 'Yes and no have no order.', ast);
      return 'yes/no';
    }
    const [left, right] = [this.type(a), this.type(b)];
    if (op === '+' && left === 'text' && right === 'text') return 'text';
    const wrong = [left, right].find((type) => type !== null && type !== 'number');
    if (wrong) return this.fault('wrong-type', `“${op}” cannot be used between a ${left ?? 'value'} and a ${right ?? 'value'}.`, ast);
    if (op === '/' && b.k === 'value' && b.value === 0) this.fault('division-by-zero', 'This divides by zero.', b);
    return 'number';
  }

  private call(ast: Ast & { k: 'call' }): ValueType | null {
    const problem = argumentProblem(
      ast.fn,
      ast.args.map((arg) => this.type(arg))
    );
    return problem ? this.fault('wrong-type', problem, ast) : functions[ast.fn]!.gives;
  }

  private alike(parts: readonly Ast[], at: Ast): ValueType | null {
    const types = parts.map((part) => this.type(part)).filter((type) => type !== null);
    const other = types.find((type) => type !== types[0]);
    if (other !== undefined) this.fault('wrong-type', `A ${types[0]} cannot be compared with a ${other}.`, at);
    return types[0] ?? null;
  }

  private wants(ast: Ast, type: ValueType): void {
    const found = this.type(ast);
    if (found !== null && found !== type) this.fault('wrong-type', `A ${type} is wanted here, and this is a ${found}.`, ast);
  }

  private fault(code: ExpressionFault['code'], sentence: string, at: Ast): null {
    this.faults.push({ code, sentence, from: at.from ?? 0, to: at.to ?? 0 });
    return null;
  }
}
