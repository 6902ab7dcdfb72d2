import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { compile, explore, exploring } from '@zany/core';
import { compose } from '@zany/core/testing';
import { families, MOST } from './families.ts';

/** Prints how many bytes each state of a family takes, with all that is known of it. In a process of its own: nothing explored before is swept up meanwhile. */

setFlagsFromString('--expose-gc');
const sweep = runInNewContext('gc') as () => void;

/** Bytes taken once all that is done with is swept up. */
const taken = (): number => {
  sweep();
  const { heapUsed, arrayBuffers } = process.memoryUsage();
  return heapUsed + arrayBuffers;
};

const { make, whole, small } = families[process.argv[2]!]!;
// What comes with the first piece that is explored, whatever its size, is no state's.
explore(compile(compose(make(small))), { slicedFrom: MOST });
const program = compile(compose(make(whole)));
const before = taken();
const going = exploring(program, null, MOST);
going.on(MOST);
const { count } = going.result();
console.log((taken() - before) / count);
