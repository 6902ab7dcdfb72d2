import { expect, test } from 'vitest';
import { anybodyMay, linkLets, linkMay, padMay, rights, roleMay, roles, type Deed } from '$lib/shared/rights';
import { routeRights } from './route-rights';

test('the table of rights in the documents is the one that is asked', async () => {
  const mark = (yes: boolean) => (yes ? '✓' : '');
  const rows = (Object.keys(rights) as Deed[]).map((deed) => {
    const cells = [anybodyMay(deed), ...roles.map((role) => roleMay(role, deed)), ...linkMay.map((may) => linkLets(may, deed)), padMay(deed)];
    return `| ${rights[deed].means} | ${cells.map(mark).join(' | ')} |`;
  });
  const head = ['what', 'signed in', ...roles, ...linkMay.map((may) => `link: ${may}`), 'pad'];
  const routes = Object.entries(routeRights).flatMap(([place, deeds]) =>
    Object.entries(deeds).map(([name, deed]) => `| \`${place}\` | ${name} | ${deed === 'anybody' ? 'anybody, also unknown' : rights[deed].means} |`)
  );
  const text = `# Who may do what

A member of a piece has a role. The holder of a review link has none, and may what the link allows. A pad has a key for one piece.

| ${head.join(' | ')} |
|${' --- |'.repeat(head.length)}
${rows.join('\n')}

## What each route asks for

| route | what | who |
| --- | --- | --- |
${routes.join('\n')}
`;
  await expect(text).toMatchFileSnapshot('../../../../docs/rights.md');
});
