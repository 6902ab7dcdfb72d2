import { lookedAtWith, type Program, type Value } from '@zany/core';

/** Values that variables have while a scene is looked at; nothing of it is kept in the piece. */
export class LookedWith {
  values: ReadonlyMap<string, Value> = $state.raw(new Map());

  /** Looks with a value; undefined for the one that it begins with. */
  set(variable: string, value: Value | undefined): void {
    const values = new Map(this.values);
    if (value === undefined) values.delete(variable);
    else values.set(variable, value);
    this.values = values;
  }

  clear(): void {
    this.values = new Map();
  }

  /** The piece as it is with them. */
  on = (program: Program): Program => (this.values.size ? lookedAtWith(program, this.values) : program);
}
