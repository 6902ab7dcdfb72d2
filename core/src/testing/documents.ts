import { layerKinds } from '../vocabulary/layers/all.ts';
import { placeOfProperty, properties } from '../vocabulary/properties/all.ts';
import { cueKinds } from '../vocabulary/cues/all.ts';
import { exportKinds } from '../formats/exports/all.ts';
import type { Form, Part } from '../fields/forms.ts';
import { PieceSchema } from '../piece/schema.ts';
import { stepKinds } from '../vocabulary/steps/all.ts';
import { transitionKinds } from '../vocabulary/transitions/all.ts';
import { printLine } from '../lines/line.ts';
import { scopeFor } from '../lines/scope.ts';
import type { Piece } from '../piece/piece.ts';
import type { Program } from '../program/program.ts';
import { routeWords } from '../walk/event-words.ts';
import { severityWords, type Finding, type Rule } from '../walk/finding.ts';
import { rules } from '../walk/rules/index.ts';
import { drawFinding } from './drawing.ts';
import { generator } from './large.ts';
import { judgePlanted } from './planter/plant.ts';

/** Documents that are printed from the tables; `npm run docs` writes them anew. */

const table = (head: readonly string[], rows: readonly (readonly string[])[]): string =>
  [head, head.map(() => '---'), ...rows].map((row) => `| ${row.map((cell) => cell.replaceAll('|', '\\|')).join(' | ')} |`).join('\n');

const page = (title: string, intro: string, body: string) => `# ${title}\n\n${intro}\n\n${body}\n`;

/** A part of a form in EBNF (ISO/IEC 14977). */
function partGrammar(part: Part): string {
  if (typeof part === 'string') return `"${part}"`;
  if ('maybe' in part) return `[ ${part.maybe.map(partGrammar).join(' , ')} ]`;
  if (part.words)
    return `( ${Object.keys(part.words)
      .map((word) => `"${word}"`)
      .join(' | ')} )`;
  if (part.kind === 'transition') return '[ dot , transition ]';
  return part.kind === 'timing' ? '[ dot , timing ]' : part.kind;
}

const formGrammar = (form: Form) => form.parts.map(partGrammar).join(' , ');

const rule = (name: string, forms: readonly Form[]) => {
  const head = `${name.replaceAll(/[ /]/g, '-')} = `;
  return `${head}${forms.map(formGrammar).join(`\n${' '.repeat(head.length - 2)}| `)} ;`;
};

export const schemaDocument = (): string => `${JSON.stringify(PieceSchema, null, 2)}\n`;

export function rulesDocument(): string {
  const intro =
    'What the walk reports, in the order of the rules. Every loose end names its place, says what is wrong in one sentence, and carries a short route to it where there is one. It keeps its id (rule and place) from edit to edit.';
  const body = table(
    ['rule', 'what it finds'],
    rules.map(({ id, meaning }) => [`[\`${id}\`](rules/${id}.md)`, meaning])
  );
  return page('Rules of the walk', intro, body);
}

/** A rule with what it says of a piece with such a fault, and with a picture of the way there. */
export function ruleDocument({ id, words, meaning, spares }: Rule): { readonly text: string; readonly picture: string } {
  const { program, found } = exampleOf(id);
  const { head, scenes } = program.piece;
  const where = found.place.scene === null ? head.name : (scenes.get(found.place.scene)?.name ?? '');
  const way = found.route ? routeWords(program, found.route.from, found.route.events) : null;
  const told = [
    `> **${found.title}** · ${severityWords[found.severity]} · ${where}<br>${found.sentence}`,
    ...linesAt(program.piece, found).map((line) => `Its thread: \`${line}\``),
    way === null ? (found.place.scene === null ? 'It is about the whole piece.' : 'No way leads there.') : `The way there: ${way}.`,
    ...(found.fix ? [`What is offered: *${found.fix.label}*.`] : []),
  ];
  const text = [
    `Found: ${meaning}.`,
    `Nothing is said of: ${spares}.`,
    '## As the walk tells it',
    `![${found.sentence.replaceAll(/[[\]]/g, '')}](${id}.svg)`,
    ...told,
    `[All rules](../walk-rules.md)`,
  ].join('\n\n');
  return { text: `# \`${id}\`: ${words}\n\n${text}\n`, picture: drawFinding(program, found) };
}

