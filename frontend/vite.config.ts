import adapter from '@sveltejs/adapter-static';
import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';
import { guide } from './vite/guide.ts';
import { sentences } from './vite/sentences.ts';

export default defineConfig({
  build: { assetsInlineLimit: 0 },
  // sentences are read at build
  resolve: {
    alias: {
      '@formatjs/icu-messageformat-parser': '@formatjs/icu-messageformat-parser/no-parser.js',
    },
  },
  plugins: [
    guide(),
    sentences(),
    tailwindcss(),
    sveltekit({
      adapter: adapter({ fallback: 'index.html', precompress: true }),
      csp: {
        mode: 'hash',
        directives: {
          'default-src': ['self'],
          'script-src': ['self'],
          'style-src': ['self'],
          // the kit's own route announcer has one fixed style attribute; no other is let through
          'style-src-attr': [
            'unsafe-hashes',
            'sha256-S8qMpvofolR8Mpjy4kQvEm7m1q8clzU4dfDH0AmvZjo=',
          ],
          'img-src': ['self', 'data:'],
          'connect-src': ['self'],
        },
      },
    }),
  ],
});
