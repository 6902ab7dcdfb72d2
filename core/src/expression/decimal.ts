/** A difference of less than so much of what was counted with comes of numbers being kept in binary, not of what was asked. */
const SLIP = 4e-16;

/** Decimals are counted exactly to so many digits. */
const DIGITS = 12;

/**
 * What people expect of counting with decimals: 0.1 + 0.2 is 0.3, and 0.3 less three times 0.1 nothing. A result that is as near to a
 * short decimal as counting in binary (IEEE 754) can come is that decimal; any other stays what it is, so a third three times is 1.
 *
 * @param value what came out, finite
 * @param scale the greatest size of what it came of: that is what binary digits are lost of
 */
export function asDecimal(value: number, scale = Math.abs(value)): number {
  if (Number.isInteger(value)) return value + 0;
  const near = Number(value.toFixed(Math.min(100, Math.max(0, DIGITS - 1 - Math.floor(Math.log10(scale))))));
  return Math.abs(near - value) <= scale * SLIP ? near + 0 : value;
}
