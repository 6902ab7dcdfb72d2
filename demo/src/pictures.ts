import sharp from 'sharp';

/** The pictures of the Kittiwake Line world, drawn as SVG and rendered. All invented. */

const jpeg = (svg: string) => sharp(Buffer.from(svg)).jpeg({ quality: 86 }).toBuffer();
const png = (svg: string) => sharp(Buffer.from(svg)).png({ compressionLevel: 9 }).toBuffer();

const svg = (width: number, height: number, inside: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">${inside}</svg>`;

const ferry = (x: number, y: number, scale: number) => `<g transform="translate(${x} ${y}) scale(${scale})">
  <path d="M0 34 L150 34 L136 58 L18 58 Z" fill="#f6efe0"/><path d="M8 44 L144 44 L136 58 L18 58 Z" fill="#b23a26"/>
  <rect x="34" y="14" width="84" height="20" rx="3" fill="#ffffff"/><rect x="52" y="-2" width="44" height="16" rx="3" fill="#f6efe0"/>
  <rect x="70" y="-26" width="16" height="24" fill="#e59a00"/><rect x="70" y="-26" width="16" height="7" fill="#26232c"/>
  ${[42, 58, 74, 90, 104].map((at) => `<circle cx="${at}" cy="24" r="4" fill="#1f4e5f"/>`).join('')}</g>`;

const waves = (y: number, width: number, color: string, step = 60) => {
  let path = `M-20 ${y}`;
  for (let x = -20; x < width + step; x += step) path += ` q ${step / 4} -9 ${step / 2} 0 t ${step / 2} 0`;
  return `<path d="${path} V 4000 H -20 Z" fill="${color}"/>`;
};

const gull = (x: number, y: number, size: number) =>
  `<path d="M${x} ${y} q ${size * 0.5} ${-size * 0.6} ${size} 0 q ${size * 0.5} ${-size * 0.6} ${size} 0" fill="none" stroke="#26232c" stroke-width="${size / 7}" stroke-linecap="round"/>`;

const sky = (width: number, height: number, top: string, low: string) =>
  `<defs><linearGradient id="s" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="${top}"/><stop offset="1" stop-color="${low}"/></linearGradient></defs><rect width="${width}" height="${height}" fill="url(#s)"/>`;

/** A ferry on its way, 780 × 360. */
export const crossing = () =>
  jpeg(
    svg(
      780,
      360,
      `${sky(780, 360, '#cfe1ea', '#f7e7c8')}<circle cx="610" cy="120" r="52" fill="#f4c767"/><path d="M0 210 q 90 -90 200 -20 t 190 10 l 0 80 H0 Z" fill="#7fa08c"/>${gull(120, 80, 22)}${gull(210, 54, 16)}${waves(214, 780, '#4d8794', 90)}${ferry(330, 170, 1.25)}${waves(256, 780, '#2f6675', 70)}${waves(300, 780, '#1f4e5f', 80)}`
    )
  );

/** The pier at evening, 780 × 360. */
export const pier = () =>
  jpeg(
    svg(
      780,
      360,
      `${sky(780, 360, '#6d3a7c', '#f0b13c')}${waves(220, 780, '#7a4a6b', 90)}<rect x="0" y="196" width="520" height="16" fill="#3b2b2a"/>${[40, 130, 220, 310, 400, 490].map((x) => `<rect x="${x}" y="206" width="14" height="120" fill="#3b2b2a"/>`).join('')}<rect x="60" y="110" width="120" height="86" fill="#f6efe0"/><path d="M48 112 L120 62 L192 112 Z" fill="#b23a26"/><rect x="104" y="146" width="32" height="50" fill="#1f4e5f"/>${waves(276, 780, '#4b3557', 80)}${gull(560, 90, 24)}`
    )
  );

/** An island with its name, for the pages of the chart: 1024 × 768. */
export function island(name: string, ground: string, facts: readonly string[]): Promise<Buffer> {
  const lines = facts
    .map((fact, i) => `<text x="96" y="${300 + i * 46}" font-family="DejaVu Sans" font-size="24" fill="#26232c">${fact}</text>`)
    .join('');
  return png(
    svg(
      1024,
      768,
      `<rect width="1024" height="768" fill="#f1eadc"/><rect x="0" y="0" width="1024" height="110" fill="#1f4e5f"/><text x="96" y="72" font-family="DejaVu Sans" font-weight="bold" font-size="40" fill="#fbf7ee">${name}</text>
    <text x="96" y="230" font-family="DejaVu Serif" font-size="30" fill="#6f6776">What you find there</text>${lines}
    <g transform="translate(560 200)"><rect width="380" height="420" rx="24" fill="#cfe1ea"/><path d="M40 300 q 40 -190 150 -180 t 150 90 q 30 80 -60 120 t -240 -30 Z" fill="${ground}"/><path d="M130 190 l 40 -70 l 40 70 Z" fill="#8a8f86"/><path d="M158 142 l 12 -22 l 12 22 Z" fill="#fbf7ee"/><circle cx="250" cy="270" r="9" fill="#b23a26"/>${gull(70, 70, 20)}</g>
    ${button(96, 640, 220, 60, 'Back to the chart')}${button(336, 640, 120, 60, 'Start')}`
    )
  );
}

const button = (x: number, y: number, width: number, height: number, text: string) =>
  `<rect x="${x}" y="${y}" width="${width}" height="${height}" rx="14" fill="#f0b13c"/><text x="${x + width / 2}" y="${y + height / 2 + 8}" text-anchor="middle" font-family="DejaVu Sans" font-weight="bold" font-size="21" fill="#26232c">${text}</text>`;

/** The title page of the chart, 1024 × 768, with a painted button. */
export const chartTitle = () =>
  png(
    svg(
      1024,
      768,
      `${sky(1024, 768, '#cfe1ea', '#fbf7ee')}${gull(180, 150, 34)}${gull(300, 110, 24)}<text x="96" y="300" font-family="DejaVu Serif" font-size="68" fill="#26232c">The crossing chart</text><text x="98" y="356" font-family="DejaVu Sans" font-size="26" fill="#6f6776">Three islands, one line: for schools along the coast</text>${button(96, 410, 220, 72, 'Enter')}${waves(560, 1024, '#4d8794', 120)}${ferry(640, 470, 1.6)}${waves(640, 1024, '#2f6675', 100)}${waves(700, 1024, '#1f4e5f', 110)}`
    )
  );

/** The chart itself, 1024 × 768: three islands and the pier. */
export const chart = () =>
  png(
    svg(
      1024,
      768,
      `<rect width="1024" height="768" fill="#a9cbd3"/>${Array.from({ length: 12 }, (_, i) => `<path d="M0 ${60 * i + 40} q 60 -14 120 0 t 120 0 t 120 0 t 120 0 t 120 0 t 120 0 t 120 0 t 120 0 t 120 0" fill="none" stroke="#98bec8" stroke-width="3"/>`).join('')}
    <path d="M0 560 q 120 -60 210 10 t 120 140 l 0 58 H0 Z" fill="#d9c79b"/><rect x="250" y="600" width="90" height="14" fill="#3b2b2a"/><text x="60" y="690" font-family="DejaVu Sans" font-size="24" fill="#26232c">Harbour</text>
    <g stroke="#26232c" stroke-width="4" stroke-dasharray="14 12" fill="none"><path d="M340 607 C 420 560 400 330 320 260"/><path d="M340 607 C 480 560 560 470 600 420"/><path d="M660 380 C 740 330 790 280 830 240"/></g>
    <path d="M200 250 q 20 -110 120 -100 t 110 110 q -10 70 -120 60 t -110 -70 Z" fill="#7fa08c"/><text x="270" y="240" font-family="DejaVu Sans" font-weight="bold" font-size="28" fill="#26232c">Skarra</text>
    <path d="M540 420 q 20 -90 110 -80 t 100 90 q -10 60 -110 50 t -100 -60 Z" fill="#b8a76d"/><text x="590" y="430" font-family="DejaVu Sans" font-weight="bold" font-size="28" fill="#26232c">Tolm</text>
    <path d="M780 200 q 20 -80 90 -70 t 90 80 q -10 60 -90 50 t -90 -60 Z" fill="#8c9a5b"/><text x="830" y="205" font-family="DejaVu Sans" font-weight="bold" font-size="28" fill="#26232c">Inne</text>${ferry(430, 520, 0.7)}
    <rect x="0" y="0" width="1024" height="76" fill="#1f4e5f"/><text x="40" y="50" font-family="DejaVu Sans" font-weight="bold" font-size="28" fill="#fbf7ee">Press an island</text>`
    )
  );

/** One of the banner's three pictures, 300 × 250. */
export const bannerPicture = (number: 1 | 2 | 3) =>
  jpeg(
    svg(
      300,
      250,
      {
        1: `${sky(300, 250, '#cfe1ea', '#f7e7c8')}<circle cx="230" cy="60" r="26" fill="#f4c767"/>${waves(150, 300, '#4d8794', 60)}${ferry(70, 112, 0.9)}${waves(186, 300, '#1f4e5f', 50)}`,
        2: `${sky(300, 250, '#6d3a7c', '#f0b13c')}${waves(160, 300, '#4b3557', 60)}${ferry(120, 124, 0.7)}${gull(50, 60, 16)}${waves(196, 300, '#32233b', 50)}`,
        3: `${sky(300, 250, '#f7e7c8', '#7fa08c')}<path d="M0 180 q 60 -90 130 -30 t 170 10 V250 H0Z" fill="#5d8470"/>${gull(180, 70, 18)}${waves(200, 300, '#2f6675', 60)}`,
      }[number]
    )
  );
