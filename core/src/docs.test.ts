import { expect, test } from 'vitest';
import { rules } from './walk/rules/index.ts';
import { grammarDocument, ruleDocument, rulesDocument, schemaDocument, tablesDocument } from './testing/documents.ts';

test.each([
  ['piece.schema.json', schemaDocument],
  ['walk-rules.md', rulesDocument],
  ['grammar.md', grammarDocument],
  ['tables.md', tablesDocument],
] as const)('%s says what the tables say', async (file, write) => {
  await expect(write()).toMatchFileSnapshot(`../../docs/${file}`);
});

test.each(rules.map((rule) => [rule.id, rule] as const))('rules/%s.md has what the rule says, and a picture of it', async (id, rule) => {
  const { text, picture } = ruleDocument(rule);
  await expect(text).toMatchFileSnapshot(`../../docs/rules/${id}.md`);
  await expect(picture).toMatchFileSnapshot(`../../docs/rules/${id}.svg`);
});
