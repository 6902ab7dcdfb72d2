/** A cell; what a program could take for a formula is kept a text by a sign in front. */
const cell = (text: string): string => {
  const safe = /^[=+\-@\t\r]/.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
};

/** Rows as comma-separated values (RFC 4180). */
export const csvOf = (rows: readonly (readonly string[])[]): string => rows.map((row) => `${row.map(cell).join(',')}\r\n`).join('');
