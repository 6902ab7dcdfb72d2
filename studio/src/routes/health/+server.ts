import { text } from '@sveltejs/kit';

export const GET = () => text('ready');
