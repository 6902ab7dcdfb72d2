import { randomUUID } from 'node:crypto';
import { apply, cameInWords, importFor, imports, listWords, writePackage } from '@zany/core';
import { bytesOf, faultText, load, Unreadable, write } from './files.ts';

/** Brings a file into a piece, and writes the piece as a package; what came in and what was left is printed. */
export async function bringIn(piece: string, file: string, out: string, print: (text: string) => void): Promise<number> {
  const form = importFor(file);
  if (!form)
    throw new Unreadable(`${file}: what can be brought in is ${listWords(imports.map(({ label, endings }) => `${label} (${endings.join(', ')})`))}.`);
  const opened = await load(piece);
  const read = form.read(opened.piece, await bytesOf(file), () => randomUUID());
  if (!read.ok) throw new Unreadable(`${file}: ${faultText(read.error)}`);
  const applied = apply(opened.piece, read.value.operations);
  if (!applied.ok) throw new Unreadable(`${file}: ${faultText(applied.error)}`);
  await write(out, writePackage(applied.value.piece, opened.assets));
  print(cameInWords(read.value));
  for (const line of read.value.left) print(`  left: ${line}`);
  return 0;
}
