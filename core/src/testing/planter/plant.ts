import { compose } from '../../compose/compose.ts';
import { apply } from '../../edit/apply.ts';
import type { Program } from '../../program/program.ts';
import { compile } from '../../program/compile.ts';
import { unwrap } from '../../result.ts';
import { audit, routeEnd } from '../../walk/audit.ts';
import type { Finding } from '../../walk/finding.ts';
import { cleanPiece, type Chance } from './clean.ts';
import { faults, placeOf, type Planted } from './faults.ts';

/** What the walk made of one planted piece. */
export interface Judged {
  readonly rule: string;
  /** What was said that is not so: of the planted piece, and of the clean one. */
  readonly false: readonly Finding[];
  /** Routes that do not lead where they say. */
  readonly lost: readonly Finding[];
  readonly program: Program;
  /** What was to be found; undefined where it was not. */
  readonly told: Finding | undefined;
}

/** Plants one fault of a kind, and has it walked; null where the piece has no place for it. */
export function judgePlanted(rule: string, way: number, chance: Chance): Judged | null {
  const made = cleanPiece(chance);
  const plants = faults[rule]!;
  const planted = plants[way % plants.length]!(made as never, chance);
  return planted && judge(rule, { ...planted, piece: made });
}

function judge(rule: string, { piece: spec, at, brings = [], edit }: Planted): Judged {
  const composed = compose({ name: 'Kittiwake Line', ...spec });
  const piece = edit ? unwrap(apply(composed, edit(composed))).piece : composed;
  const program = compile(piece);
  const { findings } = audit(program);
  const place = placeOf(at);
  const isIt = (one: Finding) =>
    one.rule === rule && one.place.scene === place.scene && (place.layer === undefined || one.place.layer === place.layer);
  const others = findings.filter((one) => !isIt(one) && !brings.includes(one.rule));
  const lost = findings.filter((one) => one.route && routeEnd(program, one) === null);
  return { rule, told: findings.find(isIt), false: others, lost, program };
}
