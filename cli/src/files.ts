import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { compile, pathText, readPackage, type Fault, type Package, type Program } from '@zany/core';

/** The input cannot be used: exit code 2. */
export class Unreadable extends Error {}

export const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** Reads a piece.json or a package. */
export async function load(file: string): Promise<Package & { program: Program }> {
  const bytes = await readFile(file).catch((error: NodeJS.ErrnoException) => {
    throw new Unreadable(`${file}: ${reasons[error.code ?? ''] ?? error.message}`);
  });
  const read = await readPackage(bytes, sha256);
  if (!read.ok) throw new Unreadable(`${file}: ${faultText(read.error)}`);
  return { ...read.value, program: compile(read.value.piece) };
}

const reasons: Record<string, string> = {
  ENOENT: 'there is no such file.',
  EISDIR: 'this is a folder, not a file.',
  EACCES: 'this file may not be read.',
};

export const faultText = ({ path, sentence }: Fault): string => (path.length ? `${pathText(path)}: ${sentence}` : sentence);
