import { auditOf, comparison, compile, count, exported, programOf, reportKinds, telling, VERSION, type Met } from '@zany/core';
import { pageParts, pieceFrom } from './from-text';
import { shortestWays } from './reviewed';
import type { ErrandTask, Tell } from './tasks';

type Writers = { readonly [K in ErrandTask['kind']]: (task: Extract<ErrandTask, { kind: K }>, tell: Tell) => Uint8Array | string };

/** How each errand is done. */
const writers: Writers = {
  export: ({ to, document, assets, parts }, tell) => exported(to, pieceFrom(document), new Map(assets), pageParts(parts), walking(tell)),
  walk: ({ as, document, day }, tell) => {
    const piece = pieceFrom(document);
    const found = auditOf(piece, walking(tell));
    return reportKinds[as].write(programOf(piece), found, { file: piece.head.name, day, version: VERSION });
  },
  compare: ({ before, after }, tell) => {
    const [a, b] = [compile(pieceFrom(before)), compile(pieceFrom(after))];
    return JSON.stringify(
      comparison(a, b, (which) => telling(walking(tell, `${which}: `))),
      null,
      2
    );
  },
  shortest: ({ document, tasks }, tell) => JSON.stringify(shortestWays(pieceFrom(document), tasks, tell)),
};

/** Long work that somebody has the server do, done beside the server's own thread: the bytes of a file. */
export function runErrand<K extends ErrandTask['kind']>(task: Extract<ErrandTask, { kind: K }>, tell: Tell): Uint8Array {
  const written = writers[task.kind as K](task, tell);
  return typeof written === 'string' ? Buffer.from(written) : written;
}

/** Between two words of how far it has come, in milliseconds. */
const PACE = 300;

/** Says now and then how many states were walked. */
function walking(tell: Tell, of = ''): Met {
  let last = 0;
  return (states) => {
    const now = performance.now();
    if (now - last < PACE) return;
    last = now;
    tell(`${of}${count(states, 'state')} walked`);
  };
}
