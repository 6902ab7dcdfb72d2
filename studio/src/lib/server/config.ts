/** Settings come from the environment alone. */

export const config = {
  get databaseUrl(): string {
    const url = process.env['DATABASE_URL'];
    if (!url) throw new Error('DATABASE_URL is not set: start with “npm start”, or name a PostgreSQL database.');
    return url;
  },
  /** Only the start command sets this, and only for the database that it made itself. */
  get demo(): boolean {
    return process.env['ZANY_DEMO'] === '1';
  },
  get demoPieces(): string | undefined {
    return process.env['ZANY_DEMO_PIECES'];
  },
  get logLevel(): string {
    return process.env['LOG_LEVEL'] ?? 'info';
  },
} as const;

export const limits = {
  /** Bytes of one picture file. */
  picture: 20_000_000,
  media: 60_000_000,
  /** Bytes of one SVG file. */
  svg: 2_000_000,
  /** Pixels of one picture, width times height. */
  pixels: 60_000_000,
  /** Bytes of one package. */
  package: 300_000_000,
  /** Bytes of one request to save. */
  save: 20_000_000,
} as const;
