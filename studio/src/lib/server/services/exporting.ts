import { exportKinds, exportName, type ExportKind } from '@zany/core';
import parts from '@zany/player/page-parts.json';
import type { Principal } from '../principal';
import { heavy } from '../work';
import { bytesOf } from './assets';
import { documentAt } from './keeping';
import { access } from './rights';

export interface Exported {
  readonly bytes: Uint8Array;
  readonly name: string;
  readonly mediaType: string;
}

export async function exportPiece(who: Principal, id: string, kind: ExportKind): Promise<Exported> {
  const { row } = await access(who, id, 'hand over');
  const [document, assets] = await Promise.all([documentAt(id, row.revision), bytesOf(id)]);
  const bytes = await heavy('write', { document, kind, assets, parts }, 'This piece');
  return { bytes, name: exportName(row.name, kind), mediaType: exportKinds[kind].mediaType };
}