/** The threads that a finding is about, as lines. */
const linesAt = (piece: Piece, { place }: Finding): string[] =>
  [...piece.threads.values()]
    .filter(({ id, owner }) => (place.thread === undefined ? owner === place.layer : id === place.thread))
    .map((thread) => printLine(thread, scopeFor(piece, thread)));

/** A piece in which such a fault was planted, with what is found there. */
function exampleOf(rule: string): { readonly program: Program; readonly found: Finding } {
  for (let seed = 1; seed < 40; seed++) {
    const planted = judgePlanted(rule, 0, generator(seed));
    if (planted?.told) return { program: planted.program, found: planted.told };
  }
  throw new Error(`No piece has a place for ${rule}.`);
}

export function grammarDocument(): string {
  const cues = Object.values(cueKinds).map((kind) => rule(`cue ${kind.type}`, kind.forms));
  const steps = Object.values(stepKinds).map((kind) => rule(`step ${kind.do}`, kind.forms));
  const directed = Object.values(transitionKinds).filter((kind) => kind.hasDirection && kind.type !== 'cut');
  const plain = Object.values(transitionKinds).filter((kind) => !kind.hasDirection && kind.type !== 'cut');
  const either = (kinds: readonly { type: string }[]) => kinds.map(({ type }) => `"${type}"`).join(' | ');
  const names = (prefix: string, kinds: readonly string[]) => kinds.map((kind) => `${prefix}-${kind.replaceAll(' ', '-')}`).join(' | ');
  const body = [
    `cue = ${names('cue', Object.keys(cueKinds))} ;`,
    ...cues,
    '',
    `step = ${names('step', Object.keys(stepKinds))} ;`,
    ...steps,
    '',
    `transition = "cut" | ( ${either(plain)} ) , [ timing ]`,
    `           | ( ${either(directed)} ) , [ "left" | "right" | "up" | "down" ] , [ timing ] ;`,
  ].join('\n');
  const intro =
    'The cues, steps and transitions of [thread lines](thread-lines.md), which has the other half of the grammar: the line around them and what names, times and expressions are. EBNF of ISO/IEC 14977, with space allowed between any two symbols; words are read in any case.';
  return page('Grammar of cues, steps and transitions', intro, `\`\`\`ebnf\n${body}\n\`\`\``);
}

export function tablesDocument(): string {
  const cues = Object.values(cueKinds).map(({ type, meaning, owners }) => [`\`${type}\``, meaning, owners.join(', ')]);
  const steps = Object.values(stepKinds).map(({ do: what, label, meaning }) => [`\`${what}\``, label, meaning]);
  const transitions = Object.values(transitionKinds).map(({ type, meaning }) => [`\`${type}\``, meaning]);
  const layers = Object.values(layerKinds).map(({ type, words, meaning }) => [`\`${type}\``, words, meaning]);
  const keyed = properties.map((kind) => [
    `\`${kind.name}\``,
    kind.words,
    placeOfProperty(kind).slice(0, -1).join(', ') || 'the layer',
    String(kind.neutral),
  ]);
  const forms = Object.entries(exportKinds).map(([kind, { ending, meaning }]) => [`\`${kind}\``, `\`${ending}\``, meaning]);
  const body = [
    `## Cues\n\n${table(['cue', 'fires when', 'belongs to'], cues)}`,
    `## Steps\n\n${table(['step', 'in menus', 'what it does'], steps)}`,
    `## Transitions\n\n${table(['transition', 'what is seen'], transitions)}`,
    `## Layers\n\n${table(['layer', 'in lists', 'what it is'], layers)}`,
    `## Properties\n\n${table(['property', 'in rows', 'of', 'where nothing is said'], keyed)}`,
    `## Exports\n\n${table(['form', 'ending', 'what it is'], forms)}`,
  ].join('\n\n');
  return page(
    'Cues, steps, transitions, layers, properties, exports',
    'What threads and frames can be made of, what can have keys, and what a piece can be handed over as.',
    body
  );
}
