import { describe, expect, test } from 'vitest';
import { cueKinds } from './cues/kinds.ts';
import { exportKinds } from './formats/exports.ts';
import { PieceSchema } from './piece/schema.ts';
import { stepKinds } from './steps/kinds.ts';
import { transitionKinds } from './transitions/kinds.ts';
import { rules } from './walk/rules/index.ts';

/** Documents that are printed from the tables. `npm run docs` writes them anew. */

const table = (head: readonly string[], rows: readonly (readonly string[])[]): string =>
  [head, head.map(() => '---'), ...rows].map((row) => `| ${row.map((cell) => cell.replaceAll('|', '\\|')).join(' | ')} |`).join('\n');

const page = (title: string, intro: string, body: string) => `# ${title}\n\n${intro}\n\n${body}\n`;

describe('documents say what the tables say', () => {
  test('the schema of a piece', async () => {
    await expect(`${JSON.stringify(PieceSchema, null, 2)}\n`).toMatchFileSnapshot('../../docs/piece.schema.json');
  });

  test('the rules of the walk', async () => {
    const intro =
      'What the walk reports, in the order of the rules. Every loose end names its place, says what is wrong in one sentence, and carries the shortest route to it where there is one. It keeps its id (rule and place) from edit to edit.';
    const body = table(
      ['rule', 'what it finds'],
      rules.map(({ id, meaning }) => [`\`${id}\``, meaning])
    );
    await expect(page('Rules of the walk', intro, body)).toMatchFileSnapshot('../../docs/walk-rules.md');
  });

  test('cues, steps, transitions and exports', async () => {
    const cues = Object.values(cueKinds).map(({ type, meaning, owners }) => [`\`${type}\``, meaning, owners.join(', ')]);
    const steps = Object.values(stepKinds).map(({ do: what, label, meaning }) => [`\`${what}\``, label, meaning]);
    const transitions = Object.values(transitionKinds).map(({ type, meaning }) => [`\`${type}\``, meaning]);
    const forms = Object.entries(exportKinds).map(([kind, { ending, meaning }]) => [`\`${kind}\``, `\`${ending}\``, meaning]);
    const body = [
      `## Cues\n\n${table(['cue', 'fires when', 'belongs to'], cues)}`,
      `## Steps\n\n${table(['step', 'in menus', 'what it does'], steps)}`,
      `## Transitions\n\n${table(['transition', 'what is seen'], transitions)}`,
      `## Exports\n\n${table(['form', 'ending', 'what it is'], forms)}`,
    ].join('\n\n');
    await expect(
      page('Cues, steps, transitions, exports', 'What a thread can be made of, and what a piece can be handed over as.', body)
    ).toMatchFileSnapshot('../../docs/tables.md');
  });
});
