import { parseExpression } from '../expression/parse.ts';
import type { Piece } from '../piece/piece.ts';
import { compileWith, type Program } from './program.ts';

/** A piece made ready to run, its expressions read by the parser. */
export const compile = (piece: Piece): Program => compileWith(piece, parseExpression);
