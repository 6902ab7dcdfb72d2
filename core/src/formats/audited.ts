import { Beside, onceFor } from '../once.ts';
import type { Piece } from '../piece/piece.ts';
import { compile } from '../program/compile.ts';
import { audit, type Audit } from '../walk/audit.ts';

/** A piece made ready to run, and walked as far as is usual: once, whoever writes something of it. */
export const programOf = onceFor((piece: Piece) => compile(piece));

/** Hears now and then how many states were met so far. */
export type Met = (states: number) => void;

const audits = new Beside<Piece, Audit>();

/** The loose ends of a piece, and what was explored of it. */
export const auditOf = (piece: Piece, met?: Met): Audit => audits.get(piece) ?? audits.set(piece, audit(programOf(piece), telling(met)));

/** Options of exploring that tell how far it has come. */
export const telling = (met: Met | undefined) =>
  met
    ? {
        shouldStop: (states: number) => {
          met(states);
          return false;
        },
      }
    : {};
