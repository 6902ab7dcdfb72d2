import {
  auditOf,
  comparison,
  compile,
  count,
  exported,
  exportKinds,
  programOf,
  reportKinds,
  telling,
  VERSION,
  type ExportForm,
  type Met,
} from '@zany/core';
import { picturedBy, WishFault } from '@zany/player/pictures';
import { Refusal } from '../refusal';
import { pageParts, pieceFrom } from './from-text';
import { shortestWays } from './reviewed';
import type { BroughtIn, ErrandTask, Tell, Written } from './tasks';

type Said = Uint8Array | string | Written | BroughtIn;
type Writers = { readonly [K in ErrandTask['kind']]: (task: Extract<ErrandTask, { kind: K }>, tell: Tell) => Said | Promise<Said> };

/** How each errand is done. */
const writers: Writers = {
  export: ({ to, document, assets, parts }, tell) => {
    const piece = pieceFrom(document);
    const { omits }: ExportForm = exportKinds[to];
    return { bytes: exported(to, piece, new Map(assets), pageParts(parts), walking(tell)), leftOut: omits?.(piece) ?? [] };
  },
  walk: ({ as, document, day }, tell) => {
    const piece = pieceFrom(document);
    const found = auditOf(piece, walking(tell));
    return reportKinds[as].write(programOf(piece), found, { file: piece.head.name, day, version: VERSION });
  },
  draw: async ({ wish, document, assets, faces, day }, tell) => {
    const piece = pieceFrom(document);
    const pictured = picturedBy(programOf(piece), wish);
    const { drawn, Painter } = await import('@zany/player/pictures-node');
    const painter = new Painter(piece, new Map(assets), faces);
    const say = paced((made: number) => tell(`${made} of ${count(pictured.shots.length, 'picture')}`));
    const bytes = await drawn(wish.as, pictured, { program: programOf(piece), painter, scale: wish.scale, painted: say }, day);
    return { bytes, leftOut: painter.unseen };
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
  'bring in': async ({ bytes, id }, tell) => (await import('./taking')).bringIn(bytes, id, paced(tell)),
};

/** Long work that somebody has the server do, done beside the server's own thread: the bytes of a file, or a piece. */
export async function runErrand<K extends ErrandTask['kind']>(task: Extract<ErrandTask, { kind: K }>, tell: Tell): Promise<Written | BroughtIn> {
  try {
    const written = await writers[task.kind as K](task, tell);
    if (typeof written === 'string') return { bytes: Buffer.from(written), leftOut: [] };
    return written instanceof Uint8Array ? { bytes: written, leftOut: [] } : written;
  } catch (error) {
    throw error instanceof WishFault ? new Refusal('bad-request', error.message) : error;
  }
}

/** Says now and then how many states were walked. */
const walking = (tell: Tell, of = ''): Met => paced((states) => tell(`${of}${count(states, 'state')} walked`));

/** Between two words of how far it has come, in milliseconds. */
const PACE = 300;

function paced<T>(say: (made: T) => void): (made: T) => void {
  let last = 0;
  return (made) => {
    const now = performance.now();
    if (now - last < PACE) return;
    last = now;
    say(made);
  };
}
