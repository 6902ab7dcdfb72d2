import { PICTURE } from './types';

const PICTURES = new RegExp(`!\\[([^\\]]*)\\]\\(${PICTURE}\\w+\\)`, 'g');

/** What a comment says where no pictures are drawn: a picture is a word in it. */
export const commentWords = (body: string): string => body.replace(PICTURES, '($1)').replace(/\s+/g, ' ').trim();
