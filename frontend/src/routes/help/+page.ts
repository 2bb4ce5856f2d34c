import { redirect } from '@sveltejs/kit';
import { CHAPTERS } from '#lib/guide.ts';

export function load(): never {
  redirect(307, `/help/${CHAPTERS[0]!.id}`);
}
