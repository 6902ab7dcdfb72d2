import { linkSync, mkdirSync, readFileSync, rmSync, unlinkSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';

/**
 * A lock that belongs to a living process: a file with its number and the moment it began, so that a number that was given
 * anew to another process is not taken for its owner. What a dead owner left is taken over.
 */
export class Owner {
  constructor(file) {
    this.file = file;
    this.isMine = false;
  }

  /** Takes the lock; gives null, or what the living owner has written about himself. */
  take() {
    mkdirSync(dirname(this.file), { recursive: true });
    const draft = `${this.file}.${process.pid}`;
    writeFileSync(draft, JSON.stringify({ pid: process.pid, born: bornAt(process.pid) }));
    try {
      for (let tries = 0; tries < 5; tries++) {
        try {
          // A link is made whole or not at all, and never over one that is there.
          linkSync(draft, this.file);
          // Somebody who found the same dead owner a moment ago may take this lock away again, and then has it.
          Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 60);
          this.isMine = this.read()?.pid === process.pid;
          if (this.isMine) return null;
          continue;
        } catch (error) {
          if (error.code !== 'EEXIST') throw error;
        }
        const other = this.read();
        if (other && isAlive(other)) return other;
        rmSync(this.file, { force: true });
      }
      return this.read() ?? { pid: 0 };
    } finally {
      unlinkSync(draft);
    }
  }

  /** Writes more about the owner, such as the address it is at. */
  say(more) {
    if (this.isMine) writeFileSync(this.file, JSON.stringify({ pid: process.pid, born: bornAt(process.pid), ...more }));
  }

  release() {
    if (this.isMine) rmSync(this.file, { force: true });
    this.isMine = false;
  }

  read() {
    try {
      return JSON.parse(readFileSync(this.file, 'utf8'));
    } catch {
      return null;
    }
  }
}

const isAlive = ({ pid, born }) =>
  Number.isInteger(pid) && pid > 0 && bornAt(pid) !== null && (born === null || born === undefined || bornAt(pid) === born);

/** When a process began, in the kernel's ticks since it started; null for one that is not there, or only waits to be forgotten. */
function bornAt(pid) {
  try {
    const fields = readFileSync(`/proc/${pid}/stat`, 'utf8')
      .replace(/^.*\) /s, '')
      .split(' ');
    return fields[0] === 'Z' ? null : Number(fields[19]);
  } catch {
    return null;
  }
}
