import { strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { apply } from '../../../edit/apply.ts';
import { printLine } from '../../../lines/line.ts';
import { scopeFor } from '../../../lines/scope.ts';
import { emptyPiece, framesOf, layersUnder, scenesOf, threadsOf, type Asset, type Piece } from '../../../piece/piece.ts';
import { unwrap } from '../../../result.ts';
import { build } from '../../../testing/index.ts';
import { presentations } from './presentations.ts';

const zipped = (files: Readonly<Record<string, string>>): Uint8Array =>
  zipSync(Object.fromEntries(Object.entries(files).map(([name, text]) => [name, strToU8(text)])));

/** EMU of so many CSS px. */
const emu = (px: number) => px * 9525;

const OOXML = `xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" xmlns:p="http://schemas.openxmlformats.org/presentationml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"`;
const RELS = (...links: (readonly [id: string, kind: string, target: string, mode?: string])[]) =>
  `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${links
    .map(([id, kind, target, mode]) => `<Relationship Id="${id}" Type="http://x/${kind}" Target="${target}"${mode ? ` TargetMode="${mode}"` : ''}/>`)
    .join('')}</Relationships>`;

const xfrm = (x: number, y: number, width: number, height: number, more = '') =>
  `<a:xfrm ${more}><a:off x="${emu(x)}" y="${emu(y)}"/><a:ext cx="${emu(width)}" cy="${emu(height)}"/></a:xfrm>`;
const words = (text: string, run = '') => `<p:txBody><a:bodyPr/><a:p><a:r><a:rPr ${run}/><a:t>${text}</a:t></a:r></a:p></p:txBody>`;
const shape = (name: string, properties: string, body = '', about = '', place = '') =>
  `<p:sp><p:nvSpPr><p:cNvPr id="2" name="${name}">${about}</p:cNvPr><p:cNvSpPr/><p:nvPr>${place}</p:nvPr></p:nvSpPr><p:spPr>${properties}</p:spPr>${body}</p:sp>`;
const tree = (...shapes: string[]) => `<p:cSld><p:spTree><p:nvGrpSpPr/><p:grpSpPr/>${shapes.join('')}</p:spTree></p:cSld>`;

/** A deck of as many slides as there are; all on one layout with a title at 40, 20 and a body, and a master with a band. */
function deckOf(
  slides: readonly { readonly xml: string; readonly rels?: readonly (readonly [string, string, string, string?])[]; readonly tail?: string }[],
  more: Readonly<Record<string, string>> = {}
): Uint8Array {
  return zipped({
    ...more,
    'ppt/presentation.xml': `<p:presentation ${OOXML}><p:sldIdLst>${slides.map((_, i) => `<p:sldId id="${256 + i}" r:id="s${i}"/>`).join('')}</p:sldIdLst><p:sldSz cx="${emu(960)}" cy="${emu(540)}"/></p:presentation>`,
    'ppt/_rels/presentation.xml.rels': RELS(...slides.map((_, i) => [`s${i}`, 'slide', `slides/slide${i + 1}.xml`] as const)),
    'ppt/theme/theme1.xml': `<a:theme ${OOXML} name="Pier"><a:themeElements><a:clrScheme name="x"><a:dk1><a:sysClr val="windowText" lastClr="26232C"/></a:dk1><a:lt1><a:srgbClr val="FFFFFF"/></a:lt1><a:accent1><a:srgbClr val="0B7A75"/></a:accent1></a:clrScheme></a:themeElements></a:theme>`,
    'ppt/slideMasters/m.xml': `<p:sldMaster ${OOXML}>${tree(
      shape('Band', `${xfrm(0, 500, 960, 40)}<a:solidFill><a:schemeClr val="accent1"><a:lumMod val="50000"/></a:schemeClr></a:solidFill>`),
      shape('Title place', xfrm(0, 0, 900, 90), words('Click to edit'), '', '<p:ph type="title"/>')
    )}<p:clrMap bg1="lt1" tx1="dk1"/><p:txStyles><p:titleStyle><a:lvl1pPr algn="ctr"><a:defRPr sz="4400" b="1"><a:solidFill><a:schemeClr val="tx1"/></a:solidFill></a:defRPr></a:lvl1pPr></p:titleStyle><p:bodyStyle><a:lvl1pPr><a:buChar char="•"/><a:defRPr sz="2400"/></a:lvl1pPr><a:lvl2pPr><a:buChar char="–"/><a:defRPr sz="2000"/></a:lvl2pPr></p:bodyStyle></p:txStyles></p:sldMaster>`,
    'ppt/slideMasters/_rels/m.xml.rels': RELS(['t', 'theme', '../theme/theme1.xml']),
    'ppt/slideLayouts/l.xml': `<p:sldLayout ${OOXML}>${tree(
      shape('Title 1', `${xfrm(40, 20, 880, 80)}`, '<p:txBody><a:bodyPr anchor="b"/></p:txBody>', '', '<p:ph type="title"/>'),
      shape('Body 1', xfrm(40, 120, 880, 300), '', '', '<p:ph idx="1"/>')
    )}</p:sldLayout>`,
    'ppt/slideLayouts/_rels/l.xml.rels': RELS(['m', 'slideMaster', '../slideMasters/m.xml']),
    ...Object.fromEntries(
      slides.flatMap(({ xml, rels = [], tail = '' }, i) => [
        [`ppt/slides/slide${i + 1}.xml`, `<p:sld ${OOXML}>${xml}${tail}</p:sld>`],
        [`ppt/slides/_rels/slide${i + 1}.xml.rels`, RELS(['l', 'slideLayout', '../slideLayouts/l.xml'], ...rels)],
      ])
    ),
  });
}

function read(
  bytes: Uint8Array,
  piece: Piece = emptyPiece({ id: 'p', name: 'P', width: 390, height: 844, start: [] }),
  assets = new Map<string, Asset>()
) {
  let made = 0;
  const came = unwrap(presentations.read(piece, bytes, () => `n${++made}`, assets));
  const after = unwrap(apply(piece, came.operations)).piece;
  const frame = (name: string) => framesOf(after).find((one) => one.name === name)!;
  const layers = (name: string) => layersUnder(after, [...framesOf(after), ...scenesOf(after, 'sheet')].find((one) => one.name === name)!.id, null);
  const lines = (owner: string) => threadsOf(after, owner).map((thread) => printLine(thread, scopeFor(after, thread)));
  const layer = (scene: string, name: string) => layers(scene).find((one) => one.name === name)!;
  return { came, after, frame, layers, layer, lines };
}

describe('Office Open XML', () => {
  const title = (text: string) => shape('Title 1', '', words(text), '', '<p:ph type="title"/>');

  test('what a slide does not say it takes from its layout, its master and the theme', () => {
    const body = `<p:txBody><a:bodyPr/><a:p><a:r><a:t>Fares</a:t></a:r></a:p><a:p><a:pPr lvl="1"/><a:r><a:t>Children</a:t></a:r></a:p><a:p><a:pPr><a:buNone/></a:pPr><a:r><a:t>Free {today}</a:t></a:r></a:p></p:txBody>`;
    const { frame, layer, layers, after, came } = read(
      deckOf([
        { xml: tree(title('Day trip'), shape('Body 1', '', body, '', '<p:ph idx="1"/>'), shape('Date', '', '', '', '<p:ph type="dt" idx="9"/>')) },
      ])
    );
    expect(frame('Day trip')).toMatchObject({ width: 960, height: 540, background: '#ffffff' });
    expect(layer('Day trip', 'Title 1')).toMatchObject({
      type: 'text',
      pose: { x: 40, y: 20, width: 880, height: 80 },
      text: 'Day trip',
      style: { ink: '#26232c' },
      letters: { size: 58.67, weight: 700, align: 'center', place: 'bottom' },
    });
    expect(layer('Day trip', 'Body 1')).toMatchObject({ text: '• Fares\n  • Children\nFree \\{today}', letters: { size: 32, align: 'left' } });
    expect(layers('Day trip')).toHaveLength(2);
    // What the master shows stands under every slide, darker by half than the theme's own; its places for words do not.
    expect(scenesOf(after, 'sheet').map(({ name }) => name)).toEqual(['Pier']);
    expect(layers('Pier')).toMatchObject([{ name: 'Band', type: 'box', pose: { y: 500 }, style: { fill: '#063d3a' } }]);
    expect(came.made).toEqual(['1 frame', '1 sheet']);
    expect(came.size).toEqual({ width: 960, height: 540 });
  });

  test('links lead to slides, round about them, back and to the web; what else they do is left', () => {
    const click = (action: string, id = '') => `<a:hlinkClick r:id="${id}" action="${action}"/>`;
    const jump = (to: string) => click(`ppaction://hlinkshowjump?jump=${to}`);
    const box = (name: string, about: string) => shape(name, `${xfrm(0, 0, 50, 50)}<a:solidFill><a:srgbClr val="B23A26"/></a:solidFill>`, '', about);
    const leads = tree(
      title('Two'),
      box('To one', click('ppaction://hlinksldjump', 'one')),
      ...['nextslide', 'previousslide', 'firstslide', 'lastslide', 'lastslideviewed', 'endshow'].map((to) => box(to, jump(to))),
      shape('Web', xfrm(0, 0, 50, 50), '', '<a:hlinkClick r:id="web"/>'),
      box('Run', click('ppaction://program', 'web')),
      box('Hover', '<a:hlinkHover r:id="web"/>')
    );
    const rels = [
      ['one', 'slide', 'slide1.xml'],
      ['web', 'hyperlink', 'https://kittiwake.example/', 'External'],
    ] as const;
    const push = '<p:transition spd="slow" advTm="4000"><p:push dir="u"/></p:transition>';
    const { layers, lines, frame, came } = read(
      deckOf([{ xml: tree(title('One')) }, { xml: leads, rels }, { xml: tree(title('Three')), tail: push }])
    );
    expect(Object.fromEntries(layers('Two').map((one) => [one.name, lines(one.id)]))).toEqual({
      'Title 1': [],
      'To one': ['click → go to One'],
      nextslide: ['click → go to Three · push up 1500 ms ease-in-out'],
      previousslide: ['click → go to One'],
      firstslide: ['click → go to One'],
      lastslide: ['click → go to Three · push up 1500 ms ease-in-out'],
      lastslideviewed: ['click → go to back'],
      endshow: [],
      Web: ['click → open https://kittiwake.example/ in new tab'],
      Run: [],
      Hover: [],
    });
    // What cannot be seen but leads on is a hit area; the last slide has none after it.
    expect(layers('Two').find(({ name }) => name === 'Web')!.type).toBe('hit');
    expect(lines(frame('Three').id)).toEqual([]);
    expect(came.left).toEqual([
      'slide 2, endshow: what it does (endshow)',
      'slide 2, Run: what it does (program)',
      'slide 2, Hover: what it does when it is pointed at',
    ]);
  });

  test('groups, turned and drawn shapes, tables and shades stand where and as they are seen', () => {
    const group = `<p:grpSp><p:nvGrpSpPr><p:cNvPr id="3" name="Group"/></p:nvGrpSpPr><p:grpSpPr><a:xfrm rot="5400000"><a:off x="${emu(100)}" y="${emu(100)}"/><a:ext cx="${emu(200)}" cy="${emu(100)}"/><a:chOff x="0" y="0"/><a:chExt cx="${emu(100)}" cy="${emu(50)}"/></a:xfrm></p:grpSpPr>${shape('Inner', `${xfrm(0, 0, 50, 50)}<a:prstGeom prst="ellipse"/><a:solidFill><a:srgbClr val="0B7A75"><a:alpha val="50000"/></a:srgbClr></a:solidFill>`)}</p:grpSp>`;
    const drawn = `<a:custGeom><a:pathLst><a:path w="200" h="100"><a:moveTo><a:pt x="0" y="100"/></a:moveTo><a:lnTo><a:pt x="200" y="50"/></a:lnTo><a:close/></a:path></a:pathLst></a:custGeom>`;
    const shades = `<a:gradFill><a:gsLst><a:gs pos="0"><a:srgbClr val="F0B13C"/></a:gs><a:gs pos="100000"><a:srgbClr val="000000"/></a:gs></a:gsLst></a:gradFill>`;
    const table = `<p:graphicFrame><p:nvGraphicFramePr><p:cNvPr id="4" name="Fares"/></p:nvGraphicFramePr><p:xfrm><a:off x="${emu(10)}" y="${emu(20)}"/><a:ext cx="${emu(100)}" cy="${emu(60)}"/></p:xfrm><a:graphic><a:graphicData><a:tbl><a:tblGrid><a:gridCol w="${emu(40)}"/><a:gridCol w="${emu(60)}"/></a:tblGrid><a:tr h="${emu(30)}"><a:tc><a:txBody><a:p><a:r><a:t>Skarra</a:t></a:r></a:p></a:txBody></a:tc><a:tc><a:txBody><a:p><a:r><a:t>12</a:t></a:r></a:p></a:txBody></a:tc></a:tr></a:tbl></a:graphicData></a:graphic></p:graphicFrame>`;
    const chart = `<p:graphicFrame><p:nvGraphicFramePr><p:cNvPr id="5" name="Chart 1"/></p:nvGraphicFramePr><p:xfrm/><a:graphic/></p:graphicFrame>`;
    const { layer, layers, came } = read(
      deckOf([
        {
          xml: tree(
            group,
            shape('Flipped', `${xfrm(0, 0, 20, 10, 'flipH="1"')}${drawn}<a:solidFill><a:srgbClr val="1F4E5F"/></a:solidFill>`),
            shape('Shaded', `${xfrm(0, 0, 20, 20)}<a:prstGeom prst="cloud"/>${shades}`),
            shape(
              'Round',
              `${xfrm(0, 0, 100, 40)}<a:prstGeom prst="roundRect"><a:avLst><a:gd name="adj" fmla="val 50000"/></a:avLst></a:prstGeom>${shades}`
            ),
            table,
            chart
          ),
        },
      ])
    );
    // Half of a box that is 200 by 100 about 200, 150, turned by a quarter: it stood on the left, so now it stands above.
    expect(layer('Slide 1', 'Inner')).toMatchObject({
      type: 'oval',
      style: { fill: '#0b7a7580' },
      pose: { x: 150, y: 50, width: 100, height: 100, rotation: 90 },
    });
    expect(layer('Slide 1', 'Flipped')).toMatchObject({ type: 'path', path: 'M100 100L0 50Z' });
    expect(layer('Slide 1', 'Shaded')).toMatchObject({ type: 'box', style: { fill: '#f0b13c' } });
    expect(layer('Slide 1', 'Round').style).toMatchObject({ corner: 20 });
    expect(layers('Slide 1').filter(({ name }) => name.startsWith('Fares'))).toMatchObject([
      { name: 'Fares 1.1', text: 'Skarra', pose: { x: 10, y: 20, width: 40, height: 30 } },
      { name: 'Fares 1.2', text: '12', pose: { x: 50, y: 20, width: 60, height: 30 } },
    ]);
    expect(came.left).toEqual([
      'slide 1, Shaded: its shades; it has one colour',
      'slide 1, Shaded: its outline (cloud); it is a box',
      'slide 1, Round: its shades; it has one colour',
      'slide 1, Chart 1: it is drawn by another program',
    ]);
  });

  test('pictures are asked for by name; those that cannot be shown are left, and lead on all the same', () => {
    const picture = (name: string, id: string, about = '') =>
      `<p:pic><p:nvPicPr><p:cNvPr id="9" name="${name}" descr="A boat">${about}</p:cNvPr><p:nvPr/></p:nvPicPr><p:blipFill><a:blip r:embed="${id}"/></p:blipFill><p:spPr>${xfrm(5, 5, 40, 30)}</p:spPr></p:pic>`;
    const rels = [
      ['a', 'image', '../media/boat.png'],
      ['b', 'image', '../media/old.wmf'],
      ['w', 'hyperlink', 'mailto:pier@kittiwake.example', 'External'],
    ] as const;
    const files = unzipSync(
      deckOf([{ xml: tree(picture('Boat', 'a'), picture('Old', 'b'), picture('Way', 'b', '<a:hlinkClick r:id="w"/>')), rels }])
    );
    const bytes = zipSync({ ...files, 'ppt/media/boat.png': strToU8('png'), 'ppt/media/old.wmf': strToU8('wmf') });
    expect([...unwrap(presentations.pictures!(bytes)).keys()]).toEqual(['ppt/media/boat.png', 'ppt/media/old.wmf']);
    const asset: Asset = { id: 'a'.repeat(64), name: 'boat.png', mediaType: 'image/png', size: 3, width: 4, height: 3 };
    const { layers, came, after } = read(bytes, undefined, new Map([['ppt/media/boat.png', asset]]));
    expect(layers('Slide 1')).toMatchObject([
      { name: 'Boat', type: 'picture', asset: asset.id, label: 'A boat', pose: { x: 5, y: 5, width: 40, height: 30 } },
      { name: 'Way', type: 'hit' },
    ]);
    expect(came.left).toEqual([
      'Slide 1, Old: its picture is in a form that cannot be shown',
      'Slide 1, Way: its picture is in a form that cannot be shown',
    ]);
    expect([...after.assets.keys()]).toEqual([asset.id]);
  });

  test('slides come after the frames that are there, with names of their own', () => {
    const piece = build({ one: { name: 'One', layers: { a: {} } } });
    const { after } = read(deckOf([{ xml: tree(title('One')) }, { xml: tree() }]), piece);
    expect(framesOf(after).map(({ name }) => name)).toEqual(['One', 'One 2', 'Slide 2']);
    expect(after.head.start).toEqual(['one']);
  });
});

test('what a speaker reads is the note of its frame, and nothing else of the page it stands on (Office Open XML)', () => {
  const place = (type: string) => `<p:ph type="${type}"/>`;
  const body =
    '<p:txBody><a:bodyPr/><a:p><a:r><a:t>Ask for</a:t></a:r><a:r><a:t> two</a:t></a:r></a:p><a:p><a:r><a:t>Then wait</a:t></a:r></a:p></p:txBody>';
  const notes = tree(
    shape('Slide', '', '', '', place('sldImg')),
    shape('Notes', '', body, '', place('body')),
    shape('Number', '', words('7'), '', place('sldNum'))
  );
  const rels = [['n', 'notesSlide', '../notesSlides/n1.xml']] as const;
  const { after, came } = read(
    deckOf([{ xml: tree(), rels }, { xml: tree() }], { 'ppt/notesSlides/n1.xml': `<p:notes ${OOXML}>${notes}</p:notes>` })
  );
  expect(framesOf(after).map(({ note }) => note)).toEqual(['Ask for two\nThen wait', undefined]);
  expect(came.left).toEqual([]);
});

describe('OpenDocument', () => {
  const NAMES = ['office', 'style', 'text', 'table', 'presentation', 'script'].map(
    (name) => `xmlns:${name}="urn:oasis:names:tc:opendocument:xmlns:${name}:1.0"`
  );
  const OTHER = `xmlns:d="urn:oasis:names:tc:opendocument:xmlns:drawing:1.0" xmlns:fo="urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0" xmlns:svg="urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0" xmlns:xlink="http://www.w3.org/1999/xlink"`;
  const odp = (pages: string, styles = ''): Uint8Array =>
    zipped({
      'content.xml': `<office:document-content ${NAMES.join(' ')} ${OTHER}><office:automatic-styles>${styles}</office:automatic-styles><office:body><office:presentation>${pages}</office:presentation></office:body></office:document-content>`,
    });
  const at = 'svg:x="1in" svg:y="2in" svg:width="1in" svg:height="0.5in"';

  test('styles take what they do not say from those they name, and prefixes may be others than usual', () => {
    const styles = `<style:style style:name="base" style:family="graphic"><style:graphic-properties d:fill="solid" d:fill-color="#0B7A75" d:opacity="50%"/><style:text-properties fo:font-size="20pt" fo:color="#ffffff"/></style:style><style:style style:name="own" style:family="graphic" style:parent-style-name="base"><style:graphic-properties d:stroke="solid" svg:stroke-color="#26232c" svg:stroke-width="2px"/></style:style><style:style style:name="half" style:family="text"><style:text-properties fo:font-size="50%" fo:font-weight="bold"/></style:style>`;
    const { layer, came } = read(
      odp(
        `<d:page d:name="Pier"><d:rect d:name="Sign" d:style-name="own" ${at}><text:p><text:span text:style-name="half">Ahoy</text:span>, you</text:p></d:rect></d:page>`,
        styles
      )
    );
    expect(layer('Pier', 'Sign')).toMatchObject({
      type: 'box',
      pose: { x: 96, y: 192, width: 96, height: 48 },
      style: { fill: '#0b7a7580', line: { color: '#26232c', width: 2 }, ink: '#ffffff' },
      text: 'Ahoy, you',
      letters: { size: 13.33, weight: 700 },
    });
    expect(came.left).toEqual([]);
  });

  test('what a speaker reads is the note of its frame, cut where it is very long', () => {
    const box = (kind: string, ...lines: string[]) =>
      `<d:frame presentation:class="${kind}" ${at}><d:text-box>${lines.map((line) => `<text:p>${line}</text:p>`).join('')}</d:text-box></d:frame>`;
    const page = (name: string, ...boxes: string[]) => `<d:page d:name="${name}"><presentation:notes>${boxes.join('')}</presentation:notes></d:page>`;
    const long = 'Ahoy '.repeat(2000);
    const { after, came } = read(
      odp(
        page('Pier', box('notes', 'Wait<text:s/>here', 'Wave'), box('page-number', '3')) +
          page('Quay', box('notes', ' ')) +
          page('Sea', box('notes', long))
      )
    );
    const [pier, quay, sea] = framesOf(after).map(({ note }) => note);
    expect(pier).toBe('Wait here\nWave');
    expect(quay).toBeUndefined();
    expect(sea!.length).toBeGreaterThan(4900);
    expect(sea!.length).toBeLessThanOrEqual(5000);
    expect(came.left).toEqual([]);
  });

  test('links of shapes, groups and words lead on; outlines are fitted into their boxes', () => {
    const listener = (action: string, href = '') =>
      `<office:event-listeners><presentation:event-listener script:event-name="dom:click" presentation:action="${action}" xlink:href="${href}"/></office:event-listeners>`;
    const fill = `<style:style style:name="f" style:family="graphic"><style:graphic-properties d:fill="solid" d:fill-color="#b23a26"/></style:style>`;
    const shapes = [
      `<d:rect d:name="Show" ${at}>${listener('show', '#Pay%20here')}</d:rect>`,
      `<d:rect d:name="Gone" ${at}>${listener('show', '#Nowhere')}</d:rect>`,
      `<d:rect d:name="Sound" ${at}>${listener('sound', 'bell.wav')}</d:rect>`,
      `<d:g d:name="Group">${listener('next-page')}<d:circle d:name="Sun" d:style-name="f" ${at}/></d:g>`,
      `<d:frame d:name="Words" ${at}><d:text-box><text:p>See <text:a xlink:href="https://kittiwake.example/">fares</text:a></text:p></d:text-box></d:frame>`,
      `<d:polygon d:name="Sail" d:style-name="f" ${at} svg:viewBox="0 0 200 100" d:points="0,100 100,0 200,100"/>`,
      `<d:path d:name="Wave" d:style-name="f" ${at} svg:viewBox="10 10 20 10" svg:d="m10 20 10-10 10 10z"/>`,
    ];
    const { layers, lines, came } = read(odp(`<d:page d:name="Home">${shapes.join('')}</d:page><d:page d:name="Pay here"/>`, fill));
    expect(layers('Home').map((one) => [one.name, one.type, ...lines(one.id)])).toEqual([
      ['Show', 'hit', 'click → go to Pay here'],
      ['Gone', 'hit'],
      ['Sun', 'oval'],
      ['Link', 'hit', 'click → go to Pay here'],
      ['Words', 'text', 'click → open https://kittiwake.example/ in new tab'],
      ['Sail', 'path'],
      ['Wave', 'path'],
    ]);
    expect(
      layers('Home')
        .map(({ path }) => path)
        .filter(Boolean)
    ).toEqual(['M0 100L50 0 100 100Z', 'M0 100L50 0 100 100Z']);
    expect(came.left).toEqual(['slide 1, Sound: what it does (sound)', 'Home, Gone: it leads to a slide that is not there']);
  });
});

describe('what is none, or made to harm', () => {
  const good = deckOf([{ xml: tree(shape('A', `${xfrm(0, 0, 10, 10)}<a:solidFill><a:srgbClr val="0B7A75"/></a:solidFill>`, words('Ahoy'))) }]);
  const empty = emptyPiece({ id: 'p', name: 'P', width: 390, height: 844, start: [] });
  const readings = (bytes: Uint8Array) => {
    let made = 0;
    return presentations.read(empty, bytes, () => `n${++made}`, new Map());
  };

  test('is refused with a sentence', () => {
    const sentence = (bytes: Uint8Array) => {
      const result = readings(bytes);
      return result.ok ? 'read' : result.error.sentence;
    };
    expect(sentence(strToU8('no zip'))).toMatch(/^This cannot be unpacked/);
    expect(sentence(good.slice(0, good.length >> 1))).toMatch(/^This cannot be unpacked/);
    expect(sentence(zipped({ 'notes.txt': 'hm' }))).toBe('This holds no slides that can be read.');
    expect(sentence(deckOf([]))).toBe('This presentation has no slides.');
    expect(sentence(new Uint8Array([0xd0, 0xcf, 0x11, 0xe0]))).toMatch(/before 2007/);
    const deep = `${'<a>'.repeat(100_000)}${'</a>'.repeat(100_000)}`;
    expect(sentence(zipped({ 'ppt/presentation.xml': deep }))).toBe('This holds no slides that can be read.');
    const bomb = `<!DOCTYPE x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;">]><x>&b;</x>`;
    expect(sentence(zipped({ 'ppt/presentation.xml': bomb }))).toBe('This holds no slides that can be read.');
  });

  test('in a thousand ways of being damaged it is read or refused, and what is read can be applied', () => {
    const files = unzipSync(good);
    const slide = files['ppt/slides/slide1.xml']!;
    let seed = 7;
    const random = (below: number) => (seed = (seed * 48_271) % 2_147_483_647) % below;
    let refused = 0;
    for (let i = 0; i < 1000; i++) {
      const broken = slide.slice();
      for (let k = 0; k <= i % 3; k++) broken[random(broken.length)] = 32 + random(95);
      const result = readings(zipSync({ ...files, 'ppt/slides/slide1.xml': broken }, { level: 0 }));
      if (!result.ok) refused++;
      else expect(apply(empty, result.value.operations)).toMatchObject({ ok: true });
    }
    expect(refused).toBeGreaterThan(0);
    expect(refused).toBeLessThan(1000);
  });
});
