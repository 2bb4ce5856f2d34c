/** A plan file brought to the Bench: it takes the place of the draft, under the joint that the draft belongs to. */
import type { Doc } from '#lib/bench.svelte.ts';

const MOST_BYTES = 2_000_000;
const isList = (value: unknown) => Array.isArray(value) && value.every((x) => x && typeof x === 'object');

/** The document of a file, or the sentence that says why there is none; what is wrong inside is named by the server. */
export function planOf(text: string, joint: string | undefined): { doc: Doc } | { error: string } {
  if (text.length > MOST_BYTES) return { error: 'The file is larger than 2 MB; a plan never is.' };
  let doc: Doc;
  try {
    doc = JSON.parse(text);
  } catch {
    return { error: 'The file is not JSON; bring one that was downloaded here or written to the published form.' };
  }
  if (!doc || typeof doc !== 'object' || doc.format !== 'orthotorq.plan')
    return { error: 'This is no plan file: its format is not “orthotorq.plan”.' };
  if (!isList(doc.groups) || !isList(doc.stages) || !doc.groups.length)
    return { error: 'This plan file has no groups of bolts and no stages that could be shown.' };
  return { doc: { targets: {}, tools: {}, chains: {}, ...doc, ...(joint ? { joint } : {}) } };
}
