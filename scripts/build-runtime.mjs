/**
 * Builds the player as classic scripts (of an exported page, and of the element for any page), the command line as one module,
 * and what the studio's worker threads run.
 */
import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { minify } from 'terser';
import ts from 'typescript';
import { build } from 'vite';
import { builtinModules } from 'node:module';

const root = new URL('..', import.meta.url).pathname;

/**
 * In an exported page nobody is told why something did not happen, so it does without the sentences; without what only makes
 * exploring quick; and without what is done by name, but for the clicks that the keyboard makes.
 */
const instead = { './why.ts': 'why-silent.ts', './near.ts': 'near-all.ts', './deeds.ts': 'deeds-none.ts' };
const silent = {
  name: 'silent',
  enforce: 'pre',
  resolveId: (source, importer) => (source in instead && importer?.includes('/core/src/run/') ? `${root}core/src/run/${instead[source]}` : null),
};

/** What a kind of cue, step or transition says that is not needed where it only runs: for people, documents and the walk. */
const NOT_RUN = new Set(
  ['label', 'meaning', 'schema', 'fresh', 'forms', 'words', 'when', 'owners', 'tries', 'leadsTo', 'labelOf'].concat([
    'isLeading',
    'changesNothing',
    'isRepeatable',
    'inTime',
    'isSeen',
    'suits',
    'isRead',
    'isNothing',
    'shows',
    'takesWords',
    'file',
    'weights',
    'hasDirection',
  ])
);

/** What says why or what in a sentence, with the places of it: in an exported page nobody reads that. */
const SAYING = { done: [0], notDone: [0, 1], stays: [0], happen: [0], nodeCue: [3], refuse: [0, 1], fail: [0] };

/** Whether a refusal is told by it: codes stay, as something may follow from them. */
const isCode = (node) => ts.isStringLiteral(node) && /^[a-z-]+$/.test(node.text);

/** Takes out of the vocabulary and the engine what an exported page has no use for; what only that needed goes with it. */
const bare = {
  name: 'bare',
  enforce: 'pre',
  transform(code, file) {
    const [, folder] = /\/core\/src\/(vocabulary|fields|run|expression|piece\/faces)\b/.exec(file) ?? [];
    if (!folder) return null;
    const compilerOptions = { module: ts.ModuleKind.ESNext, target: ts.ScriptTarget.ES2022 };
    const transformers = { before: folder === 'run' || folder === 'expression' ? [silenced] : [bareKinds, silenced] };
    return { code: ts.transpileModule(code, { fileName: file, compilerOptions, transformers }).outputText, map: null };
  },
};

const named = (node) => (node && ts.isIdentifier(node) ? node.text : '');

const WORDING = new Set(['valueWords', 'wordsOf', 'keyWords', 'String', 'whyDisabled', 'typeOf']);

/** What is only done for those who ask why, or what was done. */
const FOR_ASKING = new Set(['whyNoClick', 'whyNoKey', 'noteStep']);

/** Whether anything is done in an expression besides putting words together. */
const does = (node) => (ts.isCallExpression(node) && !WORDING.has(named(node.expression))) || (ts.forEachChild(node, does) ?? false);

/** Sentences are left empty; those in which something is done stay as they are. */
const silenced = (context) => (source) => {
  const { factory } = context;
  const empty = () => factory.createStringLiteral('');
  const visit = (node) => {
    if (ts.isPropertyAssignment(node) && ['sentence', 'why'].includes(named(node.name)) && !does(node.initializer))
      return factory.updatePropertyAssignment(node, node.name, empty());
    const called = ts.isCallExpression(node) ? named(node.expression.name ?? node.expression) : '';
    if (FOR_ASKING.has(called) || (called === 'why' && !node.arguments.some(does))) return factory.createVoidZero();
    if (called === 'explainBranches') return factory.createArrayLiteralExpression();
    const at = SAYING[called];
    if (at === undefined) return ts.visitEachChild(node, visit, context);
    const isSaying = (argument, i) => at.includes(i) && !does(argument) && !(called === 'refuse' && isCode(argument));
    const given = node.arguments.map((argument, i) => (isSaying(argument, i) ? empty() : ts.visitNode(argument, visit)));
    return factory.updateCallExpression(node, node.expression, undefined, given);
  };
  return ts.visitNode(source, visit);
};

/** Kinds are left with what they do; and nothing in their files does anything but give a value. */
const bareKinds = (context) => (source) => {
  const { factory } = context;
  const isRun = (member) => !NOT_RUN.has(named(member.name));
  const bareOne = (argument) =>
    ts.isObjectLiteralExpression(argument) ? factory.createObjectLiteralExpression(argument.properties.filter(isRun), true) : argument;
  const visitIn = (isInside) => (node) => {
    const isKind = ts.isCallExpression(node) && named(node.expression).startsWith('define');
    // To define one is to give it as it is.
    if (isKind && node.arguments.length === 1) return ts.visitEachChild(bareOne(node.arguments[0]), visitIn(isInside), context);
    const left = isKind ? factory.updateCallExpression(node, node.expression, undefined, node.arguments.map(bareOne)) : node;
    const now = ts.visitEachChild(left, visitIn(isInside || ts.isFunctionLike(node)), context);
    return !isInside && ts.isCallExpression(now)
      ? ts.addSyntheticLeadingComment(now, ts.SyntaxKind.MultiLineCommentTrivia, ' @__PURE__ ', false)
      : now;
  };
  return ts.visitNode(source, visitIn(false));
};

