import type { Leads } from './edges.ts';
import type { Met } from './met.ts';
import type { Reader } from './reader.ts';
import { EMPTY } from './stacks.ts';

/** A way back from a state: the row that it leads to, whether what then lies on the stack makes a difference there, and what is done. */
interface Return {
  readonly row: number;
  readonly isAsked: boolean;
  readonly deed: number;
}

/** Where *back* leads from states: to one row over each of the stacks that can lie below, which may be very many. */
export class Returns implements Leads {
  private readonly all = new Map<number, Return[]>();

  constructor(
    private readonly reader: Reader,
    private readonly met: Met
  ) {}

  add(state: number, to: Return): void {
    const known = this.all.get(state);
    if (known) known.push(to);
    else this.all.set(state, [to]);
  }

  each(state: number, visit: (to: number, how: number) => void): void {
    const { stacks, stackOf } = this.reader;
    const stack = stackOf.at(state);
    for (const { row, isAsked, deed } of this.all.get(state) ?? [])
      stacks.eachBelow(stack, (below, push) => {
        const to = this.met.standing(row, isAsked ? below : EMPTY);
        if (to !== state) visit(to, deed * 2 + (push !== null || below !== stack ? 1 : 0));
      });
  }
}
