import { hexOfRgb } from '../../../motion/color.ts';
import { at, attribute, numberIn, within, type Xml } from '../xml.ts';

/** Colours of Office Open XML (ISO/IEC 29500, 20.1.2.3): by value, or by a place in a theme, and changed by so much. */

export type Theme = ReadonlyMap<string, string>;

/** Colours of a theme by their places, as `#rrggbb`. */
export function themeOf(theme: Xml | null): Theme {
  const scheme = at(theme ?? undefined, 'a:themeElements', 'a:clrScheme');
  return new Map(
    within(scheme).flatMap((place) => {
      const value = attribute(at(place, 'a:srgbClr'), 'val') ?? attribute(at(place, 'a:sysClr'), 'lastClr');
      return value && /^[0-9a-f]{6}$/i.test(value) ? [[place.name.replace(/^a:/, ''), `#${value.toLowerCase()}`] as const] : [];
    })
  );
}

export interface Palette {
  readonly theme: Theme;
  /** What a master calls the places of the theme. */
  readonly map: ReadonlyMap<string, string>;
}

const PRESET: Readonly<Record<string, string>> = {
  black: '#000000',
  white: '#ffffff',
  red: '#ff0000',
  green: '#008000',
  blue: '#0000ff',
  yellow: '#ffff00',
};

/** The colour that an element holds, as `#rrggbb` or `#rrggbbaa`; null where it holds none that is known. `own` is what `phClr` stands for. */
export function colorIn(holder: Xml | undefined, { theme, map }: Palette, own: string | null = null): string | null {
  for (const node of within(holder)) {
    const value = attribute(node, 'val') ?? '';
    const base =
      node.name === 'a:srgbClr' && /^[0-9a-f]{6}$/i.test(value)
        ? `#${value.toLowerCase()}`
        : node.name === 'a:schemeClr'
          ? value === 'phClr'
            ? own
            : (theme.get(map.get(value) ?? value) ?? null)
          : node.name === 'a:sysClr'
            ? `#${(attribute(node, 'lastClr') ?? '000000').toLowerCase()}`
            : node.name === 'a:prstClr'
              ? (PRESET[value] ?? null)
              : null;
    if (base !== null) return changed(base, node);
  }
  return null;
}

function changed(color: string, node: Xml): string {
  let rgb = [1, 3, 5].map((i) => parseInt(color.slice(i, i + 2), 16) / 255) as [number, number, number];
  let alpha = color.length === 9 ? parseInt(color.slice(7), 16) / 255 : 1;
  for (const change of within(node)) {
    const share = (numberIn(change, 'val') ?? 100_000) / 100_000;
    if (change.name === 'a:alpha') alpha = share;
    else if (change.name === 'a:shade') rgb = rgb.map((one) => one * share) as typeof rgb;
    else if (change.name === 'a:tint') rgb = rgb.map((one) => 1 - (1 - one) * share) as typeof rgb;
    else if (change.name === 'a:lumMod') rgb = withLight(rgb, (light) => light * share);
    else if (change.name === 'a:lumOff') rgb = withLight(rgb, (light) => light + share);
  }
  return hexOfRgb(rgb, alpha);
}

/** A colour with another lightness (HSL). */
function withLight(rgb: [number, number, number], change: (light: number) => number): [number, number, number] {
  const [most, least] = [Math.max(...rgb), Math.min(...rgb)];
  const light = (most + least) / 2;
  const wanted = Math.min(1, Math.max(0, change(light)));
  const spread = most - least;
  if (spread === 0) return [wanted, wanted, wanted];
  const saturation = spread / (1 - Math.abs(2 * light - 1));
  const chroma = saturation * (1 - Math.abs(2 * wanted - 1));
  return rgb.map((one) => wanted + ((one - light) / spread) * chroma) as [number, number, number];
}
