import type { Person, Presence, Whereabouts } from '$lib/shared/types';
import { database } from '../database';
import { presenceChannel } from '../listen';
import { access } from './rights';

/** Tells all who follow a piece where somebody is in it. Nothing is kept: who says nothing for a while is gone. */
export async function tellPresence(person: Person | null, piece: string, where: Whereabouts): Promise<void> {
  await access(person, piece, 'reviewer');
  const presence: Presence = { ...where, piece, name: person!.name };
  await database().query('SELECT pg_notify(:channel, :presence)', {
    replacements: { channel: presenceChannel, presence: JSON.stringify(presence) },
  });
}
