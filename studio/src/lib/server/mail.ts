import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { createTransport } from 'nodemailer';
import { config } from './config';
import { newId } from './ids';
import { log } from './log';

export interface Letter {
  readonly to: string;
  readonly subject: string;
  /** Plain text; lines are paragraphs. */
  readonly text: string;
}

/**
 * Sends a letter: by the SMTP server that the operator has named, else as a file (RFC 5322) into a folder, where whoever
 * runs the studio finds it.
 *
 * @throws where neither takes it
 */
export async function sendLetter({ to, subject, text }: Letter): Promise<void> {
  const { smtpUrl, mailFolder, mailFrom } = config;
  const letter = { from: mailFrom, to: { name: '', address: to }, subject, text };
  if (smtpUrl) {
    const post = createTransport({ url: smtpUrl, connectionTimeout: 10_000, greetingTimeout: 10_000, socketTimeout: 20_000 });
    try {
      await post.sendMail(letter);
    } finally {
      post.close();
    }
    return;
  }
  const { message } = await createTransport({ streamTransport: true, buffer: true, newline: 'unix' }).sendMail(letter);
  await mkdir(mailFolder, { recursive: true, mode: 0o700 });
  const file = join(mailFolder, `${new Date().toISOString().replace(/[:.]/g, '-')}-${newId().slice(0, 6)}.eml`);
  await writeFile(file, message as Buffer, { mode: 0o600 });
  log.info({ file }, 'no SMTP server is named: the letter lies in a folder');
}

/** Sends a letter while nobody waits; that it did not work is in the log. */
export function sendLater(letter: Letter): void {
  sendLetter(letter).catch((error: unknown) => log.error({ err: error, subject: letter.subject }, 'a letter could not be sent'));
}
