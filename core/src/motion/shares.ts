/** Words that come letter by letter, and numbers in them that count up: what of a text is seen at a share from 0 to 1 of the way. */

/** The first letters of a text, as many as have been typed; surrogate pairs stay whole. */
export function typedPart(text: string, share: number): string {
  if (share >= 1) return text;
  const letters = [...text];
  return letters.slice(0, Math.max(0, Math.round(letters.length * share))).join('');
}

/** Thousands are told by commas before three digits; a point, or a comma before other than three digits, has decimals behind it. */
const NUMBER = /\d{1,3}(?:,\d{3})+(?:\.\d+)?|\d+(?:[.,]\d+)?/g;

/** A text whose numbers are at a share of what they come to, written in the same way: as many decimals, thousands, leading zeros. */
export function countedText(text: string, share: number): string {
  if (share >= 1) return text;
  return text.replace(NUMBER, (written) => {
    const isGrouped = /^\d{1,3}(,\d{3})+/.test(written);
    const plain = isGrouped ? written.replaceAll(',', '') : written.replace(',', '.');
    const [whole, decimals = ''] = plain.split('.');
    const [digits, rest] = (Number(plain) * Math.max(0, share)).toFixed(decimals.length).split('.') as [string, string?];
    const padded = whole!.length > 1 && whole!.startsWith('0') ? digits.padStart(whole!.length, '0') : digits;
    const grouped = isGrouped ? padded.replace(/\B(?=(\d{3})+$)/g, ',') : padded;
    return rest === undefined ? grouped : `${grouped}${!isGrouped && written.includes(',') ? ',' : '.'}${rest}`;
  });
}
