/** Addresses that a piece may open, by scheme. */
export const SCHEMES = ['http:', 'https:', 'mailto:', 'tel:'] as const;

export type AddressProblem = 'empty' | 'no-scheme' | 'scheme' | 'malformed';

/** What is wrong with an address, or null. A web address needs a host, a mail address an @, a phone number a digit. */
export function addressProblem(address: string): AddressProblem | null {
  const text = address.trim();
  if (text === '' || /^(https?:\/\/|mailto:|tel:)$/i.test(text)) return 'empty';
  const scheme = /^([a-z][a-z0-9+.-]*):/i.exec(text)?.[1]?.toLowerCase();
  if (scheme === undefined || /^[^/:]+\.[^/:]+:\d/.test(text)) return 'no-scheme';
  if (!(SCHEMES as readonly string[]).includes(`${scheme}:`)) return 'scheme';
  if (/[\s\p{Cc}<>"\\]/u.test(text)) return 'malformed';
  return wellFormed[scheme as 'http'](text) ? null : 'malformed';
}

const web = (text: string) => {
  const [, host] = /^https?:\/\/(\[[\da-f:]+\]|[^\s/?#@:[\]]+)(?::\d{1,5})?(?:[/?#].*)?$/i.exec(text) ?? [];
  return host !== undefined && (host.startsWith('[') ? isSixth(host) : goodHost(host));
};

/** An IPv6 address in brackets (RFC 4291, 2.2): eight groups, or fewer with one gap. */
function isSixth(host: string): boolean {
  const halves = host.slice(1, -1).split('::');
  const groups = halves.flatMap((half) => (half === '' ? [] : half.split(':')));
  const fits = halves.length === 1 ? groups.length === 8 : halves.length === 2 && groups.length < 8;
  return fits && groups.every((group) => /^[\da-f]{1,4}$/i.test(group));
}

const goodHost = (host: string) =>
  host === 'localhost' || (/^[\p{L}\p{N}]([\p{L}\p{N}.-]*[\p{L}\p{N}])?$/u.test(host) && host.includes('.') && !host.includes('..'));

const wellFormed = {
  http: web,
  https: web,
  mailto: (text: string) => /^mailto:[^@\s]+@[^@\s?]+\.[^@\s?]+(\?.*)?$/i.test(text),
  tel: (text: string) => /^tel:\+?[\d\-().]*\d[\d\-().]*(;.*)?$/i.test(text),
};

/** An address or a name with what was escaped in it; as it is where a % escapes nothing. */
export function unescaped(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
