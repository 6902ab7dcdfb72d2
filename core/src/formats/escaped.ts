/** A text as it stands in HTML, SVG and XML, in quotes too. */
export const escaped = (text: string): string => text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`);

const NAMES: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };

/** The same with names for the signs, in double quotes at most. */
export const named = (text: string): string => text.replace(/[&<>"]/g, (sign) => NAMES[sign]!);
