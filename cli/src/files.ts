import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { compile, pathText, readPackage, type Fault, type Package, type Program } from '@zany/core';

/** The input cannot be used: exit code 2. */
export class Unreadable extends Error {}

export const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** Reads a piece.json or a package. */
export async function load(file: string): Promise<Package & { program: Program }> {
  const bytes = await bytesOf(file);
  const read = await readPackage(bytes, sha256);
  if (!read.ok) throw new Unreadable(`${file}: ${faultText(read.error)}`);
  return { ...read.value, program: compile(read.value.piece) };
}

export const bytesOf = (file: string): Promise<Uint8Array> =>
  readFile(file).catch((error: NodeJS.ErrnoException) => {
    throw new Unreadable(`${file}: ${reasons[error.code ?? ''] ?? error.message}`);
  });

export const write = (out: string, bytes: Uint8Array): Promise<void> =>
  writeFile(out, bytes).catch((error: Error) => {
    throw new Unreadable(`${out}: cannot be written: ${error.message}`);
  });

const reasons: Record<string, string> = {
  ENOENT: 'there is no such file.',
  EISDIR: 'this is a folder, not a file.',
  EACCES: 'this file may not be read.',
};

export const faultText = ({ path, sentence }: Fault): string => (path.length ? `${pathText(path)}: ${sentence}` : sentence);