/** What an exported page is built with. */
export const forPages = [silent, bare];

const bundle = async (entry, outDir, format, ssr, file = 'runtime.js', empty = true, plugins = []) => {
  await build({
    root,
    configFile: false,
    logLevel: 'warn',
    plugins,
    // What is native code stays where it is.
    ...(ssr && { ssr: { noExternal: true, external: ['@napi-rs/canvas'] } }),
    build: {
      outDir,
      emptyOutDir: empty,
      target: ssr ? 'node20' : 'es2022',
      minify: ssr ? false : 'oxc',
      ...(ssr && { ssr: true }),
      lib: { entry: root + entry, formats: [format], name: 'ZanyThread', fileName: () => file },
      rollupOptions: {
        checks: { pluginTimings: false },
        external: ssr ? [...builtinModules, ...builtinModules.map((name) => `node:${name}`)] : [],
      },
    },
  });
  if (ssr) return;
  // What one has made small the other makes smaller: each knows ways that the other does not.
  const path = `${outDir}/${file}`;
  // Nothing is read for the sake of reading it: no getter has to be called where what it gives is not used.
  writeFileSync(path, (await minify(readFileSync(path, 'utf8'), { ecma: 2020, compress: { passes: 3, pure_getters: true } })).code);
};

export async function buildRuntime() {
  await bundle('player/src/runtime.ts', root + 'player/dist', 'iife', false, 'runtime.js', true, forPages);
  await bundle('player/src/embed.ts', root + 'player/dist', 'iife', false, 'zany-piece.js', false);
  mkdirSync(root + 'studio/static', { recursive: true });
  for (const file of ['runtime.js', 'zany-piece.js']) inAscii(root + 'player/dist/' + file);
  copyFileSync(root + 'player/dist/zany-piece.js', root + 'studio/static/zany-piece.js');
  const css = ['player.css', 'page.css'].map((file) => readFileSync(root + 'player/src/' + file, 'utf8')).join('');
  const script = (file) => readFileSync(`${root}player/dist/${file}`, 'utf8');
  const parts = { runtime: script('runtime.js'), element: script('zany-piece.js'), css, fonts: await fontFiles() };
  writeFileSync(root + 'player/dist/page-parts.json', JSON.stringify(parts));
}

/** A page that names no encoding must not change what a script says, so every other sign is written as an escape. */
function inAscii(file) {
  const escaped = (sign) => `\\u${sign.charCodeAt(0).toString(16).padStart(4, '0')}`;
  writeFileSync(file, readFileSync(file, 'utf8').replace(/[^ -~\n\r\t]/g, escaped));
}

/** The fonts that a page can carry, as base64 of their woff2 files by family. */
async function fontFiles() {
  const source = readFileSync(root + 'core/src/piece/faces.ts', 'utf8');
  const { outputText } = ts.transpileModule(source, { compilerOptions: { module: ts.ModuleKind.ESNext, target: ts.ScriptTarget.ES2022 } });
  const { FACES } = await import(`data:text/javascript;base64,${Buffer.from(outputText).toString('base64')}`);
  const inBase64 = ({ file }) =>
    readFileSync(`${root}node_modules/@fontsource-variable/${file}/files/${file}-latin-wght-normal.woff2`).toString('base64');
  return Object.fromEntries(Object.entries(FACES).map(([family, face]) => [family, inBase64(face)]));
}

export async function buildCli() {
  await bundle('cli/src/main.ts', root + 'cli/dist', 'es', true);
}

/**
 * All in one file, since a worker has to be there soon; but what only reads files that are brought in is loaded when there is
 * one, and stays where it is: some of it is native code.
 */
export async function buildWorker() {
  // The studio's settings for TypeScript rest on a file that this makes; on a fresh checkout it is not there yet.
  execFileSync(root + 'node_modules/.bin/svelte-kit', ['sync'], { cwd: root + 'studio', stdio: ['ignore', 'ignore', 'inherit'] });
  await build({
    root: root + 'studio',
    configFile: false,
    logLevel: 'warn',
    ssr: { noExternal: true, external: ['sharp', 'css-tree', 'file-type', 'saxes', '@napi-rs/canvas'] },
    build: {
      ssr: 'src/lib/server/work/worker.ts',
      outDir: root + 'studio/dist',
      emptyOutDir: true,
      target: 'node20',
      minify: false,
      rollupOptions: { output: { entryFileNames: 'worker.js', format: 'es' } },
    },
  });
}

if (process.argv[1] === new URL(import.meta.url).pathname) {
  await buildRuntime();
  await buildCli();
  await buildWorker();
}
