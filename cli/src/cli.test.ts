import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { framesOf, layersUnder, pieceToJson, printLine, readPackage, scopeFor, threadsOf, unwrap, writePackage } from '@zany/core';
import { build, click, compose, go, on, open } from '@zany/core/testing';
import { Ajv } from 'ajv';
import { strFromU8, unzipSync } from 'fflate';
import addFormats from 'ajv-formats';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';

const root = fileURLToPath(new URL('../..', import.meta.url));
const zany = join(root, 'zany');
const demo = join(root, 'demo/pieces/1-ticket-app.zip');
let folder = '';

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'zany-cli-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

interface Ran {
  readonly code: number;
  readonly out: string;
  readonly err: string;
}

/** Runs the command as somebody would, with standard input if given. */
const call = (args: string[], input = ''): Promise<Ran> =>
  new Promise((resolve) => {
    const child = execFile(zany, args, (error, out, err) => resolve({ code: typeof error?.code === 'number' ? error.code : 0, out, err }));
    child.stdin!.end(input);
  });

const size = { at: [0, 0, 100, 60], looks: { hover: { style: { fill: '#eeeeee' } } } } as const;
const good = build(
  { home: { layers: { buy: { ...size, threads: [click(go('pay'))] } } }, pay: { layers: { back: { ...size, threads: [click(go('back'))] } } } },
  [on({ type: 'key', key: 'End' }, go('last'))]
);

async function file(name: string, piece = good): Promise<string> {
  const path = join(folder, name);
  await writeFile(path, name.endsWith('.zip') ? writePackage(piece, new Map()) : JSON.stringify(pieceToJson(piece)));
  return path;
}

describe('zany check', () => {
  test('a clean piece: exit code 0', async () => {
    const { code, out } = await call(['check', await file('good.json')]);
    expect(code).toBe(0);
    expect(out).toBe('0 loose ends; explored completely, 2 states, 4 moves.\n');
  });

  test('something must be fixed: exit code 1, each with its place and route', async () => {
    const { code, out } = await call(['check', demo]);
    expect(code).toBe(1);
    expect(out).toContain('must fix: Declined is a dead end (dead-end)');
    expect(out).toContain('route: Harbour: click Plan a trip, click Choose 15:30, click Pay with another card');
  });

  test('only things worth a look: exit code 0', async () => {
    const piece = build({ home: { layers: { area: { type: 'hit', at: [0, 0, 60, 60] } }, ending: true } });
    const { code, out } = await call(['check', await file('look.zip', piece), '--format', 'json']);
    expect(code).toBe(0);
    expect((JSON.parse(out) as { findings: { rule: string }[] }).findings.map(({ rule }) => rule)).toEqual(['looks-clickable']);
  });

  test('SARIF is valid by its schema', async () => {
    const { out } = await call(['check', demo, '--format', 'sarif']);
    const sarif = JSON.parse(out) as { runs: { results: { ruleId: string; level: string }[] }[] };
    const schema = createRequire(import.meta.url)('@microsoft/jest-sarif/lib/schemas/sarif-2.1.0-rtm.5.json') as object;
    const ajv = new Ajv({ strict: false, allErrors: true, unicodeRegExp: false });
    (addFormats as unknown as (ajv: Ajv) => void)(ajv);
    const validate = ajv.compile(withoutMeta(schema));
    expect(validate(sarif), JSON.stringify(validate.errors)).toBe(true);
    expect(sarif.runs[0]!.results.map(({ ruleId, level }) => `${ruleId} ${level}`)).toContain('dead-end error');
  });

  test.each([
    ['nothing.json', '', 'there is no such file'],
    ['broken.json', '{"format":', 'neither a package nor a piece.json'],
    ['old.json', '{"format":"zany-thread/0"}', 'format: The format is "zany-thread/0"'],
  ])('%s: exit code 2 and why', async (name, content, why) => {
    if (content) await writeFile(join(folder, name), content);
    const { code, err } = await call(['check', join(folder, name)]);
    expect(code).toBe(2);
    expect(err).toContain(why);
  });
});

