import sharp from 'sharp';
import { describe, expect, test } from 'vitest';
import { takePicture } from './pictures';

const drawing = (inside = '', attributes = 'viewBox="0 0 40 30"') =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}><rect width="40" height="30" fill="#f0b13c"/>${inside}</svg>`
  );
const png = () => sharp(drawing()).png().toBuffer();

const refusal = (file: string, bytes: Uint8Array) =>
  takePicture(file, bytes).then(
    () => 'was taken',
    (problem: Error) => problem.message
  );

describe('pictures', () => {
  test.each([
    ['page.png', (bytes: Buffer) => sharp(bytes).png().toBuffer(), 'image/png'],
    ['page.JPG', (bytes: Buffer) => sharp(bytes).jpeg().toBuffer(), 'image/jpeg'],
    ['page.webp', (bytes: Buffer) => sharp(bytes).webp().toBuffer(), 'image/webp'],
  ])('%s is decoded and written anew', async (name, encode, mediaType) => {
    const bytes = await encode(await png());
    const taken = await takePicture(name, bytes);
    expect(taken).toMatchObject({ mediaType, width: 40, height: 30 });
    expect((await sharp(taken.bytes).metadata()).width).toBe(40);
  });

  test('what a camera wrote about itself is gone, and the picture stands upright', async () => {
    const bytes = await sharp(await png())
      .jpeg()
      .withExif({ IFD0: { Artist: 'Ina', Orientation: '6' } })
      .withMetadata({ orientation: 6 })
      .toBuffer();
    const taken = await takePicture('a.jpg', bytes);
    expect(taken).toMatchObject({ width: 30, height: 40 });
    expect((await sharp(taken.bytes).metadata()).exif).toBeUndefined();
  });

  test.each([
    ['words.png', async () => Buffer.from('not a picture'), /words\.png is broken, or no picture at all/],
    [
      'half.png',
      async () =>
        (
          await sharp({ create: { width: 300, height: 300, channels: 3, background: '#123456', noise: { type: 'gaussian', mean: 128, sigma: 60 } } })
            .png()
            .toBuffer()
        ).subarray(0, 4000),
      /half\.png is broken/,
    ],
    ['empty.webp', async () => Buffer.alloc(0), /empty\.webp is empty/],
    ['moving.gif', png, /moving\.gif is no PNG, JPEG, WebP or SVG file/],
    ['masked.jpg', png, /masked\.jpg is named as JPEG but holds PNG/],
    [
      'vast.png',
      () =>
        sharp({ create: { width: 9000, height: 9000, channels: 3, background: '#fff' } })
          .png()
          .toBuffer(),
      /9000 × 9000 pixels/,
    ],
  ])('%s is refused with the reason', async (name, make, why) => {
    expect(await refusal(name, await make())).toMatch(why);
  });
});

describe('SVG', () => {
  const clean = async (inside: string, attributes?: string) => (await takePicture('a.svg', drawing(inside, attributes))).bytes.toString();

  test('keeps the drawing and takes out all that could act or fetch', async () => {
    const text = await clean(
      '<script>alert(1)</script><circle r="4" onclick="alert(2)"/><image href="https://elsewhere.example/x.png"/><a href="javascript:alert(3)"><path d="M0 0"/></a><foreignObject><iframe src="//x"></iframe></foreignObject><rect fill="url(https://x.example/#a)" width="2" height="2"/><style>.a{fill:#112233}</style><use href="#b"/>'
    );
    expect(text).not.toMatch(/script|onclick|elsewhere|iframe|foreignObject|https:\/\/x/i);
    expect(text).toMatch(/<circle/);
    expect(text).toMatch(/fill:#112233/);
    expect(text).toMatch(/href="#b"/);
  });

  test('takes out of style sheets and attributes all that could fetch, in whatever way it is written', async () => {
    const text = await clean(
      `<style>@import "https://x.example/a.css"; @font-face{src:url(https://x.example/f)} .a{fill:red;background:url(//x.example/b)} .b{fill:u\\72l(https://x.example/c) url(#g)}</style>
       <rect class="a" style="fill:url(#g) url(https://x.example/d);stroke:blue" width="4" height="4"/>
       <rect fill="url(#g) url(https://x.example/e)" stroke="image-set('https://x.example/i' 1x)" width="4" height="4"/>
       <text>A <a href="https://x.example/">link</a></text><linearGradient id="g"/>`
    );
    expect(text).not.toMatch(/x\.example|import|font-face/);
    expect(text).toMatch(/\.a\{fill:red\}/);
    expect(text).toMatch(/style="stroke:blue"/);
    expect(text).toMatch(/<tspan>link<\/tspan>/);
  });

  test('pictures in addresses stay, under the type that they have', async () => {
    const data = (await png()).toString('base64');
    const text = await clean(`<image href="data:;base64,${data}"/><image xlink:href="data:text/html,${encodeURIComponent('<script>1</script>')}"/>`);
    expect(text).toContain(`href="data:image/png;base64,${data}"`);
    expect(text).not.toContain('script');
  });

  test('lengths may have units, and one of them is enough beside a view box', async () => {
    expect(await takePicture('a.svg', drawing('', 'width="2in" height="1in"'))).toMatchObject({ width: 192, height: 96 });
    expect(await takePicture('a.svg', drawing('', 'width="100%" viewBox="-180 -90 360 180"'))).toMatchObject({ width: 360, height: 180 });
    expect(await takePicture('a.svg', drawing('', 'width="50mm" viewBox="0 0 2 1"'))).toMatchObject({ width: 189, height: 94 });
  });

  const rectangles = '<rect width="1" height="1"/>'.repeat(19_900);
  const steps = (n: number) => `<filter id="f">${'<feGaussianBlur stdDeviation="9"/>'.repeat(n)}</filter>`;

  test('long but plain drawings come in', async () => {
    expect(await clean(rectangles)).toContain('<rect');
    expect(await refusal('a.svg', drawing('', `width="${' '.repeat(100_000)}" viewBox="0 0 4 3"`))).toBe('was taken');
  });

  test.each([
    [
      'a chain of 9,000 references',
      Array.from({ length: 9000 }, (_, i) => `<g id="c${i}"><use href="#c${i + 1}"/></g>`).join(''),
      /refers to itself/,
    ],
    [
      'filters through a style sheet',
      `<style>.f{filter:url(#f)}</style>${steps(20)}${'<rect class="f" width="9" height="9"/>'.repeat(90)}`,
      /filters and masks/,
    ],
    [
      'masks in masks',
      `<mask id="m0"/>${Array.from({ length: 40 }, (_, i) => `<mask id="m${i + 1}"><rect mask="url(#m${i})"/><rect mask="url(#m${i})"/></mask>`).join('')}<rect mask="url(#m40)"/>`,
      /refers to itself|filters and masks/,
    ],
    [
      'markers on every corner of a long line',
      `<marker id="k">${'<path d="M0 0"/>'.repeat(100)}</marker><path marker-mid="url(#k)" d="M0 0${' L1 1'.repeat(3000)}"/>`,
      /refers to itself/,
    ],
    ['hundreds of blurs by function', '<rect style="filter:blur(9px)" width="9" height="9"/>'.repeat(400), /filters and masks/],
  ])('refuses %s', async (_, inside, why) => {
    expect(await refusal('a.svg', drawing(inside, 'width="900" height="900" viewBox="0 0 900 900"'))).toMatch(why);
  });

  test('refuses sides that no screen has', async () => {
    expect(await refusal('a.svg', drawing('', 'width="20000" height="20000"'))).toMatch(/at most 16000 to a side/);
  });

  test('cleaning what is clean changes nothing', async () => {
    const once = await clean('<g id="a"><path d="M0 0h5" stroke="#000"/></g><use xlink:href="#a"/>');
    expect((await takePicture('a.svg', Buffer.from(once))).bytes.toString()).toBe(once);
  });

  test('the size comes from width and height, else from the view box', async () => {
    expect(await takePicture('a.svg', drawing('', 'width="120px" height="80" viewBox="0 0 12 8"'))).toMatchObject({ width: 120, height: 80 });
    expect(await takePicture('a.svg', drawing())).toMatchObject({ width: 40, height: 30 });
  });

  const nested = `${'<g>'.repeat(150)}${'</g>'.repeat(150)}`;
  const multiplied =
    Array.from({ length: 9 }, (_, i) => `<g id="a${i + 1}">${`<use href="#a${i}"/>`.repeat(9)}</g>`).join('') +
    '<rect id="a0" width="1" height="1"/>';

  test.each([
    ['<!ENTITY', '<!DOCTYPE svg [<!ENTITY a "aaaa">]>', /declares entities/],
    ['depth', nested, /nested too deeply/],
    ['multiplied references', multiplied, /refers to itself so often/],
    ['a circle of references', '<g id="x"><use href="#y"/></g><g id="y"><use href="#x"/></g>', /refers to itself/],
    ['too many elements', '<rect/>'.repeat(60_000), /more than 20000 elements/],
  ])('refuses %s', async (_, inside, why) => {
    expect(await refusal('a.svg', drawing(inside))).toMatch(why);
  });

  test('refuses one without a size, and what is no SVG', async () => {
    expect(await refusal('a.svg', drawing('', ''))).toMatch(/neither its size nor its view box/);
    expect(await refusal('a.svg', Buffer.from('<html></html>'))).toMatch(/no SVG/);
  });
});
