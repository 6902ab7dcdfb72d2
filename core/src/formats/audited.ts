import { onceFor } from '../once.ts';
import type { Piece } from '../piece/piece.ts';
import { compile } from '../program/compile.ts';
import { audit } from '../walk/audit.ts';

/** A piece made ready to run, and walked as far as is usual: once, whoever writes something of it. */
export const programOf = onceFor((piece: Piece) => compile(piece));
export const auditOf = onceFor((piece: Piece) => audit(programOf(piece)));
