import { expect, test } from 'vitest';
import { grammarDocument, rulesDocument, schemaDocument, tablesDocument } from './testing/documents.ts';

test.each([
  ['piece.schema.json', schemaDocument],
  ['walk-rules.md', rulesDocument],
  ['grammar.md', grammarDocument],
  ['tables.md', tablesDocument],
] as const)('%s says what the tables say', async (file, write) => {
  await expect(write()).toMatchFileSnapshot(`../../docs/${file}`);
});
