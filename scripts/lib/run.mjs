import { spawn, spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('../..', import.meta.url));

/** Where databases, locks and stamps are kept: `.data` in the checkout, or what ZANY_DATA says. */
export const dataFolder = process.env.ZANY_DATA ?? join(root, '.data');

/** Runs a command to its end with its output shown; gives its exit code. */
export const run = (command, args, options = {}) =>
  new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: root, stdio: 'inherit', ...options });
    child.on('error', reject);
    child.on('exit', (code, signal) => resolve(code ?? (signal ? 1 : 0)));
  });

/** Runs a command and collects what it prints. */
export const collect = (command, args, options = {}) =>
  new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'], ...options });
    let output = '';
    child.stdout.on('data', (part) => (output += part));
    child.stderr.on('data', (part) => (output += part));
    child.on('error', reject);
    child.on('exit', (code) => resolve({ code: code ?? 1, output }));
  });

export const has = (command) => spawnSync('sh', ['-c', `command -v ${command}`]).status === 0;

export const isRoot = () => process.getuid?.() === 0;