describe('what CI can tell apart', () => {
  const endless = compose({
    variables: { n: { type: 'number', initial: 0 } },
    frames: {
      home: {
        layers: { up: { at: [0, 0, 100, 60], text: 'Up {n}', looks: size.looks, lines: ['click → if n >= 0 → set n to n * 2 + 1'] } },
        ending: true,
      },
    },
  });

  test('not all walked: exit code 3, and SARIF says what was cut', async () => {
    const path = await file('endless.json', endless);
    const { code, out } = await call(['check', path, '--max-states', '40']);
    expect([code, out]).toEqual([3, '0 loose ends; explored in part: stopped at 40 states, 41 states, 40 moves.\n']);
    const sarif = JSON.parse((await call(['check', path, '--max-states', '40', '--format', 'sarif'])).out) as {
      runs: { invocations: { toolExecutionNotifications: { message: { text: string } }[] }[] }[];
    };
    expect(sarif.runs[0]!.invocations[0]!.toolExecutionNotifications.map(({ message }) => message.text)).toEqual([
      'Explored in part: stopped at 40 states.',
    ]);
  });

  test('routes in SARIF, and loose ends in CSV and HTML', async () => {
    const sarif = JSON.parse((await call(['check', demo, '--format', 'sarif'])).out) as {
      runs: { results: { ruleId: string; codeFlows?: { threadFlows: { locations: object[] }[] }[] }[] }[];
    };
    const dead = sarif.runs[0]!.results.find(({ ruleId }) => ruleId === 'dead-end')!;
    expect(dead.codeFlows![0]!.threadFlows[0]!.locations).toHaveLength(4);
    const csv = (await call(['check', demo, '--format', 'csv'])).out.trim().split('\r\n');
    expect(csv[0]).toBe('rule,severity,place,title,sentence,route,set aside because');
    expect(csv).toHaveLength(7);
    const html = (await call(['check', demo, '--format', 'html'])).out;
    expect(html).toContain('<h1>Loose ends of Ticket app</h1>');
    expect(html).toContain('<li>click Plan a trip</li>');
  });
});

describe('zany walk', () => {
  test('plans routes over every branch, and says how short a plan could be', async () => {
    const { code, out } = await call(['walk', demo]);
    expect(code).toBe(0);
    expect(out).toMatch(/\n\d+ routes?, \d+ steps over \d+ branches; no plan has fewer than \d+ steps; explored completely\.\n$/);
    const { plan } = JSON.parse((await call(['walk', demo, '--format', 'json'])).out) as {
      plan: { length: number; least: number; missed: string[] };
    };
    expect([plan.missed, plan.length >= plan.least]).toEqual([[], true]);
  });

  test('a kept walk that no longer holds: exit code 1, in words and for build servers', async () => {
    const walks = (frame: string) => ({
      w: { name: 'To <pay>', order: 'a', from: 'home', steps: [{ event: { type: 'click' as const, layer: 'buy' }, frame }] },
    });
    const piece = (frame: string) => ({ ...good, head: { ...good.head, walks: walks(frame) } });
    const holding = await call(['walk', await file('kept.json', piece('pay'))]);
    expect([holding.code, holding.out.split('\n')[0]]).toEqual([0, 'holds: To <pay>, 1 step']);
    const path = await file('broken.json', piece('home'));
    const broken = await call(['walk', path]);
    expect([broken.code, broken.out.split('\n')[0]]).toEqual([1, 'broken: To <pay>, at step 1 of 1: it leads to pay instead of home']);
    const { out } = await call(['walk', path, '--format', 'junit']);
    expect(out).toContain('<testsuite name="Kept walks" tests="1" failures="1"');
    expect(out).toContain('name="To &#60;pay&#62;"');
  });
});

test('zany compare says in sentences what is otherwise', async () => {
  const other = build({
    home: { layers: { buy: { ...size, threads: [click(go('home'))] } } },
    pay: { layers: { back: { ...size, threads: [click(go('back'))] } } },
  });
  const [before, after] = [await file('before.json'), await file('after.json', other)];
  const { code, out } = await call(['compare', before, after]);
  expect(code).toBe(0);
  expect(out).toMatch(
    /^Written otherwise, 2 changes:\n {2}the piece: “key End → go to last” is gone\.\n {2}home, buy: “click → go to home” instead of “click → go to pay”\.\nDoes otherwise, \d+ changes:\n/
  );
  expect(out).toContain('  pay can no longer be reached.\n');
  expect(out).toMatch(/ {2}new loose end: .*\nThey are told apart by this: home: click buy\.\n {2}pay is shown only before\.\n/);
  expect((await call(['compare', before, before])).out).toMatch(
    /^They do the same: nothing that can be done tells them apart \(\d+ pairs of states looked at\)\.\n$/
  );
});

