/** What a member of a piece can be, the least first: each may also do what those before it may. */
export const roles = ['reviewer', 'editor', 'owner'] as const;
export type Role = (typeof roles)[number];

/** What the holder of a review link may do; each of them may also do what stands before it. */
export const linkMay = ['look', 'walk', 'comment'] as const;
export type LinkMay = (typeof linkMay)[number];

interface Right {
  /** As a page of the docs says it. */
  readonly means: string;
  /** The least role of a member that may; `anybody` who is signed in, where it is not about one piece; `none` for what no member does. */
  readonly least: Role | 'anybody' | 'none';
  /** What a review link must allow for its holder to; nothing where no holder may. */
  readonly link?: LinkMay;
  /** Whether a box of buttons may, by its key. */
  readonly pad?: true;
}

/** Who may do what: the one table that services ask, that pages show by, and that the docs print. */
export const rights = {
  'see own pieces': { means: 'See the pieces one is a member of', least: 'anybody' },
  'make a piece': { means: 'Make a piece, or bring one in', least: 'anybody' },
  'change own account': { means: 'Change one’s own name and password, end other sessions', least: 'anybody' },
  'take an invitation': { means: 'Become a member by an invitation', least: 'anybody' },
  look: { means: 'Open a piece with its pictures', least: 'reviewer' },
  follow: { means: 'Hear of changes while they are made', least: 'reviewer' },
  'say where one is': { means: 'Be seen by others in the piece', least: 'reviewer' },
  'press the pad': { means: 'Press buttons of the pad from elsewhere', least: 'reviewer', pad: true },
  walk: { means: 'Walk the piece and keep what was walked', least: 'reviewer' },
  comment: { means: 'See comments, comment, answer, resolve and reopen', least: 'reviewer' },
  'hand over': { means: 'Export it', least: 'reviewer' },
  copy: { means: 'Make a copy of one’s own', least: 'reviewer' },
  'see versions': { means: 'See older versions and the edits between them, compare them', least: 'reviewer' },
  'see members': { means: 'See who is a member', least: 'reviewer' },
  leave: { means: 'Leave the piece', least: 'reviewer' },
  edit: { means: 'Change it, bring pictures in, rename it', least: 'editor' },
  'name versions': { means: 'Give versions names', least: 'editor' },
  'see links': { means: 'See its review links and what came of them', least: 'editor' },
  'make links': { means: 'Make, change and withdraw review links and the pad’s keys', least: 'editor' },
  'make hooks': { means: 'Have programs elsewhere told of what happens', least: 'editor' },
  invite: { means: 'Invite others, and take invitations back', least: 'owner' },
  'change members': { means: 'Change roles, take members out, hand over ownership', least: 'owner' },
  'see the door book': { means: 'See who was let in and out', least: 'owner' },
  delete: { means: 'Delete it, and take that back', least: 'owner' },
  'look by a link': { means: 'See the piece that a review link shows', least: 'none', link: 'look' },
  'comment by a link': { means: 'See the comments on what the link shows, comment and answer', least: 'none', link: 'comment' },
  'walk by a link': { means: 'Walk it, with what is done kept for those who made the link', least: 'none', link: 'walk' },
} as const satisfies Record<string, Right>;

export type Deed = keyof typeof rights;

/** The least role of a member that may; null where it takes another right than a role. */
export function leastRole(deed: Deed): Role | null {
  const { least } = rights[deed] as Right;
  return least === 'anybody' || least === 'none' ? null : least;
}

/** Whether whoever is signed in may do it. */
export const anybodyMay = (deed: Deed): boolean => rights[deed].least === 'anybody';

/** Whether a member with a role may do something to a piece. */
export function roleMay(role: Role, deed: Deed): boolean {
  const least = leastRole(deed);
  return least !== null && roles.indexOf(role) >= roles.indexOf(least);
}

/** Whether a link that allows something lets its holder do it. */
export function linkLets(may: LinkMay, deed: Deed): boolean {
  const { link } = rights[deed] as Right;
  return link !== undefined && linkMay.indexOf(may) >= linkMay.indexOf(link);
}

export const padMay = (deed: Deed): boolean => (rights[deed] as Right).pad === true;
