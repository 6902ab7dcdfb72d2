/** `npm test`: format, lint, types, unit and end-to-end tests, with all set-up they need; ends with the counts. */
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { runPlaywright } from './lib/browser.mjs';
import { ensurePrograms, ensureTestBrowser } from './lib/debian.mjs';
import { build, checkNode, installPackages } from './lib/prepare.mjs';
import { collect, root } from './lib/run.mjs';
import { main, say, since } from './lib/say.mjs';

const bin = (name) => join(root, 'node_modules/.bin', name);
const reports = join(root, '.data/reports');
const counts = { passed: 0, failed: 0 };

/** A check that passes or fails as a whole; what it says is shown when it fails. */
async function check(name, command, args, cwd = root) {
  const began = Date.now();
  const { code, output } = await collect(command, args, { cwd, env: { ...process.env, NO_COLOR: '1' } });
  counts[code === 0 ? 'passed' : 'failed']++;
  if (code !== 0) console.log(output.trim());
  say(`${name}: ${code === 0 ? 'good' : 'FAILED'} (${since(began)})`);
}

/** A package's unit tests; a run that counts no test has failed. */
async function unit(name) {
  const began = Date.now();
  const file = join(reports, `${name}.json`);
  const { code, output } = await collect(bin('vitest'), ['run', '--reporter=default', '--reporter=json', `--outputFile.json=${file}`], {
    cwd: join(root, name),
    env: { ...process.env, NO_COLOR: '1' },
  });
  const report = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : { numPassedTests: 0, numFailedTests: 0 };
  counts.passed += report.numPassedTests;
  counts.failed += report.numFailedTests || (code === 0 && report.numPassedTests > 0 ? 0 : 1);
  if (code !== 0 || report.numPassedTests === 0) console.log(output.trim().split('\n').slice(-120).join('\n'));
  say(`unit tests of ${name}: ${report.numPassedTests} passed, ${report.numFailedTests} failed (${since(began)})`);
}

async function endToEnd(args, browser) {
  const began = Date.now();
  const file = join(root, 'e2e/test-results/report.json');
  rmSync(file, { force: true });
  await runPlaywright('test-postgres', args, browser);
  const { stats } = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : { stats: { expected: 0, unexpected: 1, flaky: 0 } };
  counts.passed += stats.expected + stats.flaky;
  counts.failed += stats.unexpected || (stats.expected + stats.flaky === 0 ? 1 : 0);
  say(`end-to-end tests: ${stats.expected} passed, ${stats.unexpected} failed (${since(began)})`);
}

await main(async () => {
  const only = process.argv[2];
  checkNode();
  await ensurePrograms(['postgresql', 'chromium']);
  const browser = await ensureTestBrowser();
  await installPackages();
  mkdirSync(reports, { recursive: true });
  if (only === 'e2e') await build();
  else {
    const { code, output } = await collect(bin('svelte-kit'), ['sync'], { cwd: join(root, 'studio') });
    if (code !== 0) console.log(output);
    // Two at a time, and each next one as soon as there is room for it; all but the core's tests need what is built.
    const rest = [
      () => unit('cli'),
      () => unit('studio'),
      () => check('lint of Svelte', bin('eslint'), ['.', '--max-warnings', '0']),
      () => check('lint', bin('oxlint'), ['-c', 'oxlint.config.mjs', '--deny-warnings']),
      () => check('format', bin('oxfmt'), ['--check', '.']),
      // The core's declarations are made once, for all that build on it.
      () => check('types', bin('tsgo'), ['-b', 'core', 'player', 'cli', 'demo', 'bench', 'e2e']),
      () => check('types of studio', bin('svelte-check'), ['--tsgo', '--threshold', 'error'], join(root, 'studio')),
      () => unit('demo'),
      () => unit('player'),
    ];
    const goOn = async () => {
      for (let next = rest.shift(); next; next = rest.shift()) await next();
    };
    const built = build();
    await Promise.all([
      unit('core')
        .then(() => built)
        .then(goOn),
      built.then(goOn),
    ]);
  }
  if (only !== 'unit') await endToEnd(process.argv.slice(3), browser);
  process.exitCode = counts.failed ? 1 : 0;
  console.log(`\n${counts.passed} passed, ${counts.failed} failed`);
});