test('zany compare names what is written otherwise where nothing is done otherwise', async () => {
  const at = (x: number) => build({ home: { layers: { buy: { at: [x, 0, 100, 60], threads: [click(go('pay'))] } } }, pay: {} });
  const [before, after] = [await file('still.json', at(0)), await file('moved.json', at(7))];
  const { out } = await call(['compare', before, after]);
  expect(out).toMatch(/^Written otherwise, 1 change:\n {2}Frame home, buy: x 7 instead of 0\.\nThey do the same/);
  const json = JSON.parse((await call(['compare', before, after, '--format', 'json'])).out) as { written: { scenes: unknown[] } };
  expect(json.written.scenes).toMatchObject([{ name: 'home', kind: 'changed', looks: [{ before: [{ x: 0 }], after: [{ x: 7 }] }] }]);
});

test('zany bring-in puts design tokens into a piece, says what is left, and refuses what holds none', async () => {
  const tokens = join(folder, 'harbour.tokens.json');
  const sea = { sea: { $type: 'color', $value: '#0b7a75' }, gap: { $type: 'dimension', $value: { value: 4, unit: 'px' } } };
  await writeFile(tokens, JSON.stringify(sea));
  const out = join(folder, 'with-tokens.zip');
  const done = await call(['bring-in', await file('plain.json'), tokens, '--out', out]);
  expect([done.code, done.out]).toEqual([0, 'Brought in: 1 swatch. Left: 1.\n  left: gap: a dimension has no place in a piece\n']);
  expect((await call(['export', out, '--to', 'tokens', '--out', join(folder, 'back.tokens.json')])).code).toBe(0);
  expect(JSON.parse(await readFile(join(folder, 'back.tokens.json'), 'utf8'))).toMatchObject({ colour: { sea: { $value: { hex: '#0b7a75' } } } });
  await writeFile(tokens, '[]');
  const refused = await call(['bring-in', out, tokens, '--out', out]);
  expect([refused.code, refused.err]).toEqual([2, expect.stringContaining('holds no design tokens')]);
  expect((await call(['bring-in', out, demo, '--out', out])).err).toContain('design tokens (.tokens.json');
});

test('zany bring-in makes frames of pictures, in the order of their names, beside what else comes in, all or none', async () => {
  const picture = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAIAAAABCAYAAAD0In+KAAAAEUlEQVR42mPgrir9//3Z4f8AFIMFmYBa1kYAAAAASUVORK5CYII=', 'base64');
  const [ten, nine, torn, tokens] = ['Quay 10.png', 'Quay 9.png', 'torn.png', 'sea.tokens.json'].map((name) => join(folder, name));
  await writeFile(ten!, picture);
  await writeFile(nine!, picture);
  await writeFile(torn!, picture.subarray(0, 9));
  await writeFile(tokens!, JSON.stringify({ sea: { $type: 'color', $value: '#0b7a75' } }));
  const out = join(folder, 'quay.zip');
  const framesIn = async () =>
    framesOf(unwrap(await readPackage(await readFile(out), null)).piece).map(({ name, width, height }) => [name, width, height]);
  const before = framesOf(unwrap(await readPackage(await readFile(await file('plain.json')), null)).piece).length;
  const done = await call(['bring-in', await file('plain.json'), ten!, tokens!, nine!, '--out', out]);
  expect([done.code, done.out]).toEqual([0, 'Brought in: 1 swatch.\nBrought in: 2 frames.\n']);
  expect((await framesIn()).slice(before)).toEqual([
    ['Quay 9', 2, 1],
    ['Quay 10', 2, 1],
  ]);
  const [, width, height] = (await framesIn())[0]!;
  expect((await call(['bring-in', out, nine!, '--fit', '--out', out])).code).toBe(0);
  expect((await framesIn()).at(-1)).toEqual(['Quay 11', width, height]);
  const refused = await call(['bring-in', out, nine!, torn!, '--out', join(folder, 'none.zip')]);
  expect([refused.code, refused.err]).toEqual([2, `zany: ${torn}: it is no PNG, JPEG or WebP picture, or it is damaged.\n`]);
  await expect(readFile(join(folder, 'none.zip'))).rejects.toThrow('ENOENT');
});

