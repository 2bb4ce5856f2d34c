/// <reference types="node" />
/**
 * The guide in docs/guide as modules: each chapter is its title and its HTML, with its pictures as
 * files of the build.
 */
import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { Marked } from 'marked';
import type { Plugin } from 'vite';

const slug = (words: string) =>
  words
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, '-')
    .replaceAll(/^-|-$/g, '');
/** `## Words {#id}` names the heading for links. */
const NAMED = /\s*\{#([a-z-]+)\}\s*$/;

/** Width and height of a PNG, as attributes: the page keeps its place while pictures come. */
function sizeOf(file: string): string {
  const head = readFileSync(file).subarray(16, 24);
  return `width="${head.readUInt32BE(0)}" height="${head.readUInt32BE(4)}"`;
}

export function guide(): Plugin {
  return {
    name: 'guide',
    enforce: 'pre',
    transform(code, file) {
      if (!/\/docs\/guide\/\d-[a-z-]+\.md$/.test(file)) return undefined;
      const pictures: string[] = [];
      const marked = new Marked({
        renderer: {
          heading({ depth, text }) {
            const id = NAMED.exec(text)?.[1] ?? slug(text);
            return `<h${depth} id="${id}">${text.replace(NAMED, '')}</h${depth}>\n`;
          },
          image({ href, text }) {
            pictures.push(href);
            return `<figure><img src="@picture${pictures.length - 1}@" alt="${text}" ${sizeOf(join(dirname(file), href))} loading="lazy"><figcaption>${text}</figcaption></figure>`;
          },
          link({ href, text }) {
            return `<a href="${href.replace(/^\d-([a-z-]+)\.md$/, '/help/$1')}">${text}</a>`;
          },
        },
      });
      const title = /^# (.+)$/m.exec(code)?.[1] ?? '';
      const html = marked.parse(code.replace(/^# .+$/m, ''), { async: false });
      const imports = pictures
        .map((href, i) => `import p${i} from ${JSON.stringify(`${href}?url`)};`)
        .join('\n');
      const filled = pictures.map((_, i) => `.replace('@picture${i}@', p${i})`).join('');
      return {
        code: `${imports}\nexport const title = ${JSON.stringify(title)};\nexport const html = ${JSON.stringify(html)}${filled};\n`,
        map: null,
      };
    },
  };
}
