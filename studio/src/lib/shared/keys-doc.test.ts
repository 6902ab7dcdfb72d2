import { expect, test } from 'vitest';
import { commands, keyLabel, otherKeys } from './commands';

test('the list of keys in the documents is the one the studio shows', async () => {
  const groups = [...new Set(commands.map((command) => command.group))];
  const sections = groups.map((group) => {
    const rows = commands.filter((command) => command.group === group && command.keys);
    return `## ${group}\n\n| keys | what they do |\n| --- | --- |\n${rows.map(({ keys, label }) => `| ${keys!.map((key) => `\`${keyLabel(key)}\``).join(' or ')} | ${label} |`).join('\n')}`;
  });
  const other = `## Also\n\n| keys | what they do |\n| --- | --- |\n${otherKeys.map(({ keys, label }) => `| ${keys} | ${label} |`).join('\n')}`;
  const intro = 'On a Mac, Cmd stands for Ctrl. Everything else is in the command finder: `Ctrl+K`.';
  await expect(`# Keys\n\n${intro}\n\n${[...sections, other].join('\n\n')}\n`).toMatchFileSnapshot('../../../../docs/keys.md');
});