test.each(['6-tide-lesson', '8-harbour-clock'])(
  'zany export writes the timelines of %s as animations that fit the published schema',
  async (name) => {
    const out = join(folder, `${name}.lottie.zip`);
    const done = await call(['export', join(root, `demo/pieces/${name}.zip`), '--to', 'lottie', '--out', out]);
    expect([done.code, done.out]).toEqual([0, expect.stringContaining('what happens when something is pressed') as string]);
    const require = createRequire(import.meta.url);
    const { LottieValidator, get_schema_path: schemaPath } = require('@lottie-animation-community/lottie-specs/src/validator-node.js') as {
      LottieValidator: new (
        ajv: unknown,
        schema: object
      ) => { validate(json: string): readonly { readonly type: string; readonly message: string }[] };
      get_schema_path: () => string;
    };
    const within = createRequire(schemaPath());
    const { Ajv2020 } = within('ajv/dist/2020') as { Ajv2020: unknown };
    const validator = new LottieValidator(Ajv2020, JSON.parse(await readFile(schemaPath(), 'utf8')) as object);
    const files = Object.entries(unzipSync(await readFile(out)));
    expect(files.length).toBeGreaterThan(1);
    for (const [file, bytes] of files) {
      const json = strFromU8(bytes);
      expect(
        validator.validate(json).filter(({ type }) => type === 'error'),
        file
      ).toEqual([]);
      expect((JSON.parse(json) as { layers: object[] }).layers.length, file).toBeGreaterThan(0);
    }
    // One of them comes back as a part.
    const [name0, first] = files[0]!;
    await writeFile(join(folder, name0), first);
    const back = await call(['bring-in', await file('plain.json'), join(folder, name0), '--out', join(folder, 'back.zip')]);
    expect([back.code, back.out]).toEqual([0, expect.stringMatching(/^Brought in: the part .+ with \d+ layers?\./) as string]);
    // It does refuse what does not fit.
    expect(validator.validate('{"layers": 7}').some(({ type }) => type === 'error')).toBe(true);
  }
);

test.each(['odp', 'pptx'])('zany bring-in takes in what another program saved as .%s: slides, pictures, links, transitions', async (ending) => {
  const out = join(folder, `harbour-${ending}.zip`);
  const done = await call(['bring-in', await file('plain.json'), join(import.meta.dirname, `decks/harbour.${ending}`), '--out', out]);
  expect([done.code, done.out]).toEqual([
    0,
    expect.stringMatching(/^Brought in: 4 frames, 1 sheet and 5 threads\. Left: 1\.\n {2}left: typefaces that are not here.*\n$/) as string,
  ]);
  const { piece, assets } = unwrap(await readPackage(await readFile(out), null));
  const frames = framesOf(piece).slice(-4);
  const [pier, , paid] = frames;
  expect(frames.map(({ width, height, background }) => [width, height, background])).toEqual([
    [960, 720, '#f7e6c3'],
    [960, 720, '#f7e6c3'],
    [960, 720, '#0b7a75'],
    [960, 720, '#f7e6c3'],
  ]);
  const layers = layersUnder(piece, pier!.id, null);
  expect(layers.map(({ name, type }) => [name, type])).toEqual([
    ['Title', 'text'],
    ['Buy', 'box'],
    ['Next', 'path'],
    ['Sun', 'oval'],
    ['Boat', 'picture'],
    ['Web', 'text'],
  ]);
  expect(layers[0]!.text).toBe('Kittiwake Line \\{pier}');
  const boat = piece.assets.get(layers[4]!.asset!)!;
  expect([boat.width, boat.height, assets.get(boat.id)!.length]).toEqual([8, 6, 74]);
  const said = [...layers.map(({ id }) => id), paid!.id].flatMap((id) =>
    threadsOf(piece, id).map((thread) => printLine(thread, scopeFor(piece, thread)))
  );
  const names = frames.map(({ name }) => name);
  expect(said).toEqual([
    expect.stringContaining(`click → go to ${names[1]} · push left`) as string,
    expect.stringContaining(`click → go to ${names[1]} · push left`) as string,
    'click → open https://kittiwake.example/ in new tab',
    `after 5 s → go to ${names[3]}`,
  ]);
});

