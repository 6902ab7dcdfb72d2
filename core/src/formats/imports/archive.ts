import { unzipSync } from 'fflate';
import { fail, fault, ok, type Result } from '../../result.ts';
import { readXml, type Prefixes, type Xml } from './xml.ts';

/** Files that are a zip of others: XML documents, pictures. */

const LIMITS = { packed: 200_000_000, unpacked: 600_000_000, files: 20_000 } as const;

export class Archive {
  private readonly read = new Map<string, Xml | null>();

  private constructor(
    private readonly files: Readonly<Record<string, Uint8Array>>,
    private readonly prefixes: Prefixes
  ) {}

  /** Opens a zip; sizes are summed before anything is unpacked. */
  static open(bytes: Uint8Array, prefixes: Prefixes): Result<Archive> {
    if (bytes.length > LIMITS.packed) return fail(fault('too-large', [], `This has more than ${LIMITS.packed / 1e6} MB.`));
    let total = 0;
    let count = 0;
    try {
      const files = unzipSync(bytes, {
        filter: ({ originalSize }) => {
          total += originalSize;
          if (++count > LIMITS.files) throw new Error(`it holds more than ${LIMITS.files} files`);
          if (total > LIMITS.unpacked) throw new Error(`it unpacks to more than ${LIMITS.unpacked / 1e6} MB`);
          return true;
        },
      });
      return ok(new Archive(files, prefixes));
    } catch (error) {
      return fail(fault('broken-zip', [], `This cannot be unpacked: ${(error as Error).message}.`));
    }
  }

  /** Of all its files. */
  get names(): readonly string[] {
    return Object.keys(this.files);
  }

  file(name: string): Uint8Array | null {
    return Object.hasOwn(this.files, name) ? this.files[name]! : null;
  }

  /** One of its files as XML; null where there is none, or none that can be read. */
  xml(name: string): Xml | null {
    const known = this.read.get(name);
    if (known !== undefined) return known;
    const bytes = this.file(name);
    const parsed = bytes && readXml(bytes, this.prefixes);
    const xml = parsed?.ok ? parsed.value : null;
    this.read.set(name, xml);
    return xml;
  }
}

/** A way from one file to another, as the name of that; '' for one that leads out. */
export function resolved(from: string, target: string): string {
  if (target.startsWith('/')) return target.slice(1);
  const way = from.split('/').slice(0, -1);
  for (const part of target.split('/')) {
    if (part === '..') {
      if (way.length === 0) return '';
      way.pop();
    } else if (part !== '.' && part !== '') way.push(part);
  }
  return way.join('/');
}