test('zany check --watch checks again when the file is written, and waits for one that can be read', async () => {
  const path = await file('watched.json');
  const child = execFile(zany, ['check', path, '--watch']);
  let out = '';
  child.stdout!.on('data', (text: string) => (out += text));
  const until = async (what: string) => {
    for (let i = 0; i < 200 && !out.includes(what); i++) await new Promise((resolve) => setTimeout(resolve, 50));
    expect(out).toContain(what);
    out = '';
  };
  try {
    await until('0 loose ends');
    await writeFile(path, '{"format":');
    await until('neither a package nor a piece.json');
    const piece = build({ home: { layers: { area: { type: 'hit', at: [0, 0, 60, 60] } } } });
    await writeFile(path, JSON.stringify(pieceToJson(piece)));
    await until('looks-clickable');
  } finally {
    child.kill();
  }
});

/** The schema is written in draft 4, whose keywords for its own name ajv does not take; all others it uses mean the same. */
const withoutMeta = (schema: object) => {
  const { $schema: _meta, id: _id, ...rest } = schema as { $schema?: string; id?: string };
  return rest;
};

test('zany explore says what was reached and whether that is all', async () => {
  const path = await file('explore.json');
  expect(JSON.parse((await call(['explore', path, '--format', 'json'])).out)).toMatchObject({
    complete: true,
    states: 2,
    unreached: [],
    reached: [{ frame: 'home', route: [] }, { frame: 'pay' }],
  });
  const cut = JSON.parse((await call(['explore', path, '--format', 'json', '--max-states', '1'])).out) as { complete: boolean; cut: string };
  expect(cut.complete).toBe(false);
  expect(cut.cut).toContain('1 states');
  expect((await call(['explore', path, '--max-states', 'many'])).code).toBe(2);
});

describe('zany run', () => {
  test('one settled state a line, with what fired and why not', async () => {
    const events = [
      { type: 'click', layer: 'buy' },
      { type: 'click', layer: 'buy' },
      { type: 'press', x: 5, y: 5 },
      { type: 'release', x: 5, y: 5 },
      { type: 'key', key: 'End' },
      { type: 'wait', ms: 100 },
    ];
    const { code, out } = await call(['run', await file('run.zip'), '--events', '-'], events.map((event) => JSON.stringify(event)).join('\n'));
    expect(code).toBe(0);
    const lines = out
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as { frame: string; fired: { line: string }[]; whyNot: { code: string }[] });
    expect(lines.map(({ frame }) => frame)).toEqual(['pay', 'pay', 'pay', 'home', 'pay', 'pay']);
    expect(lines[0]!.fired[0]!.line).toBe('click → go to pay');
    expect(lines[1]!.whyNot[0]!.code).toBe('not-here');
  });

  test('a wrong event is refused with its line', async () => {
    const { code, err } = await call(['run', await file('wrong.json'), '--events', '-'], '{"type":"wait","ms":5}\n{"type":"fling"}\n');
    expect(code).toBe(2);
    expect(err).toContain('line 2: “type” must be one of');
  });
});

describe('zany export', () => {
  test('a page that names its own policy and carries its pictures', async () => {
    const out = join(folder, 'page.html');
    expect((await call(['export', demo, '--to', 'html', '--out', out])).code).toBe(0);
    const html = await readFile(out, 'utf8');
    expect(html).toContain("default-src 'none'; script-src 'sha256-");
    expect(html).not.toMatch(/(src|href)="https?:/);
    expect(html).toContain('data:image/jpeg;base64,');
  });

  test('a package that is the same again', async () => {
    const out = join(folder, 'again.zip');
    await call(['export', demo, '--to', 'package', '--out', out]);
    expect(await readFile(out)).toEqual(await readFile(demo));
  });

  test('a state chart, with what it leaves out', async () => {
    const out = join(folder, 'flow.scxml');
    const { code, out: said } = await call(['export', demo, '--to', 'scxml', '--out', out]);
    expect(code).toBe(0);
    const xml = await readFile(out, 'utf8');
    expect(xml).toContain('<scxml xmlns="http://www.w3.org/2005/07/scxml"');
    const left = said.match(/(?<=left out: ).+/g) ?? [];
    for (const line of left) expect(xml).toContain(line);
  });

  test('links and texts cannot leave their place in the page', async () => {
    const piece = build({
      home: { layers: { a: { ...size, text: '</script><script>alert(1)</script>', threads: [click(open('https://kittiwake.example/'))] } } },
    });
    const out = join(folder, 'safe.html');
    await call(['export', await file('safe.json', piece), '--to', 'html', '--out', out]);
    expect((await readFile(out, 'utf8')).match(/<script/g)).toHaveLength(2);
  });
});
